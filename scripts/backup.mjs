import { createWriteStream, mkdirSync, renameSync, rmSync } from 'node:fs';
import { dirname, join, resolve } from 'node:path';
import { parseArgs } from 'node:util';
import { createGzip } from 'node:zlib';

import { backUp } from './lib/backups.mjs';
import { ensureBuild } from './lib/build.mjs';
import { readConfig } from './lib/config.mjs';
import { withDatabase } from './lib/ownDatabase.mjs';
import { say, run } from './lib/say.mjs';
import { pipeCommand } from './lib/server.mjs';
import { ensurePrograms } from './lib/setup.mjs';

/**
 * Makes a backup of a server, which may run meanwhile: `npm run backup`. With `-- --bush NAME` the archive of one bush, which another
 * server reads too; `--to FILE` says where.
 */
const { values: asked } = parseArgs({
  options: { config: { type: 'string' }, bush: { type: 'string' }, to: { type: 'string' } }
});

/** @param {number} bytes */
const megabytes = (bytes) => (bytes / 1_000_000).toFixed(1);

await run(async () => {
  const config = readConfig({ file: asked.config });
  await ensurePrograms(['mariadb', 'mariadb-dump', 'mariadbd', 'mariadb-install-db']);
  const { bush } = asked;
  if (bush === undefined) {
    const { file, bytes, tables } = await withDatabase(config, (url) => backUp(url, config));
    const rows = Object.values(tables).reduce((sum, table) => sum + table.rows, 0);
    say(`${join(config.backups, file)}: ${rows} rows, ${megabytes(bytes)} MB, read back on trial.`);
    return;
  }
  await ensureBuild();
  const day = new Date().toISOString().slice(0, 10);
  const to = resolve(asked.to ?? join(config.backups, `${bush.replace(/[^\p{L}\p{N}]+/gu, '-')}-${day}.json.gz`));
  mkdirSync(dirname(to), { recursive: true, mode: 0o700 });
  try {
    const packed = createGzip();
    const file = createWriteStream(`${to}.part`, { mode: 0o600 });
    const written = new Promise((done, failed) => packed.pipe(file).on('finish', done).on('error', failed));
    await withDatabase(config, (url) => pipeCommand(url, ['archive', bush], { to: packed }));
    await written;
    renameSync(`${to}.part`, to);
  } finally {
    rmSync(`${to}.part`, { force: true });
  }
  say(`${to}: all of "${bush}".`);
});
