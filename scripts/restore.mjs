import { createReadStream, existsSync } from 'node:fs';
import { resolve } from 'node:path';
import { parseArgs } from 'node:util';
import { createGunzip } from 'node:zlib';

import { ensureBuild } from './lib/build.mjs';
import { readConfig } from './lib/config.mjs';
import { withDatabase } from './lib/ownDatabase.mjs';
import { restore } from './lib/restore.mjs';
import { say, run, Trouble } from './lib/say.mjs';
import { pipeCommand } from './lib/server.mjs';
import { ensureNodeModules, ensurePrograms } from './lib/setup.mjs';

/**
 * Reads a backup back into an empty place: `npm run restore -- FILE`. With `--bush FILE --steward SIGN-IN-NAME` the archive of one bush, as
 * a new bush of a server that may run meanwhile.
 */
const { values: asked, positionals } = parseArgs({
  options: { config: { type: 'string' }, bush: { type: 'string' }, steward: { type: 'string' } },
  allowPositionals: true
});

await run(async () => {
  const config = readConfig({ file: asked.config });
  await ensurePrograms(['mariadb', 'mariadb-dump', 'mariadbd', 'mariadb-install-db']);
  await ensureNodeModules();
  await ensureBuild();
  const { bush, steward } = asked;
  if (bush !== undefined) {
    if (!steward) throw new Trouble('Say whose bush it is to be: --steward SIGN-IN-NAME');
    const path = resolve(bush);
    if (!existsSync(path)) throw new Trouble(`There is no file ${path}.`);
    const file = createReadStream(path);
    const from = path.endsWith('.gz') ? file.pipe(createGunzip()) : file;
    say(await withDatabase(config, (url) => pipeCommand(url, ['read-archive', steward], { from })));
    return;
  }
  const [said] = positionals;
  if (!said) throw new Trouble('Say which: npm run restore -- FILE');
  const { madeAt } = await restore(config, resolve(said));
  const where = config.databaseUrl ? 'The database that DATABASE_URL names' : config.data;
  say(`${where} holds all that was written until ${madeAt}. "npm start" runs it.`);
});
