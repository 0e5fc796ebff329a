import { z } from 'zod';

import { note, season } from '../fields.ts';
import { recordKind, type RecordOf } from '../kind.ts';

/** The spouts of a season are out of a tree: its holes begin to close. */
export const pulling = recordKind({
  kind: 'pulling',
  table: 'pullings',
  label: 'pulling of the spouts',
  of: 'tree',
  group: 'holes',
  writer: 'crew',
  fields: {
    season,
    /** how many of the season came out so far */
    spouts: z.number().int().min(0).max(20),
    note
  },
  holds: 'last',
  line: (last) => ({ pulledSeason: last?.season ?? null, pulledSpouts: last?.spouts ?? 0 }),
  csv: {
    title: 'Pulled spouts',
    columns: [
      { name: 'pulled_on', type: 'date', explains: 'the day', example: '2026-04-12' },
      { name: 'spouts_of', type: 'year', explains: 'the season whose spouts came out', example: '2026' },
      { name: 'spouts', type: 'integer', explains: 'how many came out', example: '2' },
      { name: 'note', type: 'string', explains: 'what was seen', example: 'one was broken' }
    ],
    cells: ({ on, season: of, spouts, note: said }) => [on, String(of), String(spouts), said]
  }
});
export type Pulling = RecordOf<typeof pulling>;
