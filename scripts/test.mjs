import { mkdirSync, readdirSync, readFileSync, rmSync } from 'node:fs';
import { join } from 'node:path';

import { ensureBuild } from './lib/build.mjs';
import { startDatabase } from './lib/database.mjs';
import { exec, freePort } from './lib/exec.mjs';
import { root, stateDir } from './lib/paths.mjs';
import { say, run } from './lib/say.mjs';
import { prepareDemo, startServer } from './lib/server.mjs';
import { ensureNodeModules, ensurePrograms } from './lib/setup.mjs';

/**
 * Everything that has to hold before a change lands, in one run on a fresh machine: formatting, lint, types, core tests,
 * server tests against a real MariaDB, the build, and the interface in Chromium. Ends with one line of counts.
 */
const tally = { passed: 0, failed: 0 };
/** The day on which the interface tests take place. */
const TODAY = '2026-11-23';

/** The interface tests that take about as long as all the others together. */
const SECOND_LANE = ['bench', 'offline', 'own-trees', 'path', 'thin'];

/** @param {string} name @param {string} command @param {string[]} args @param {Record<string, string>} [env] */
async function step(name, command, args, env) {
  const begun = Date.now();
  const { code, output } = await exec(command, args, { quiet: true, env });
  say(`${code === 0 ? 'ok    ' : 'FAILED'} ${name} (${((Date.now() - begun) / 1000).toFixed(1)} s)`);
  if (code !== 0) say(output);
  return code === 0;
}

/** A check that is one thing to pass. @param {Parameters<typeof step>} args */
async function check(...args) {
  if (await step(...args)) tally.passed += 1;
  else tally.failed += 1;
}

/** @param {(() => Promise<void>)[]} steps */
async function inTurn(...steps) {
  for (const each of steps) await each();
}

/** @param {string} report a JSON report of Vitest; its tests are counted one by one */
function countVitest(report, ok = true) {
  const { numPassedTests, numFailedTests } = readReport(report) ?? { numPassedTests: 0, numFailedTests: 0 };
  tally.passed += numPassedTests;
  tally.failed += numFailedTests;
  if (!ok && numFailedTests === 0) tally.failed += 1;
}

/** @param {string} report */
function readReport(report) {
  try {
    return JSON.parse(readFileSync(report, 'utf8'));
  } catch {
    return null;
  }
}

await run(async () => {
  mkdirSync(stateDir, { recursive: true });
  await ensurePrograms(['mariadbd', 'mariadb-install-db', 'mariadb-admin', 'chromium']);
  await ensureNodeModules();
  const report = (/** @type {string} */ name) => {
    const file = join(stateDir, `${name}.json`);
    rmSync(file, { force: true });
    return file;
  };

  // Two at a time: neither waits for anything but the processor.
  await Promise.all([
    inTurn(
      () => check('types and templates: web', 'npm', ['run', '--silent', 'check', '-w', 'web']),
      () => check('types: core', 'npx', ['tsc', '-p', 'core']),
      () => check('types: core tests', 'npx', ['tsc', '-p', 'core/tsconfig.test.json']),
      () => check('types: end-to-end tests', 'npx', ['tsc', '-p', 'e2e'])
    ),
    inTurn(
      () => check('lint', 'npx', ['eslint', '.']),
      () => check('formatting', 'npx', ['prettier', '--check', '.']),
      () => check('types: service worker', 'npx', ['tsc', '-p', 'web/tsconfig.worker.json'])
    )
  ]);

  const core = report('core');
  countVitest(
    core,
    await step('core tests', 'npx', [
      'vitest',
      'run',
      '--root',
      'core',
      '--reporter=default',
      '--reporter=json',
      `--outputFile.json=${core}`
    ])
  );

  const database = await startDatabase('test-db');
  /** @type {Awaited<ReturnType<typeof startServer>>[]} */
  const servers = [];
  /** @type {{ devices: object[], stop: () => Promise<void> } | undefined} */
  let standins;
  for (const signal of ['SIGINT', 'SIGTERM'])
    process.once(signal, async () => {
      await Promise.all(servers.map((server) => server.stop()));
      await database.stop();
      process.exit(130);
    });
  try {
    const web = report('web');
    countVitest(
      web,
      await step(
        'server tests',
        'npx',
        ['vitest', 'run', '--root', 'web', '--reporter=default', '--reporter=json', `--outputFile.json=${web}`],
        { DATABASE_URL: database.url }
      )
    );
    await ensureBuild();
    const starts = report('starts');
    countVitest(
      starts,
      await step('starting and stopping', 'npx', [
        'vitest',
        'run',
        '--root',
        'scripts',
        '--reporter=default',
        '--reporter=json',
        `--outputFile.json=${starts}`
      ])
    );
    // Only now: on a fresh machine its package has just been installed.
    const { startStandins } = await import('../standins/index.mjs');
    standins = await startStandins(freePort);
    const { devices } = standins;
    const files = readdirSync(join(root, 'e2e')).filter((name) => name.endsWith('.spec.ts'));
    const second = (/** @type {string} */ name) => SECOND_LANE.includes(name.replace('.spec.ts', ''));
    // Two lanes, each with a demo bush of its own, fresh from its generator. The same files always run in the same order.
    const lanes = [];
    for (const lane of [0, 1]) {
      const databaseUrl = await database.reset(`_lane${lane}`);
      await prepareDemo(databaseUrl);
      const port = await freePort(4790);
      const server = await startServer({ databaseUrl, port, demo: true, today: TODAY, devices });
      servers.push(server);
      lanes.push({ lane, server, files: files.sort().filter((name) => second(name) === (lane === 1)) });
    }
    await Promise.all(
      lanes.map(async ({ lane, server, files: own }) => {
        const e2e = report(`e2e-${lane}`);
        const ok = await step(
          `interface tests in Chromium: ${own.map((name) => name.replace('.spec.ts', '')).join(', ')}`,
          'npx',
          ['playwright', 'test', '-c', 'e2e/playwright.config.ts', ...own],
          { BAUMKIN_URL: server.origin, BAUMKIN_LANE: String(lane) }
        );
        const stats = readReport(e2e)?.stats ?? { expected: 0, unexpected: 0, flaky: 0 };
        tally.passed += stats.expected + stats.flaky;
        tally.failed += stats.unexpected;
        if (!ok && stats.unexpected === 0) tally.failed += 1;
      })
    );
  } finally {
    await Promise.all(servers.map((server) => server.stop()));
    await standins?.stop();
    await database.stop();
  }
});

if (process.exitCode) tally.failed += 1;
say(`\n${tally.passed} passed, ${tally.failed} failed`);
process.exitCode = tally.failed > 0 ? 1 : 0;
