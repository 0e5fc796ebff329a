import { z } from 'zod';

import { GUARDS } from '../../thinning/index.ts';
import { note, oneOf, speciesIdSchema } from '../fields.ts';
import { recordKind, type RecordOf } from '../kind.ts';
import { lineOfText } from '../text.ts';

/** A group of planted trees; the day of the record is the one on which they were counted and measured last. */
export const planting = recordKind({
  kind: 'planting',
  table: 'plantings',
  label: 'planting',
  of: 'stand',
  group: 'thinning',
  writer: 'crew',
  fields: {
    name: lineOfText(60),
    species: speciesIdSchema,
    year: z.number().int().min(1900).max(2200),
    many: z.number().int().min(1).max(100_000),
    /** that live; null where nobody has counted again */
    alive: z.number().int().min(0).max(100_000).nullable().default(null),
    /** their middle height; null where nobody measured */
    heightM: z.number().min(0.05).max(30).nullable().default(null),
    guard: oneOf(...GUARDS),
    note
  },
  rules: [
    {
      holds: ({ alive, many }) => alive === null || alive <= many,
      path: ['alive'],
      message: 'no more can live than were planted'
    },
    {
      holds: ({ year, on }) => year <= Number(on.slice(0, 4)) + 1,
      path: ['year'],
      message: 'they were planted after they were counted'
    }
  ],
  holds: 'list'
});
export type PlantingRecord = RecordOf<typeof planting>;
