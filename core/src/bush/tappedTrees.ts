import { drillForbidden, isSugarbush, type BushSettings, type Stand, type TreeRow } from '../records/index.ts';
import { guidelineTaps, tapGuidelineOf } from '../taps/index.ts';

/** A tree with a place, and the taps that hang on it. */
export interface TappedTree {
  readonly id: string;
  readonly eastM: number;
  readonly northM: number;
  readonly taps: number;
  /** is its count decided, or taken from its size by the bush's guideline? */
  readonly decided: boolean;
}

/**
 * The trees of a bush that bear taps and have a place: by their count, or by their size where none is decided yet.
 * @param standOf the stand of a tree; null where it belongs to none
 */
export function tappedTrees(
  rows: readonly TreeRow[],
  settings: BushSettings,
  { today, standOf }: { readonly today: string; readonly standOf: (row: TreeRow) => Stand | null }
): TappedTree[] {
  const guideline = tapGuidelineOf(settings);
  return rows.flatMap((row) => {
    const { id, eastM, northM, dbhMm, decidedTaps } = row;
    const stand = standOf(row);
    if (eastM === null || northM === null || !isSugarbush(stand)) return [];
    if (drillForbidden(row, stand, today) !== null) return [];
    const taps = decidedTaps ?? (dbhMm === null ? 0 : guidelineTaps(guideline, dbhMm));
    return taps > 0 ? [{ id, eastM, northM, taps, decided: decidedTaps !== null }] : [];
  });
}
