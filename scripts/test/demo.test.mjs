import { existsSync, mkdirSync, mkdtempSync, readdirSync, readFileSync, rmSync } from 'node:fs';
import { createServer } from 'node:net';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { afterAll, afterEach, expect, test, vi } from 'vitest';

import { isAlive } from '../lib/exec.mjs';
import { startDemo, STARTS_MS } from './started.mjs';

/* `npm run demo` as somebody at a keyboard meets it, in a folder of its own. The build stands already. */

vi.setConfig({ testTimeout: STARTS_MS, hookTimeout: STARTS_MS });

const stateDir = mkdtempSync(join(tmpdir(), 'baumkin-start-'));
// Below the ports that the system gives to whoever connects somewhere: one of those may be any.
const PORT = 27980;
/** @type {Set<ReturnType<typeof startDemo>>} */
const started = new Set();

afterEach(async () => {
  for (const demo of started) await demo.end('SIGINT');
  started.clear();
});
afterAll(() => rmSync(stateDir, { recursive: true, force: true }));

function start() {
  const demo = startDemo([], { BAUMKIN_STATE_DIR: stateDir, PORT: String(PORT) });
  started.add(demo);
  return demo;
}

/** Processes that belong to this test's demo. */
function family() {
  return readdirSync('/proc')
    .filter((entry) => /^\d+$/.test(entry) && Number(entry) !== process.pid)
    .filter((pid) => {
      try {
        const about = readFileSync(`/proc/${pid}/cmdline`, 'utf8') + readFileSync(`/proc/${pid}/environ`, 'utf8');
        return about.includes(stateDir);
      } catch {
        return false;
      }
    })
    .map(Number);
}

test('starts, says so to a second start, and Ctrl-C leaves no process behind', async () => {
  const first = start();
  expect(await first.until('Ctrl-C stops it')).toMatch(
    /Baumkin is ready: http:\/\/127\.0\.0\.1:27980[\s\S]*demo sign-in: hedda/
  );
  const page = await fetch(`http://127.0.0.1:${PORT}/sign-in`);
  expect([page.status, page.headers.get('keep-alive')]).toEqual([200, 'timeout=75']);
  const second = start();
  expect(await second.until('running already')).toContain(`The demo is running already, at http://127.0.0.1:${PORT}`);
  expect(await second.end(undefined)).toBe(1);
  expect(family().length).toBeGreaterThan(1);
  expect(await first.end('SIGINT')).toBe(0);
  expect(family()).toEqual([]);
});

test('a demo that was killed outright is cleared away by the next start', async () => {
  const first = start();
  await first.until('Ctrl-C stops it');
  await first.end('SIGKILL');
  const left = family();
  expect(left.length).toBeGreaterThan(0);
  const second = start();
  expect(await second.until('Ctrl-C stops it')).toContain(`ready: http://127.0.0.1:${PORT}`);
  await second.end('SIGTERM');
  expect(left.filter(isAlive)).toEqual([]);
  expect(family()).toEqual([]);
});

test('a taken port is stepped over', async () => {
  const squatter = createServer().listen(PORT, '127.0.0.1');
  const demo = start();
  expect(await demo.until('Ctrl-C stops it')).toContain(`Port ${PORT} is taken; using ${PORT + 1}.`);
  squatter.close();
});

test('a first start that was cut off is begun again from the start', async () => {
  rmSync(join(stateDir, 'db'), { recursive: true });
  mkdirSync(join(stateDir, 'db/data.half/mysql'), { recursive: true });
  const demo = start();
  expect(await demo.until('Ctrl-C stops it')).toContain('Loaded the demo bush.');
  expect(existsSync(join(stateDir, 'db/data.half'))).toBe(false);
});
