import { createHash, randomBytes, randomUUID } from 'node:crypto';
import Bowser from 'bowser';
import { Op } from 'sequelize';

import type { Member } from './accounts.ts';
import { HeldBook, KnownDevice, Session, User } from './db/index.ts';

const SESSION_DAYS = 60;
const MOST_OF_A_DEVICE = 60;

/** What is kept of a secret: it opens nothing by itself. */
export const hashOf = (secret: string): string => createHash('sha256').update(secret).digest('hex');

/**
 * What a browser says of the device that it runs on, in words for people: "Firefox on Android". It is what the browser claims, for
 * telling one's own devices apart, and decides nothing.
 * @returns '' where it says nothing that is understood
 */
export function deviceOf(request: Request): string {
  const says = request.headers.get('user-agent');
  if (!says) return '';
  const { browser, os, platform } = Bowser.parse(says);
  const what = platform.vendor && platform.type !== 'desktop' ? `${platform.vendor} ${platform.type}` : os.name;
  return [browser.name, what].filter(Boolean).join(' on ').slice(0, MOST_OF_A_DEVICE);
}

/**
 * Opens a session; the token goes into the cookie, only its hash into the table.
 * @param device in words, as `deviceOf` tells it
 */
export async function openSession(
  userId: string,
  device = '',
  now = new Date()
): Promise<{ token: string; expires: Date }> {
  const token = randomBytes(32).toString('base64url');
  const expires = new Date(now.getTime() + SESSION_DAYS * 86_400_000);
  await Session.create({ tokenHash: hashOf(token), id: randomUUID(), userId, device, expiresAt: expires });
  await Session.destroy({ where: { expiresAt: { [Op.lt]: now } } });
  return { token, expires };
}

/** Who holds this token, and by which session; null where it opens nothing. */
export async function sessionOf(
  token: string,
  now = new Date()
): Promise<{ readonly member: Member; readonly session: { readonly id: string; readonly device: string } } | null> {
  const session = await Session.findOne({ where: { tokenHash: hashOf(token), expiresAt: { [Op.gt]: now } } });
  const user = session && (await User.findByPk(session.userId));
  if (!user || (user.guestUntil && user.guestUntil <= now)) return null;
  const { id, signInName, displayName } = user;
  return { member: { id, signInName, displayName }, session: { id: session.id, device: session.device } };
}

/** Ends a session by the hand of whoever holds it: its cookie opens nothing from now on, and its device clears itself. */
export async function closeSession(token: string): Promise<void> {
  const session = await Session.findOne({ where: { tokenHash: hashOf(token) } });
  if (!session) return;
  await HeldBook.destroy({ where: { sessionId: session.id } });
  await session.destroy();
}

/**
 * Signs somebody out wherever she is signed in. Programs with a key of hers are left; what her devices hold is known until they
 * come again.
 */
export async function closeSessionsOf(userId: string): Promise<void> {
  await Session.destroy({ where: { userId } });
  // A lost phone is no device of hers any more.
  await KnownDevice.destroy({ where: { userId } });
}
