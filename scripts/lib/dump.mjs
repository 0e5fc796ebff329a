import { spawn } from 'node:child_process';
import { createHash } from 'node:crypto';
import { once } from 'node:events';
import { Writable } from 'node:stream';
import { pipeline } from 'node:stream/promises';

import { program } from './setup.mjs';
import { Trouble } from './say.mjs';

/**
 * @typedef {Readonly<Record<string, { rows: number, sha256: string }>>} Contents the rows of each table, and a hash of them in the order
 *   of their keys
 */

/** Made from what else there is, or of use only while a server runs: their tables are kept, and nothing in them. */
const NOT_KEPT = ['changes', 'snapshots', 'snapshotParts', 'treeLines', 'lineBooks', 'heldBooks', 'tries'];
/** Stands in a database while a backup is read into it, and is no part of it. */
export const RESTORING = 'restoring';

/**
 * How one of MariaDB's programs reaches a database. The password stands in the environment, which nobody else on the machine reads; on
 * a command line everybody does.
 * @param {string} url
 */
function reached(url) {
  const { hostname, port, username, password, pathname } = new URL(url);
  return {
    args: [
      '--no-defaults',
      '--protocol=tcp',
      `--host=${hostname.replace(/^\[|\]$/g, '')}`,
      `--port=${port || '3306'}`,
      `--user=${decodeURIComponent(username)}`,
      '--default-character-set=utf8mb4'
    ],
    env: { ...process.env, MYSQL_PWD: decodeURIComponent(password) },
    database: pathname.slice(1)
  };
}

/**
 * Writes all that a database holds as SQL: as it is at one moment, whoever writes meanwhile.
 * @param {string} url
 * @param {NodeJS.WritableStream} to
 * @returns {Promise<Contents>}
 * @throws Trouble where the database could not be read to its end
 */
export async function dump(url, to) {
  const { args, env, database } = reached(url);
  const counted = new CountedRows();
  const child = spawn(
    program('mariadb-dump'),
    [
      ...args,
      '--single-transaction',
      '--quick',
      '--order-by-primary',
      '--hex-blob',
      '--no-tablespaces',
      '--skip-add-locks',
      '--skip-dump-date',
      `--ignore-table=${database}.${RESTORING}`,
      ...NOT_KEPT.map((table) => `--ignore-table-data=${database}.${table}`),
      database
    ],
    { env, stdio: ['ignore', 'pipe', 'pipe'] }
  );
  const ended = once(child, 'close');
  let said = '';
  child.stderr.on('data', (chunk) => (said += chunk));
  await pipeline(child.stdout, counted.through, to);
  const [code] = await ended;
  if (code !== 0 || !counted.isWhole)
    throw new Trouble(`The database could not be read to its end:\n${said.slice(-1000)}`);
  return counted.contents();
}

/** What a database holds, by its tables. @param {string} url */
export const contentsOf = (url) => dump(url, new Writable({ write: (_chunk, _encoding, done) => done() }));

/**
 * Reads SQL into a database.
 * @param {string} url
 * @param {NodeJS.ReadableStream} sql
 * @throws Trouble where the database takes it not
 */
export async function load(url, sql) {
  const { args, env, database } = reached(url);
  const child = spawn(program('mariadb'), [...args, '--max-allowed-packet=64M', '--', database], {
    env,
    stdio: ['pipe', 'ignore', 'pipe']
  });
  const ended = once(child, 'close');
  let said = '';
  child.stderr.on('data', (chunk) => (said += chunk));
  /** @type {unknown} */
  let broken = null;
  await pipeline(sql, child.stdin).catch((error) => (broken = error));
  const [code] = await ended;
  if (code !== 0) throw new Trouble(`The database refused what was read:\n${said.slice(-1000)}`);
  if (broken) throw broken;
}

/** Asks a database something small. @param {string} url @param {string} sql @returns its answer, a line a row and a tab a column */
export async function ask(url, sql) {
  const { args, env, database } = reached(url);
  const child = spawn(program('mariadb'), [...args, '--batch', '--skip-column-names', '-e', sql, '--', database], {
    env
  });
  const ended = once(child, 'close');
  let [answer, said] = ['', ''];
  child.stdout.on('data', (chunk) => (answer += chunk));
  child.stderr.on('data', (chunk) => (said += chunk));
  const [code] = await ended;
  if (code !== 0) throw new Trouble(`The database does not answer:\n${said.slice(-1000)}`);
  return answer.trim();
}

/**
 * Counts the rows that a dump writes, and takes a hash of them. It writes one row a line; a line break within a row is written as two
 * signs.
 */
class CountedRows {
  /** @type {Map<string, { rows: number, hash: import('node:crypto').Hash }>} */
  #tables = new Map();
  /** @type {{ rows: number, hash: import('node:crypto').Hash } | null} */
  #now = null;
  #rest = Buffer.alloc(0);
  isWhole = false;

  /** What comes passes unchanged. @param {AsyncIterable<Buffer>} source */
  through = async function* (/** @type {AsyncIterable<Buffer>} */ source) {
    for await (const chunk of source) {
      this.#take(chunk);
      yield chunk;
    }
  }.bind(this);

  /** @param {Buffer} chunk */
  #take(chunk) {
    const text = this.#rest.length > 0 ? Buffer.concat([this.#rest, chunk]) : chunk;
    let from = 0;
    for (let end = text.indexOf(10); end >= 0; end = text.indexOf(10, from)) {
      this.#line(text.subarray(from, end));
      from = end + 1;
    }
    this.#rest = Buffer.from(text.subarray(from));
  }

  /** @param {Buffer} line */
  #line(line) {
    if (line[0] === 40 && this.#now) {
      this.#now.rows += 1;
      // What follows the last row of a statement is a semicolon, and a comma elsewhere.
      this.#now.hash.update(line.subarray(0, -1)).update('\n');
      return;
    }
    const table = /^(?:CREATE TABLE|INSERT INTO) `(\w+)`/.exec(line.toString('latin1', 0, 200))?.[1];
    if (table) {
      this.#now = this.#tables.get(table) ?? { rows: 0, hash: createHash('sha256') };
      this.#tables.set(table, this.#now);
    } else if (line.toString('latin1', 0, 17) === '-- Dump completed') this.isWhole = true;
  }

  /** @returns {Contents} */
  contents() {
    return Object.fromEntries(
      [...this.#tables].map(([table, { rows, hash }]) => [table, { rows, sha256: hash.digest('hex') }])
    );
  }
}
