import { oneOf } from '../fields.ts';
import { recordKind, type RecordOf } from '../kind.ts';

/**
 * What somebody knows of a trunk's holes that nobody wrote down: that there are none, that there are some (scars that can be
 * seen are noted by themselves), or neither.
 */
export const tappedBefore = recordKind({
  kind: 'tappedBefore',
  table: 'tappedBefores',
  label: 'word on earlier tapping',
  of: 'tree',
  group: 'holes',
  writer: 'crew',
  fields: { answer: oneOf('never', 'yes', 'perhaps') },
  holds: 'last',
  line: (last) => ({ tappedBefore: last?.answer ?? null })
});
export type TappedBefore = RecordOf<typeof tappedBefore>;
