import type { TreeRow } from '@baumkin/core/records';
import { positionSd, radiusOf } from '@baumkin/core/stand';

import type { Question } from './questions.ts';
import type { MapTree } from './treeLayer.ts';

/** Half a crown's width for a tree that nobody has measured, metres. */
const UNKNOWN_CROWN_M = 1.5;

/** The trees that have a place, as the map draws them, toned by what is asked. */
export function mapTrees(rows: readonly TreeRow[], question: Question): MapTree[] {
  return rows.flatMap((row): MapTree[] => {
    const { id, tag, eastM, northM, dbhMm, positionQuality } = row;
    if (eastM === null || northM === null) return [];
    return [
      {
        id,
        tag,
        eastM,
        northM,
        crownM: dbhMm === null ? UNKNOWN_CROWN_M : radiusOf({ ...row, dbhMm }),
        trunkM: (dbhMm ?? 100) / 1000,
        tone: question.answer(row),
        says: question.says(row),
        roughM: positionQuality === null ? 0 : positionSd({ ...row, positionQuality }),
        tagged: row.tagged !== false
      }
    ];
  });
}
