import { fractionalYear, plausibleAfter } from '../measure/index.ts';
import type { Reading } from './kinds/index.ts';
import { datedDiameter, type TreeState } from './treeState.ts';

/** Readings of one round were made within so many days. */
const SAME_ROUND_DAYS = 21;

/** Two readings that were written under each other's tags. */
export interface SwappedReadings {
  readonly own: Reading;
  readonly other: Reading;
}

/**
 * Were two trees' tags mixed up? They were if both have a questioned reading of the same round, neither fits its own tree,
 * and each fits the other. Nothing is changed by asking.
 */
export function swappedReadings(tree: TreeState, neighbour: TreeState): SwappedReadings | null {
  for (const own of tree.readings.filter((reading) => tree.questioned.has(reading.id)))
    for (const other of neighbour.readings.filter((reading) => neighbour.questioned.has(reading.id)))
      if (
        Math.abs(fractionalYear(own.on) - fractionalYear(other.on)) * 365.25 <= SAME_ROUND_DAYS &&
        fits(own, neighbour) &&
        fits(other, tree)
      )
        return { own, other };
  return null;
}

/** Could the reading be one of this tree, after the last one of it before that day? */
function fits(reading: Reading, tree: TreeState): boolean {
  const before = tree.readings.filter((r) => !tree.questioned.has(r.id) && r.on < reading.on).at(-1);
  return before !== undefined && plausibleAfter(datedDiameter(reading), datedDiameter(before));
}
