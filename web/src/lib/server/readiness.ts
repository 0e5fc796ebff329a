import { statfs } from 'node:fs/promises';
import { env } from 'node:process';
import { QueryTypes } from 'sequelize';

import { pendingMigrations, tables } from './db/index.ts';
import { log } from './log.ts';

/** Below this a disk counts as full, bytes: a database that can write no more stops in the middle of the day. Working assumption. */
const LEAST_FREE_BYTES = 200_000_000;
/** A database that answers later is as good as away, ms. */
const WITHIN_MS = 3000;

/** What a server needs to serve; no part of it says more than yes or no. */
export interface Readiness {
  readonly database: boolean;
  readonly migrations: boolean;
  readonly disk: boolean;
}

/** Looks whether this server can serve. Never throws: what cannot be asked is a no, and the log says why. */
export async function readiness(): Promise<Readiness> {
  const { sequelize } = tables();
  const database = await answers('database', async () => {
    await sequelize.query('SELECT 1', { type: QueryTypes.SELECT });
    return true;
  });
  const migrations =
    database && (await answers('migrations', async () => (await pendingMigrations(sequelize)).length === 0));
  // An external database has a disk of its own, of which nothing is known here.
  const folder = env.BAUMKIN_DATA ?? '.';
  const disk = await answers('disk', async () => {
    const { bavail, bsize } = await statfs(folder);
    return bavail * bsize >= LEAST_FREE_BYTES;
  });
  return { database, migrations, disk };
}

async function answers(what: keyof Readiness, ask: () => Promise<boolean>): Promise<boolean> {
  let timer: NodeJS.Timeout | undefined;
  const late = new Promise<never>((_, reject) => {
    timer = setTimeout(() => reject(new Error(`No answer within ${WITHIN_MS} ms`)), WITHIN_MS);
  });
  try {
    return await Promise.race([ask(), late]);
  } catch (err) {
    log.warn({ err, what }, 'Not ready');
    return false;
  } finally {
    clearTimeout(timer);
  }
}
