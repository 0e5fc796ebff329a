import { Op } from 'sequelize';

import { Bush, HeldBook, Session } from './db/index.ts';

/** A bush on a device: how far it follows what was written, as it said when it asked last. */
export interface HeldNote {
  readonly memberId: string;
  readonly device: string;
  /** changes of the bush that it has not been told of */
  readonly behind: number;
  /** records that waited there to be sent */
  readonly waiting: number;
  readonly seenAt: string;
  /** is the device still signed in? Where it is not, it clears itself when it is next opened within reach of the server */
  readonly signedIn: boolean;
}

/** What a device says of the bush that it holds. */
export interface SaidOfBook {
  readonly bushId: string;
  readonly userId: string;
  readonly session: { readonly id: string; readonly device: string };
  /** of the feed, up to which it follows */
  readonly number: number;
  readonly waiting: number;
}

/** Where nothing else is new, what a device says is written down so often. */
const NOTED_EVERY_MS = 60_000;

/** Writes down what a device holds. */
export async function noteBook(
  { bushId, userId, session, number, waiting }: SaidOfBook,
  now = new Date()
): Promise<void> {
  const known = await HeldBook.findOne({ where: { bushId, sessionId: session.id } });
  const isNew = known?.number !== number || known.waiting !== waiting;
  if (!isNew && now.getTime() - known.seenAt.getTime() < NOTED_EVERY_MS) return;
  await HeldBook.upsert({
    bushId,
    sessionId: session.id,
    userId,
    device: session.device,
    number,
    waiting,
    seenAt: now
  });
}

/** A device was told that it has no way into the bush any more, and has dropped what it held. */
export async function dropBook(bushId: string, sessionId: string): Promise<void> {
  await HeldBook.destroy({ where: { bushId, sessionId } });
}

/** What devices hold of a bush, the latest seen first. */
export async function heldOf(bushId: string, now = new Date()): Promise<HeldNote[]> {
  const rows = await HeldBook.findAll({ where: { bushId }, order: [['seenAt', 'DESC']] });
  const { changes } = await Bush.findByPk(bushId, { rejectOnEmpty: true });
  const sessions = await Session.findAll({
    where: { id: rows.map(({ sessionId }) => sessionId), expiresAt: { [Op.gt]: now } }
  });
  return rows.map(({ userId, sessionId, device, number, waiting, seenAt }) => ({
    memberId: userId,
    device,
    behind: Math.max(0, changes - number),
    waiting,
    seenAt: seenAt.toISOString(),
    signedIn: sessions.some(({ id }) => id === sessionId)
  }));
}
