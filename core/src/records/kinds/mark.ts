import { z } from 'zod';

import { KEPT_FOR, MARK_PURPOSES, type KeptFor, type MarkPurpose } from '../../thinning/index.ts';
import { bearingDeg, day, reason } from '../fields.ts';
import { recordKind, type RecordOf } from '../kind.ts';

export interface MarkLine {
  readonly mark: MarkPurpose | null;
  readonly markReason: string;
  readonly keepFor: KeptFor | null;
  /** marked to come down although something speaks for keeping it */
  readonly despite: boolean;
  readonly leanDeg: number | null;
}

/** What is to become of a tree. */
export const mark = recordKind({
  kind: 'mark',
  table: 'marks',
  label: 'mark',
  of: 'tree',
  group: 'thinning',
  writer: 'steward',
  fields: {
    purpose: z.enum([...MARK_PURPOSES, 'none']),
    reason,
    /** taken although something lives in it, or it is among the last of its kind */
    despite: z.boolean().default(false),
    /** what a kept tree is kept for; null where nobody said */
    keepFor: z.enum(KEPT_FOR).nullable().default(null),
    /** when a tree that is watched or braced is to be looked at again */
    reviewOn: day().nullable().default(null),
    /** where a tree leans, degrees; null where it stands straight or nobody said */
    leanDeg: bearingDeg.nullable().default(null)
  },
  holds: 'last',
  line: (last): MarkLine => ({
    mark: last && last.purpose !== 'none' ? last.purpose : null,
    markReason: last?.reason ?? '',
    keepFor: last?.keepFor ?? null,
    despite: last?.despite ?? false,
    leanDeg: last?.leanDeg ?? null
  })
});
export type Mark = RecordOf<typeof mark>;
