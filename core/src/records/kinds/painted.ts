import { note, pointer } from '../fields.ts';
import { recordKind, type RecordOf } from '../kind.ts';

/** The mark of a tree stands on its trunk, in paint or as a band. */
export const painted = recordKind({
  kind: 'painted',
  table: 'paintedMarks',
  label: 'painting of a mark',
  of: 'tree',
  group: 'thinning',
  writer: 'crew',
  fields: {
    /** the mark that was painted: another one after it is not on the trunk yet */
    markId: pointer('mark'),
    note
  },
  holds: 'last',
  countsInLine: true
});
export type Painted = RecordOf<typeof painted>;
