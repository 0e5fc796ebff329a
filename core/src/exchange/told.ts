import { z } from 'zod';

import { SPECIES } from '../identify/index.ts';
import { COLUMN_CAUSES } from '../measure/index.ts';
import { day, oneOf, treeTag } from '../records/index.ts';
import { LENGTH_UNITS } from '../units/index.ts';
import { DATE_ORDERS } from './dateIn.ts';
import { ROLES } from './roles.ts';

const name = z.string().max(200);

/** What the steward answered to the questions of a file; what is left out is asked where it arises. */
export const importToldSchema = z
  .object({
    /** what columns tell, by their headings as the file writes them */
    columns: z.record(name, z.object({ role: z.enum(ROLES).nullable(), unit: z.enum(LENGTH_UNITS).nullable() })),
    /** the order in which its dates are written */
    dates: z.enum(DATE_ORDERS),
    /** what words of the species column say, by the word in lower case */
    species: z.record(name, z.enum([...SPECIES.map(({ id }) => id), 'mapleOpen', 'open'])),
    /** the day of sizes and notes without one of their own */
    undatedOn: day(),
    /** two sizes of one tag and day: the first is taken, or they are two trees */
    twoSizes: oneOf('first', 'twoTrees'),
    /** the tag that a mistyped one means, by the mistyped one as tags are compared */
    tags: z.record(name, treeTag),
    /** whose word on a species holds where the book has settled another */
    speciesBy: oneOf('book', 'file'),
    /** what the sizes that stand out of their column are */
    otherLot: z.enum([...COLUMN_CAUSES, 'asTheyStand'])
  })
  .partial();
export type ImportTold = z.infer<typeof importToldSchema>;

/** What was told of a word that somebody wrote: words are whatever a file holds, "constructor" too. */
export const toldOf = <T>(told: Readonly<Record<string, T>> | undefined, word: string): T | undefined =>
  told && Object.hasOwn(told, word) ? told[word] : undefined;
