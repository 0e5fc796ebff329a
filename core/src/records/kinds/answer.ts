import { note, oneOf, pointer } from '../fields.ts';
import { recordKind, type RecordOf } from '../kind.ts';

/**
 * What somebody answered to a question, which closes it: `once` one hole was written down twice; `never` the last one was never
 * drilled; `stays` all is as written and stays; `pulled` the spout is out and the hole is left to close; `taken`, `left` what became
 * of a proposal; `settled` other records answered it.
 */
export const answer = recordKind({
  kind: 'answer',
  table: 'answers',
  label: 'answer',
  of: 'bush',
  group: 'holes',
  writer: 'crew',
  fields: {
    questionId: pointer('question'),
    says: oneOf('once', 'never', 'stays', 'pulled', 'taken', 'left', 'settled'),
    note
  },
  holds: { each: 'questionId' }
});
export type Answer = RecordOf<typeof answer>;
