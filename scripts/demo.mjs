import { mkdirSync, rmSync } from 'node:fs';
import { join } from 'node:path';
import { parseArgs } from 'node:util';

import { ensureBuild } from './lib/build.mjs';
import { keepDatabase } from './lib/database.mjs';
import { freePort, pause } from './lib/exec.mjs';
import { keep, sayWhoRuns, stopsInTurn, whoRuns } from './lib/keep.mjs';
import { stateDir } from './lib/paths.mjs';
import { say, run, Trouble } from './lib/say.mjs';
import { demoSignIn, prepareDemo, prepareTables, startServer } from './lib/server.mjs';
import { ensureNodeModules } from './lib/setup.mjs';

/**
 * Sets up whatever is missing, starts the database and the server with the demo bush, and stops both on Ctrl-C. With `--lan` phones in
 * the same network reach it, by TLS: without the demo's accounts, whose password everybody knows, unless `--demo` asks for them.
 */
const { values: asked } = parseArgs({
  options: {
    lan: { type: 'boolean', default: false },
    demo: { type: 'boolean', default: false },
    /** a name that the host is reached by, beside its own */
    name: { type: 'string', multiple: true, default: [] },
    /** where phones are listened for */
    listen: { type: 'string', default: '0.0.0.0' },
    port: { type: 'string', default: '4790' }
  }
});
const withDemo = !asked.lan || asked.demo;
const WISHED_PORT = Number(process.env.PORT ?? 4780);
const lock = join(stateDir, 'demo.json');

await run(async () => {
  mkdirSync(stateDir, { recursive: true });
  await waitForTheOther();
  sayWhoRuns(lock);

  const { undo, stopAll } = stopsInTurn(() => rmSync(lock, { force: true }));
  try {
    await ensureNodeModules();
    await ensureBuild();
    /** @type {{ stop: () => Promise<void> } | null} */
    let running = null;
    const url = await keepDatabase('db', undo, () => void running?.stop());
    const told = withDemo ? await prepareDemo(url()) : '';
    if (!withDemo) await prepareTables(url());
    const port = await freePort(WISHED_PORT);
    if (port !== WISHED_PORT) say(`Port ${WISHED_PORT} is taken; using ${port}.`);
    // Only now: on a fresh machine its package has just been installed.
    const { startStandins } = await import('../standins/index.mjs');
    const standins = await startStandins(freePort);
    undo.push(standins.stop);
    const { devices, weather } = standins;
    const start = () => startServer({ databaseUrl: url(), port, demo: withDemo, devices, weather, fronted: asked.lan });
    const kept = await keep('server', start, (now) => {
      running = now;
      sayWhoRuns(lock, now);
    });
    undo.push(kept.stop);
    const { origin } = kept.now();
    const phones = asked.lan ? await openToPhones(origin, undo) : null;
    const pages = [...devices, ...weather]
      .map(({ name, url }) => `The ${name}: ${url.replace('ws:', 'http:')}`)
      .join('\n');
    const account = withDemo ? `demo sign-in: ${demoSignIn.name} / ${demoSignIn.password}\n` : '';
    say(`\nBaumkin is ready: ${phones ?? origin}\n${told && `${told}\n`}${account}${pages}\nCtrl-C stops it.\n`);
  } catch (error) {
    await stopAll();
    throw error;
  }
});

/**
 * Lets phones of the same network in.
 * @param {string} target where the server listens
 * @param {(() => Promise<void>)[]} undo what is to be stopped again
 * @returns what is told: the address, how to come in, and what to compare
 */
async function openToPhones(target, undo) {
  // Only now: on a fresh machine their packages have just been installed.
  const { namesOfHost, startFront } = await import('./lib/lanFront.mjs');
  const { codeForTerminal } = await import('./lib/lanPages.mjs');
  const { authorityFor } = await import('./lib/authority.mjs');
  const host = namesOfHost();
  const names = [...asked.name, ...host.names].map((name) => name.toLowerCase());
  const { addresses } = host;
  const tls = await authorityFor({ folder: join(stateDir, 'lan'), names, addresses });
  const port = await freePort(Number(asked.port));
  const front = await startFront({
    port,
    listen: asked.listen,
    target,
    names,
    addresses,
    preferred: asked.name[0]?.toLowerCase(),
    tls
  });
  undo.push(front.stop);
  const entrance = front.address.replace('https:', 'http:');
  return `${front.address}
New phones first: ${entrance}
${await codeForTerminal(entrance)}
The fingerprint that phones compare before they trust (until ${tls.until.toISOString().slice(0, 10)}):
${tls.fingerprint}${tls.made ? '\nIt is a new one: phones have to trust it once, and may forget the one before.' : ''}`;
}

/** One demo to a checkout: says where it runs; waits for one that is just stopping. */
async function waitForTheOther() {
  for (let i = 0; i < 100; i++) {
    const other = await whoRuns(lock);
    if (!other) return;
    const answers = other.origin && (await fetch(`${other.origin}/health`).catch(() => null))?.ok;
    if (answers)
      throw new Trouble(
        `The demo is running already, at ${other.origin} (process ${other.pid}). Stop it there with Ctrl-C.`
      );
    await pause(200);
  }
  throw new Trouble('Another start of the demo in this folder is still busy. Wait for it, or end it, and try again.');
}
