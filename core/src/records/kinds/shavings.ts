import { z } from 'zod';

import { oneOf, pointer } from '../fields.ts';
import { recordKind, type RecordOf } from '../kind.ts';

/** How shavings look, the best first; last a hole that stayed dry. */
export const SHAVINGS = ['pale', 'partly', 'brown', 'dry'] as const;
export type ShavingsSeen = (typeof SHAVINGS)[number];

/** What of a tree's line follows from it: the worst of the season's holes; null where nobody said. */
export interface ShavingsLine {
  readonly shavingsSeen: ShavingsSeen | null;
}

/** What came out of a hole while it was drilled. */
export const shavings = recordKind({
  kind: 'shavings',
  table: 'shavings',
  label: 'word on the shavings',
  of: 'tree',
  group: 'holes',
  writer: 'crew',
  fields: {
    tapholeId: pointer('taphole'),
    seen: oneOf(...SHAVINGS),
    /** share of brown shavings where partly brown */
    brownShare: z.number().min(0).max(1).nullable().default(null),
    /** depth in wood at which they turned brown, mm; null where nobody looked */
    brownFromMm: z.number().min(0).max(150).nullable().default(null),
    /** how the other holes ran when this one stayed dry; null where nobody said, or where it was not dry */
    othersRan: oneOf('well', 'little', 'none').nullable().default(null)
  },
  holds: { each: 'tapholeId' },
  line: (seen, { season }): ShavingsLine => {
    const now = [...seen.values()].filter(({ on }) => on.startsWith(String(season)));
    return { shavingsSeen: SHAVINGS.filter((each) => now.some((said) => said.seen === each)).at(-1) ?? null };
  }
});
export type Shavings = RecordOf<typeof shavings>;
