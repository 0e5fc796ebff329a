import { z } from 'zod';

import { note, pointer } from '../fields.ts';
import { recordKind, type RecordOf } from '../kind.ts';

/** What the sawn faces of a felled tree showed of a hole's column. */
export const sawnColumn = recordKind({
  kind: 'sawnColumn',
  table: 'sawnColumns',
  label: 'column on a sawn face',
  of: 'tree',
  group: 'holes',
  writer: 'crew',
  fields: {
    tapholeId: pointer('taphole'),
    /** across the stain where it is widest, along the ring, mm */
    widthMm: z.number().min(2).max(300),
    /** from its upper to its lower end along the log, mm; null where it was not sawn open */
    lengthMm: z.number().min(20).max(6000).nullable().default(null),
    /** lean of the stain against the log, degrees, above 0 to the left going up as one faced the hole; null where nobody looked */
    leanDeg: z.number().min(-45).max(45).nullable().default(null),
    note
  },
  rules: [
    {
      holds: ({ widthMm, lengthMm }) => lengthMm === null || lengthMm > widthMm,
      message: 'a column is longer than it is wide'
    }
  ],
  holds: { each: 'tapholeId' }
});
export type SawnColumn = RecordOf<typeof sawnColumn>;
