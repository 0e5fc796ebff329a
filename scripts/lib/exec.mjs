import { spawn } from 'node:child_process';
import { createServer } from 'node:net';

import { root } from './paths.mjs';

/**
 * Runs a command to its end.
 * @param {string} command
 * @param {string[]} args
 * @param {{ quiet?: boolean, env?: Record<string, string>, cwd?: string, input?: string }} [options]
 * @returns {Promise<{ code: number, output: string }>} `output` holds stdout and stderr when quiet
 */
export function exec(command, args, options = {}) {
  return new Promise((done) => {
    const child = spawn(command, args, {
      cwd: options.cwd ?? root,
      env: { ...process.env, ...options.env },
      stdio: [
        options.input === undefined ? 'ignore' : 'pipe',
        options.quiet ? 'pipe' : 'inherit',
        options.quiet ? 'pipe' : 'inherit'
      ]
    });
    let output = '';
    child.stdout?.on('data', (chunk) => (output += chunk));
    child.stderr?.on('data', (chunk) => (output += chunk));
    if (options.input !== undefined) child.stdin?.end(options.input);
    child.on('error', (error) => done({ code: 127, output: String(error) }));
    child.on('close', (code, signal) => done({ code: code ?? (signal ? 1 : 0), output }));
  });
}

/**
 * Is nothing listening on this port yet?
 * @param {number} port
 * @param {string} [host] loopback by default
 * @returns {Promise<boolean>}
 */
export function portIsFree(port, host = '127.0.0.1') {
  return new Promise((done) => {
    const probe = createServer();
    probe.once('error', () => done(false));
    probe.listen(port, host, () => probe.close(() => done(true)));
  });
}

/**
 * The first free port at or after the wished one.
 * @param {number} wished
 */
export async function freePort(wished) {
  for (let port = wished; port < wished + 50; port++) if (await portIsFree(port)) return port;
  throw new Error(`no free port between ${wished} and ${wished + 49}`);
}

/** @param {number} pid */
export function isAlive(pid) {
  try {
    process.kill(pid, 0);
    return true;
  } catch (error) {
    return /** @type {NodeJS.ErrnoException} */ (error).code === 'EPERM';
  }
}

/**
 * Ends a process politely, then firmly.
 * @param {number} pid
 * @param {number} patienceMs
 */
export async function stop(pid, patienceMs = 15_000) {
  if (!isAlive(pid)) return;
  process.kill(pid, 'SIGTERM');
  const deadline = Date.now() + patienceMs;
  while (isAlive(pid) && Date.now() < deadline) await pause(50);
  if (isAlive(pid)) process.kill(pid, 'SIGKILL');
}

/**
 * How long a program may take to come up, milliseconds, before it counts as hung: an old machine that is busy takes minutes, and one
 * that has ended is noticed at once.
 */
export const STARTS_WITHIN_MS = 300_000;

/** @param {number} ms */
export const pause = (ms) => new Promise((done) => setTimeout(done, ms));
