import { z } from 'zod';

import { day, note } from '../fields.ts';
import { recordKind, type RecordOf } from '../kind.ts';

/** Why a tree is never tapped, whatever it bears. */
export const TAP_BANS = ['insecticide', 'salt', 'septic', 'sprayed', 'boundary', 'noPermission'] as const;
export type TapBanReason = (typeof TAP_BANS)[number];

/** A tree that is not to be tapped: its sap would not be food, or it is not ours. */
export const tapBan = recordKind({
  kind: 'tapBan',
  table: 'tapBans',
  label: 'word on tapping',
  of: 'tree',
  group: 'condition',
  writer: 'crew',
  fields: {
    reasons: z.array(z.enum(TAP_BANS)).min(1).max(TAP_BANS.length),
    /** last day on which it holds; null for good */
    until: day().nullable().default(null),
    note
  },
  holds: 'last',
  line: (tapBan) => ({ tapBan })
});
export type TapBan = RecordOf<typeof tapBan>;

/** Does what was said until a day still hold? @param until null for good */
export const holdsOn = (until: string | null, today: string) => until === null || today <= until;
