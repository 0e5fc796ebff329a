import { z } from 'zod';

import { note, pointer } from '../fields.ts';
import { recordKind, type RecordOf } from '../kind.ts';
import { lineOfText } from '../text.ts';

/** A thinning that was thought out and kept, to be compared. */
export const thinningPlan = recordKind({
  kind: 'thinningPlan',
  table: 'thinningPlans',
  label: 'kept plan',
  of: 'stand',
  group: 'thinning',
  writer: 'steward',
  fields: { name: lineOfText(60), taken: z.array(pointer('tree')).max(5000), note },
  holds: 'list'
});
export type ThinningPlanRecord = RecordOf<typeof thinningPlan>;
