import {
  conditionOf,
  isSugarbush,
  kindOf,
  knownMaple,
  otherSapOfTree,
  tapForbidden,
  type BushSettings,
  type Stand,
  type TreeRow
} from '../records/index.ts';
import { otherSapOf, type SpeciesId } from '../identify/index.ts';
import { OTHER_GUIDELINES, suggestTaps, tapGuidelineOf, type Suggestion, type TapGuideline } from '../taps/index.ts';
import { balanceOf } from './policy.ts';

/** Is the tree one to be counted for taps: a measured maple with a tag, in a stand that is kept for syrup? */
export function countable(row: TreeRow, stand: Stand | null): boolean {
  return kindOf(row) === 'maple' && row.dbhMm !== null && row.tagged !== false && !row.cut && isSugarbush(stand);
}

/** The rule from size to count that the bush goes by at a tree. @param species null while that is open */
export function guidelineAt(species: SpeciesId | null, settings: BushSettings): TapGuideline {
  const other = species === null ? null : otherSapOf(species);
  return other === null ? tapGuidelineOf(settings) : OTHER_GUIDELINES[other];
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
  const other = otherSapOfTree(row);
  const isTapped = other !== null && settings.alsoTaps.includes(other);
  return suggestTaps({
    dbhMm: row.dbhMm!,
    ringMm: row.ringMm,
    ringSeMm: row.ringSeMm,
    ...balanceOf(settings, row.species),
    ...(isTapped ? { guideline: guidelineAt(row.species, settings) } : {}),
    condition: conditionOf(row),
    today,
    forbidden: tapForbidden(row, stand, today) !== null,
    givesSap: isTapped || knownMaple(row),
    otherSap: other,
    room,
    seasonsSinceTapped: row.lastTappedSeason === null ? null : season - row.lastTappedSeason,
    ownGrowth: row.ownGrowth
  });
}
