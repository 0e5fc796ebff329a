import { spawn } from 'node:child_process';

import { ensureBuild } from './lib/build.mjs';
import { startDatabase } from './lib/database.mjs';
import { root } from './lib/paths.mjs';
import { run } from './lib/say.mjs';
import { demoSignIn, prepareDemo } from './lib/server.mjs';
import { ensureNodeModules } from './lib/setup.mjs';

/** The development server on the demo's database, with the source as it stands. */
await run(async () => {
  await ensureNodeModules();
  await ensureBuild();
  const database = await startDatabase('db');
  await prepareDemo(database.url);
  const vite = spawn('npm', ['run', '--silent', 'dev', '-w', 'web', '--', '--host', '127.0.0.1'], {
    cwd: root,
    stdio: 'inherit',
    env: { ...process.env, DATABASE_URL: database.url, BAUMKIN_DEMO: JSON.stringify(demoSignIn) }
  });
  for (const signal of ['SIGINT', 'SIGTERM', 'SIGHUP']) process.on(signal, () => vite.kill('SIGTERM'));
  await new Promise((done) => vite.on('exit', done));
  await database.stop();
});
