import { distanceToEdge, insideOutline, outlineAreaHa, type GroundPoint, type Point } from '../geometry/index.ts';
import { mean } from '../math/index.ts';
import { Delaunay } from 'd3-delaunay';

import { M2_PER_HECTARE } from '../units/index.ts';

/** A stem with its place. */
export interface Stem extends GroundPoint {
  /** stems of one base share it; a stem without it stands on its own */
  readonly base?: string;
}

/** Who stands within reach of whom: the neighbours of stem i are `of[from[i]]` up to `of[from[i + 1]]`. */
export interface Neighbours {
  readonly from: Int32Array;
  readonly of: Int32Array;
  readonly distanceM: Float64Array;
}

/** Neighbours count up to here, metres. Working assumption; published studies take 6 to 10. */
export const COMPETITION_RADIUS_M = 8;
/** For growth, stems are taken to stand at least this far apart: two trees mapped on one spot are an error of the map. */
export const MIN_DISTANCE_M = 1;

/**
 * All pairs of stems within a radius. Stems on the same spot are neighbours at distance 0.
 * Stems are sorted into squares no smaller than the radius, so that the neighbours of each stand in three rows of three.
 */
export function neighbours(stems: readonly GroundPoint[], radiusM = COMPETITION_RADIUS_M): Neighbours {
  const { start, rows, columns, squareOf, sorted, east, north } = squares(stems, radiusM);
  const many = stems.length;
  const from = new Int32Array(many + 1);
  let of = new Int32Array(16 * many);
  let distanceM = new Float64Array(16 * many);
  let found = 0;
  const most = radiusM ** 2;
  for (let i = 0; i < many; i++) {
    const { eastM, northM } = stems[i]!;
    const square = squareOf[i]!;
    const [row, column] = [Math.floor(square / columns), square % columns];
    const [left, right] = [Math.max(0, column - 1), Math.min(columns - 1, column + 1)];
    for (let at = Math.max(0, row - 1); at <= Math.min(rows - 1, row + 1); at++) {
      const end = start[at * columns + right + 1]!;
      for (let k = start[at * columns + left]!; k < end; k++) {
        const apart = (east[k]! - eastM) ** 2 + (north[k]! - northM) ** 2;
        if (apart > most || sorted[k] === i) continue;
        if (found === of.length) {
          of = copied(of, new Int32Array(2 * found));
          distanceM = copied(distanceM, new Float64Array(2 * found));
        }
        of[found] = sorted[k]!;
        distanceM[found++] = Math.sqrt(apart);
      }
    }
    from[i + 1] = found;
  }
  return { from, of: of.slice(0, found), distanceM: distanceM.slice(0, found) };
}

const copied = <T extends Int32Array | Float64Array>(all: T, into: T): T => {
  into.set(all);
  return into;
};

/** Of squares there are no more than so many for each stem, however far apart the stems stand. */
const SQUARES_A_STEM = 4;

/** Stems square by square: those of square s are `sorted[start[s]]` up to `sorted[start[s + 1]]`, with their places beside. */
function squares(stems: readonly GroundPoint[], radiusM: number) {
  const span = (of: (stem: GroundPoint) => number) => {
    let [low, high] = [Infinity, -Infinity];
    for (const stem of stems) [low, high] = [Math.min(low, of(stem)), Math.max(high, of(stem))];
    return stems.length === 0 ? [0, 0] : [low, high - low];
  };
  const [west, wide] = span(({ eastM }) => eastM) as [number, number];
  const [south, high] = span(({ northM }) => northM) as [number, number];
  // A long thin row of stems has few squares on one side: that is counted too.
  const side = Math.max(
    radiusM,
    Math.sqrt((wide * high) / (SQUARES_A_STEM * stems.length + 1)),
    (wide + high) / (SQUARES_A_STEM * stems.length + 1),
    1e-6
  );
  const columns = Math.floor(wide / side) + 1;
  const rows = Math.floor(high / side) + 1;
  const squareOf = Int32Array.from(
    stems,
    ({ eastM, northM }) => Math.floor((northM - south) / side) * columns + Math.floor((eastM - west) / side)
  );
  const start = new Int32Array(rows * columns + 1);
  for (const square of squareOf) start[square + 1]! += 1;
  for (let square = 0; square < rows * columns; square++) start[square + 1]! += start[square]!;
  const next = start.slice();
  const sorted = new Int32Array(stems.length);
  const [east, north] = [new Float64Array(stems.length), new Float64Array(stems.length)];
  stems.forEach(({ eastM, northM }, i) => {
    const square = squareOf[i]!;
    const at = next[square]!;
    next[square] = at + 1;
    sorted[at] = i;
    east[at] = eastM;
    north[at] = northM;
  });
  return { start, rows, columns, squareOf, sorted, east, north };
}

/**
 * Hegyi's index: the sum over neighbours of `(D_j / D_i) / distance` (Hegyi 1974), distances in metres.
 * @param leastM distances below it count as it; 0 gives the index as published, infinite for two stems on one spot
 * @param pressing what each diameter counts for its neighbours: less than itself where a tree may be gone
 */
export function hegyi(
  dbhMm: ArrayLike<number>,
  near: Neighbours,
  leastM = MIN_DISTANCE_M,
  pressing = dbhMm
): Float64Array {
  const index = new Float64Array(dbhMm.length);
  for (let i = 0; i < index.length; i++) {
    let sum = 0;
    for (let k = near.from[i]!; k < near.from[i + 1]!; k++)
      sum += pressing[near.of[k]!]! / Math.max(leastM, near.distanceM[k]!);
    index[i] = sum / dbhMm[i]!;
  }
  return index;
}

/** Basal area per hectare of all stems thicker than each, m2/ha. */
export function basalAreaInLarger(dbhsMm: readonly number[], areaHa: number): number[] {
  const order = dbhsMm.map((_, i) => i).sort((a, b) => dbhsMm[b]! - dbhsMm[a]!);
  const larger = new Array<number>(dbhsMm.length);
  let sum = 0;
  for (let k = 0; k < order.length;) {
    const dbh = dbhsMm[order[k]!]!;
    const same = order.slice(k).findIndex((i) => dbhsMm[i]! !== dbh);
    const end = same < 0 ? order.length : k + same;
    for (let m = k; m < end; m++) larger[order[m]!] = sum / areaHa;
    sum += (end - k) * (Math.PI / 4) * (dbh / 1000) ** 2;
    k = end;
  }
  return larger;
}

/**
 * Ground that is nearer to a stem than to any other, m2, within a box: its Voronoi cell. Of stems on one spot the first
 * has it all.
 * @param box west, south, east, north, metres
 */
export function growingSpace(
  stems: readonly GroundPoint[],
  box: readonly [number, number, number, number]
): Float64Array {
  if (stems.length === 0) return new Float64Array();
  const voronoi = Delaunay.from(
    stems,
    ({ eastM }) => eastM,
    ({ northM }) => northM
  ).voronoi([...box]);
  return Float64Array.from(stems, (_, i) => {
    const cell = voronoi.cellPolygon(i);
    return cell ? outlineAreaHa(cell) * M2_PER_HECTARE : 0;
  });
}

/** A tree never gets more than this many times its seen competition for what lies unmapped round it. */
const MAX_CORRECTION = 3;
/** A circle is looked through by points on so many rings of equal area. */
const RINGS = 6;
/** And at so many angles. */
const ANGLES = 24;

/**
 * How much the competition of each stem is to be raised because part of its circle lies where nobody mapped: one over the
 * circle's share within the outlines, as if it were as crowded out there (Ripley-like edge correction).
 * @param outlines of what was mapped; without any, the hull of the stems
 */
export function edgeCorrection(
  stems: readonly GroundPoint[],
  outlines: readonly (readonly Point[])[],
  radiusM = COMPETITION_RADIUS_M
): Float64Array {
  const known = outlines.length > 0 ? outlines : hullOf(stems);
  if (known.length === 0) return new Float64Array(stems.length).fill(1);
  return Float64Array.from(stems, ({ eastM, northM }) => {
    if (known.every((outline) => distanceToEdge([eastM, northM], outline, true) >= radiusM)) return 1;
    let within = 0;
    for (let ring = 0; ring < RINGS; ring++)
      for (let a = 0; a < ANGLES; a++) {
        const r = radiusM * Math.sqrt((ring + 0.5) / RINGS);
        const angle = (2 * Math.PI * (a + (ring % 2) / 2)) / ANGLES;
        const at: Point = [eastM + r * Math.sin(angle), northM + r * Math.cos(angle)];
        if (known.some((outline) => insideOutline(at, outline))) within += 1;
      }
    return Math.min(MAX_CORRECTION, (RINGS * ANGLES) / Math.max(1, within));
  });
}

function hullOf(stems: readonly GroundPoint[]): (readonly Point[])[] {
  if (stems.length < 3) return [];
  const hull = [
    ...Delaunay.from(
      stems,
      (s) => s.eastM,
      (s) => s.northM
    ).hull
  ].map((i): Point => [stems[i]!.eastM, stems[i]!.northM]);
  return hull.length < 3 ? [] : [hull];
}

/**
 * Stems of one base count as one, at their middle.
 * @returns the bases, and for each stem the index of its own
 */
export function bases(stems: readonly Stem[]): { places: GroundPoint[]; baseOf: Int32Array } {
  const byBase = new Map<string, number>();
  const members: Stem[][] = [];
  const baseOf = Int32Array.from(stems, (stem) => {
    const known = stem.base === undefined ? undefined : byBase.get(stem.base);
    if (known !== undefined) {
      members[known]!.push(stem);
      return known;
    }
    members.push([stem]);
    if (stem.base !== undefined) byBase.set(stem.base, members.length - 1);
    return members.length - 1;
  });
  const places = members.map((of): GroundPoint => ({
    eastM: mean(of.map((stem) => stem.eastM)),
    northM: mean(of.map((stem) => stem.northM))
  }));
  return { places, baseOf };
}

/** The diameter of each base: that whose square is the sum of its stems'. @param weights of the stems; 1 when left out */
export function baseDiameters(
  dbhMm: ArrayLike<number>,
  baseOf: Int32Array,
  many: number,
  weights?: ArrayLike<number>
): Float64Array {
  const squares = new Float64Array(many);
  for (let i = 0; i < baseOf.length; i++)
    squares[baseOf[i]!] = squares[baseOf[i]!]! + (weights?.[i] ?? 1) * dbhMm[i]! ** 2;
  return squares.map(Math.sqrt);
}
