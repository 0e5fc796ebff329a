import { z } from 'zod';

import { note } from '../fields.ts';
import { recordKind, type RecordOf } from '../kind.ts';

const crownReach = z.number().min(0).max(20);

/** How tall a tree stands and how far its crown reaches, where that was measured. */
export const heightAndCrown = recordKind({
  kind: 'heightAndCrown',
  table: 'heightsAndCrowns',
  label: 'height and crown',
  of: 'tree',
  group: 'size',
  writer: 'crew',
  fields: {
    heightM: z.number().min(0.5).max(80).nullable(),
    /** reach of the crown to the north, east, south and west, metres */
    crownRadiiM: z.tuple([crownReach, crownReach, crownReach, crownReach]).nullable(),
    note
  },
  rules: [
    {
      holds: (record) => record.withdrawn || record.heightM !== null || record.crownRadiiM !== null,
      message: 'neither a height nor a crown'
    }
  ],
  holds: { said: ['heightM', 'crownRadiiM'] },
  line: (said) => ({ heightM: said?.heightM ?? null, crownRadiiM: said?.crownRadiiM ?? null })
});
export type HeightAndCrown = RecordOf<typeof heightAndCrown>;
