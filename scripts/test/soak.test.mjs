import { mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { afterAll, expect, test } from 'vitest';

const stateDir = mkdtempSync(join(tmpdir(), 'baumkin-soak-'));
process.env.BAUMKIN_STATE_DIR = stateDir;
const { openWorld } = await import('../lib/world.mjs');
const { soak } = await import('../lib/soak.mjs');

const MANY = Number(process.env.BAUMKIN_RECORDS ?? (process.env.BAUMKIN_LONG === '1' ? 3000 : 120));
/** After how long it hangs, ms: each of its waits has a shorter limit, and a busy machine is slow at everything. */
const GIVEN_UP_MS = 900_000 + MANY * 400;
const SEED = Number(process.env.BAUMKIN_SEED ?? 14);
/** @type {Awaited<ReturnType<typeof openWorld>> | undefined} */
let world;
afterAll(async () => {
  await world?.close();
  rmSync(stateDir, { recursive: true, force: true });
});

test(
  'five devices, a server and a database that are cut off and killed hold the same in the end',
  async () => {
    world = await openWorld();
    const { server, devices } = await soak(world, { records: MANY, seed: SEED });
    expect(server.split('"soaked"').length).toBeGreaterThan(MANY / 3);
    for (const device of devices) expect(device === server || differences(server, device)).toBe(true);
  },
  GIVEN_UP_MS
);

/** The first trees that two books tell differently of. @param {string} one @param {string} other */
function differences(one, other) {
  const [a, b] = [JSON.parse(one), JSON.parse(other)];
  return ['lives', 'lines'].flatMap((part) => {
    const known = new Map(b[part].map((/** @type {{ id: string }} */ each) => [each.id, JSON.stringify(each)]));
    const here = a[part].map((/** @type {{ id: string }} */ each) => [each.id, JSON.stringify(each)]);
    return here
      .filter((/** @type {[string, string]} */ [id, text]) => known.get(id) !== text)
      .slice(0, 2)
      .map((/** @type {[string, string]} */ [id, text]) => ({ part, server: text, device: known.get(id) ?? null }))
      .concat(b[part].length === a[part].length ? [] : [{ part, server: a[part].length, device: b[part].length }]);
  });
}
