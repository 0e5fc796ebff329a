import { z } from 'zod';

import { note, oneOf } from '../fields.ts';
import { recordKind, type RecordOf } from '../kind.ts';

/** Kinds of a season's work. */
export const SEASON_WORK = ['drilling', 'collecting', 'boiling', 'pulling', 'other'] as const;

/** Hours that people worked on a day of the season. */
export const workHours = recordKind({
  kind: 'workHours',
  table: 'workHours',
  label: 'hours of work',
  of: 'bush',
  group: 'season',
  writer: 'crew',
  fields: {
    work: oneOf(...SEASON_WORK),
    people: z.number().int().min(1).max(500),
    /** of each of them */
    hours: z.number().min(0.1).max(24),
    note
  },
  holds: 'list'
});
export type WorkHours = RecordOf<typeof workHours>;
