import { z } from 'zod';

import { lastingPointer, note, pointer } from '../fields.ts';
import { recordKind, type RecordOf } from '../kind.ts';

/**
 * What somebody finds who looks along a line, or at one of its taps: nothing, air that is heard or seen to get in, the bite of a squirrel, a limb
 * on it, a sag, a fitting that was pulled off, a spout that was never set or sits loose, a tap that stays dry though it is set, something about
 * a fence or a crossing.
 */
export const LINE_FINDS = ['nothing', 'leak', 'bite', 'limb', 'sag', 'pulled', 'notSet', 'dry', 'fence'] as const;
export type LineFind = (typeof LINE_FINDS)[number];

/** Somebody looked along a line, or at one of its taps. */
export const lineLook = recordKind({
  kind: 'lineLook',
  table: 'lineLooks',
  label: 'look at a line',
  of: 'bush',
  group: 'season',
  writer: 'crew',
  fields: {
    lineId: lastingPointer('pipeLine'),
    /** the tree that was looked at; null where it was the line */
    ofTreeId: pointer('tree', true).nullable().default(null),
    /** metres along the line at which it was found; null where it was its whole length, or nobody said */
    alongM: z.number().min(0).max(20_000).nullable().default(null),
    found: z.enum(LINE_FINDS),
    /** was it mended at once? */
    mended: z.boolean().default(false),
    note
  },
  holds: 'list'
});
export type LineLookRecord = RecordOf<typeof lineLook>;
