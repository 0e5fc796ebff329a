import { note, season } from '../fields.ts';
import { recordKind, type RecordOf } from '../kind.ts';

/** The vessels of a season were hung at a tree: its spouts had had time to sit. */
export const hanging = recordKind({
  kind: 'hanging',
  table: 'hangings',
  label: 'hanging of the vessels',
  of: 'tree',
  group: 'season',
  writer: 'crew',
  fields: { season, note },
  holds: 'last',
  line: (last) => ({ hungSeason: last?.season ?? null })
});
export type Hanging = RecordOf<typeof hanging>;
