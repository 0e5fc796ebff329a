import { z } from 'zod';

import { metres, positionQualitySchema } from '../fields.ts';
import { recordKind, type RecordOf } from '../kind.ts';

/** Where a tree stands, and how well that is known. */
export const place = recordKind({
  kind: 'place',
  table: 'places',
  label: 'place',
  of: 'tree',
  group: 'registry',
  writer: 'crew',
  fields: {
    eastM: metres,
    northM: metres,
    quality: positionQualitySchema,
    /** one standard deviation as the instrument gave it, metres; null: as the quality says */
    accuracyM: z.number().positive().max(500).nullable().default(null),
    /** how it was found: "12.4 m at 215 degrees from 41" */
    asTaken: z.string().max(120).default('')
  },
  holds: 'last'
});
export type TreePlace = RecordOf<typeof place>;
