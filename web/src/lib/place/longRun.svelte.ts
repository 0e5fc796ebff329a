import { proxy, wrap, type Remote } from 'comlink';

import type { LongRunWorker } from '$lib/workers/longRun.worker.ts';

/** One long computation at a time, with how far it is; stopping it ends its worker. */
export class LongRun {
  /** 0 to 1 while it runs */
  done = $state<number | null>(null);
  #worker: Worker | null = null;

  /** @returns null when it was stopped */
  async run<T>(work: (remote: Remote<LongRunWorker>, told: (done: number) => void) => Promise<T>): Promise<T | null> {
    this.stop();
    const worker = new Worker(new URL('../workers/longRun.worker.ts', import.meta.url), { type: 'module' });
    this.#worker = worker;
    this.done = 0;
    // Word from the worker comes late: what arrives after the end is nothing to show.
    const told = proxy((done: number) => {
      if (this.#worker === worker) this.done = done;
    });
    const stopped = new Promise<null>((resolve) => (this.#stopped = () => resolve(null)));
    const answer = await Promise.race([work(wrap<LongRunWorker>(worker), told), stopped]);
    if (this.#worker === worker) this.stop();
    return answer;
  }
  #stopped: () => void = () => undefined;

  stop(): void {
    this.#worker?.terminate();
    this.#worker = null;
    this.done = null;
    this.#stopped();
  }
}
