import { z } from 'zod';

import { alongCourse, placeAlong, toLocalMetres, type LatLon, type Point } from '../geometry/index.ts';
import { readJson } from './json.ts';
import { UnreadableFile } from './statement.ts';
import { CarefulXml } from './xml.ts';

/** A place with its height, as a receiver, a phone or a survey wrote it. */
export interface TrackPoint extends LatLon {
  /** metres above whatever its heights count from; null where it has none */
  readonly heightM: number | null;
}

/** A track of more points than this is thinned out before it is brought in. */
const MOST_POINTS = 100_000;

const position = z.tuple([z.number(), z.number()]).rest(z.number());
const withLines = z.object({
  features: z
    .array(
      z.object({
        geometry: z
          .discriminatedUnion('type', [
            z.object({ type: z.literal('Point'), coordinates: position }),
            z.object({ type: z.literal('LineString'), coordinates: z.array(position) })
          ])
          .nullable()
          .catch(null)
      })
    )
    .catch([])
});

/**
 * Places with heights out of a file: points of tracks, routes and waypoints of GPX 1.1, or points and lines of GeoJSON (RFC 7946), in
 * the order of the file. A GPX file with a document type of its own is refused: its entities could grow without end.
 * @throws UnreadableFile
 */
export function readTrack(text: string): TrackPoint[] {
  const begun = text.replace(/^\uFEFF/, '').trimStart();
  const points = begun.startsWith('<') ? fromGpx(begun) : fromGeoJson(begun);
  const known = points.filter(({ lat, lon }) => Math.abs(lat) <= 90 && Math.abs(lon) <= 180);
  if (known.length === 0) throw new UnreadableFile('There is no place in this file.');
  if (known.length > MOST_POINTS) throw new UnreadableFile(`The file has more than ${MOST_POINTS} points. Split it.`);
  return known;
}

function fromGpx(text: string): TrackPoint[] {
  const points: TrackPoint[] = [];
  let at: LatLon | null = null;
  let heightM: number | null = null;
  new CarefulXml(
    {
      begins(name, { lat = '', lon = '' }) {
        if (!POINTS.has(name)) return;
        at = { lat: numberOf(lat) ?? NaN, lon: numberOf(lon) ?? NaN };
        heightM = null;
      },
      ends(name, content) {
        if (at && name === 'ele') heightM = numberOf(content);
        if (!at || !POINTS.has(name)) return;
        points.push({ ...at, heightM });
        at = null;
      }
    },
    'a GPX file'
  ).read(text);
  return points;
}

/** Elements of GPX that have a place. */
const POINTS: ReadonlySet<string> = new Set(['wpt', 'rtept', 'trkpt']);

function numberOf(text: string): number | null {
  const value = text.trim() === '' ? NaN : Number(text);
  return Number.isFinite(value) ? value : null;
}

function fromGeoJson(text: string): TrackPoint[] {
  const parsed = readJson(text, 'This is neither GPX nor GeoJSON.');
  const collection = withLines.safeParse(parsed);
  if (!collection.success) throw new UnreadableFile('This is not GeoJSON: it holds no "FeatureCollection".');
  return collection.data.features.flatMap(({ geometry }) => {
    const all = !geometry ? [] : geometry.type === 'Point' ? [geometry.coordinates] : geometry.coordinates;
    return all.map(([lon, lat, height]): TrackPoint => ({ lat, lon, heightM: height ?? null }));
  });
}

/** Heights of a track where it runs along a line. */
export interface HeightsAlong {
  readonly heights: readonly { readonly alongM: number; readonly heightM: number }[];
  /** points that lie too far from the line, and those without a height */
  readonly far: number;
  readonly flat: number;
}

/** A point of a track belongs to a line so near to it, metres. Working assumption: what a phone strays by, three times. */
const NEAR_M = 15;
/** Of points nearer to each other along the line than this one height is taken, the middle of theirs, metres. */
const APART_M = 2;
/** A record holds so many heights. */
const MOST_HEIGHTS = 500;

/**
 * Heights along a line out of a track that was walked beside it.
 * @param course of the line, metres east and north of the origin
 */
export function heightsAlong(track: readonly TrackPoint[], course: readonly Point[], origin: LatLon): HeightsAlong {
  const placed = track.map(({ lat, lon, heightM }) => {
    const { eastM, northM } = toLocalMetres(origin, { lat, lon });
    return { ...placeAlong([eastM, northM], course), heightM };
  });
  const near = placed.filter(({ awayM }) => awayM <= NEAR_M);
  const high = near.flatMap(({ alongM, heightM }) => (heightM === null ? [] : [{ alongM, heightM }]));
  const lengthM = alongCourse(course).at(-1)!;
  const step = Math.max(APART_M, lengthM / MOST_HEIGHTS);
  const steps = new Map<number, { alongM: number; heightM: number }[]>();
  for (const each of high) {
    const nth = Math.floor(each.alongM / step);
    steps.set(nth, [...(steps.get(nth) ?? []), each]);
  }
  const heights = [...steps.entries()]
    .sort(([a], [b]) => a - b)
    .map(([, of]) => ({
      alongM: round(
        of.reduce((sum, { alongM }) => sum + alongM / of.length, 0),
        1
      ),
      heightM: round(of.map(({ heightM }) => heightM).sort((a, b) => a - b)[Math.floor(of.length / 2)]!, 3)
    }))
    .slice(0, MOST_HEIGHTS);
  return { heights, far: placed.length - near.length, flat: near.length - high.length };
}

const round = (value: number, digits: number) => Number(value.toFixed(digits));
