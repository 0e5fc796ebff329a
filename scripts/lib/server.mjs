import { spawn } from 'node:child_process';
import { once } from 'node:events';
import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import { pipeline } from 'node:stream/promises';

import { exec, pause, STARTS_WITHIN_MS, stop } from './exec.mjs';
import { cliEntry, demoEntry, root, serverEntry } from './paths.mjs';
import { Trouble } from './say.mjs';

const invented = JSON.parse(readFileSync(join(root, 'demo/people.json'), 'utf8'));
const { signInName: name, password } = invented.people[0];
/** Whom the sign-in page of a demo offers to sign in as. */
export const demoSignIn = { bush: invented.bush, name, password };

/**
 * Brings the tables up to date and loads the demo bush.
 * @param {string} databaseUrl
 * @returns what the loader says; empty where the bush was there already
 */
export async function prepareDemo(databaseUrl) {
  await prepareTables(databaseUrl);
  return runOn(databaseUrl, demoEntry);
}

/** Brings the tables up to date. @param {string} databaseUrl */
export const prepareTables = (databaseUrl) => runCommand(databaseUrl, 'migrate');

/** Runs a command of the operator's beside the server. @param {string} databaseUrl @param {string[]} command @returns what it says */
export const runCommand = (databaseUrl, ...command) => runOn(databaseUrl, cliEntry, ...command);

/**
 * Runs a command of the operator's that takes or gives more than a few lines.
 * @param {string} databaseUrl
 * @param {string[]} command
 * @param {{ from?: NodeJS.ReadableStream, to?: NodeJS.WritableStream }} streams
 * @returns what it says; nothing where that goes `to` somewhere
 */
export async function pipeCommand(databaseUrl, command, { from, to }) {
  const child = spawn('node', [cliEntry, ...command], {
    stdio: [from ? 'pipe' : 'ignore', 'pipe', 'pipe'],
    env: { ...process.env, DATABASE_URL: databaseUrl }
  });
  const ended = once(child, 'close');
  let [said, wrong] = ['', ''];
  child.stderr?.on('data', (chunk) => (wrong += chunk));
  if (!to) child.stdout?.on('data', (chunk) => (said += chunk));
  const moved = await Promise.allSettled([
    from && child.stdin ? pipeline(from, child.stdin) : null,
    to && child.stdout ? pipeline(child.stdout, to) : null
  ]);
  const [code] = await ended;
  if (code !== 0) throw new Trouble(wrong.trim());
  const broken = moved.find((each) => each.status === 'rejected');
  if (broken) throw broken.reason;
  return said.trim();
}

/** @param {string} databaseUrl @param {string[]} entry @returns what it says */
async function runOn(databaseUrl, ...entry) {
  const result = await exec('node', entry, { quiet: true, env: { DATABASE_URL: databaseUrl } });
  if (result.code === 0) return result.output.trim();
  throw new Trouble(`That did not work on the database:\n${result.output.slice(-2000)}`);
}

/**
 * Starts the production server on loopback and waits until it answers.
 * @param {{ databaseUrl: string, port: number, host?: string, origin?: string, more?: Record<string, string>, demo: boolean, today?: string, devices?: object[], weather?: object[], quiet?: boolean, fronted?: boolean }} options
 *   `origin`: as people type it, where it is another than that of the port; `more`: what the server reads besides;
 *   `fronted`: something before it speaks TLS, and says under which name and for whom it was asked
 */
export async function startServer(options) {
  const { databaseUrl, port, demo, today, devices = [], weather = [], quiet = false, fronted = false } = options;
  const { host = '127.0.0.1', more = {} } = options;
  const here = `http://${/^(0\.0\.0\.0|::)$/.test(host) ? '127.0.0.1' : host.includes(':') ? `[${host}]` : host}:${port}`;
  const origin = options.origin ?? here;
  const child = spawn('node', [serverEntry], {
    detached: true,
    stdio: ['ignore', 'ignore', quiet ? 'ignore' : 'inherit'],
    env: {
      ...process.env,
      NODE_ENV: 'production',
      HOST: host,
      PORT: String(port),
      ...(fronted
        ? { HOST_HEADER: 'x-forwarded-host', PROTOCOL_HEADER: 'x-forwarded-proto', ADDRESS_HEADER: 'x-forwarded-for' }
        : { ORIGIN: origin }),
      DATABASE_URL: databaseUrl,
      // Each route sets its own limit and says so; an archive has none.
      BODY_SIZE_LIMIT: 'Infinity',
      // Browsers hold connections open; do not wait for them when stopping.
      SHUTDOWN_TIMEOUT: '1',
      // Longer than browsers and proxies keep an idle connection (about a minute), seconds: whoever sends on one must not find
      // it just being closed.
      KEEP_ALIVE_TIMEOUT: '75',
      BAUMKIN_DEMO: demo ? JSON.stringify(demoSignIn) : '',
      // The demo is there to be looked at: by whoever comes, in copies that end by themselves.
      ...(demo ? { BAUMKIN_EXAMPLE: invented.bushId, BAUMKIN_GUESTS: '1', BAUMKIN_SIGN_UPS: '1000' } : {}),
      BAUMKIN_DEVICES: JSON.stringify(devices),
      // The simulated thermometer hangs at the invented sugarhouse, and nowhere else.
      BAUMKIN_WEATHER: JSON.stringify(demo ? weather.map((each) => ({ ...each, bush: invented.bushId })) : weather),
      ...(today ? { BAUMKIN_TODAY: today } : {}),
      ...more
    }
  });
  let hasEnded = false;
  const ended = once(child, 'exit').then(() => (hasEnded = true));
  const deadline = Date.now() + STARTS_WITHIN_MS;
  while (!hasEnded && Date.now() < deadline) {
    const answer = await fetch(`${here}/health`).catch(() => null);
    if (answer?.ok)
      return {
        origin,
        pid: child.pid,
        ended: () => ended,
        stop: () => stop(/** @type {number} */ (child.pid))
      };
    await pause(100);
  }
  if (child.pid && !hasEnded) await stop(child.pid);
  throw new Trouble('The server did not start; its message stands above.');
}
