import { z } from 'zod';

import type { SpeciesId, Verdict } from '../../identify/index.ts';
import { speciesWord } from '../cells.ts';
import { DETERMINED_ON, SPECIES_COLUMN } from '../columns.ts';
import {
  ageClassSchema,
  characterIdSchema,
  lookSeasonSchema,
  note,
  oneOf,
  speciesIdSchema,
  statesOf,
  verdictSchema
} from '../fields.ts';
import { recordKind, type RecordOf } from '../kind.ts';

const evidenceSchema = z
  .partialRecord(characterIdSchema, z.string().max(40))
  .refine(
    (evidence) => Object.entries(evidence).every(([id, state]) => statesOf(id).includes(state)),
    'a clue names a state that its character does not have'
  );

export interface DeterminationLine {
  readonly species: SpeciesId | null;
  readonly verdict: Verdict | null;
  /** the day of the last determination */
  readonly determinedOn: string | null;
}

/** What a tree was judged to be. */
export const determination = recordKind({
  kind: 'determination',
  table: 'determinations',
  label: 'determination',
  of: 'tree',
  group: 'species',
  writer: 'crew',
  fields: {
    verdict: verdictSchema,
    /** the leading species; null when none is named */
    species: speciesIdSchema.nullable(),
    probability: z.number().min(0).max(1),
    age: ageClassSchema,
    /** judged by clues, or declared by somebody who knows: seen in leaf, planted, taken from an older list */
    basis: oneOf('clues', 'declared').default('clues'),
    /** what the year let one see; null where it was not said */
    lookSeason: lookSeasonSchema.nullable().default(null),
    evidence: evidenceSchema,
    note
  },
  holds: 'last',
  line: (last): DeterminationLine => ({
    species: last?.species ?? null,
    verdict: last?.verdict ?? null,
    determinedOn: last?.on ?? null
  }),
  csv: {
    title: 'Species, as they hold',
    columns: [
      SPECIES_COLUMN,
      DETERMINED_ON,
      { name: 'basis', type: 'string', explains: 'clues, or declared by somebody who knows', example: 'declared' },
      { name: 'note', type: 'string', explains: 'anything worth a line', example: 'seen in leaf' }
    ],
    cells: (record) => [speciesWord(record), record.on, record.basis, record.note]
  }
});
export type Determination = RecordOf<typeof determination>;
