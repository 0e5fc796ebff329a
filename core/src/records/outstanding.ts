import { fractionalYear } from '../measure/index.ts';
import { knownMaple } from './maple.ts';
import { fewerSinceDecided, tapForbidden, tapsToHang } from './permission.ts';
import { isSugarbush, type Stand } from './site.ts';
import type { TreeRow } from './treeRow.ts';

/** The stations of a bush, in the order of the work. */
export const STATIONS = ['identify', 'measure', 'count', 'place', 'thin', 'season'] as const;
export type Station = (typeof STATIONS)[number];

/** A diameter is due again after this many years. Common practice: every 3 to 5 years. */
export const REMEASURE_YEARS = 5;

/** A spout that is still in a tree on this day of the year was forgotten: the last maples budded weeks before. Working assumption. */
const SPOUTS_OUT_BY = '-05-15';

/** How many spouts of the season are still in a tree, as far as anybody wrote down. */
export function spoutsIn(row: Pick<TreeRow, 'drilled' | 'pulledSeason' | 'pulledSpouts'>, season: number): number {
  return Math.max(0, row.drilled - (row.pulledSeason === season ? row.pulledSpouts : 0));
}

/** What a stand says of its trees: what it is kept for, and whether they are tapped. */
type WhoseStand = Pick<Stand, 'name' | 'purpose' | 'mayTap' | 'byWord' | 'wordUntil'>;

/**
 * Has the station anything left to do at this tree?
 * Later stations ask only for trees that the earlier ones let through, so that nobody is sent to measure a beech.
 * @param today ISO date
 * @param stand the tree's own; null for one without
 */
export function isOutstanding(station: Station, row: TreeRow, today: string, stand: WhoseStand | null = null): boolean {
  // A felled tree has nothing outstanding.
  if (row.cut) return false;
  // Trees without a tag are in the registry for the crowns that they press on: nothing is outstanding at them.
  if (row.tagged === false && station !== 'thin') return false;
  const maple = knownMaple(row);
  switch (station) {
    case 'identify':
      return maple === null;
    case 'measure':
      return (
        maple !== false &&
        (row.questions > 0 ||
          row.lastReadingOn === null ||
          fractionalYear(today) - fractionalYear(row.lastReadingOn) > REMEASURE_YEARS)
      );
    case 'count':
      return (
        isSugarbush(stand) &&
        tapForbidden(row, stand, today) === null &&
        maple === true &&
        row.dbhMm !== null &&
        (row.decidedTaps === null || fewerSinceDecided(row, today) !== null)
      );
    case 'place':
      // Birches and walnuts have a season of their own.
      return maple === true && row.drilled < tapsToHang(row, stand, today);
    case 'thin':
      return (
        row.mark === 'take' ||
        (row.mark === 'girdle' && !row.fallen) ||
        ((row.fallen !== null || row.mark === 'watch' || row.mark === 'brace') &&
          row.reviewOn !== null &&
          row.reviewOn <= today)
      );
    case 'season':
      return today.slice(4) >= SPOUTS_OUT_BY && spoutsIn(row, Number(today.slice(0, 4))) > 0;
  }
}

/**
 * Has a tree come to a station: did anything get done there that can be pointed at? Where a station asks for nothing, this tells
 * whether its work is done or has not begun.
 */
export function hasComeTo(station: Station, row: TreeRow): boolean {
  switch (station) {
    case 'identify':
      return knownMaple(row) !== null;
    case 'measure':
      return row.lastReadingOn !== null;
    case 'count':
      return row.decidedTaps !== null;
    case 'place':
    case 'season':
      return row.drilled > 0;
    case 'thin':
      return row.cut !== null || row.mark !== null || row.crownCard !== null;
  }
}
