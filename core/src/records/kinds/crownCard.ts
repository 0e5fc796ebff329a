import { z } from 'zod';

import { SIDES } from '../../stand/index.ts';
import { note, oneOf, pointer, roughDbhMm, speciesIdSchema } from '../fields.ts';
import { recordKind, type RecordOf } from '../kind.ts';

const sideSeen = oneOf('free', 'blocked').nullable();

/** What somebody saw from under a crop tree: each side of its crown, and what blocks it. */
export const crownCard = recordKind({
  kind: 'crownCard',
  table: 'crownCards',
  label: 'crown card',
  of: 'tree',
  group: 'thinning',
  writer: 'crew',
  fields: {
    north: sideSeen,
    east: sideSeen,
    south: sideSeen,
    west: sideSeen,
    blockers: z
      .array(
        z.object({
          side: z.enum(SIDES),
          treeId: pointer('tree').nullable(),
          species: speciesIdSchema.nullable(),
          dbhMm: roughDbhMm.nullable(),
          fate: oneOf('stands', 'take', 'gone')
        })
      )
      .max(24),
    note
  },
  holds: 'last',
  line: (last) => ({ crownCard: last })
});
export type CrownCardRecord = RecordOf<typeof crownCard>;
