import { proxy, type Remote } from 'comlink';

import { asking } from './asking.ts';
import type { LongRunWorker } from './longRun.worker.ts';

/** One long computation at a time, with how far it is; stopping it ends its worker. */
export class LongRun<Api = LongRunWorker> {
  /** 0 to 1 while it runs */
  done = $state<number | null>(null);
  /** did the last one break off by a fault? */
  failed = $state(false);
  readonly #make: () => Worker;
  #worker: Worker | null = null;

  /** @param make a worker that speaks Api; the one for seasons lived through when left out */
  constructor(make = () => new Worker(new URL('./longRun.worker.ts', import.meta.url), { type: 'module' })) {
    this.#make = make;
  }

  /** @returns null when it was stopped, or broke off */
  async run<T>(work: (remote: Remote<Api>, told: (done: number) => void) => Promise<T>): Promise<T | null> {
    this.stop();
    const worker = this.#make();
    this.#worker = worker;
    this.done = 0;
    this.failed = false;
    // Progress may arrive after the run has ended: it is ignored.
    const told = proxy((done: number) => {
      if (this.#worker === worker) this.done = done;
    });
    const stopped = new Promise<null>((resolve) => (this.#stopped = () => resolve(null)));
    try {
      return await Promise.race([work(asking<Api>(worker), told), stopped]);
    } catch {
      this.failed = true;
      return null;
    } finally {
      if (this.#worker === worker) this.stop();
    }
  }
  #stopped: () => void = () => undefined;

  stop(): void {
    this.#worker?.terminate();
    this.#worker = null;
    this.done = null;
    this.#stopped();
  }
}
