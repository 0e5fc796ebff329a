import { z } from 'zod';

import { oneOf, pointer, season } from '../fields.ts';
import { recordKind, type RecordOf } from '../kind.ts';
import { lineOfText } from '../text.ts';

/** Who walks which stretch of a round. The last one written for a season and a round holds. */
export const roundShare = recordKind({
  kind: 'roundShare',
  table: 'roundShares',
  label: 'handing out of a round',
  of: 'bush',
  group: 'holes',
  writer: 'steward',
  fields: {
    round: oneOf('tap'),
    season,
    /** in walking order: each stretch goes from its tree to the next one's; none where all walk all */
    stretches: z.array(z.object({ fromTreeId: pointer('tree', true), helper: lineOfText(40) })).max(200)
  },
  holds: 'season'
});
export type RoundShare = RecordOf<typeof roundShare>;
