import {
  bushSettingsChangeSchema,
  fromOlderSettings,
  baseMapFitSchema,
  roleSchema,
  siteFeatureSchema,
  standSchema
} from '@baumkin/core/records';
import { LENGTH_UNITS } from '@baumkin/core/units';
import { importToldSchema } from '@baumkin/core/exchange';
import { z } from 'zod';

import { invitationSchema } from './invitations.ts';

/**
 * What may be sent to the interface. The routes check by these schemas, and the description of the interface is made
 * from them.
 */
const version = z.number().int().describe('of the bush, as it was seen before the change');

export const requests = {
  records: z.object({ records: z.array(z.unknown()).min(1).max(500) }),
  settings: z.object({ version, settings: bushSettingsChangeSchema }),
  bush: z.object({
    version,
    name: z.string().trim().min(1).max(80).optional(),
    origin: z.object({ lat: z.number().min(-89).max(89), lon: z.number().min(-180).max(180) }).optional()
  }),
  walk: z.object({ order: z.array(z.uuid()).min(1).max(50_000) }),
  stand: z.object({ version, stand: standSchema }),
  feature: z.object({ version, feature: siteFeatureSchema }),
  deletion: z.object({ version }),
  baseMap: z.object({ fit: baseMapFitSchema, pictureBase64: z.string().max(17_000_000) }),
  role: z.object({ role: roleSchema }),
  founding: z.object({ member: z.uuid() }),
  invitation: invitationSchema,
  ownFigures: z.object({ showsHoles: z.boolean() }),
  import: z.object({
    text: z.string(),
    name: z.string().max(200).default('').describe('of the file, for whoever looks what was brought in'),
    defaultUnit: z.enum(LENGTH_UNITS).default('cm'),
    newTrees: z.boolean().nullable().default(null),
    sizesAre: z
      .object({ quantity: z.enum(['girth', 'diameter']).optional(), unit: z.enum(['cm', 'in']).optional() })
      .default({}),
    told: importToldSchema.default({})
  })
} as const;

/** What devices and programs of an earlier release send, under today's names. Records are read so one by one. */
export const fromOlder: Partial<Record<keyof typeof requests, (body: unknown) => unknown>> = {
  settings: (body) =>
    body !== null && typeof body === 'object' && 'settings' in body
      ? { ...body, settings: fromOlderSettings(body.settings) }
      : body
};

/** The largest body that each takes. */
export const MAX_BYTES: Readonly<Record<keyof typeof requests, number>> = {
  records: 2_000_000,
  settings: 200_000,
  bush: 10_000,
  walk: 4_000_000,
  stand: 500_000,
  feature: 500_000,
  deletion: 1000,
  baseMap: 17_000_000,
  role: 1000,
  founding: 1000,
  invitation: 10_000,
  ownFigures: 1000,
  import: 8_000_000
};
