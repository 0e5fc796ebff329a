import { z } from 'zod';

import { note, pointer, season, treeTag } from '../fields.ts';
import { recordKind, type RecordOf } from '../kind.ts';

/** What records may say of one tree that does not go together. */
export const CLASHES = ['sameSpot', 'tooMany', 'resting', 'gone'] as const;
export type ClashKind = (typeof CLASHES)[number];

/** A refused record has few fields: what is longer than this, as JSON, is none. */
const MOST_PROPOSED = 8000;

/** Something about a tree that a person has to answer: two did not know of each other, or crew proposes what a steward decides. */
export const question = recordKind({
  kind: 'question',
  table: 'questions',
  label: 'question',
  of: 'bush',
  group: 'holes',
  writer: 'crew',
  fields: {
    about: z.enum([...CLASHES, 'proposal']),
    ofTreeId: pointer('tree', true),
    /** the tree's tag when it was asked: it may have been taken out of the book */
    tag: treeTag,
    /** the season of the holes; null where it is about none */
    season: season.nullable(),
    /** the holes that it is about, in the order in which they were written down: whoever wrote the last is asked, and any steward */
    tapholeIds: z.array(pointer('taphole', true)).max(20),
    /** what is proposed to the stewards: a record that the one who wrote it may not write; null where nothing is */
    proposal: z
      .record(z.string(), z.unknown())
      .refine((record) => JSON.stringify(record).length <= MOST_PROPOSED, 'is too long for a record')
      .nullable()
      .default(null),
    note
  },
  rules: [
    {
      holds: ({ about, proposal }) => (about === 'proposal') === (proposal !== null),
      path: ['proposal'],
      message: 'goes with a question that proposes something'
    }
  ],
  holds: 'list'
});
export type Question = RecordOf<typeof question>;
