import { z } from 'zod';

import { oneOf, pointer } from '../fields.ts';
import { recordKind, type RecordOf } from '../kind.ts';

/** What came out of a hole while it was drilled. */
export const shavings = recordKind({
  kind: 'shavings',
  table: 'shavings',
  label: 'word on the shavings',
  of: 'tree',
  group: 'holes',
  writer: 'crew',
  fields: {
    tapholeId: pointer('taphole'),
    seen: oneOf('pale', 'partly', 'brown', 'dry'),
    /** share of brown shavings where partly brown */
    brownShare: z.number().min(0).max(1).nullable().default(null),
    /** depth in wood at which they turned brown, mm; null where nobody looked */
    brownFromMm: z.number().min(0).max(150).nullable().default(null),
    /** how the other holes ran when this one stayed dry; null where nobody said, or where it was not dry */
    othersRan: oneOf('well', 'little', 'none').nullable().default(null)
  },
  holds: { each: 'tapholeId' }
});
export type Shavings = RecordOf<typeof shavings>;
