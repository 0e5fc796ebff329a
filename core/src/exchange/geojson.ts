import { fromLocalMetres, type LatLon } from '../geometry/index.ts';
import { z } from 'zod';

import { speciesById, type SpeciesId } from '../identify/index.ts';
import { standPurposeSchema, wetnessSchema, type Stand } from '../records/index.ts';
import type { PositionQuality } from '../stand/index.ts';
import { readJson } from './json.ts';
import type { BadRow } from './faults.ts';
import { readRows, type ReadOptions } from './csvIn.ts';
import { MAX_COLUMNS, MAX_ROWS, UnreadableFile, type StatedStand, type StatementFile } from './statement.ts';

/**
 * GeoJSON (RFC 7946): trees as points with the columns of the tree table as properties, stands as polygons. Longitude and
 * latitude in degrees, WGS 84, longitude first.
 */
const collectionSchema = z.object({
  type: z.literal('FeatureCollection'),
  features: z.array(z.unknown())
});
const position = z.tuple([z.number(), z.number()]).rest(z.number());
const featureSchema = z.object({
  type: z.literal('Feature'),
  geometry: z.discriminatedUnion('type', [
    z.object({ type: z.literal('Point'), coordinates: position }),
    z.object({ type: z.literal('Polygon'), coordinates: z.array(z.array(position).max(5000)).min(1) })
  ]),
  properties: z.record(z.string(), z.unknown()).nullable()
});
const standProperties = z.object({
  name: z.string().trim().min(1).max(80),
  purpose: standPurposeSchema.catch('syrup'),
  wetness: wetnessSchema.nullable().catch(null)
});

/** Names that the position of a point takes: a property of the same name would be another place. */
const PLACE = ['lat', 'lon', 'latitude', 'longitude', 'east_m', 'north_m'];

/**
 * Reads trees and stands. Features of other kinds and with other geometries are named and left out.
 * @throws UnreadableFile
 */
export function readGeoJson(text: string, options: ReadOptions): StatementFile {
  const parsed = readJson(text, 'This is not GeoJSON: it cannot be read as JSON.');
  const collection = collectionSchema.safeParse(parsed);
  if (!collection.success) throw new UnreadableFile('This is not GeoJSON: it holds no "FeatureCollection".');
  const { features } = collection.data;
  if (features.length > MAX_ROWS) throw new UnreadableFile(`The file has more than ${MAX_ROWS} features. Split it.`);

  const bad: BadRow[] = [];
  const stands: StatedStand[] = [];
  const points: { line: number; properties: Record<string, unknown>; at: readonly number[] }[] = [];
  features.forEach((raw, i) => {
    const line = i + 1;
    const leaveOut = (reason: string) =>
      bad.push({ line, column: null, reason, cells: [JSON.stringify(raw).slice(0, 300)], fault: 'cell', word: null });
    const feature = featureSchema.safeParse(raw);
    if (!feature.success) return leaveOut('is neither a tree (a point) nor a stand (a polygon).');
    const { geometry, properties } = feature.data;
    if (geometry.type === 'Point') {
      points.push({ line, properties: properties ?? {}, at: geometry.coordinates });
      return;
    }
    const stand = standProperties.safeParse(properties ?? {});
    const outline = openRing(geometry.coordinates[0]!);
    if (!stand.success) return leaveOut('is a stand without a name.');
    if (outline.length < 3 || outline.length > 2000) return leaveOut('has an outline that is none.');
    if (outline.some(([lon, lat]) => !(Math.abs(lon) <= 180 && Math.abs(lat) <= 89)))
      return leaveOut('has an outline that lies nowhere on earth.');
    stands.push({ line, ...stand.data, outline });
  });

  const names = new Set<string>();
  for (const { properties } of points) {
    for (const name of Object.keys(properties)) names.add(name);
    // Looked at while reading: a name of its own for every point would make as many columns as rows.
    if (names.size > MAX_COLUMNS) throw new UnreadableFile(`The points have more than ${MAX_COLUMNS} properties.`);
  }
  const heading = [...names].filter((name) => !PLACE.includes(name.toLowerCase()));
  if (points.length === 0)
    return { statements: [], waiting: [], stands, bad, heading, ignoredColumns: [], table: null };
  const rows = points.map(({ line, properties, at }) => ({
    line,
    cells: [...heading.map((name) => cellOf(properties[name])), String(at[1]), String(at[0])]
  }));
  const file = readRows([...heading, 'lat', 'lon'], rows, options);
  return { ...file, stands, bad: [...bad, ...file.bad] };
}

function cellOf(value: unknown): string {
  return typeof value === 'string' ? value : typeof value === 'number' ? String(value) : '';
}

/** A ring without its closing point. */
function openRing(ring: readonly (readonly number[])[]): [number, number][] {
  const points = ring.map(([lon, lat]): [number, number] => [lon!, lat!]);
  const [first, last] = [points[0], points.at(-1)];
  return first && last && points.length > 1 && first[0] === last[0] && first[1] === last[1]
    ? points.slice(0, -1)
    : points;
}

/** A tree on its way into GeoJSON. */
export interface TreePoint {
  readonly tag: string;
  readonly stand: string | null;
  readonly species: SpeciesId | null;
  readonly diameterMm: number | null;
  readonly measuredOn: string | null;
  readonly quality: PositionQuality | null;
  readonly eastM: number;
  readonly northM: number;
}

/** Trees and stands as one collection. Stands without an outline and trees without a place stay out. */
export function writeGeoJson(trees: readonly TreePoint[], stands: readonly Stand[], origin: LatLon): string {
  const at = (eastM: number, northM: number) => {
    const { lat, lon } = fromLocalMetres(origin, { eastM, northM });
    // A hundred-millionth of a degree is a millimetre.
    return [Number(lon.toFixed(8)), Number(lat.toFixed(8))];
  };
  const polygons = stands.flatMap((stand) =>
    stand.outline
      ? [
          {
            type: 'Feature',
            geometry: { type: 'Polygon', coordinates: [closedRing(stand.outline).map(([e, n]) => at(e, n))] },
            properties: { name: stand.name, purpose: stand.purpose, wetness: stand.wetness }
          }
        ]
      : []
  );
  const points = trees.map((tree) => ({
    type: 'Feature',
    geometry: { type: 'Point', coordinates: at(tree.eastM, tree.northM) },
    properties: {
      tag: tree.tag,
      stand: tree.stand,
      species: tree.species === null ? null : speciesById(tree.species).name,
      diameter_cm: tree.diameterMm === null ? null : Number((tree.diameterMm / 10).toFixed(2)),
      measured_on: tree.measuredOn,
      position_quality: tree.quality
    }
  }));
  return JSON.stringify({ type: 'FeatureCollection', features: [...polygons, ...points] });
}

/** The right-hand rule of RFC 7946: outer rings run counter-clockwise, and end where they began. */
function closedRing(outline: readonly (readonly [number, number])[]): readonly (readonly [number, number])[] {
  const twiceArea = outline.reduce((sum, [x, y], i) => {
    const [px, py] = outline.at(i - 1)!;
    return sum + px * y - x * py;
  }, 0);
  const ring = twiceArea >= 0 ? [...outline] : [...outline].reverse();
  return [...ring, ring[0]!];
}
