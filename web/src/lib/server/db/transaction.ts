import { Transaction } from 'sequelize';

import { tables } from './index.ts';

/** What the database gives up for somebody else's sake: two waited for each other (1213), or one for too long (1205). */
const GIVEN_UP: readonly unknown[] = [1213, 1205];
const MOST_TRIES = 6;
const FIRST_PAUSE_MS = 10;

const wasGivenUp = (error: unknown): boolean =>
  GIVEN_UP.includes((error as { parent?: { errno?: unknown } } | null)?.parent?.errno);

/**
 * Does something to the database, all of it or nothing. What the database gave up for somebody else's sake is done once more, a few times:
 * nothing of it was kept. So `work` may run more than once, and changes nothing but the database.
 * @param isolationLevel READ COMMITTED locks the rows that are touched, and not the gaps between them
 */
export async function inTransaction<T>(
  work: (transaction: Transaction) => Promise<T>,
  isolationLevel = Transaction.ISOLATION_LEVELS.REPEATABLE_READ
): Promise<T> {
  for (let tries = 1; ; tries++) {
    try {
      return await tables().sequelize.transaction({ isolationLevel }, work);
    } catch (error) {
      if (tries >= MOST_TRIES || !wasGivenUp(error)) throw error;
      // Not both at once again.
      await new Promise((again) => setTimeout(again, FIRST_PAUSE_MS * 2 ** tries * Math.random()));
    }
  }
}
