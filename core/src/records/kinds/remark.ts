import { z } from 'zod';

import { recordKind, type RecordOf } from '../kind.ts';

/** Something worth knowing of a tree that no other kind of record has a place for. */
export const remark = recordKind({
  kind: 'remark',
  table: 'remarks',
  label: 'remark',
  of: 'tree',
  group: 'condition',
  writer: 'crew',
  fields: { text: z.string().trim().min(1).max(1000) },
  holds: 'list',
  csv: {
    title: 'Remarks',
    columns: [
      { name: 'noted_on', type: 'date', explains: 'the day', example: '2026-11-20' },
      { name: 'text', type: 'string', explains: 'what was noted', example: 'wasps in the hollow' }
    ],
    cells: ({ on, text }) => [on, text]
  }
});
export type Remark = RecordOf<typeof remark>;
