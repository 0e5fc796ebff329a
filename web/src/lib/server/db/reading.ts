import { Transaction } from 'sequelize';

import { tables } from './index.ts';

/** Reads in one moment of the database, on one connection: many readers at once leave connections to each other. */
export function reading<T>(work: (transaction: Transaction) => Promise<T>): Promise<T> {
  return tables().sequelize.transaction({ isolationLevel: Transaction.ISOLATION_LEVELS.REPEATABLE_READ }, work);
}
