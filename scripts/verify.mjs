import { join, resolve } from 'node:path';
import { parseArgs } from 'node:util';

import { backupsIn, check } from './lib/backups.mjs';
import { readConfig } from './lib/config.mjs';
import { say, run, Trouble } from './lib/say.mjs';
import { ensurePrograms } from './lib/setup.mjs';

/** Reads a backup back on trial, the newest unless a file is said: `npm run verify [-- FILE]`. Nothing of a server is touched. */
const { values: asked, positionals } = parseArgs({ options: { config: { type: 'string' } }, allowPositionals: true });

await run(async () => {
  const config = readConfig({ file: asked.config });
  await ensurePrograms(['mariadb', 'mariadb-dump', 'mariadbd', 'mariadb-install-db']);
  const [newest] = backupsIn(config.backups);
  if (!positionals[0] && !newest) throw new Trouble(`There is no backup in ${config.backups}.`);
  const path = resolve(positionals[0] ?? join(config.backups, newest.file));
  const { madeAt, tables } = await check(path, config.data);
  const rows = Object.values(tables).reduce((sum, table) => sum + table.rows, 0);
  say(`${path}: read back on trial, ${rows} rows as they were at ${madeAt}.`);
});
