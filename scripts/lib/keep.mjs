import { existsSync, readFileSync, rmSync, writeFileSync } from 'node:fs';

import { isAlive, pause, stop } from './exec.mjs';
import { serverEntry } from './paths.mjs';
import { say } from './say.mjs';

/**
 * @typedef {object} Running something that was started
 * @property {() => Promise<unknown>} ended waits until it ends, for whatever reason
 * @property {() => Promise<void>} stop
 */

/** Between an end and the next start, ms; it doubles with each that comes soon after. */
const FIRST_PAUSE_MS = 500;
const LONGEST_PAUSE_MS = 30_000;
/** What ran for so long ended for a reason of its own, ms. */
const STEADY_MS = 60_000;

/**
 * Keeps something running: what ends by itself is started again, after a pause that grows while it does not stay up.
 * @template {Running} T
 * @param {string} name as people call it
 * @param {() => Promise<T>} start
 * @param {(running: T) => void} [told] called each time it has started
 * @returns {Promise<{ now: () => T, stop: () => Promise<void> }>}
 * @throws what the first start throws: what never ran is not tried again
 */
export async function keep(name, start, told = () => undefined) {
  let running = await start();
  told(running);
  let stopping = false;
  const watching = (async () => {
    let wait = FIRST_PAUSE_MS;
    for (let since = Date.now(); ; since = Date.now()) {
      await running.ended();
      if (stopping) return;
      if (Date.now() - since > STEADY_MS) wait = FIRST_PAUSE_MS;
      say(`The ${name} ended by itself. Starting it again; what people write meanwhile is kept on their devices.`);
      for (let up = false; !up && !stopping;) {
        for (let left = wait; left > 0 && !stopping; left -= 100) await pause(100);
        wait = Math.min(2 * wait, LONGEST_PAUSE_MS);
        if (stopping) return;
        up = await start().then(
          (again) => {
            running = again;
            return true;
          },
          (/** @type {Error} */ error) => {
            say(`The ${name} did not start: ${error.message}`);
            return false;
          }
        );
      }
      if (stopping) return void (await running.stop());
      told(running);
      say(`The ${name} runs again.`);
    }
  })();
  return {
    now: () => running,
    stop: async () => {
      stopping = true;
      await running.stop();
      await watching;
    }
  };
}

/**
 * Stops what was started, once, in turn from the last to the first, when a signal says so or whoever has it asks.
 * @param {() => void} [after] done at the end
 */
export function stopsInTurn(after = () => undefined) {
  /** @type {(() => Promise<void>)[]} */
  const undo = [];
  /** @type {Promise<void> | undefined} */
  let stopping;
  // However many reasons there are to stop, everything is stopped once, in order, and all wait for it.
  const stopAll = () =>
    (stopping ??= (async () => {
      for (const step of undo.reverse()) await step();
      after();
    })());
  for (const signal of ['SIGINT', 'SIGTERM', 'SIGHUP'])
    process.on(signal, () => void stopAll().then(() => process.exit(0)));
  return { undo, stopAll };
}

/**
 * One start to a folder: a file that says who runs there.
 * @param {string} file
 * @returns what was said by whoever wrote it, where she runs still; what one that was killed outright left behind is ended
 */
export async function whoRuns(file) {
  const said = existsSync(file) ? readFileSync(file, 'utf8') : '';
  if (said === '') return null;
  /** @type {{ pid: number, origin?: string, serverPid?: number }} */
  const other = JSON.parse(said);
  if (isAlive(other.pid) && commandOf(other.pid).includes('scripts/')) return other;
  const { serverPid } = other;
  // It would hold the port.
  if (serverPid && isAlive(serverPid) && commandOf(serverPid).includes(serverEntry)) await stop(serverPid);
  rmSync(file, { force: true });
  return null;
}

/** @param {string} file @param {{ origin?: string, pid?: number }} [server] that was started */
export function sayWhoRuns(file, server) {
  writeFileSync(file, JSON.stringify({ pid: process.pid, origin: server?.origin, serverPid: server?.pid }));
}

/** @param {number} pid */
const commandOf = (pid) => (existsSync(`/proc/${pid}/cmdline`) ? readFileSync(`/proc/${pid}/cmdline`, 'utf8') : '');
