import { oneOf, reason } from '../fields.ts';
import { recordKind, type RecordOf } from '../kind.ts';

/** The steward's word on a tree as a crop tree: chosen, or never to be. */
export const cropChoice = recordKind({
  kind: 'cropChoice',
  table: 'cropChoices',
  label: 'choice of a crop tree',
  of: 'tree',
  group: 'thinning',
  writer: 'steward',
  fields: { choice: oneOf('crop', 'veto', 'none'), reason },
  holds: 'last',
  line: (last) => ({ crop: last && last.choice !== 'none' ? last.choice : null })
});
export type CropChoice = RecordOf<typeof cropChoice>;
