import { env } from 'node:process';
import { z } from 'zod';

/** Devices answer on the machine itself: the page may speak to no other. */
export const devicesSchema = z.array(
  z.object({
    kind: z.enum(['caliper', 'receiver']),
    name: z.string().min(1).max(80),
    url: z.string().regex(/^ws:\/\/127\.0\.0\.1:\d+$/)
  })
);

/** The devices that whoever started the server named; none where nobody did. */
export function devices(): z.infer<typeof devicesSchema> {
  const parsed = devicesSchema.safeParse(JSON.parse(env.BAUMKIN_DEVICES || '[]'));
  return parsed.success ? parsed.data : [];
}
