import {
  fewerSinceDecided,
  knownMaple,
  otherSapOfTree,
  tapForbidden,
  tapsToHang,
  type BushSettings,
  type Stand,
  type TreeRow
} from '../records/index.ts';

/** What a tree asks for one after the other, from nothing to its holes. */
export const FIRST_STEPS = ['identify', 'measure', 'count', 'place'] as const;
export type FirstStep = (typeof FIRST_STEPS)[number];

/** What beside the tree says whether it is to be tapped. */
export interface TappedHere {
  readonly stand: Stand | null;
  /** ISO date */
  readonly today: string;
  readonly settings: Pick<BushSettings, 'alsoTaps'>;
}

/**
 * The step that a tree waits for.
 * @returns `left` where it is no tree to be tapped here, `done` where all its holes of the season are drilled, or none was decided
 */
export function firstStepOf(row: TreeRow, { stand, today, settings }: TappedHere): FirstStep | 'left' | 'done' {
  const isMaple = knownMaple(row);
  const other = otherSapOfTree(row);
  const gives = isMaple !== false || (other !== null && settings.alsoTaps.includes(other));
  if (!gives || tapForbidden(row, stand, today) !== null) return 'left';
  if (isMaple === null) return 'identify';
  if (row.dbhMm === null) return 'measure';
  if (row.decidedTaps === null || fewerSinceDecided(row, today) !== null) return 'count';
  // Nobody hangs taps on birches and walnuts by the maples' rules: what was decided holds.
  const taps = isMaple ? tapsToHang(row, stand, today) : row.decidedTaps;
  return row.drilled < taps ? 'place' : 'done';
}
