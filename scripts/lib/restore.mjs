import { existsSync, mkdirSync, renameSync, rmSync } from 'node:fs';
import { join } from 'node:path';

import { backupAt, readInto } from './backups.mjs';
import { startDatabase, throwDatabaseAway } from './database.mjs';
import { ask, RESTORING } from './dump.mjs';
import { sayWhoRuns, whoRuns } from './keep.mjs';
import { Trouble } from './say.mjs';
import { runCommand } from './server.mjs';

/** Where a backup is read to before it is whole. @param {string} data */
const half = (data) => join(data, 'db.restoring');

/** @param {string} data @throws Trouble where the reading of a backup into it was cut off */
export function mustNotBeHalfRestored(data) {
  if (existsSync(half(data)))
    throw new Trouble(
      `Reading a backup into ${data} was cut off. Run that again, or remove ${half(data)} to begin with an empty book.`
    );
}

/**
 * Reads a backup back where nothing is yet. Until all of it is there, and is what it has to be, nothing is.
 * @param {Pick<import('./config.mjs').Config, 'data' | 'databaseUrl'>} config
 * @param {string} path of the backup
 * @returns {Promise<import('./backups.mjs').Backup>}
 * @throws Trouble
 */
export async function restore({ data, databaseUrl }, path) {
  const backup = backupAt(path);
  mkdirSync(data, { recursive: true, mode: 0o700 });
  const lock = join(data, 'running');
  const other = await whoRuns(lock);
  if (other) throw new Trouble(`Something runs with the data in ${data} (process ${other.pid}). Stop it first.`);
  sayWhoRuns(lock);
  try {
    await (databaseUrl ? intoDatabase(databaseUrl, path, backup) : intoFolder(data, path, backup));
    return backup;
  } finally {
    rmSync(lock, { force: true });
  }
}

/** @param {string} data @param {string} path @param {import('./backups.mjs').Backup} backup */
async function intoFolder(data, path, backup) {
  const home = join(data, 'db');
  if (existsSync(home))
    throw new Trouble(`${data} holds data already. Say another folder, BAUMKIN_DATA=…, or move that one away.`);
  const aside = half(data);
  await throwDatabaseAway(aside);
  const database = await startDatabase(aside, { quiet: true });
  try {
    await readInto(database.url, path, backup);
    await runCommand(database.url, 'restored');
  } catch (error) {
    await throwDatabaseAway(aside);
    throw error;
  }
  await database.stop();
  renameSync(aside, home);
}

/** @param {string} url @param {string} path @param {import('./backups.mjs').Backup} backup */
async function intoDatabase(url, path, backup) {
  const tables = (await ask(url, 'SHOW TABLES')).split('\n').filter(Boolean);
  if (tables.length > 0 && !tables.includes(RESTORING))
    throw new Trouble('The database holds tables already. A backup is read into an empty one.');
  const drop = tables.filter((table) => table !== RESTORING).map((table) => `DROP TABLE \`${table}\`;`);
  await ask(url, `CREATE TABLE IF NOT EXISTS ${RESTORING} (one INT); SET FOREIGN_KEY_CHECKS = 0; ${drop.join(' ')}`);
  await readInto(url, path, backup);
  await runCommand(url, 'restored');
  await ask(url, `DROP TABLE ${RESTORING}`);
}
