import { z } from 'zod';

import { oneOf, reason, season } from '../fields.ts';
import { recordKind, type RecordOf } from '../kind.ts';

const taps = z.number().int().min(0).max(8);

/** How many taps a tree is to bear in a season. */
export const decision = recordKind({
  kind: 'decision',
  table: 'decisions',
  label: 'count',
  of: 'tree',
  group: 'count',
  writer: 'steward',
  fields: {
    season,
    taps,
    suggested: taps,
    binding: oneOf('forbidden', 'species', 'size', 'condition', 'growth', 'room'),
    /** why the steward decided otherwise; empty when she follows */
    reason
  },
  holds: 'season',
  line: (decided) => ({ decidedTaps: decided?.taps ?? null })
});
export type Decision = RecordOf<typeof decision>;
