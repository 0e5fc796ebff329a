import { z } from 'zod';

import { LEVELLING_METHODS } from '../../lines/index.ts';
import { lastingPointer, note } from '../fields.ts';
import { recordKind, type RecordOf } from '../kind.ts';

const alongM = z.number().min(0).max(20_000);

/** How a line falls, as somebody found it on one occasion by one method. */
export const levelling = recordKind({
  kind: 'levelling',
  table: 'levellings',
  label: 'levelling of a line',
  of: 'bush',
  group: 'season',
  writer: 'crew',
  fields: {
    lineId: lastingPointer('pipeLine'),
    method: z.enum(LEVELLING_METHODS),
    /** metres along the line from its upper end, and the height there above whatever it was read against, metres */
    heights: z
      .array(z.object({ alongM, heightM: z.number().min(-500).max(9000) }))
      .max(500)
      .default([]),
    /** falls, metres a metre, between two points along the line; a rise is negative */
    slopes: z
      .array(z.object({ fromM: alongM, toM: alongM, slope: z.number().min(-2).max(2) }))
      .max(500)
      .default([]),
    /** what a reading strays by, 1 sd: metres, or metres a metre; null where it is as usual for its method */
    sd: z.number().min(0.0001).max(50).nullable().default(null),
    /** the line was moved since it was levelled before: what was read then holds no more */
    afresh: z.boolean().default(false),
    note
  },
  holds: 'list'
});
export type LevellingRecord = RecordOf<typeof levelling>;
