import { z } from 'zod';

import { note, oneOf, pointer } from '../../core/src/records/fields.ts';
import { recordKind } from '../../core/src/records/kind.ts';

/** A kind of record that the program does not know: what a descriptor alone brings is tested with it. */
export const sapTest = recordKind({
  kind: 'sapTest',
  table: 'sapTests',
  label: 'test of sap',
  of: 'tree',
  group: 'holes',
  writer: 'steward',
  fields: {
    sugarBrix: z.number().min(0).max(15),
    runs: z.boolean().default(true),
    taste: oneOf('sweet', 'buddy'),
    tapholeIds: z.array(pointer('taphole')).max(8),
    beside: z.object({ treeId: pointer('tree').nullable() }),
    seenOn: z.iso.date().nullable().default(null),
    note
  },
  rules: [{ holds: ({ taste, runs }) => runs || taste === 'buddy', message: 'what does not run has no taste' }],
  holds: 'last',
  line: (last) => ({ sugarBrix: last?.sugarBrix ?? null }),
  csv: {
    title: 'Tests of sap',
    columns: [{ name: 'sugar_brix', type: 'number', explains: 'sugar', example: '2.1' }],
    cells: (record) => [String(record.sugarBrix)]
  }
});
