import { spawn } from 'node:child_process';
import { once } from 'node:events';
import { join } from 'node:path';

import { pause, STARTS_WITHIN_MS } from '../lib/exec.mjs';
import { root } from '../lib/paths.mjs';

/** What a test that starts the demo may take: a first start and a second, and their ends. */
export const STARTS_MS = 2 * STARTS_WITHIN_MS;

/** Starts `npm run demo`. @param {string[]} args @param {Record<string, string | undefined>} env where its state lies, its port */
export const startDemo = (args, env) => startScript('demo.mjs', args, env);

/** Starts a script of this checkout. @param {string} script @param {string[]} args @param {Record<string, string | undefined>} env */
export const startScript = (script, args, env) => startCommand('node', [join(root, 'scripts', script), ...args], env);

/**
 * Starts a command as somebody at a keyboard does.
 * @param {string} command
 * @param {string[]} args
 * @param {Record<string, string | undefined>} env beside that of the tests
 * @param {string} [cwd]
 */
export function startCommand(command, args, env, cwd = root) {
  const child = spawn(command, args, {
    cwd,
    env: { ...process.env, ...env },
    stdio: ['ignore', 'pipe', 'pipe']
  });
  let output = '';
  child.stdout.on('data', (chunk) => (output += chunk));
  child.stderr.on('data', (chunk) => (output += chunk));
  const ended = once(child, 'exit');
  const hasEnded = () => child.exitCode !== null || child.signalCode !== null;
  return {
    pid: /** @type {number} */ (child.pid),
    output: () => output,
    /** waits until it says so, or has ended; what it said */
    until: async (/** @type {string | RegExp} */ text) => {
      for (const given = Date.now() + STARTS_WITHIN_MS; !hasEnded() && !output.match(text) && Date.now() < given;)
        await pause(100);
      return output;
    },
    /** ends it by a signal, or waits for it to end by itself; its exit code */
    end: async (/** @type {NodeJS.Signals | undefined} */ signal) => {
      if (!hasEnded() && signal) child.kill(signal);
      await ended;
      return child.exitCode;
    }
  };
}

/** A server's own settings alone: what the tests themselves go by is none of them. @returns {Record<string, undefined>} */
export const ownSettings = () =>
  Object.fromEntries(
    Object.keys(process.env).flatMap((name) => (name.startsWith('BAUMKIN_') ? [[name, undefined]] : []))
  );
