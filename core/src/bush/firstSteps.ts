import { knownMaple, otherSapOfTree, type TreeRow } from '../records/index.ts';

/** What a tree asks for one after the other, from nothing to its holes. */
export const FIRST_STEPS = ['identify', 'measure', 'count', 'place'] as const;
export type FirstStep = (typeof FIRST_STEPS)[number];

/**
 * The step that a tree waits for.
 * @returns `left` where it is no tree to be tapped, `done` where all its holes of the season are drilled, or none was decided
 */
export function firstStepOf(row: TreeRow): FirstStep | 'left' | 'done' {
  const isMaple = knownMaple(row);
  if (isMaple === false && otherSapOfTree(row) === null) return 'left';
  if (isMaple === null) return 'identify';
  if (row.dbhMm === null) return 'measure';
  if (row.decidedTaps === null) return 'count';
  return row.drilled < row.decidedTaps ? 'place' : 'done';
}
