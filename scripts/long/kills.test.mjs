import { randomUUID } from 'node:crypto';
import { mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { afterAll, beforeAll, expect, test } from 'vitest';

/* The server and its database are killed in the middle of their work: what was acknowledged is there, once. */

const stateDir = mkdtempSync(join(tmpdir(), 'baumkin-kills-'));
process.env.BAUMKIN_STATE_DIR = stateDir;
const { startDatabase } = await import('../lib/database.mjs');
const { freePort, pause } = await import('../lib/exec.mjs');
const { demoSignIn, prepareDemo, startServer } = await import('../lib/server.mjs');

const ROUNDS = 12;
/** @type {Awaited<ReturnType<typeof startDatabase>>} */
let database;
/** @type {Awaited<ReturnType<typeof startServer>>} */
let server;
/** @type {number} */
let port;
const start = () => startServer({ databaseUrl: database.url, port, demo: true, today: '2026-11-23', quiet: true });

beforeAll(async () => {
  database = await startDatabase('db');
  await prepareDemo(database.url);
  port = await freePort(48100);
  server = await start();
});
afterAll(async () => {
  await server.stop();
  await database.stop();
  rmSync(stateDir, { recursive: true, force: true });
});

/** @returns {Promise<(path: string, init?: RequestInit) => Promise<Response>>} asks the server as somebody who signed in */
async function signedIn() {
  const response = await fetch(`${server.origin}/sign-in`, {
    method: 'POST',
    headers: { origin: server.origin, 'content-type': 'application/x-www-form-urlencoded' },
    body: new URLSearchParams({ name: demoSignIn.name, password: demoSignIn.password }),
    redirect: 'manual'
  });
  const cookie = response.headers
    .getSetCookie()
    .map((set) => set.split(';')[0])
    .join('; ');
  return (path, init) =>
    fetch(`${server.origin}/api/v1${path}`, { ...init, headers: { cookie, 'content-type': 'application/json' } });
}

/** @param {string} treeId @param {number} valueMm */
const reading = (treeId, valueMm) => ({
  id: randomUUID(),
  treeId,
  kind: 'reading',
  on: '2026-11-20',
  recordedAt: '2026-11-20T09:00:00.000Z',
  quantity: 'girth',
  valueMm,
  asWritten: `${valueMm} mm`,
  method: 'girthTape',
  heightMm: 1300
});

test.each(['the server', 'the database'])('%s', async (what) => {
  let ask = await signedIn();
  const { bushes } = await (await ask('/bushes')).json();
  const bush = `/bushes/${bushes[0].id}`;
  const { trees } = await (await ask(bush)).json();
  /** @type {Set<string>} */
  const acknowledged = new Set();
  /** @type {Map<string, object>} */
  const written = new Map();
  for (let round = 0; round < ROUNDS; round++) {
    const batches = Array.from({ length: 30 }, (_, b) =>
      Array.from({ length: 4 }, (_, i) => reading(trees[(round * 120 + b * 4 + i) % trees.length].id, 900 + i))
    );
    for (const record of batches.flat()) written.set(record.id, record);
    let answered = 0;
    const sent = batches.map(async (records) => {
      const answer = await ask(`${bush}/records`, { method: 'POST', body: JSON.stringify({ records }) });
      if (!answer.ok) return;
      for (const { id, status } of (await answer.json()).outcomes) if (status !== 'refused') acknowledged.add(id);
      answered += 1;
    });
    // At another moment of the work each time: after none was answered, after one, after two …
    await pause(50);
    const all = Promise.allSettled(sent).then(() => true);
    while (answered < round && !(await Promise.race([all, pause(5)])));
    process.kill(/** @type {number} */ (what === 'the server' ? server.pid : database.pid), 'SIGKILL');
    await Promise.allSettled(sent);
    if (what === 'the database') {
      await server.stop();
      database = await startDatabase('db');
    }
    server = await start();
    ask = await signedIn();
  }
  expect(acknowledged.size).toBeGreaterThan(0);
  expect(acknowledged.size).toBeLessThan(written.size);

  const storedIds = async () => {
    const { records } = await (await ask(`${bush}/files/archive.json`)).json();
    return records
      .map((/** @type {{ id: string }} */ { id }) => id)
      .filter((/** @type {string} */ id) => written.has(id));
  };
  const stored = new Set(await storedIds());
  expect([...acknowledged].filter((id) => !stored.has(id))).toEqual([]);

  // Everything is sent again, as a device does that heard no answer: each is there once.
  const all = [...written.values()];
  for (let i = 0; i < all.length; i += 200)
    await ask(`${bush}/records`, { method: 'POST', body: JSON.stringify({ records: all.slice(i, i + 200) }) });
  expect((await storedIds()).sort()).toEqual([...written.keys()].sort());
});
