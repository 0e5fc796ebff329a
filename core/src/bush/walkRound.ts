import { normaliseBearing, toDegrees } from '../math/index.ts';
import type { TreeRow } from '../records/index.ts';
import { positionSd } from '../stand/index.ts';
import type { DefectKind, HazardKind } from '../taps/index.ts';

/** A tree at which a round has something to do still. */
export interface Stop {
  readonly treeId: string;
  /** place in the walk */
  readonly walkOrder: number;
  /** has what a bit carries on from tree to tree */
  readonly sick: boolean;
}

/** How far somebody is on a round. */
export interface OnRound {
  /** place in the walk of the tree where she was last; null before the first */
  readonly at: number | null;
  /** trees that she put off */
  readonly later: ReadonlySet<string>;
}

/**
 * The trees that a round has still before it, in the order in which they are come to: onward along the walk, then those that were passed
 * by, then those that were put off. Sick trees come last, for what a bit carries on. Common practice.
 * @param stops all that is left to do, in any order
 */
export function stopsAhead<S extends Stop>(stops: readonly S[], { at, later }: OnRound): S[] {
  const put = ({ treeId, walkOrder, sick }: S) => [sick, later.has(treeId), at !== null && walkOrder <= at].map(Number);
  return stops
    .map((stop) => ({ stop, by: [...put(stop), stop.walkOrder] }))
    .sort((a, b) => a.by.map((value, i) => value - b.by[i]!).find((apart) => apart !== 0) ?? 0)
    .map(({ stop }) => stop);
}

/** What is seen on a trunk that a bit may carry to the next tree. Common practice. */
const CARRIED: readonly DefectKind[] = ['canker', 'decay'];
const CARRIED_HAZARDS: readonly HazardKind[] = ['conks'];

/** Was anything seen on a tree that a bit may carry to the next? */
export function isSick({ defects, hazards }: Pick<TreeRow, 'defects' | 'hazards'>): boolean {
  return defects.some((each) => CARRIED.includes(each)) || hazards.some((each) => CARRIED_HAZARDS.includes(each));
}

/** The way from one tree to the next. */
export interface WayTo {
  readonly metres: number;
  /** degrees clockwise from north; null where the places are too rough to tell */
  readonly bearingDeg: number | null;
}

/**
 * How to get from one tree to the next.
 * @returns null where one of the two has no place
 */
export function wayTo(from: Placed, to: Placed): WayTo | null {
  if (from.eastM === null || from.northM === null || to.eastM === null || to.northM === null) return null;
  const [east, north] = [to.eastM - from.eastM, to.northM - from.northM];
  const metres = Math.hypot(east, north);
  const rough = Math.hypot(sdOf(from), sdOf(to));
  return { metres, bearingDeg: metres > 2 * rough ? normaliseBearing(toDegrees(Math.atan2(east, north))) : null };
}

type Placed = Pick<TreeRow, 'eastM' | 'northM' | 'positionQuality' | 'positionAccuracyM'>;

const sdOf = ({ positionQuality, positionAccuracyM }: Placed) =>
  positionQuality === null ? Infinity : positionSd({ positionQuality, positionAccuracyM });
