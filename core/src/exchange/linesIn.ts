import { z } from 'zod';

import { alongCourse, placeAlong, pointAlong, toLocalMetres, type LatLon, type Point } from '../geometry/index.ts';
import { CROSSING_WAYS, PIPE_USES, USUAL_PIPE, type PipeUse } from '../lines/index.ts';
import type { PipeLineRecord } from '../records/index.ts';
import { lineOfText } from '../records/text.ts';
import { readJson } from './json.ts';
import { UnreadableFile } from './statement.ts';

/** A line of pipe as a file tells of it. */
export interface StatedLine {
  readonly name: string;
  readonly use: PipeUse;
  /** metres east and north of the origin, from its upper end to its foot */
  readonly points: readonly Point[];
  readonly lengthM: number;
  readonly boreMm: number;
  readonly held: 'wire' | 'hand';
  /** the name of the line, or of the place, that it runs into; null where nothing says it and no other line is near */
  readonly into: string | null;
  /** tags of the trees that hang on it, and the tube of each, mm, where the file says it */
  readonly drops: readonly { readonly tag: string; readonly dropMm: number | null }[];
  /** how it crosses paths, and where, metres east and north; null where the file does not say it */
  readonly crossings: PipeLineRecord['crossings'] | null;
  /** what the file says of it and nobody can read, by its names there: taken as is usual */
  readonly unread: readonly string[];
}

/** The lines of a file, and what of it is none. */
export interface StatedLines {
  readonly lines: readonly StatedLine[];
  /** features that are no line of at most 500 points, or lie in one place */
  readonly left: number;
  /** lines that lie farther from the bush than anything of it may */
  readonly far: number;
}

/** A file of more lines than this is split. */
const MOST_LINES = 1000;
/** Farther from the bush's origin than this no line of it lies, metres. Working assumption. */
const FAR_M = 20_000;
/** A line that is shorter than this is none, metres. Working assumption. */
const SHORTEST_M = 0.5;
/** A foot so near to another line runs into it, metres. Working assumption: what a drawing strays by. */
const JOINS_M = 3;
/** A line that is longer is no lateral, metres, where the file does not say what it is. */
const LATERAL_M = 30;

/** What a file may say of a line, by the names that `writeLinesGeoJson` gives it. */
const SAYS = {
  name: lineOfText(60),
  use: z.enum(PIPE_USES),
  bore_mm: z.number().min(4).max(110),
  held: z.enum(['wire', 'hand']),
  into: lineOfText(60),
  trees: z.array(z.union([z.string().max(100), z.number()]).transform(String)).max(500),
  drops_mm: z.array(z.number().min(50).max(5000)).max(500),
  crossings: z
    .array(
      z.object({
        along_m: z.number().min(0).max(FAR_M),
        how: z.enum(CROSSING_WAYS),
        insulated: z.boolean().default(false)
      })
    )
    .max(100)
};
type Said = { readonly [K in keyof typeof SAYS]?: z.infer<(typeof SAYS)[K]> };

const collection = z.object({
  features: z
    .array(
      z.object({
        geometry: z
          .object({
            type: z.literal('LineString'),
            coordinates: z
              .array(z.tuple([z.number(), z.number()]).rest(z.unknown()))
              .min(2)
              .max(500)
          })
          .nullable()
          .catch(null),
        properties: z.record(z.string(), z.unknown()).nullable().catch(null)
      })
    )
    .max(MOST_LINES)
});

/** What can be read of what a file says of a line, and the names of the rest. Nothing is said by null. */
function heard(properties: Readonly<Record<string, unknown>>): { readonly said: Said; readonly unread: string[] } {
  const said: Record<string, unknown> = {};
  const unread: string[] = [];
  for (const [name, schema] of Object.entries(SAYS)) {
    const value = Object.hasOwn(properties, name) ? properties[name] : null;
    if (value === null || value === undefined) continue;
    const read = schema.safeParse(value);
    if (read.success) said[name] = read.data;
    else unread.push(name);
  }
  return { said, unread };
}

/**
 * Lines of pipe out of GeoJSON (RFC 7946): each LineString is one, from its upper end to its foot. What its properties say counts, by the names that
 * `writeLinesGeoJson` gives them; what they do not say is taken as is usual. A foot that lies beside another line runs into it.
 * @throws UnreadableFile
 */
export function readLinesGeoJson(file: string, origin: LatLon): StatedLines {
  const parsed = readJson(file, 'This is not GeoJSON.');
  const told = collection.safeParse(parsed);
  if (!told.success)
    throw new UnreadableFile(`This is no collection of at most ${MOST_LINES} features (GeoJSON “FeatureCollection”).`);
  const { features } = told.data;
  const placed = features.flatMap(({ geometry, properties }) => {
    if (!geometry) return [];
    const points = geometry.coordinates.map(([lon, lat]): Point => {
      const { eastM, northM } = toLocalMetres(origin, { lat, lon });
      return [round(eastM), round(northM)];
    });
    const lengthM = alongCourse(points).at(-1)!;
    return lengthM >= SHORTEST_M ? [{ points, lengthM, ...heard(properties ?? {}) }] : [];
  });
  const near = placed.filter(({ points }) => points.every(([east, north]) => Math.hypot(east, north) <= FAR_M));
  if (near.length === 0)
    throw new UnreadableFile(
      placed.length > 0 ? 'No line of this file lies near this bush.' : 'There is no line in this file.'
    );
  const names = namesOf(near.map(({ said }) => said.name ?? null));
  const lines = near.map(({ points, lengthM, said, unread }, i): StatedLine => {
    const use = said.use ?? (lengthM > LATERAL_M ? 'main' : 'lateral');
    const usual = USUAL_PIPE[use];
    return {
      name: names[i]!,
      use,
      points,
      lengthM,
      boreMm: said.bore_mm ?? usual.boreMm,
      held: said.held ?? usual.held,
      into: said.into ?? joinedBy(points.at(-1)!, i, near, names),
      drops: (said.trees ?? []).map((tag, k) => ({ tag, dropMm: said.drops_mm?.[k] ?? null })),
      crossings:
        said.crossings?.map(({ along_m: alongM, how, insulated }) => {
          const [east, north] = pointAlong(points, alongM);
          return { at: [round(east), round(north)] as [number, number], how, insulated };
        }) ?? null,
      unread
    };
  });
  return { lines, left: features.length - placed.length, far: placed.length - near.length };
}

const round = (metres: number) => Number(metres.toFixed(2));

/** A name for each: its own, numbered where another has it too; "Line" where it has none. */
function namesOf(said: readonly (string | null)[]): string[] {
  const taken = new Set<string>();
  return said.map((name) => {
    const base = name ?? 'Line';
    let own = base;
    for (let nth = 2; taken.has(own); nth++) own = `${base} ${nth}`;
    taken.add(own);
    return own;
  });
}

/** The line that a foot lies beside: the nearest of the others that reaches farther down. */
function joinedBy(
  foot: Point,
  self: number,
  lines: readonly { readonly points: readonly Point[] }[],
  names: readonly string[]
): string | null {
  let best: { name: string; awayM: number } | null = null;
  for (const [i, { points }] of lines.entries()) {
    if (i === self) continue;
    const { awayM } = placeAlong(foot, points);
    // Two that end at the same place end at the same vessel.
    const meets = Math.hypot(foot[0] - points.at(-1)![0], foot[1] - points.at(-1)![1]) <= JOINS_M;
    if (awayM <= JOINS_M && !meets && (!best || awayM < best.awayM)) best = { name: names[i]!, awayM };
  }
  return best?.name ?? null;
}
