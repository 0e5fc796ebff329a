import { insideOutline, type Point } from '../geometry/index.ts';
import { normaliseBearing, toDegrees } from '../math/index.ts';
import type { SpeciesId } from '../identify/index.ts';
import {
  basalArea,
  quadraticMeanDiameter,
  radiusOf,
  reachToward,
  standDensityIndex,
  type StandTree
} from '../stand/index.ts';

/** How large a stand is, and where. */
export interface StandArea {
  readonly areaHa: number;
  /** null where none was drawn: then crown cover is not known */
  readonly outline: readonly Point[] | null;
}

export interface StandMetrics {
  readonly stems: number;
  readonly stemsPerHa: number;
  readonly basalAreaM2: number;
  readonly basalAreaPerHa: number;
  /** mm; NaN without trees */
  readonly quadraticMeanMm: number;
  readonly sdi: number;
  /** share of the basal area by species, largest first; null stands for unsettled trees */
  readonly species: readonly { readonly species: SpeciesId | null; readonly share: number }[];
  /** share of the ground under crowns, each spot once; null without an outline */
  readonly crownCover: number | null;
}

/** The figures of a stand as it would be with some of its trees gone. */
export function standMetrics(
  trees: readonly StandTree[],
  { areaHa, outline }: StandArea,
  taken: ReadonlySet<string> = new Set(),
  around: readonly StandTree[] = []
): StandMetrics {
  const left = trees.filter(({ id }) => !taken.has(id));
  const dbhs = left.map(({ dbhMm }) => dbhMm);
  const areas = new Map<SpeciesId | null, number>();
  for (const { species, dbhMm } of left) areas.set(species, (areas.get(species) ?? 0) + basalArea(dbhMm));
  const sum = [...areas.values()].reduce((a, b) => a + b, 0);
  return {
    stems: left.length,
    stemsPerHa: left.length / areaHa,
    basalAreaM2: sum,
    basalAreaPerHa: sum / areaHa,
    quadraticMeanMm: quadraticMeanDiameter(dbhs),
    sdi: left.length === 0 ? 0 : standDensityIndex(left.length / areaHa, quadraticMeanDiameter(dbhs)),
    species: [...areas].map(([species, area]) => ({ species, share: area / sum })).sort((a, b) => b.share - a.share),
    crownCover: outline ? crownCover([...left, ...around.filter(({ id }) => !taken.has(id))], outline) : null
  };
}

/** Breadth of the strips by which ground is looked over, metres. */
const STRIP_M = 0.25;

/**
 * Share of the ground inside an outline that lies under crowns: their union, not their sum. Strips of a quarter of a
 * metre, exact along each.
 */
export function crownCover(trees: readonly StandTree[], outline: readonly Point[]): number {
  const norths = outline.map(([, north]) => north);
  let ground = 0;
  let covered = 0;
  const sorted = [...trees].sort((a, b) => a.northM - b.northM);
  const widest = Math.max(0, ...trees.map(widestReach));
  let first = 0;
  for (let y = Math.min(...norths) + STRIP_M / 2; y < Math.max(...norths); y += STRIP_M) {
    while (first < sorted.length && sorted[first]!.northM < y - widest) first += 1;
    const under: [number, number][] = [];
    for (let i = first; i < sorted.length && sorted[i]!.northM <= y + widest; i++) {
      const span = crownSpan(sorted[i]!, y);
      if (span) under.push(span);
    }
    const shade = merged(under);
    for (const [from, to] of crossings(outline, y)) {
      ground += to - from;
      for (const [a, b] of shade) covered += Math.max(0, Math.min(b, to) - Math.max(a, from));
    }
  }
  return ground > 0 ? covered / ground : 0;
}

function widestReach(tree: StandTree): number {
  return tree.crownRadiiM ? Math.max(...tree.crownRadiiM) : radiusOf(tree);
}

/** From where to where a crown covers a line that runs west to east. */
function crownSpan(tree: StandTree, northM: number): [number, number] | null {
  const off = northM - tree.northM;
  const r = radiusOf(tree);
  const [north, east, south, west] = tree.crownRadiiM ?? [r, r, r, r];
  const along = off >= 0 ? north : south;
  if (Math.abs(off) >= along) return null;
  const left = Math.sqrt(1 - (off / along) ** 2);
  return [tree.eastM - west * left, tree.eastM + east * left];
}

function merged(spans: [number, number][]): [number, number][] {
  spans.sort((a, b) => a[0] - b[0]);
  const out: [number, number][] = [];
  for (const span of spans) {
    const last = out.at(-1);
    if (last && span[0] <= last[1]) last[1] = Math.max(last[1], span[1]);
    else out.push([...span]);
  }
  return out;
}

function crossings(outline: readonly Point[], y: number): [number, number][] {
  const cuts: number[] = [];
  outline.forEach(([bx, by], i) => {
    const [ax, ay] = outline.at(i - 1)!;
    if (ay > y !== by > y) cuts.push(ax + ((y - ay) / (by - ay)) * (bx - ax));
  });
  cuts.sort((a, b) => a - b);
  const spans: [number, number][] = [];
  for (let i = 0; i + 1 < cuts.length; i += 2) spans.push([cuts[i]!, cuts[i + 1]!]);
  return spans;
}

/** A round patch of ground, metres. */
export interface Disc {
  readonly eastM: number;
  readonly northM: number;
  readonly radiusM: number;
}

/** Does a crown reach into a disc? */
export function reachesInto(tree: StandTree, disc: Disc): boolean {
  const [de, dn] = [disc.eastM - tree.eastM, disc.northM - tree.northM];
  const away = Math.hypot(de, dn);
  const bearing = normaliseBearing(toDegrees(Math.atan2(de, dn)));
  return away < disc.radiusM + reachToward(tree, bearing);
}

/**
 * Gaps that are there already: discs of a width without a crown in them and none over another, as many as a walk over the net finds.
 * @param widthM of the discs
 */
export function gapsIn(trees: readonly StandTree[], outline: readonly Point[], widthM: number): Disc[] {
  const radiusM = widthM / 2;
  const gaps: Disc[] = [];
  for (const [eastM, northM] of netOver(outline, widthM / 6)) {
    const disc = { eastM, northM, radiusM };
    if (gaps.some((gap) => Math.hypot(gap.eastM - eastM, gap.northM - northM) < widthM)) continue;
    if (!trees.some((tree) => reachesInto(tree, disc))) gaps.push(disc);
  }
  return gaps;
}

/** How far either way of due north a tree at a gap's northern rim may stand, degrees. */
const RIM_DEG = 45;
/** How near its crown comes to the gap, m. */
const RIM_M = 2;

/**
 * Trees at the northern rims of gaps, whose crowns the southern sun reaches through the opening: the ones that gain by a gap.
 * North of the equator. Common practice; the angle and the distance are working assumptions.
 * @returns ids, in the order of the trees
 */
export function northernRim(trees: readonly (StandTree & { readonly id: string })[], gaps: readonly Disc[]): string[] {
  return trees
    .filter((tree) =>
      gaps.some((gap) => {
        const [de, dn] = [tree.eastM - gap.eastM, tree.northM - gap.northM];
        const bearing = toDegrees(Math.atan2(de, dn));
        const toCrown = Math.hypot(de, dn) - reachToward(tree, normaliseBearing(bearing + 180));
        return Math.abs(bearing) <= RIM_DEG && toCrown - gap.radiusM <= RIM_M;
      })
    )
    .map(({ id }) => id);
}

/** Points of a net over a stand's ground, `stepM` apart. */
export function netOver(outline: readonly Point[], stepM: number): Point[] {
  const [easts, norths] = [outline.map(([e]) => e), outline.map(([, n]) => n)];
  const points: Point[] = [];
  for (let e = Math.min(...easts) + stepM / 2; e < Math.max(...easts); e += stepM)
    for (let n = Math.min(...norths) + stepM / 2; n < Math.max(...norths); n += stepM)
      if (insideOutline([e, n], outline)) points.push([e, n]);
  return points;
}
