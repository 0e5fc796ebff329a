import { z } from 'zod';

import { note, oneOf, season } from '../fields.ts';
import { recordKind, type RecordOf } from '../kind.ts';

const litres = z.number().min(0).max(100_000);
const brix = z.number().min(0).max(95);

/** A batch: sap that became syrup, was used as sap, or went away, and why. */
export const batch = recordKind({
  kind: 'batch',
  table: 'batches',
  label: 'batch',
  of: 'bush',
  group: 'season',
  writer: 'crew',
  fields: {
    season,
    /** of which trees: each has a season and a ratio of its own, and none counts as maple but maple */
    of: oneOf('maple', 'birch', 'walnut').default('maple'),
    sapLitres: litres,
    /** at 20 °C, per cent */
    sapBrix: brix,
    /** ice taken off first, litres, and the sugar that it kept, per cent */
    iceLitres: litres.default(0),
    iceBrix: brix.default(0),
    became: oneOf('syrup', 'usedAsSap', 'pouredAway').default('syrup'),
    /** null until it is finished, or where it became none */
    syrupLitres: litres.nullable().default(null),
    syrupBrix: brix.nullable().default(null),
    /** over the fire, hours; wood that it took, m³ stacked */
    hours: z.number().min(0).max(400).nullable().default(null),
    woodM3: z.number().min(0).max(100).nullable().default(null),
    /** of water on that day, °C */
    waterBoilsC: z.number().min(80).max(105).nullable().default(null),
    /** as seen against the light */
    colour: oneOf('golden', 'amber', 'dark', 'veryDark', 'kitchen').nullable().default(null),
    bottles: z
      .array(
        z.object({
          litres: z.number().min(0.01).max(250),
          many: z.number().int().min(1).max(10_000),
          went: oneOf('kept', 'given', 'sold').default('kept')
        })
      )
      .max(60)
      .default([]),
    note
  },
  rules: [
    {
      holds: ({ iceLitres, sapLitres }) => iceLitres <= sapLitres,
      path: ['iceLitres'],
      message: 'is more than the sap that it was taken from'
    },
    {
      holds: ({ became, syrupLitres }) => became === 'syrup' || syrupLitres === null,
      path: ['syrupLitres'],
      message: 'goes with sap that became syrup'
    }
  ],
  holds: 'list'
});
export type Batch = RecordOf<typeof batch>;
