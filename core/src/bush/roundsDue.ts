import { conditionOf, spoutsIn, type Stand, type TreeRow } from '../records/index.ts';
import { dayAfter } from '../season/index.ts';
import { conditionCap } from '../taps/index.ts';
import { releases } from '../thinning/index.ts';

import { countable } from './suggestion.ts';

/* At which trees a round has something to do, beside those that wait at a station. */

/** Is a tree of the count to be looked up at: because nobody did, or too long ago? @param today ISO date */
export function crownDue(row: TreeRow, stand: Stand | null, today: string): boolean {
  return countable(row, stand) && !row.fallen && conditionCap(conditionOf(row), today).unknown;
}

/** Are spouts of the season still to be pulled from a tree? One that stayed in, too: its hole does not close. */
export function pullingDue(
  row: Pick<TreeRow, 'cut' | 'drilled' | 'pulledSeason' | 'pulledSpouts'>,
  season: number
): boolean {
  return !row.cut && spoutsIn(row, season) > 0;
}

/**
 * Are vessels still to be hung at a tree: where the bush waits some days after drilling, so that spouts sit before weight hangs on them?
 * @param hangAfterDays nought where they are hung at once: then nothing follows
 */
export function hangingDue(
  row: Pick<TreeRow, 'cut' | 'drilled' | 'drilledOn' | 'hungSeason'>,
  of: { readonly season: number; readonly today: string; readonly hangAfterDays: number }
): boolean {
  const { drilledOn } = row;
  if (row.cut || of.hangAfterDays === 0 || drilledOn === null || row.hungSeason === of.season) return false;
  return row.drilled > 0 && dayAfter(drilledOn, of.hangAfterDays) <= of.today;
}

/** Old holes are looked at from this day on: by then a summer's wood has closed what it closes. Common practice: autumn. */
export const CLOSED_BY = '-08-15';
/** After this day of the year nobody goes round to look at closing holes. Working assumption. */
const LOOKED_AT_UNTIL = '-11-30';

/** Is it the time of the year in which closing holes are looked at? @param today ISO date */
export const isClosingTime = (today: string): boolean =>
  today.slice(4) >= CLOSED_BY && today.slice(4) <= LOOKED_AT_UNTIL;

/** Holes older than this are closed, or the tree is known to be weak. Common practice. */
const LOOKED_AT_YEARS = 4;

/** The summer that has closed what it closes. @param today ISO date */
export function lastSummer(today: string): number {
  const year = Number(today.slice(0, 4));
  return today.slice(4) >= CLOSED_BY ? year : year - 1;
}

/**
 * Are a tree's old holes to be looked at: has a summer gone over them since anybody did?
 * @param today ISO date
 */
export function closingDue(
  row: Pick<TreeRow, 'cut' | 'tagged' | 'lastTappedSeason' | 'lookedOn' | 'earlierLooks' | 'oldestOpenHoleYears'>,
  today: string
): boolean {
  const summer = lastSummer(today);
  if (row.cut || row.tagged === false || row.lastTappedSeason === null) return false;
  // A season's holes are of that year's spring: the summer of the year is the first to close them.
  if (row.lastTappedSeason > summer || row.lastTappedSeason <= summer - LOOKED_AT_YEARS) return false;
  const told = seenOn(row, 'oldestOpenHoleYears');
  return told === null || told < `${summer}${CLOSED_BY}`;
}

/** When somebody last looked at one thing of a tree, ISO date; null where nobody did. A look at another thing is none at this. */
export function seenOn<K extends 'diebackPct' | 'oldestOpenHoleYears'>(
  row: Pick<TreeRow, 'lookedOn' | 'earlierLooks' | K>,
  thing: K
): string | null {
  return row[thing] === null ? null : (row.earlierLooks[thing] ?? row.lookedOn);
}

/** Is a tree marked to come down, or to be girdled, and its trunk does not show it yet? */
export function paintingDue(row: Pick<TreeRow, 'cut' | 'fallen' | 'mark' | 'markPainted'>): boolean {
  return !row.cut && !row.fallen && releases(row.mark) && !row.markPainted;
}
