import fc from 'fast-check';
import {
  appendFileSync,
  cpSync,
  existsSync,
  mkdtempSync,
  readFileSync,
  readdirSync,
  rmSync,
  writeFileSync
} from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { gunzipSync } from 'node:zlib';
import { afterAll, beforeAll, describe, expect, test, vi } from 'vitest';

import { backupsIn, isDue, notNeeded } from '../lib/backups.mjs';
import { startDatabase, throwDatabaseAway } from '../lib/database.mjs';
import { ask, contentsOf } from '../lib/dump.mjs';
import { pause } from '../lib/exec.mjs';
import { prepareDemo, runCommand } from '../lib/server.mjs';
import { ownSettings, startScript, STARTS_MS } from './started.mjs';

/* Backups as an operator makes and reads them, on a server that holds the demo bush. The build stands already. */

vi.setConfig({ testTimeout: 2 * STARTS_MS, hookTimeout: STARTS_MS });

const folder = mkdtempSync(join(tmpdir(), 'baumkin-backups-'));
const from = join(folder, 'from');
const KILLS = process.env.BAUMKIN_LONG === '1' ? 25 : 4;
/** @type {string[]} */
const opened = [];
/** @type {string} */
let url;

/** @param {string} data */
async function open(data) {
  const home = join(data, 'db');
  if (!opened.includes(home)) opened.push(home);
  return (await startDatabase(home, { poolMb: 128, quiet: true })).url;
}
/** Runs a command of the operator's to its end. @param {string} script @param {string} data @param {string[]} args */
async function command(script, data, args = [], more = {}) {
  const child = startScript(script, args, { ...ownSettings(), BAUMKIN_DATA: data, ...more });
  const code = await child.end(undefined);
  return { code, says: child.output() };
}
const newest = () => join(from, 'backups', backupsIn(join(from, 'backups'))[0]?.file ?? 'none');
/** What has to be the same after reading a backup back: every device begins anew with what its bush holds then. */
const kept = (/** @type {Record<string, { sha256: string }>} */ contents) =>
  Object.fromEntries(
    Object.entries(contents).flatMap(([name, { sha256 }]) => (name === 'bushes' ? [] : [[name, sha256]]))
  );

beforeAll(async () => {
  url = await open(from);
  await prepareDemo(url);
});
afterAll(async () => {
  for (const home of opened) await throwDatabaseAway(home);
  rmSync(folder, { recursive: true, force: true });
});

describe('a backup', () => {
  test('is made while people write, holds one moment of it, and was read back before it counts', async () => {
    let writing = true;
    const writer = (async () => {
      for (let i = 0; writing; i++)
        // Both or none: whoever finds one without the other has looked at two moments.
        await ask(
          url,
          `BEGIN; UPDATE bushes SET name = 'Moment ${i}'; UPDATE users SET displayName = 'Moment ${i}'; COMMIT`
        );
    })();
    const { code, says } = await command('backup.mjs', from);
    writing = false;
    await writer;
    expect([code, says]).toEqual([0, expect.stringContaining('read back on trial')]);
    const sql = gunzipSync(readFileSync(newest())).toString();
    expect(new Set(sql.match(/Moment \d+/g)).size).toBe(1);
    const [{ tables }] = backupsIn(join(from, 'backups'));
    expect(tables.trees.rows).toBe(Number(await ask(url, 'SELECT COUNT(*) FROM trees')));
    expect(tables.changes.rows).toBe(0);
    expect(readdirSync(from).sort()).toEqual(['backups', 'db']);
  });

  test('gives the same book in another place, and devices begin anew there', async () => {
    const to = join(folder, 'to');
    expect(await command('restore.mjs', to, [newest()])).toMatchObject({ code: 0 });
    const there = await open(to);
    const [{ tables }] = backupsIn(join(from, 'backups'));
    expect(kept(await contentsOf(there))).toEqual(kept(tables));
    const bush = 'SELECT id, settings, version, createdAt FROM bushes';
    expect(await ask(there, bush)).toBe(await ask(url, bush));
    expect(await ask(there, 'SELECT feedId FROM bushes')).not.toBe(await ask(url, 'SELECT feedId FROM bushes'));
    const again = await command('restore.mjs', to, [newest()]);
    expect([again.code, again.says]).toEqual([1, expect.stringContaining('holds data already')]);
  });

  test('that was harmed is refused, and so is one whose note tells of something else; nothing comes of either', async () => {
    const bad = join(folder, 'bad');
    cpSync(join(from, 'backups'), bad, { recursive: true });
    const [backup] = backupsIn(bad);
    const path = join(bad, backup.file);
    const note = path.replace('.sql.gz', '.json');
    const trees = { rows: backup.tables.trees.rows - 1, sha256: '0' };
    writeFileSync(note, JSON.stringify({ ...backup, tables: { ...backup.tables, trees } }));
    const to = join(folder, 'never');
    const other = await command('restore.mjs', to, [path]);
    expect([other.code, other.says]).toEqual([1, expect.stringContaining(`trees: ${trees.rows} rows in the backup`)]);
    writeFileSync(note, JSON.stringify(backup));
    appendFileSync(path, ' ');
    for (const script of ['restore.mjs', 'verify.mjs']) {
      const { code, says } = await command(script, to, [path]);
      expect([code, says]).toEqual([1, expect.stringContaining('not as it was made')]);
    }
    rmSync(note);
    expect((await command('restore.mjs', to, [path])).says).toContain('no note that says what has to be in it');
    expect(readdirSync(to)).toEqual([]);
  });

  test('is checked again by hand', async () => {
    const [before] = backupsIn(join(from, 'backups'));
    expect(await command('verify.mjs', from)).toMatchObject({ code: 0 });
    expect(backupsIn(join(from, 'backups'))[0].checkedAt > before.checkedAt).toBe(true);
  });

  test('that cannot be made says why, also to whoever looks later, and harms none of before', async () => {
    const before = backupsIn(join(from, 'backups'));
    await ask(url, 'CREATE VIEW broken AS SELECT id FROM trees; RENAME TABLE features TO away');
    await ask(url, 'CREATE VIEW half AS SELECT id FROM away');
    await ask(url, 'RENAME TABLE away TO features; DROP VIEW broken');
    const { code, says } = await command('backup.mjs', from);
    await ask(url, 'DROP VIEW half');
    expect([code, says]).toEqual([1, expect.stringContaining('could not be read to its end')]);
    expect(JSON.parse(readFileSync(join(from, 'backups/last-failure.json'), 'utf8')).says).toContain(
      'could not be read'
    );
    expect(backupsIn(join(from, 'backups'))).toEqual(before);
  });
});

describe('whoever is killed while a backup is read back leaves nothing or all of it', () => {
  /** Kills it some time after its work has begun. @param {Record<string, string>} env @param {() => Promise<boolean> | boolean} hasBegun */
  async function killedSoonAfter(env, hasBegun, afterMs = 0) {
    const child = startScript('restore.mjs', [newest()], { ...ownSettings(), ...env });
    let ended = false;
    const end = child.end(undefined).then(() => (ended = true));
    while (!ended && !(await hasBegun())) await pause(20);
    await Promise.race([end, pause(afterMs)]);
    await child.end('SIGKILL');
  }

  test('in a folder', async () => {
    const to = join(folder, 'killed');
    let cutOff = 0;
    for (let i = 0; i < KILLS && !existsSync(join(to, 'db')); i++) {
      const hasBegun = () => existsSync(join(to, 'db.restoring'));
      await killedSoonAfter({ BAUMKIN_DATA: to }, hasBegun, (i * 3000) / KILLS);
      if (existsSync(join(to, 'db'))) break;
      cutOff++;
      const start = await command('start.mjs', to, [], { BAUMKIN_LISTEN: '127.0.0.1:28190' });
      expect([start.code, start.says]).toEqual([1, expect.stringContaining('was cut off')]);
    }
    expect(cutOff).toBeGreaterThan(0);
    if (!existsSync(join(to, 'db'))) expect(await command('restore.mjs', to, [newest()])).toMatchObject({ code: 0 });
    const there = await open(to);
    expect(kept(await contentsOf(there))).toEqual(kept(backupsIn(join(from, 'backups'))[0].tables));
  });

  test('in a database of its own', async () => {
    const external = await startDatabase(join(folder, 'external'), { poolMb: 128, quiet: true });
    opened.push(join(folder, 'external'));
    const to = join(folder, 'outside');
    const env = { BAUMKIN_DATA: to, DATABASE_URL: external.url };
    const isHalf = async () => (await ask(external.url, 'SHOW TABLES')).split('\n').includes('restoring');
    let cutOff = 0;
    for (let i = 0; i < KILLS; i++) {
      await killedSoonAfter(env, isHalf, (i * 1500) / KILLS);
      if (!(await isHalf())) break;
      cutOff++;
      await expect(runCommand(external.url, 'migrate')).rejects.toThrow('was cut off');
    }
    expect(cutOff).toBeGreaterThan(0);
    if (await isHalf()) expect(await command('restore.mjs', to, [newest()], env)).toMatchObject({ code: 0 });
    expect(kept(await contentsOf(external.url))).toEqual(kept(backupsIn(join(from, 'backups'))[0].tables));
    expect((await command('restore.mjs', to, [newest()], env)).says).toContain('holds tables already');
  });
});

test('one bush goes out as an archive and comes in as a new one, whose authors are told as those of an archive', async () => {
  const file = join(folder, 'bush.json.gz');
  const name = await ask(url, 'SELECT name FROM bushes');
  expect(await command('backup.mjs', from, ['--bush', name, '--to', file])).toMatchObject({ code: 0 });
  expect((await command('backup.mjs', from, ['--bush', 'No such bush'])).says).toContain(
    'no bush called "No such bush"'
  );
  const read = await command('restore.mjs', from, ['--bush', file, '--steward', 'tomke']);
  expect([read.code, read.says]).toEqual([0, expect.stringContaining(`"${name}" was read`)]);
  const readings = (/** @type {string} */ order) =>
    ask(url, `SELECT COUNT(*) FROM readings r JOIN bushes b ON b.id = r.bushId ${order}`);
  const first = '(SELECT MIN(createdAt) FROM bushes)';
  expect(await readings(`WHERE b.createdAt > ${first}`)).toBe(await readings(`WHERE b.createdAt = ${first}`));
  const authors = await ask(
    url,
    `SELECT DISTINCT u.displayName FROM readings r JOIN bushes b ON b.id = r.bushId JOIN users u ON u.id = r.authorId WHERE b.createdAt > ${first}`
  );
  for (const author of authors.split('\n')) expect(author).toMatch(/ \(archive\)$/);
  expect((await command('restore.mjs', from, ['--bush', file, '--steward', 'nobody'])).says).toContain(
    'Nobody signs in'
  );
  expect(await ask(url, 'SELECT COUNT(*) FROM bushes')).toBe('2');
});

describe('which backups stay', () => {
  const at = (/** @type {Date} */ day) =>
    /** @type {import('../lib/backups.mjs').Backup} */ ({ madeAt: day.toISOString(), file: day.toISOString() });
  const daily = Array.from({ length: 3 * 365 }, (_, i) => at(new Date(Date.UTC(2027, 0, 1 + i, 3, 30))));

  test('of three years of nights: a week of days, five weeks, a year of months, and each year', () => {
    const gone = new Set(notNeeded(daily));
    const stay = daily.filter((each) => !gone.has(each)).map(({ madeAt }) => madeAt.slice(0, 10));
    expect(stay).toEqual([
      ...[
        '2027-12-31',
        '2028-12-31',
        '2029-01-31',
        '2029-02-28',
        '2029-03-31',
        '2029-04-30',
        '2029-05-31',
        '2029-06-30'
      ],
      ...[
        '2029-07-31',
        '2029-08-31',
        '2029-09-30',
        '2029-10-31',
        '2029-11-30',
        '2029-12-02',
        '2029-12-09',
        '2029-12-16'
      ],
      ...[
        '2029-12-23',
        '2029-12-24',
        '2029-12-25',
        '2029-12-26',
        '2029-12-27',
        '2029-12-28',
        '2029-12-29',
        '2029-12-30'
      ]
    ]);
  });

  test('the newest always, and letting go day by day comes to the same as letting go at the end', () => {
    fc.assert(
      fc.property(fc.uniqueArray(fc.integer({ min: 0, max: 1094 }), { minLength: 1, maxLength: 120 }), (nights) => {
        const all = nights.sort((a, b) => a - b).map((i) => daily[i] ?? daily[0]);
        const gone = notNeeded(all);
        expect(gone).not.toContain(all.at(-1));
        let held = /** @type {typeof all} */ ([]);
        for (const each of all) {
          const now = [...held, each];
          const letGo = new Set(notNeeded(now));
          held = now.filter((one) => !letGo.has(one));
        }
        expect(held.filter((each) => gone.includes(each))).toEqual([]);
      })
    );
  });

  test('one is due each night, and where the server was off then as soon as it runs again', () => {
    const day = (/** @type {number} */ date, hour = 0, minute = 0) => new Date(2027, 2, date, hour, minute);
    const last = { madeAt: day(10, 3, 31).toISOString() };
    expect(isDue('03:30', undefined, day(10))).toBe(true);
    expect(isDue('03:30', last, day(10, 23))).toBe(false);
    expect(isDue('03:30', last, day(11, 3, 29))).toBe(false);
    expect(isDue('03:30', last, day(11, 3, 30))).toBe(true);
    expect(isDue('03:30', last, day(11, 12))).toBe(true);
  });
});
