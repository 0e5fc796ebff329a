import { z } from 'zod';

import { metres, note, roughDbhMm, speciesIdSchema } from '../fields.ts';
import { recordKind, type RecordOf } from '../kind.ts';
import { lineOfText } from '../text.ts';

/** A sample plot of a cruise. */
export const plot = recordKind({
  kind: 'plot',
  table: 'plots',
  label: 'plot',
  of: 'stand',
  group: 'size',
  writer: 'crew',
  fields: {
    /** what it is called on the ground: a number, mostly */
    name: lineOfText(40),
    /** where its centre lies; null where that was not taken */
    centre: z.object({ eastM: metres, northM: metres }).nullable().default(null),
    design: z.discriminatedUnion('kind', [
      z.object({ kind: z.literal('fixed'), radiusM: z.number().min(1).max(50) }),
      z.object({ kind: z.literal('gauge'), bafM2PerHa: z.number().min(0.2).max(20) })
    ]),
    trees: z.array(z.object({ species: speciesIdSchema.nullable(), dbhMm: roughDbhMm.nullable() })).max(400),
    note
  },
  holds: 'list'
});
export type PlotRecord = RecordOf<typeof plot>;
