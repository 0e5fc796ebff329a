import { createHash, randomBytes, randomUUID } from 'node:crypto';
import Bowser from 'bowser';
import { Op, type InferAttributes, type WhereOptions } from 'sequelize';

import type { Member } from './accounts.ts';
import { HeldBook, KnownDevice, Session, User } from './db/index.ts';

const SESSION_DAYS = 60;
/** The last use of a session is known to so much, ms: not every request writes. */
const SEEN_TO_MS = 5 * 60_000;
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
  await Session.create({ tokenHash: hashOf(token), id: randomUUID(), userId, device, expiresAt: expires, seenAt: now });
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
  if (now.getTime() - (session.seenAt?.getTime() ?? 0) > SEEN_TO_MS) await session.update({ seenAt: now });
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
  await closeSessions({ userId });
}

/** A device on which somebody is signed in. */
export interface SignedIn {
  readonly id: string;
  /** in words; '' where its browser said nothing */
  readonly device: string;
  readonly since: Date;
  readonly seenAt: Date | null;
}

/** Where somebody is signed in, the last used first. */
export async function sessionsOf(userId: string, now = new Date()): Promise<SignedIn[]> {
  const all = await Session.findAll({ where: { userId, expiresAt: { [Op.gt]: now } }, order: [['seenAt', 'DESC']] });
  return all.map(({ id, device, expiresAt, seenAt }) => ({
    id,
    device,
    since: new Date(expiresAt.getTime() - SESSION_DAYS * 86_400_000),
    seenAt
  }));
}

/** Signs one of somebody's devices out, from another; it is no known one any more. */
export async function closeSessionOf(userId: string, id: string): Promise<void> {
  await closeSessions({ userId, id });
}

/** Signs somebody out on every device but the one that she asks from. */
export async function closeOtherSessionsOf(userId: string, exceptId: string): Promise<void> {
  await closeSessions({ userId, id: { [Op.ne]: exceptId } });
}

async function closeSessions(
  where: WhereOptions<InferAttributes<Session>> & { readonly userId: string }
): Promise<void> {
  await Session.destroy({ where });
  // Which of her known devices it was nobody wrote down: all of them are strangers again.
  await KnownDevice.destroy({ where: { userId: where.userId } });
}
