import { z } from 'zod';

import { day, lastingPointer, note, oneOf } from '../fields.ts';
import { recordKind, type RecordOf } from '../kind.ts';

/** How sap looks. */
export const SAP_LOOKS = ['clear', 'cloudy', 'yellow', 'ropy'] as const;
export type SapLook = (typeof SAP_LOOKS)[number];

/** A place was emptied. */
export const collection = recordKind({
  kind: 'collection',
  table: 'collections',
  label: 'collection of sap',
  of: 'bush',
  group: 'season',
  writer: 'crew',
  fields: {
    /** null: the whole bush together */
    placeId: lastingPointer('collectingPlace').nullable(),
    /** of the day on which it was emptied, local time */
    hour: z.number().min(0).lt(24),
    litres: z.number().min(0).max(100_000),
    /** taps that ran into it, and the day on which half of them were drilled; null where nobody knew */
    taps: z.number().int().min(0).max(50_000),
    drilledOn: day().nullable().default(null),
    /** sugar as it was read, per cent; null where nobody did */
    brix: z.number().min(0).max(20).nullable().default(null),
    /** of the sap when it was read with a hydrometer, °C; null for a refractometer that corrects itself */
    sapC: z.number().min(-5).max(60).nullable().default(null),
    look: z.enum(SAP_LOOKS).default('clear'),
    /** rain got in */
    rain: z.boolean().default(false),
    /** the vessel had run over */
    ranOver: z.boolean().default(false),
    /** where the sap went */
    went: oneOf('kept', 'pouredAway').default('kept'),
    note
  },
  holds: 'list'
});
export type CollectionRecord = RecordOf<typeof collection>;
