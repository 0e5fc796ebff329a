import { z } from 'zod';

import { lastingPointer, note } from '../fields.ts';
import { recordKind, type RecordOf } from '../kind.ts';

/** What was read on a line while it ran: gauges along it, and what came out of its foot in some time. */
export const lineReading = recordKind({
  kind: 'lineReading',
  table: 'lineReadings',
  label: 'reading on a line',
  of: 'bush',
  group: 'season',
  writer: 'crew',
  fields: {
    lineId: lastingPointer('pipeLine'),
    /** of the day, local time: readings of one hour are of one run and one pump */
    hour: z.number().min(0).lt(24),
    /** metres along the line from its upper end, and the vacuum there, kPa below the air outside */
    gauges: z
      .array(z.object({ alongM: z.number().min(0).max(20_000), kPa: z.number().min(0).max(101) }))
      .max(50)
      .default([]),
    /** what ran out of its foot, litres, and in how many minutes; null where nobody timed it */
    litres: z.number().min(0).max(10_000).nullable().default(null),
    minutes: z.number().min(0.05).max(1440).nullable().default(null),
    note
  },
  rules: [
    {
      holds: ({ litres, minutes }) => (litres === null) === (minutes === null),
      path: ['minutes'],
      message: 'litres and minutes belong together'
    },
    {
      holds: ({ gauges, litres }) => gauges.length > 0 || litres !== null,
      path: ['gauges'],
      message: 'says nothing: no gauge, and nothing that was timed'
    }
  ],
  holds: 'list'
});
export type LineReadingRecord = RecordOf<typeof lineReading>;
