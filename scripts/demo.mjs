import { existsSync, mkdirSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';

import { ensureBuild } from './lib/build.mjs';
import { startDatabase } from './lib/database.mjs';
import { freePort, isAlive, portIsFree } from './lib/exec.mjs';
import { stateDir } from './lib/paths.mjs';
import { say, run, Trouble } from './lib/say.mjs';
import { prepareTables, startServer } from './lib/server.mjs';
import { ensureNodeModules } from './lib/setup.mjs';

/** Sets up whatever is missing, starts the database and the server with the demo bush, and stops both on Ctrl-C. */
const WISHED_PORT = Number(process.env.PORT ?? 4780);
const lock = join(stateDir, 'demo.json');

await run(async () => {
  mkdirSync(stateDir, { recursive: true });
  const running = existsSync(lock) ? JSON.parse(readFileSync(lock, 'utf8')) : null;
  if (running && isAlive(running.pid) && running.origin && !(await portIsFree(running.port))) {
    throw new Trouble(
      `The demo is running already, at ${running.origin} (process ${running.pid}). Stop it there with Ctrl-C.`
    );
  }

  /** @type {(() => Promise<void>)[]} */
  const undo = [];
  let stopping = false;
  const stopAll = async () => {
    if (stopping) return;
    stopping = true;
    for (const step of undo.reverse()) await step();
    rmSync(lock, { force: true });
  };
  const end = (/** @type {number} */ code) => void stopAll().then(() => process.exit(code));
  for (const signal of ['SIGINT', 'SIGTERM', 'SIGHUP']) process.on(signal, () => end(0));

  try {
    await ensureNodeModules();
    await ensureBuild();
    const database = await startDatabase('db');
    undo.push(database.stop);
    const told = await prepareTables(database.url, 'demo');
    const port = await freePort(WISHED_PORT);
    if (port !== WISHED_PORT) say(`Port ${WISHED_PORT} is taken; using ${port}.`);
    const server = await startServer({ databaseUrl: database.url, port, demo: true });
    undo.push(server.stop);
    writeFileSync(lock, JSON.stringify({ pid: process.pid, port, origin: server.origin }));
    server.onExit(() => {
      if (!stopping) say('The server ended by itself.');
      end(1);
    });
    say(`\nBaumkin is ready: ${server.origin}\n${told}\nCtrl-C stops it.\n`);
  } catch (error) {
    await stopAll();
    throw error;
  }
});
