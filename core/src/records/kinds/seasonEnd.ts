import { note, oneOf, season } from '../fields.ts';
import { recordKind, type RecordOf } from '../kind.ts';

/** The season of a group of trees is called over: its spouts may be pulled. */
export const seasonEnd = recordKind({
  kind: 'seasonEnd',
  table: 'seasonEnds',
  label: 'end of the season',
  of: 'bush',
  group: 'season',
  writer: 'steward',
  fields: {
    season,
    group: oneOf('all', 'early', 'late').default('all'),
    note
  },
  holds: 'list'
});
export type SeasonEnd = RecordOf<typeof seasonEnd>;
