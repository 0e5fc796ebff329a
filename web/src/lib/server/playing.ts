import { randomUUID } from 'node:crypto';
import { env } from 'node:process';
import { Op, type Transaction } from 'sequelize';

import { archiveText, restoreArchive } from './archive.ts';
import { spooled } from './archiveStream.ts';
import { accessOf, bushFor, makeBush, type BushAccess } from './bushes.ts';
import { Bush, FORMER, Membership, TreeRecord, User } from './db/index.ts';
import { inTransaction } from './db/transaction.ts';
import { Refused } from './refusals.ts';
import { countTry, type TryRule } from './throttle.ts';

/*
 * A bush to play in: a copy of the one that whoever runs the server names (`BAUMKIN_EXAMPLE`, the id of a bush), for members, and where
 * `BAUMKIN_GUESTS` says so for whoever comes by, without an account. Copies and guests end by themselves.
 */

const HOUR_MS = 3_600_000;
/** How long a copy stands; a guest's goes with its guest. */
const DAYS_TO_PLAY = 7;
const GUEST_DAYS = 1;
/** Copies on a server at once. */
const MOST_COPIES = 40;
/** Guests of one address: a school has one, and thirty pupils who look around in an hour. */
const GUESTS: TryRule = { free: 30, firstWaitS: 3600, longestWaitS: 3600, forgottenAfterS: 3600 };

const hoursFrom = (now: Date, hours: number) => new Date(now.getTime() + hours * HOUR_MS);

/** Whoever may have a copy without an account. */
export const takesGuests = (): boolean => env.BAUMKIN_GUESTS === '1';

const PLAYED_IN = { playUntil: { [Op.ne]: null } };

/** The copy that somebody has to play in, the first where there are several; null where she has none. */
async function copyOf(userId: string, transaction?: Transaction): Promise<string | null> {
  const hers = await Membership.findAll({ where: { userId, role: 'steward' }, transaction });
  const where = { id: hers.map(({ bushId }) => bushId), ...PLAYED_IN };
  const order: [string, string][] = [
    ['createdAt', 'ASC'],
    ['id', 'ASC']
  ];
  return (await Bush.findOne({ where, order, transaction }))?.id ?? null;
}

/** The bush that can be copied to play in; null where there is none. */
export async function exampleBush(): Promise<(BushAccess & { readonly trees: number }) | null> {
  const id = env.BAUMKIN_EXAMPLE;
  const bush = id ? await Bush.findByPk(id) : null;
  return bush && { ...accessOf(bush), role: 'viewer', trees: await TreeRecord.count({ where: { bushId: bush.id } }) };
}

/**
 * A copy of the example for somebody to play in; the one that she has, where she has one.
 * @returns the copy's id
 * @throws Refused 'noExample', Refused 'tooManyCopies'
 */
export async function copyToPlay(userId: string, now = new Date()): Promise<string> {
  const example = await exampleBush();
  if (!example) throw new Refused('noExample');
  await clearOver(now);
  const { id, isNew } = await inTransaction(async (transaction) => {
    // Who asks twice at once has one: her row is locked until it is begun.
    const user = await User.findByPk(userId, { transaction, lock: true, rejectOnEmpty: true });
    const mine = await copyOf(userId, transaction);
    if (mine !== null) return { id: mine, isNew: false };
    if ((await Bush.count({ where: PLAYED_IN, transaction })) >= MOST_COPIES) throw new Refused('tooManyCopies');
    const playUntil = user.guestUntil ?? hoursFrom(now, 24 * DAYS_TO_PLAY);
    const name = `A copy of ${example.name}`.slice(0, 80);
    return { id: await makeBush(userId, { name, createdAt: now, playUntil }, transaction), isNew: true };
  });
  if (!isNew) return id;
  try {
    const copy = (await bushFor(userId, id, now))!;
    await spooled(archiveText(example, now), (source) =>
      restoreArchive({ bush: copy, memberId: userId, now, own: true }, source)
    );
  } catch (error) {
    await remove([id]);
    throw error;
  }
  return id;
}

/**
 * Somebody who only looks around: an account without a password, which ends by itself.
 * @throws Refused 'noExample' where none are taken, Refused 'tooManyCopies'
 */
export async function welcomeGuest(address: string, now = new Date()): Promise<string> {
  if (!takesGuests() || !(await exampleBush())) throw new Refused('noExample');
  if ((await countTry([[`guest:${address}`, GUESTS]], now)) > 0) throw new Refused('tooManyCopies');
  const id = randomUUID();
  await User.create({
    id,
    signInName: `guest:${id}`,
    displayName: 'Guest',
    passwordHash: '-',
    createdAt: now,
    guestUntil: hoursFrom(now, 24 * GUEST_DAYS)
  });
  return id;
}

/** Is somebody here only to look around? */
export const isGuest = async (userId: string): Promise<boolean> =>
  ((await User.findByPk(userId))?.guestUntil ?? null) !== null;

/** Throws a copy away, by the hand of who plays in it. @throws Refused 'notHere' */
export async function throwAway(bushId: string, userId: string): Promise<void> {
  const bush = await bushFor(userId, bushId);
  if (bush?.role !== 'steward' || bush.playUntil === null) throw new Refused('notHere');
  await remove([bushId]);
}

/** A guest who signs out takes her copy along: she could not come back to it. Of anybody else nothing is ended. */
export async function endGuest(userId: string): Promise<void> {
  if (!(await isGuest(userId))) return;
  const hers = await Membership.findAll({ where: { userId } });
  const copies = await Bush.findAll({
    where: { id: hers.map(({ bushId }) => bushId), ...PLAYED_IN },
    attributes: ['id']
  });
  await remove(copies.map(({ id }) => id));
  await User.destroy({ where: { id: userId } });
}

/** Throws away what is over: copies, the guests who played in them, and bushes that were given up long enough ago. */
export async function clearOver(now = new Date()): Promise<void> {
  const before = { [Op.lte]: now };
  const over = await Bush.findAll({
    where: { [Op.or]: [{ playUntil: before }, { goneAt: before }] },
    attributes: ['id']
  });
  await remove(over.map(({ id }) => id));
  await User.destroy({ where: { guestUntil: { [Op.lte]: now } } });
}

/** Bushes with all that was written in them, and the names that came along with nothing else to their name. */
async function remove(bushIds: readonly string[]): Promise<void> {
  for (const bushId of bushIds) {
    const former = await Membership.findAll({ where: { bushId, role: FORMER } });
    await Bush.destroy({ where: { id: bushId } });
    const ids = former.map(({ userId }) => userId);
    const elsewhere = new Set((await Membership.findAll({ where: { userId: ids } })).map(({ userId }) => userId));
    await User.destroy({ where: { id: ids.filter((id) => !elsewhere.has(id)), passwordHash: '-', guestUntil: null } });
  }
}
