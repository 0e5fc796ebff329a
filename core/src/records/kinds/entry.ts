import { z } from 'zod';

import { note, pointer, treeTag } from '../fields.ts';
import { recordKind, type RecordOf } from '../kind.ts';

/** A tree comes into the registry, or its line there changes. Taking the last of them back takes the tree out of it. */
export const entry = recordKind({
  kind: 'entry',
  table: 'entries',
  label: 'entry in the book',
  of: 'tree',
  group: 'registry',
  writer: 'crew',
  fields: {
    tag: treeTag,
    /** hangs a tag on the trunk? Neighbours that were noted in passing have a name in the registry alone */
    tagged: z.boolean().default(true),
    standId: pointer('stand', true).nullable(),
    /** the tree whose base this stem grows from; null for a tree of its own */
    stemOf: pointer('tree', true).nullable().default(null),
    /** the tree after which a new one is walked; null for the end of the walk */
    afterId: pointer('tree', true).nullable().default(null),
    note
  },
  holds: 'last'
});
export type Entry = RecordOf<typeof entry>;
