import {
  isSugarbush,
  kindOf,
  knownMaple,
  suggestTaps,
  type BushSettings,
  type Stand,
  type Suggestion,
  type TreeRow
} from '@baumkin/core';

import { policyOf } from './policy.ts';

/** Is the tree one to be counted for taps: a measured maple with a tag, in a stand that is kept for syrup? */
export function countable(row: TreeRow, stand: Stand | null): boolean {
  return kindOf(row) === 'maple' && row.dbhMm !== null && row.tagged !== false && !row.cut && isSugarbush(stand);
}

/** The suggestion for a tree from its line alone; its room where that was looked for. */
export function suggestionFor(row: TreeRow, settings: BushSettings, season: number, room: number | null): Suggestion {
  return suggestTaps({
    dbhMm: row.dbhMm!,
    ringMm: row.ringMm,
    ringSeMm: row.ringSeMm,
    ...policyOf(settings),
    condition:
      row.diebackPct === null
        ? null
        : {
            diebackPct: row.diebackPct,
            oldestOpenHoleYears: row.oldestOpenHoleYears ?? null,
            stressed: row.stressed ?? false
          },
    isMaple: knownMaple(row),
    room,
    seasonsSinceTapped: row.lastTappedSeason === null ? null : season - row.lastTappedSeason
  });
}
