import {
  conditionOf,
  isSugarbush,
  kindOf,
  knownMaple,
  tapForbidden,
  type BushSettings,
  type Stand,
  type TreeRow
} from '../records/index.ts';
import { suggestTaps, type Suggestion } from '../taps/index.ts';
import { balanceOf } from './policy.ts';

/** Is the tree one to be counted for taps: a measured maple with a tag, in a stand that is kept for syrup? */
export function countable(row: TreeRow, stand: Stand | null): boolean {
  return kindOf(row) === 'maple' && row.dbhMm !== null && row.tagged !== false && !row.cut && isSugarbush(stand);
}

/** What a suggestion depends on beside the tree itself. */
export interface Circumstances {
  readonly settings: BushSettings;
  readonly season: number;
  /** ISO date */
  readonly today: string;
  readonly stand: Stand | null;
}

/** The suggestion for a tree from its line alone; its room where that was looked for. */
export function suggestionFor(
  row: TreeRow,
  { settings, season, today, stand }: Circumstances,
  room: number | null
): Suggestion {
  return suggestTaps({
    dbhMm: row.dbhMm!,
    ringMm: row.ringMm,
    ringSeMm: row.ringSeMm,
    ...balanceOf(settings, row.species),
    condition: conditionOf(row),
    today,
    forbidden: tapForbidden(row, stand, today) !== null,
    isMaple: knownMaple(row),
    room,
    seasonsSinceTapped: row.lastTappedSeason === null ? null : season - row.lastTappedSeason
  });
}
