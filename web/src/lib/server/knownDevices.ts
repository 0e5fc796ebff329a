import { randomBytes } from 'node:crypto';

import { KnownDevice } from './db/index.ts';
import { hashOf } from './sessions.ts';

/** So many devices of somebody are known, the newest. */
const MOST_OF_ONE = 20;

/** Was somebody signed in on this device before? @param token that it was given then */
export async function isKnownDevice(userId: string, token: string): Promise<boolean> {
  return (await KnownDevice.count({ where: { tokenHash: hashOf(token), userId } })) > 0;
}

/** Remembers a device of somebody's. It opens nothing: it only has a throttle of its own. @returns its token */
export async function rememberDevice(userId: string, now = new Date()): Promise<string> {
  const token = randomBytes(32).toString('base64url');
  await KnownDevice.create({ tokenHash: hashOf(token), userId, at: now });
  const older = await KnownDevice.findAll({ where: { userId }, order: [['at', 'DESC']], offset: MOST_OF_ONE });
  await KnownDevice.destroy({ where: { tokenHash: older.map(({ tokenHash }) => tokenHash) } });
  return token;
}
