import { mkdirSync, rmSync } from 'node:fs';
import { join } from 'node:path';
import { parseArgs } from 'node:util';

import { backUpEachNight } from './lib/nightly.mjs';
import { ensureBuild } from './lib/build.mjs';
import { readConfig } from './lib/config.mjs';
import { keepDatabase } from './lib/database.mjs';
import { portIsFree } from './lib/exec.mjs';
import { keep, sayWhoRuns, stopsInTurn, whoRuns } from './lib/keep.mjs';
import { mustNotBeHalfRestored } from './lib/restore.mjs';
import { say, run, Trouble } from './lib/say.mjs';
import { prepareTables, runCommand, startServer } from './lib/server.mjs';
import { ensureNodeModules } from './lib/setup.mjs';

/**
 * Runs a server with its own data, and nothing invented: `npm start [-- --config FILE]`. What it goes by stands in docs/operations.md.
 * Its database and its server are started again where they end by themselves; Ctrl-C or a signal stops both.
 */
const { values: asked } = parseArgs({ options: { config: { type: 'string' } } });

await run(async () => {
  const config = readConfig({ file: asked.config });
  const { data, listen, origin } = config;
  mkdirSync(data, { recursive: true, mode: 0o700 });
  const lock = join(data, 'running');
  const other = await whoRuns(lock);
  if (other) throw new Trouble(`A server with the data in ${data} is running already (process ${other.pid}).`);
  if (!(await portIsFree(listen.port, listen.host)))
    throw new Trouble(`Port ${listen.port} of ${listen.host} is taken. Say another: BAUMKIN_LISTEN=${listen.host}:…`);
  mustNotBeHalfRestored(data);
  sayWhoRuns(lock);

  const { undo, stopAll } = stopsInTurn(() => rmSync(lock, { force: true }));
  try {
    await ensureNodeModules();
    await ensureBuild();
    const { databaseUrl } = config;
    /** @type {{ stop: () => Promise<void> } | null} */
    let server = null;
    const url = databaseUrl ? () => databaseUrl : await keepDatabase(join(data, 'db'), undo, () => void server?.stop());
    await prepareTables(url());
    const kept = await keep(
      'server',
      () => startServer({ databaseUrl: url(), demo: false, ...listen, origin, more: config.server }),
      (now) => {
        server = now;
        sayWhoRuns(lock, now);
      }
    );
    undo.push(kept.stop, backUpEachNight(url, config));
    const first = await runCommand(url(), 'first-link');
    say(
      `\nBaumkin is ready: ${origin}\n${first && `The first account is made at ${origin}${first} (within 48 hours; a new start makes another link).\n`}Its data lies in ${data}${databaseUrl ? ' and in the database that DATABASE_URL names' : ''}.\nCtrl-C stops it.\n`
    );
  } catch (error) {
    await stopAll();
    throw error;
  }
});
