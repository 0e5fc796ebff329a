import type { BushSettings, TreeRow } from '../records/index.ts';
import { costOfTooEarly, tapGuidelineOf, timeToSize } from '../taps/index.ts';
import { balanceOf } from './policy.ts';

/** So far ahead a bush looks for trees that come to another step of its guideline, years. */
const COMING_YEARS = 10;

/** A tree that comes to the next step of its bush's guideline. */
export interface Coming {
  readonly row: TreeRow;
  readonly at: NonNullable<ReturnType<typeof timeToSize>>;
}

/** The measured trees that come to the next step of their bush's guideline within ten years, the soonest first. */
export function comingToSize(rows: readonly TreeRow[], settings: BushSettings): Coming[] {
  const guideline = tapGuidelineOf(settings);
  return rows
    .flatMap((row): Coming[] => {
      if (row.dbhMm === null) return [];
      const at = timeToSize({ dbhMm: row.dbhMm, ringMm: row.ringMm, ringSeMm: row.ringSeMm }, guideline);
      return at && at.years <= COMING_YEARS ? [{ row, at }] : [];
    })
    .sort((a, b) => a.at.years - b.at.years);
}

/**
 * What tapping the thinnest of the trees that are not tapped by size yet would cost in the long run.
 * @returns shares of its band that would be stained, tapped now and at the size that is asked for; null without such a tree
 */
export function costOfTheThinnest(
  coming: readonly Coming[],
  settings: BushSettings
): ReturnType<typeof costOfTooEarly> | null {
  const first = coming.filter(({ at }) => at.taps === 1);
  if (first.length === 0) return null;
  const { row, at } = first.reduce((a, b) => (b.row.dbhMm! < a.row.dbhMm! ? b : a));
  const { dbhMm, ringMm, ringSeMm, species } = row;
  return costOfTooEarly({ dbhMm: dbhMm!, ringMm, ringSeMm, ...balanceOf(settings, species) }, at.atDbhMm);
}
