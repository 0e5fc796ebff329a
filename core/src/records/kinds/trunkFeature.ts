import { z } from 'zod';

import { TRUNK_FEATURES } from '../../trunk/index.ts';
import { bearingDeg, note, season, trunkHeightMm } from '../fields.ts';
import { recordKind, type RecordOf } from '../kind.ts';

/** What stands on a trunk besides its holes: what a hand sees, keeps away from, or measures from. */
export const trunkFeature = recordKind({
  kind: 'trunkFeature',
  table: 'trunkFeatures',
  label: 'note on the trunk',
  of: 'tree',
  group: 'holes',
  writer: 'crew',
  fields: {
    what: z.enum(TRUNK_FEATURES),
    bearingDeg,
    heightMm: trunkHeightMm,
    /** of a wound, a seam or a broken limb: the year in which the wood was laid open; null where nobody knows */
    since: season.nullable().default(null),
    note
  },
  holds: 'list'
});
export type TrunkFeature = RecordOf<typeof trunkFeature>;
