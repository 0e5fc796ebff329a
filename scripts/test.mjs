import { mkdirSync, readdirSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
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
 * `npm test -- core server` runs parts of it, and a name from e2e/ (`npm test -- place`) that part of the interface alone.
 * `npm run test:long` runs the long form: every page in every theme, more of all that chance decides, and kills.
 */
const PARTS = ['checks', 'core', 'server', 'starts', 'interface'];
const LONG = process.argv.includes('--long');
if (LONG) process.env.BAUMKIN_LONG = '1';
const asked = process.argv.slice(2).filter((word) => word !== '--long');
const specs = readdirSync(join(root, 'e2e')).flatMap((name) => (name.endsWith('.spec.ts') ? [name.slice(0, -8)] : []));
const unknown = asked.filter((part) => !PARTS.includes(part) && !specs.includes(part));
if (unknown.length > 0) {
  say(
    `There is no part called ${unknown.join(', ')}. There are ${PARTS.join(', ')}, and of the interface ${specs.join(', ')}.`
  );
  process.exit(2);
}
/** Interface tests that run: those that were named, or all. */
const wantedSpecs = asked.some((part) => specs.includes(part)) ? specs.filter((name) => asked.includes(name)) : specs;
/** @param {string} part */
const wants = (part) =>
  asked.length === 0 || asked.includes(part) || (part === 'interface' && asked.some((name) => specs.includes(name)));

const tally = { passed: 0, failed: 0 };
/** The day on which the interface tests take place. */
const TODAY = '2026-11-23';
/** Each test of the interface begins with accounts of its own, all from one address. */
const MANY_SIGN_UPS = { BAUMKIN_SIGN_UPS: '1000' };

/** The interface tests that take about as long as all the others together. */
const SECOND_LANE = ['bench', 'import', 'morning', 'offline', 'own-trees', 'path', 'people', 'thin'];

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

/** @param {(() => Promise<unknown>)[]} steps */
async function inTurn(...steps) {
  for (const each of steps) await each();
}

/** Where a part leaves its report; an older one goes. @param {string} name */
function freshReport(name) {
  const file = join(stateDir, `${name}.json`);
  rmSync(file, { force: true });
  return file;
}

/**
 * What tests of the interface measured on their way, in words.
 * @param {any} report of a run, or a part of one
 * @returns {Set<string>}
 */
function measuredIn(report) {
  const { annotations = [], ...parts } = report ?? {};
  const own = annotations.filter((/** @type {any} */ { type }) => type === 'measured');
  const inner = Object.values(parts)
    .flat()
    .flatMap((each) => (each && typeof each === 'object' ? [...measuredIn(each)] : []));
  return new Set([...own.map((/** @type {any} */ { description }) => description), ...inner]);
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
  if (wants('checks') && !LONG) await checks();
  if (wants('core')) await vitest('core tests', 'core');
  if (!['server', 'starts', 'interface'].some(wants)) return;

  const database = await startDatabase('test-db');
  /** @type {(() => Promise<unknown>)[]} */
  const undo = [database.stop];
  const stopAll = async () => {
    for (const stop of undo.splice(0).reverse()) await stop();
  };
  for (const signal of ['SIGINT', 'SIGTERM'])
    process.once(signal, async () => {
      await stopAll();
      process.exit(130);
    });
  try {
    await Promise.all([
      wants('server') && vitest('server and device tests', 'web', { DATABASE_URL: database.url }),
      inTurn(
        async () => (wants('starts') || wants('interface')) && ensureBuild(),
        async () => wants('starts') && vitest(LONG ? 'starting, stopping, kills' : 'starting and stopping', 'scripts')
      )
    ]);
    if (wants('interface')) await throughTheInterface(database, undo);
  } finally {
    await stopAll();
  }
});

/** Formatting, lint and types, two at a time: neither waits for anything but the processor. */
async function checks() {
  await Promise.all([
    inTurn(
      () => check('types and templates: web', 'npm', ['run', '--silent', 'check', '-w', 'web']),
      () => check('types and build: core', 'npm', ['run', '--silent', 'build', '-w', 'core']),
      () => check('types: core tests', 'npx', ['tsc', '-p', 'core/tsconfig.test.json']),
      () => check('types: end-to-end tests', 'npx', ['tsc', '-p', 'e2e'])
    ),
    inTurn(
      () => check('lint', 'npx', ['eslint', '.']),
      () => check('formatting', 'npx', ['prettier', '--check', '.']),
      () => check('types: service worker', 'npx', ['tsc', '-p', 'web/tsconfig.worker.json'])
    )
  ]);
}

/**
 * The tests of a folder, counted one by one.
 * @param {string} name @param {string} folder @param {Record<string, string>} [env]
 */
async function vitest(name, folder, env) {
  const file = freshReport(folder);
  const args = [
    'vitest',
    'run',
    '--root',
    folder,
    '--reporter=default',
    '--reporter=json',
    `--outputFile.json=${file}`
  ];
  const ok = await step(name, 'npx', args, env);
  const { numPassedTests, numFailedTests } = readReport(file) ?? { numPassedTests: 0, numFailedTests: 0 };
  tally.passed += numPassedTests;
  tally.failed += numFailedTests;
  if (!ok && numFailedTests === 0) tally.failed += 1;
}

/**
 * The real interface in Chromium, in two lanes, each with a demo bush of its own, fresh from its generator. The same files
 * always run in the same order.
 * @param {Awaited<ReturnType<typeof startDatabase>>} database @param {(() => Promise<unknown>)[]} undo
 */
async function throughTheInterface(database, undo) {
  // Only now: on a fresh machine its package has just been installed.
  const { startStandins } = await import('../standins/index.mjs');
  const standins = await startStandins(freePort);
  undo.push(standins.stop);
  const lanes = [];
  for (const lane of [0, 1]) {
    const files = wantedSpecs.filter((name) => SECOND_LANE.includes(name) === (lane === 1)).sort();
    if (files.length === 0) continue;
    const databaseUrl = await database.reset(`_lane${lane}`);
    await prepareDemo(databaseUrl);
    const port = await freePort(4790);
    const server = await startServer({ databaseUrl, port, demo: true, today: TODAY, devices: standins.devices });
    undo.push(server.stop);
    const env = files.some((name) => ['leaks', 'season'].includes(name)) ? await movingClock(databaseUrl, undo) : {};
    lanes.push({ lane, server, files, env });
  }
  await Promise.all(
    lanes.map(async ({ lane, server, files, env }) => {
      const file = freshReport(`e2e-${lane}`);
      const ok = await step(
        `interface tests in Chromium: ${files.join(', ')}`,
        'npx',
        ['playwright', 'test', '-c', 'e2e/playwright.config.ts', ...files.map((name) => `${name}.spec.ts`)],
        { BAUMKIN_URL: server.origin, BAUMKIN_LANE: String(lane), ...env }
      );
      const report = readReport(file);
      const stats = report?.stats ?? { expected: 0, unexpected: 0 };
      for (const told of measuredIn(report)) say(`       ${told}`);
      tally.passed += stats.expected;
      tally.failed += stats.unexpected;
      if (!ok && stats.unexpected === 0) tally.failed += 1;
    })
  );
}

/**
 * A second server on the same database whose day is what a file says, with weather of the same day: a season goes by in one test.
 * @param {string} databaseUrl @param {(() => Promise<unknown>)[]} undo
 * @returns what the test has to know
 */
async function movingClock(databaseUrl, undo) {
  const { startThermometer, startWeatherService } = await import('../standins/weather.mjs');
  const clock = join(stateDir, 'test-clock');
  writeFileSync(clock, '2027-02-10');
  const today = () => readFileSync(clock, 'utf8').trim();
  const service = await startWeatherService(0, today);
  const thermometer = await startThermometer(0, today);
  undo.push(service.stop, thermometer.stop);
  const weather = [
    { kind: 'forecast', name: 'simulated weather service', url: service.url },
    { kind: 'thermometer', name: 'simulated thermometer', url: thermometer.url }
  ];
  const port = await freePort(4890);
  const server = await startServer({
    databaseUrl,
    port,
    demo: false,
    today: `@${clock}`,
    weather,
    more: MANY_SIGN_UPS
  });
  undo.push(server.stop);
  return { BAUMKIN_SEASON_URL: server.origin, BAUMKIN_CLOCK: clock, BAUMKIN_SERVICE: service.url };
}

if (process.exitCode) tally.failed += 1;
say(`\n${LONG ? 'long form: ' : ''}${tally.passed} passed, ${tally.failed} failed`);
process.exitCode = tally.failed > 0 ? 1 : 0;
