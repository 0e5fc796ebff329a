import { existsSync, mkdirSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';

import { ensureBuild } from './lib/build.mjs';
import { startDatabase } from './lib/database.mjs';
import { freePort, isAlive, pause, stop } from './lib/exec.mjs';
import { serverEntry, stateDir } from './lib/paths.mjs';
import { say, run, Trouble } from './lib/say.mjs';
import { demoSignIn, prepareDemo, startServer } from './lib/server.mjs';
import { ensureNodeModules } from './lib/setup.mjs';

/** Sets up whatever is missing, starts the database and the server with the demo bush, and stops both on Ctrl-C. */
const WISHED_PORT = Number(process.env.PORT ?? 4780);
const lock = join(stateDir, 'demo.json');

await run(async () => {
  mkdirSync(stateDir, { recursive: true });
  await waitForTheOther();
  writeFileSync(lock, JSON.stringify({ pid: process.pid }));

  /** @type {(() => Promise<void>)[]} */
  const undo = [];
  /** @type {Promise<void> | undefined} */
  let stopping;
  // However many reasons there are to stop, everything is stopped once, in order, and all wait for it.
  const stopAll = () =>
    (stopping ??= (async () => {
      for (const step of undo.reverse()) await step();
      rmSync(lock, { force: true });
    })());
  const end = (/** @type {number} */ code) => void stopAll().then(() => process.exit(code));
  for (const signal of ['SIGINT', 'SIGTERM', 'SIGHUP']) process.on(signal, () => end(0));

  try {
    await ensureNodeModules();
    await ensureBuild();
    const database = await startDatabase('db');
    undo.push(database.stop);
    const told = await prepareDemo(database.url);
    const port = await freePort(WISHED_PORT);
    if (port !== WISHED_PORT) say(`Port ${WISHED_PORT} is taken; using ${port}.`);
    // Only now: on a fresh machine its package has just been installed.
    const { startStandins } = await import('../standins/index.mjs');
    const standins = await startStandins(freePort);
    undo.push(standins.stop);
    const server = await startServer({ databaseUrl: database.url, port, demo: true, devices: standins.devices });
    undo.push(server.stop);
    writeFileSync(lock, JSON.stringify({ pid: process.pid, origin: server.origin, serverPid: server.pid }));
    server.onExit(() => {
      if (!stopping) say('The server ended by itself.');
      end(1);
    });
    const pages = standins.devices.map(({ name, url }) => `The ${name}: ${url.replace('ws:', 'http:')}`).join('\n');
    say(
      `\nBaumkin is ready: ${server.origin}\n${told && `${told}\n`}demo sign-in: ${demoSignIn.name} / ${demoSignIn.password}\n${pages}\nCtrl-C stops it.\n`
    );
  } catch (error) {
    await stopAll();
    throw error;
  }
});

/** One demo to a checkout: says where it runs; waits for one that is just stopping. */
async function waitForTheOther() {
  for (let i = 0; i < 100; i++) {
    const other = existsSync(lock) ? JSON.parse(readFileSync(lock, 'utf8')) : null;
    if (!other) return;
    if (!isAlive(other.pid)) return endOrphan(other.serverPid);
    const answers = other.origin && (await fetch(`${other.origin}/sign-in`).catch(() => null))?.ok;
    if (answers)
      throw new Trouble(
        `The demo is running already, at ${other.origin} (process ${other.pid}). Stop it there with Ctrl-C.`
      );
    await pause(200);
  }
  throw new Trouble('Another start of the demo in this folder is still busy. Wait for it, or end it, and try again.');
}

/**
 * A demo that was killed outright leaves its server behind; it would hold the port.
 * @param {number | undefined} pid
 */
async function endOrphan(pid) {
  if (!pid || !isAlive(pid)) return;
  if (readFileSync(`/proc/${pid}/cmdline`, 'utf8').includes(serverEntry)) await stop(pid);
}
