import { z } from 'zod';

import { SEEDLING_CLASSES, SEEDLING_GROUPS, type SeedlingClass, type SeedlingGroup } from '../../thinning/index.ts';
import { note } from '../fields.ts';
import { recordKind, type RecordOf } from '../kind.ts';
import { lineOfText } from '../text.ts';

const seedlingCounts = z.object(
  Object.fromEntries(SEEDLING_CLASSES.map((each) => [each, z.number().int().min(0).max(10_000)])) as Record<
    SeedlingClass,
    z.ZodNumber
  >
);

/** A small plot on which seedlings were counted. */
export const seedlings = recordKind({
  kind: 'seedlings',
  table: 'seedlings',
  label: 'count of seedlings',
  of: 'stand',
  group: 'thinning',
  writer: 'crew',
  fields: {
    name: lineOfText(40),
    radiusM: z.number().min(0.5).max(10),
    counts: z.object(
      Object.fromEntries(SEEDLING_GROUPS.map((group) => [group, seedlingCounts])) as Record<
        SeedlingGroup,
        typeof seedlingCounts
      >
    ),
    /** share of the maples whose tips are bitten off; null where nobody looked */
    browsed: z.number().min(0).max(1).nullable().default(null),
    fenced: z.boolean().default(false),
    note
  },
  holds: 'list'
});
export type SeedlingsRecord = RecordOf<typeof seedlings>;
