import { z } from 'zod';

import { day, note, oneOf, season } from '../fields.ts';
import { recordKind, type RecordOf } from '../kind.ts';

const litresATap = z.number().min(0).max(1000);

/** The day on which a season's round shall begin, and what was expected of it then: it is held against what came. */
export const drillingChoice = recordKind({
  kind: 'drillingChoice',
  table: 'drillingChoices',
  label: 'day to begin drilling',
  of: 'bush',
  group: 'season',
  writer: 'steward',
  fields: {
    season,
    /** of which trees: those that swell early, the others, or all */
    group: oneOf('all', 'early', 'late').default('all'),
    beginOn: day(),
    /** days that the round takes */
    days: z.number().min(1).max(90),
    /** litres a tap that were expected of that day, and of the best one */
    expectedLitres: litresATap,
    bestOn: day(),
    bestLitres: litresATap,
    note
  },
  holds: 'list'
});
export type DrillingChoice = RecordOf<typeof drillingChoice>;
