import { distanceToEdge } from '../geometry/index.ts';
import type { SiteFeature, TreeRow } from '../records/index.ts';
import { METRES_A_MINUTE, MINUTES_A_VESSEL } from './collecting.ts';

/** A tree beside a walk that is made anyway, and what emptying its vessels adds to it each time. */
export interface BesideWalk {
  readonly row: TreeRow;
  readonly taps: number;
  /** from the walk to the tree, metres */
  readonly awayM: number;
  /** minutes that it adds to the walk each time: there, emptying, and back */
  readonly minutes: number;
}

/**
 * Trees beside a walk that somebody makes anyway, those that add least for each of their taps first.
 * @param walk a path, or any course on the ground
 * @param tapsOf how many taps a tree would have; none where it is not to be tapped
 */
export function besideWalk(
  walk: Pick<SiteFeature, 'points'>,
  rows: readonly TreeRow[],
  tapsOf: (row: TreeRow) => number
): BesideWalk[] {
  return rows
    .flatMap((row): BesideWalk[] => {
      const taps = tapsOf(row);
      if (row.cut || taps === 0 || row.eastM === null || row.northM === null) return [];
      const awayM = distanceToEdge([row.eastM, row.northM], walk.points, false);
      return [{ row, taps, awayM, minutes: (2 * awayM) / METRES_A_MINUTE + taps * MINUTES_A_VESSEL }];
    })
    .sort((a, b) => a.minutes / a.taps - b.minutes / b.taps);
}

/** So many of them as a walk may grow by, in their order. @param minutes that each walk may take longer */
export function withinMinutes(trees: readonly BesideWalk[], minutes: number): BesideWalk[] {
  let left = minutes;
  return trees.filter((tree) => {
    if (tree.minutes > left) return false;
    left -= tree.minutes;
    return true;
  });
}
