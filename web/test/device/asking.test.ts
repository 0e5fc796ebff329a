import { expose } from 'comlink';
import { describe, expect, it, vi } from 'vitest';

import { openBook } from '../../src/lib/client/bookDoor.ts';
import { asking } from '../../src/lib/workers/asking.ts';
import { LongRun } from '../../src/lib/workers/longRun.svelte.ts';

/* A worker that answers within this thread, until it breaks off: a file of the program that is not there, say. */

interface Doubling {
  double(n: number): number;
}
type Heard = (event: { readonly message: string }) => void;
class Breaking {
  readonly #channel = new MessageChannel();
  readonly #heard: Heard[] = [];
  readonly postMessage = this.#channel.port2.postMessage.bind(this.#channel.port2);
  readonly removeEventListener = this.#channel.port2.removeEventListener.bind(this.#channel.port2);
  constructor(readonly answers = true) {
    if (answers) expose({ double: (n: number) => 2 * n }, this.#channel.port1);
    this.#channel.port2.start();
  }
  addEventListener(type: string, listener: Heard): void {
    if (type === 'error') this.#heard.push(listener);
    else this.#channel.port2.addEventListener(type, listener as never);
  }
  terminate(): void {
    this.#channel.port1.close();
  }
  breaksOff(): void {
    for (const heard of this.#heard) heard({ message: 'no such file' });
  }
}
const BROKE = 'could not be loaded, or broke off';

describe('a worker that is asked', () => {
  vi.spyOn(console, 'error').mockImplementation(() => undefined);

  it('answers, and refuses whatever is asked once it breaks off, instead of never answering', async () => {
    const worker = new Breaking();
    const broke = vi.fn();
    const remote = asking<Doubling>(worker as unknown as Worker, broke);
    expect(await remote.double(21)).toBe(42);
    worker.terminate();
    const never = remote.double(1);
    worker.breaksOff();
    await expect(never).rejects.toThrow(BROKE);
    await expect(remote.double(2)).rejects.toThrow(BROKE);
    expect(broke).toHaveBeenCalledTimes(1);
  });

  it('ends a long computation that it breaks off from', async () => {
    const worker = new Breaking(false);
    const run = new LongRun<Doubling>(() => worker as unknown as Worker);
    const running = run.run((remote) => remote.double(21));
    worker.breaksOff();
    expect([await running, run.failed, run.done]).toEqual([null, true, null]);
  });

  it('tells that a bush cannot be opened, instead of opening it for ever', async () => {
    const worker = new Breaking(false);
    vi.stubGlobal('Worker', function () {
      return worker;
    });
    const book = openBook('0', {} as never);
    const [glance, sync] = [book.glance(), book.sync()];
    worker.breaksOff();
    for (const told of await Promise.all([glance, sync]))
      expect(told).toMatchObject({ kind: 'problem', problem: expect.stringContaining(BROKE) as string });
    vi.unstubAllGlobals();
  });
});
