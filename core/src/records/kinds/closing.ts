import { z } from 'zod';

import { note, oneOf, pointer } from '../fields.ts';
import { recordKind, type RecordOf } from '../kind.ts';

/** How far the holes of a tree have closed, looked at in summer. */
export const closing = recordKind({
  kind: 'closing',
  table: 'closings',
  label: 'look at closing holes',
  of: 'tree',
  group: 'season',
  writer: 'crew',
  fields: {
    holes: z
      .array(
        z.object({
          tapholeId: pointer('taphole', true),
          state: oneOf('open', 'slit', 'closed'),
          /** width that no wood lies across yet, mm; null where nobody measured it */
          gapMm: z.number().min(0).max(60).nullable().default(null)
        })
      )
      .max(100),
    /** sap or slime comes out of a hole; bark dies around one; fungus grows on one */
    oozing: z.boolean().default(false),
    dyingBark: z.boolean().default(false),
    fungus: z.boolean().default(false),
    note
  },
  holds: 'list'
});
export type ClosingRecord = RecordOf<typeof closing>;
