import { Op, QueryTypes, Transaction } from 'sequelize';

import { tables, Tries } from './db/index.ts';
import { inTransaction } from './db/transaction.ts';

/*
 * Who tries too often waits, a little longer each time, and nobody is locked out for good. A try is counted before it is made, under
 * the lock of its row: however many come at once, no more are made than the rule allows. The counts stand in the database, for all
 * servers.
 */

/** How often something may be tried. Seconds. */
export interface TryRule {
  /** tries that wait for nothing */
  readonly free: number;
  /** after the last of them; it doubles with each further one */
  readonly firstWaitS: number;
  readonly longestWaitS: number;
  /** without a try for so long it begins anew */
  readonly forgottenAfterS: number;
}

/** Rows that nobody asked for since then say nothing any more, ms. */
const KEPT_MS = 24 * 3_600_000;

/** Many come at once: who makes a row waits for nobody who makes another. */
const onRows = <T>(work: (transaction: Transaction) => Promise<T>): Promise<T> =>
  inTransaction(work, Transaction.ISOLATION_LEVELS.READ_COMMITTED);

/**
 * Nobody waits. Not the moment of a try: of two that come at once the one that is counted second may have come a moment before the
 * other, and would wait for it.
 */
const AT_ONCE = new Date(0);

const waitS = ({ free, firstWaitS, longestWaitS }: TryRule, tries: number): number =>
  tries < free ? 0 : Math.min(longestWaitS, firstWaitS * 2 ** Math.min(tries - free, 20));

/**
 * Counts a try of each key, unless one of them has to wait; the try is made only afterwards.
 * @param keys what is tried by whom, each with its rule; always in one order, so that no two wait for each other
 * @returns 0 where it may be made; else the seconds until it may, and nothing is counted
 */
export async function countTry(
  keys: readonly (readonly [key: string, rule: TryRule])[],
  now = new Date()
): Promise<number> {
  return onRows(async (transaction) => {
    const counted: { key: string; tries: number; rule: TryRule }[] = [];
    let wait = 0;
    for (const [key, rule] of keys) {
      const { tries, freeAt } = await lockedRow(key, rule, now, transaction);
      wait = Math.max(wait, (freeAt.getTime() - now.getTime()) / 1000);
      counted.push({ key, tries: tries + 1, rule });
    }
    if (wait > 0) return Math.ceil(wait);
    for (const { key, tries, rule } of counted) {
      const wait = waitS(rule, tries);
      const freeAt = wait > 0 ? new Date(now.getTime() + 1000 * wait) : AT_ONCE;
      await Tries.update({ tries, freeAt, at: now }, { where: { key }, transaction });
    }
    return 0;
  });
}

/** A row under its lock, made where there is none. Inserting takes the lock itself: two who only read first would block each other. */
async function lockedRow(key: string, rule: TryRule, now: Date, transaction: Transaction): Promise<Tries> {
  await tables().sequelize.query(
    'INSERT INTO tries (`key`, tries, freeAt, at) VALUES (:key, 0, :free, :now) ON DUPLICATE KEY UPDATE `key` = `key`',
    { replacements: { key, free: AT_ONCE, now }, type: QueryTypes.INSERT, transaction }
  );
  const row = await Tries.findByPk(key, { lock: transaction.LOCK.UPDATE, transaction, rejectOnEmpty: true });
  if (now.getTime() - row.at.getTime() > 1000 * rule.forgottenAfterS) row.set({ tries: 0, freeAt: AT_ONCE });
  return row;
}

/** Forgets tries: whoever was right is not held back by what went before. */
export async function forgetTries(key: string): Promise<void> {
  await onRows((transaction) => Tries.destroy({ where: { key }, transaction }));
}

/** Forgets tries that nobody asked for since long ago. */
export async function forgetOldTries(now: Date): Promise<void> {
  const at = { [Op.lt]: new Date(now.getTime() - KEPT_MS) };
  await onRows((transaction) => Tries.destroy({ where: { at }, transaction }));
}

/** Takes one try off: it was none. */
export async function uncountTry(key: string): Promise<void> {
  const { sequelize } = tables();
  const oneLess = { tries: sequelize.literal('GREATEST(tries - 1, 0)'), freeAt: AT_ONCE };
  await onRows((transaction) => Tries.update(oneLess, { where: { key }, transaction }));
}
