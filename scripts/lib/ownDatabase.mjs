import { existsSync } from 'node:fs';
import { join } from 'node:path';

import { startDatabase } from './database.mjs';
import { Trouble } from './say.mjs';

/**
 * Does something with the database of a server that may run meanwhile.
 * @template T
 * @param {Pick<import('./config.mjs').Config, 'data' | 'databaseUrl'>} config
 * @param {(url: string) => Promise<T>} work
 * @returns {Promise<T>}
 * @throws Trouble where there is none yet
 */
export async function withDatabase({ data, databaseUrl }, work) {
  if (databaseUrl) return work(databaseUrl);
  const home = join(data, 'db');
  if (!existsSync(join(home, 'data'))) throw new Trouble(`There is no server's data in ${data} yet.`);
  const own = await startDatabase(home);
  try {
    return await work(own.url);
  } finally {
    if (!own.found) await own.stop();
  }
}
