import { expose } from 'comlink';
import { describe, expect, it, vi } from 'vitest';

import { PooledRun } from '../../src/lib/workers/pooledRun.svelte.ts';

/* Workers that answer within this thread, each through a channel of its own. */

interface Doubling {
  double(n: number): Promise<number>;
}
let ended = 0;
function makeWorker(double: (n: number) => Promise<number>): Worker {
  const { port1, port2 } = new MessageChannel();
  expose({ double }, port1);
  port2.start();
  return Object.assign(port2, { terminate: () => ((ended += 1), port1.close(), port2.close()) }) as unknown as Worker;
}
const soon = (n: number) => new Promise<number>((resolve) => setTimeout(() => resolve(2 * n), 15));
const items = Array.from({ length: 30 }, (_, i) => i);

describe('a long job of many items', () => {
  const job = (double = soon, keep = vi.fn(() => Promise.resolve())) => {
    const found = new Map<number, number>();
    const run = new PooledRun<Doubling>(() => makeWorker(double), keep);
    const start = (of: Iterable<number> | AsyncIterable<number> = items) =>
      run.run(of, items.length, async (remote, n) => void found.set(n, await remote.double(n)));
    return { found, run, start, keep };
  };

  it('does each of them once, tells how far it is, and keeps what was found', async () => {
    const { found, run, start, keep } = job();
    const working = start();
    await vi.waitFor(() => expect(run.done).toBeGreaterThan(0.2), { interval: 5 });
    expect(await working).toBe(true);
    expect([...found].sort(([a], [b]) => a - b)).toEqual(items.map((n) => [n, 2 * n]));
    expect([run.done, run.failed]).toEqual([null, false]);
    expect(keep).toHaveBeenCalled();
  });

  it('takes them as they are needed', async () => {
    let taken = 0;
    const { found, run, start } = job();
    const working = start(
      (async function* () {
        for (const n of items) {
          taken += 1;
          yield await Promise.resolve(n);
        }
      })()
    );
    await vi.waitFor(() => expect(found.size).toBeGreaterThan(3), { interval: 5 });
    expect(taken).toBeLessThan(items.length);
    expect(await working).toBe(true);
    expect([found.size, taken, run.failed]).toEqual([items.length, items.length, false]);
  });

  it('is held up and goes on', async () => {
    let asked = 0;
    const { found, run, start } = job((n) => ((asked += 1), soon(n)));
    const working = start();
    await vi.waitFor(() => expect(found.size).toBeGreaterThan(3), { interval: 5 });
    run.pause();
    // Those that were being done come to their end, however long that takes here; then nothing more is asked.
    await new Promise((resolve) => setTimeout(resolve, 30));
    await vi.waitFor(() => expect(found.size).toBe(asked), { timeout: 10_000, interval: 5 });
    const held = asked;
    await new Promise((resolve) => setTimeout(resolve, 60));
    expect([asked, found.size, run.paused]).toEqual([held, held, true]);
    expect(held).toBeLessThan(items.length);
    run.resume();
    expect(await working).toBe(true);
    expect(found.size).toBe(items.length);
  });

  it('that is stopped keeps what was found, and ends its workers', async () => {
    ended = 0;
    const { found, run, start, keep } = job();
    const working = start();
    await vi.waitFor(() => expect(found.size).toBeGreaterThan(3), { interval: 5 });
    run.stop();
    expect(await working).toBe(false);
    expect([run.done, run.failed]).toEqual([null, false]);
    expect(ended).toBeGreaterThan(0);
    expect(keep).toHaveBeenCalled();
    // Held up, it can be stopped too.
    const again = start();
    run.pause();
    run.stop();
    expect([await again, run.paused]).toEqual([false, false]);
  });

  it('says that it broke off where a worker breaks', async () => {
    const { found, run, start, keep } = job((n) => (n === 7 ? Promise.reject(new Error('broken')) : soon(n)));
    expect(await start()).toBe(false);
    expect([run.done, run.failed]).toEqual([null, true]);
    expect(found.size).toBeGreaterThan(0);
    expect(keep).toHaveBeenCalled();
  });
});
