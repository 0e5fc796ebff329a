import { z } from 'zod';

import { bearingDeg, bitMm, depthMm, note, season, trunkHeightMm } from '../fields.ts';
import { recordKind, type RecordOf } from '../kind.ts';

/** Old holes of which nobody wrote down the year: one scar that can be seen, or "about eight on the south side before 2010". */
export const scars = recordKind({
  kind: 'scars',
  table: 'scars',
  label: 'note of old scars',
  of: 'tree',
  group: 'holes',
  writer: 'crew',
  fields: {
    many: z.number().int().min(1).max(40),
    /** the middle of where they are; null: anywhere round the trunk */
    bearingDeg: bearingDeg.nullable(),
    /** one standard deviation about it */
    spreadDeg: z.number().min(0).max(180),
    /** the middle of their heights; null: anywhere in the band */
    heightMm: trunkHeightMm.nullable(),
    fromSeason: season,
    toSeason: season,
    bitMm,
    depthMm,
    note
  },
  rules: [
    { holds: ({ fromSeason, toSeason }) => fromSeason <= toSeason, message: 'the first season lies after the last' }
  ],
  holds: 'list'
});
export type Scars = RecordOf<typeof scars>;
