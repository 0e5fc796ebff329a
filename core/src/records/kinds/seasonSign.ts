import { z } from 'zod';

import { SEASON_SIGNS } from '../../season/index.ts';
import { note, speciesIdSchema } from '../fields.ts';
import { recordKind, type RecordOf } from '../kind.ts';

/** What was seen of the season's beginning or end. */
export const seasonSign = recordKind({
  kind: 'seasonSign',
  table: 'seasonSigns',
  label: 'sign of the season',
  of: 'stand',
  group: 'season',
  writer: 'crew',
  fields: {
    sign: z.enum(SEASON_SIGNS),
    /** the species whose trees showed it; null where it was all of them, or the sap of all together */
    species: speciesIdSchema.nullable().default(null),
    note
  },
  holds: 'list'
});
export type SeasonSign = RecordOf<typeof seasonSign>;
