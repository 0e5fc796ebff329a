import { z } from 'zod';

import { day, note, oneOf, pointer } from '../fields.ts';
import { recordKind, type RecordOf } from '../kind.ts';

/**
 * What became of a tree: felled or fallen it is gone; girdled it dies standing, over people, for years; lying it may live on
 * with its root plate under tension.
 */
export const cut = recordKind({
  kind: 'cut',
  table: 'cuts',
  label: 'log entry',
  of: 'tree',
  group: 'thinning',
  writer: 'crew',
  fields: {
    what: oneOf('felled', 'fallen', 'girdled', 'lying'),
    /** who did it; nobody where it fell by itself */
    by: z.string().trim().max(80).default(''),
    /** kept trees that were hurt */
    damaged: z.array(pointer('tree')).max(20).default([]),
    /** when one that stands dead or lies alive is to be looked at again */
    reviewOn: day().nullable().default(null),
    note
  },
  holds: 'last',
  line: (last) => {
    const gone = last !== null && (last.what === 'felled' || last.what === 'fallen');
    return {
      /** how it came to its end; null while it stands, dead or alive, or lies alive */
      cut: gone ? last : null,
      /** girdled and left to die standing, or lying alive; null otherwise */
      fallen: gone ? null : last
    };
  }
});
export type Cut = RecordOf<typeof cut>;
