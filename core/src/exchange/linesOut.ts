import type { LineJudged } from '../bush/index.ts';
import { fromLocalMetres, placeAlong, type LatLon } from '../geometry/index.ts';

/**
 * Lines of pipe as GeoJSON (RFC 7946): each a line from its upper end to its foot, longitude and latitude in degrees, WGS 84, with what it
 * is made of and what is wrong with it.
 * @param names of the trees, and of the collecting places at the feet of lines, by id
 */
export function writeLinesGeoJson(
  judged: readonly LineJudged[],
  names: ReadonlyMap<string, string>,
  origin: LatLon
): string {
  const endsOf = new Map([...names, ...judged.map(({ line }) => [line.id, line.name] as const)]);
  const features = judged.map(({ line, lengthM, profile, levelled, findings, tapsAbove, bears }) => ({
    type: 'Feature',
    geometry: {
      type: 'LineString',
      coordinates: line.points.map(([eastM, northM]) => {
        const { lat, lon } = fromLocalMetres(origin, { eastM, northM });
        return [Number(lon.toFixed(8)), Number(lat.toFixed(8))];
      })
    },
    properties: {
      name: line.name,
      use: line.use,
      bore_mm: line.boreMm,
      held: line.held,
      into: endsOf.get(line.intoId ?? line.placeId ?? '') ?? null,
      length_m: Number(lengthM.toFixed(1)),
      taps: tapsAbove,
      bears_taps: line.use === 'air' ? null : bears,
      trees: line.drops.map(({ treeId }) => names.get(treeId) ?? treeId),
      drops_mm: line.drops.map(({ dropMm }) => dropMm),
      crossings: line.crossings.map(({ at, how, insulated }) => ({
        along_m: Number(placeAlong(at, line.points).alongM.toFixed(1)),
        how,
        insulated
      })),
      // By how much it lies lower than at its upper end; nothing where nobody levelled it.
      lies_lower: levelled
        ? profile.atM.map((at, node) => {
            const { mean, sd } = profile.fall(0, node);
            return { along_m: Number(at.toFixed(1)), by_m: Number(mean.toFixed(3)), sd_m: Number(sd.toFixed(3)) };
          })
        : null,
      faults: findings.map(({ fault, surety, from, to }) => ({
        fault,
        surety,
        from_m: Number(profile.atM[from]!.toFixed(1)),
        to_m: Number(profile.atM[to]!.toFixed(1))
      }))
    }
  }));
  return JSON.stringify({ type: 'FeatureCollection', features });
}
