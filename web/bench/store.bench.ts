import { randomUUID } from 'node:crypto';
import { mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import * as mariadb from 'mariadb';
import { QueryTypes } from 'sequelize';
import { afterAll, beforeAll, bench, describe } from 'vitest';

import { createAccount } from '../src/lib/server/accounts.ts';
import { bushFor, createBush } from '../src/lib/server/bushes.ts';
import { migrate, tables } from '../src/lib/server/db/index.ts';
import { importFile } from '../src/lib/server/importTrees.ts';
import { bushRecordsOf } from '../src/lib/server/records.ts';
import { treeRows } from '../test/treeRows.ts';
import { emptyDatabase } from '../test/database.ts';

/**
 * A file of 20,000 trees with two holes each: 160,000 rows in the tables. Stored by the import, which reads, checks,
 * plans and keeps them, and by the database's own bulk load of the same rows, ready made.
 */
const TREES = 20_000;
const FILE = `tag,species,girth_cm,east_m,north_m,holes\n${Array.from({ length: TREES }, (_, i) => `${i},sugar maple,${90 + (i % 80)},${(i % 141) * 5},${Math.floor(i / 141) * 5},2024:${i % 360}:95;2025:${(i + 90) % 360}:110`).join('\n')}`;
const TABLES = ['trees', 'entries', 'places', 'determinations', 'readings', 'tapholes'];
const ONCE = { iterations: 2, time: 0, warmupIterations: 0, warmupTime: 0 };

let database: Awaited<ReturnType<typeof emptyDatabase>>;
let userId = '';
let full = '';
let loader: mariadb.Connection;
const folder = mkdtempSync(join(tmpdir(), 'baumkin-bench-'));
/** the rows of each table as text, with ids to be made other */
const rows = new Map<string, { columns: string[]; text: string }>();

async function emptyBush() {
  const id = await createBush(userId, 'Bench');
  return (await bushFor(userId, id))!;
}
const bring = async (bush: Awaited<ReturnType<typeof emptyBush>>) =>
  importFile(bush, userId, {
    text: FILE,
    defaultUnit: 'cm',
    newTrees: true,
    today: '2026-11-23',
    told: { undatedOn: '2026-11-23' }
  });

beforeAll(async () => {
  database = await emptyDatabase();
  process.env.DATABASE_URL = database.url;
  await migrate(tables().sequelize);
  userId = (await createAccount({ name: 'bench', displayName: 'Bench', password: 'a long enough one' })).id;
  const bush = await emptyBush();
  full = bush.id;
  await bring(bush);
  const { hostname, port, username, password, pathname } = new URL(database.url);
  loader = await mariadb.createConnection({
    host: hostname,
    port: Number(port),
    user: username,
    password,
    database: pathname.slice(1),
    permitLocalInfile: true
  });
  for (const table of TABLES) {
    const found = await tables().sequelize.query<Record<string, unknown>>(`SELECT * FROM ${table} WHERE bushId = ?`, {
      replacements: [full],
      type: QueryTypes.SELECT
    });
    const columns = Object.keys(found[0]!);
    const cell = (value: unknown) =>
      value === null
        ? '\\N'
        : value instanceof Date
          ? value.toISOString().replace('T', ' ').replace('Z', '')
          : typeof value === 'object'
            ? JSON.stringify(value)
            : String(value);
    rows.set(table, { columns, text: found.map((row) => columns.map((c) => cell(row[c])).join('\t')).join('\n') });
  }

  let queries = 0;
  const { sequelize } = tables();
  sequelize.options.logging = () => (queries += 1);
  const begun = performance.now();
  await Promise.all([treeRows(full, 2027, '2026-11-23'), bushRecordsOf(full)]);
  const listed = performance.now() - begun;
  sequelize.options.logging = false;
  console.log(`The list of ${TREES} trees with what is derived of each: ${listed.toFixed(0)} ms, ${queries} queries.`);
}, 300_000);

afterAll(async () => {
  await loader.end();
  await tables().sequelize.close();
  await database.drop();
  rmSync(folder, { recursive: true });
});

describe('20,000 trees stored (wanted: within 2.5 times of the bulk load)', () => {
  bench('the import: read, checked, planned, stored', async () => void (await bring(await emptyBush())), ONCE);
  bench(
    'the database’s own bulk load of the same rows',
    async () => {
      const { id } = await emptyBush();
      // Other ids throughout: the first eight signs of each are turned into others.
      const mark = randomUUID().slice(0, 8);
      for (const table of TABLES) {
        const { columns, text } = rows.get(table)!;
        const fresh = text
          .replaceAll(full, id)
          .replace(/\b[0-9a-f]{8}(-[0-9a-f]{4}-[0-9a-f]{4}-[0-9a-f]{4}-[0-9a-f]{12})/g, (whole, rest: string) =>
            whole === id || whole === userId ? whole : mark + rest
          );
        const file = join(folder, `${table}.tsv`);
        writeFileSync(file, fresh);
        await loader.query(
          `LOAD DATA LOCAL INFILE '${file}' INTO TABLE ${table} (${columns.map((c) => `\`${c}\``).join(', ')})`
        );
      }
    },
    ONCE
  );
});

describe('lists of 20,000 trees', () => {
  bench('every tree’s line, derived', async () => void (await treeRows(full, 2027, '2026-11-23')), ONCE);
  bench(
    'the bare rows, as the database gives them',
    async () => {
      for (const table of TABLES)
        await tables().sequelize.query(`SELECT * FROM ${table} WHERE bushId = ?`, {
          replacements: [full],
          type: QueryTypes.SELECT
        });
    },
    ONCE
  );
});
