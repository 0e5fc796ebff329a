import { createHash } from 'node:crypto';
import {
  createReadStream,
  createWriteStream,
  existsSync,
  mkdirSync,
  readdirSync,
  readFileSync,
  renameSync,
  rmSync,
  writeFileSync
} from 'node:fs';
import { open } from 'node:fs/promises';
import { basename, dirname, join } from 'node:path';
import { PassThrough } from 'node:stream';
import { pipeline } from 'node:stream/promises';
import { createGunzip, createGzip } from 'node:zlib';

import { startDatabase, throwDatabaseAway } from './database.mjs';
import { contentsOf, dump, load } from './dump.mjs';
import { sayWhoRuns, whoRuns } from './keep.mjs';
import { Trouble } from './say.mjs';

/*
 * Backups of a whole server. Each is a file of SQL, compressed, that MariaDB's own client reads, and beside it a small file that says what
 * has to be in it. One counts only once it was read back into an empty database on trial, and held the same there.
 */

/**
 * @typedef {object} Backup
 * @property {'baumkin-backup'} format
 * @property {1} version
 * @property {string} madeAt the moment of what is in it
 * @property {string} checkedAt when it was read back on trial last
 * @property {string} file
 * @property {number} bytes
 * @property {string} sha256 of the file
 * @property {import('./dump.mjs').Contents} tables
 */

/** How many backups stay: the newest of each of so many days, weeks and months that have one, and of every year. */
export const KEPT = { days: 7, weeks: 5, months: 12 };
const FAILED = 'last-failure.json';
const PATTERN = /^baumkin-[\dTZ-]+\.json$/;

/** The backups in a folder, the newest first. @param {string} folder @returns {Backup[]} */
export function backupsIn(folder) {
  if (!existsSync(folder)) return [];
  return readdirSync(folder)
    .filter((name) => PATTERN.test(name))
    .flatMap((name) => readNote(join(folder, name)) ?? [])
    .filter(({ file }) => existsSync(join(folder, file)))
    .sort((a, b) => (a.madeAt < b.madeAt ? 1 : -1));
}

/** @param {string} path @returns {Backup | null} */
function readNote(path) {
  try {
    const note = JSON.parse(readFileSync(path, 'utf8'));
    return note.format === 'baumkin-backup' && note.version === 1 ? note : null;
  } catch {
    return null;
  }
}

/** A file is there whole or not at all. @param {string} path @param {object} value */
function writeWhole(path, value) {
  writeFileSync(`${path}.part`, `${JSON.stringify(value, null, 2)}\n`, { mode: 0o600 });
  renameSync(`${path}.part`, path);
}

const noteOf = (/** @type {string} */ folder, /** @type {string} */ file) =>
  join(folder, file.replace(/\.sql\.gz$/, '.json'));

/**
 * Makes a backup, reads it back on trial, and lets those go that are not needed any more. People go on working meanwhile.
 * @param {string} url of the database
 * @param {{ backups: string, data: string }} folders where backups go, and where there is room to read one back
 * @param {{ now?: Date, kept?: typeof KEPT }} [options]
 * @returns {Promise<Backup>}
 * @throws Trouble; why stands in the folder too, for the page that says when the last good one was
 */
export async function backUp(url, { backups: folder, data }, { now = new Date(), kept = KEPT } = {}) {
  mkdirSync(folder, { recursive: true, mode: 0o700 });
  const lock = join(folder, 'running');
  const other = await whoRuns(lock);
  if (other) throw new Trouble(`A backup into ${folder} is being made already (process ${other.pid}).`);
  sayWhoRuns(lock);
  const file = `baumkin-${now.toISOString().replace(/[:.]/g, '').slice(0, 17)}Z.sql.gz`;
  const part = join(folder, `${file}.part`);
  // Of one that was cut off.
  for (const name of readdirSync(folder)) if (name.endsWith('.part')) rmSync(join(folder, name));
  try {
    const packed = createWriteStream(part, { mode: 0o600 });
    const sql = new PassThrough();
    const written = pipeline(sql, createGzip(), packed);
    const [tables] = await Promise.all([dump(url, sql), written]);
    await flushed(part);
    const { bytes, sha256 } = await hashOfFile(part);
    /** @type {Backup} */
    const backup = {
      format: 'baumkin-backup',
      version: 1,
      madeAt: now.toISOString(),
      checkedAt: now.toISOString(),
      file,
      bytes,
      sha256,
      tables
    };
    await readOnTrial(part, backup, data);
    renameSync(part, join(folder, file));
    writeWhole(noteOf(folder, file), backup);
    rmSync(join(folder, FAILED), { force: true });
    for (const each of notNeeded(backupsIn(folder), kept)) {
      rmSync(noteOf(folder, each.file), { force: true });
      rmSync(join(folder, each.file), { force: true });
    }
    return backup;
  } catch (error) {
    const { message } = /** @type {Error} */ (error);
    writeWhole(join(folder, FAILED), { at: now.toISOString(), says: message.split('\n')[0] });
    throw error instanceof Trouble ? error : new Trouble(`No backup was made: ${message}`);
  } finally {
    rmSync(part, { force: true });
    rmSync(lock, { force: true });
  }
}

/** Waits until a file is on the disk, not only on its way. @param {string} path */
async function flushed(path) {
  const handle = await open(path);
  await handle.sync();
  await handle.close();
}

/** @param {string} path */
async function hashOfFile(path) {
  const hash = createHash('sha256');
  let bytes = 0;
  for await (const chunk of createReadStream(path)) {
    hash.update(chunk);
    bytes += chunk.length;
  }
  return { bytes, sha256: hash.digest('hex') };
}

/** The backup that a file is. @param {string} path of the file, or of the note beside it @returns {Backup} @throws Trouble */
export function backupAt(path) {
  if (!existsSync(path)) throw new Trouble(`There is no file ${path}.`);
  const note = readNote(noteOf(dirname(path), basename(path)));
  if (!note)
    throw new Trouble(`Beside ${path} there is no note that says what has to be in it. Keep both files together.`);
  return note;
}

/**
 * Looks whether a backup's file is as it was made.
 * @param {string} path
 * @param {Backup} backup
 * @throws Trouble
 */
async function mustBeUnharmed(path, backup) {
  const { bytes, sha256 } = await hashOfFile(path);
  if (bytes !== backup.bytes || sha256 !== backup.sha256)
    throw new Trouble(`${path} is not as it was made: it has been changed, or the disk has harmed it. Take another.`);
}

/**
 * Reads a backup into an empty database, and looks whether it then holds what it has to.
 * @param {string} url
 * @param {string} path
 * @param {Backup} backup
 * @throws Trouble
 */
export async function readInto(url, path, backup) {
  await mustBeUnharmed(path, backup);
  const sql = createReadStream(path).pipe(createGunzip());
  await load(url, sql);
  const found = await contentsOf(url);
  const wrong = [...new Set([...Object.keys(backup.tables), ...Object.keys(found)])].flatMap((table) => {
    const [was, is] = [backup.tables[table], found[table]];
    if (was?.sha256 === is?.sha256) return [];
    return `  - ${table}: ${was?.rows ?? 'no'} rows in the backup, ${is?.rows ?? 'no'} read back${was?.rows === is?.rows ? ', and not the same' : ''}`;
  });
  if (wrong.length > 0) throw new Trouble(`What was read back is not what was written:\n${wrong.join('\n')}`);
}

/** Memory of the database that a backup is read into on trial, MB. */
const TRIAL_POOL_MB = 128;

/**
 * Reads a backup back in a database of its own, which is thrown away.
 * @param {string} path
 * @param {Backup} backup
 * @param {string} beside folder on a disk with room for it
 * @throws Trouble
 */
async function readOnTrial(path, backup, beside) {
  const folder = join(beside, 'trial');
  // One that was cut off is in the way.
  await throwDatabaseAway(folder);
  try {
    const { url } = await startDatabase(folder, { poolMb: TRIAL_POOL_MB, quiet: true });
    await readInto(url, path, backup);
  } finally {
    await throwDatabaseAway(folder);
  }
}

/**
 * Checks a backup again, as years and disks go by.
 * @param {string} path
 * @param {string} beside folder on a disk with room for what is in it
 * @returns {Promise<Backup>}
 * @throws Trouble
 */
export async function check(path, beside, now = new Date()) {
  const backup = backupAt(path);
  await readOnTrial(path, backup, beside);
  const checked = { ...backup, checkedAt: now.toISOString() };
  writeWhole(noteOf(dirname(path), basename(path)), checked);
  return checked;
}

/**
 * Which backups may go: all but the newest of each of the last days, weeks and months that have one, and of every year.
 * @param {readonly Backup[]} backups
 * @param {typeof KEPT} kept
 */
export function notNeeded(backups, { days, weeks, months } = KEPT) {
  const newestFirst = backups.toSorted((a, b) => (a.madeAt < b.madeAt ? 1 : -1));
  const stay = new Set();
  const newestOf = (/** @type {(at: Date) => string | number} */ span, /** @type {number} */ many) => {
    const seen = new Set();
    for (const backup of newestFirst) {
      const key = span(new Date(backup.madeAt));
      if (seen.has(key) || seen.size >= many) continue;
      seen.add(key);
      stay.add(backup);
    }
  };
  newestOf((at) => at.toISOString().slice(0, 10), days);
  // Weeks from Monday to Sunday: the day the count of days begins with was a Thursday.
  newestOf((at) => Math.floor((at.getTime() / 86_400_000 + 3) / 7), weeks);
  newestOf((at) => at.toISOString().slice(0, 7), months);
  newestOf((at) => at.getUTCFullYear(), Infinity);
  return newestFirst.filter((backup) => !stay.has(backup));
}

/**
 * Is a backup due? One is made each night at a time of the clock where the server stands, and as soon as the server runs again where it
 * was off then.
 * @param {string} at `HH:MM`
 * @param {{ madeAt: string } | undefined} last
 * @param {Date} now
 */
export function isDue(at, last, now) {
  const [hours, minutes] = at.split(':').map(Number);
  const due = new Date(now);
  due.setHours(hours, minutes, 0, 0);
  if (due > now) due.setDate(due.getDate() - 1);
  return !last || new Date(last.madeAt) < due;
}
