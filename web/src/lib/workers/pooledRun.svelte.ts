import type { Remote } from 'comlink';

import { asking } from './asking.ts';

/** More workers than this only wait for each other. */
const MAX_WORKERS = 4;
/** What was found is kept at least so often: a page that is closed, or a battery that runs out, loses no more. */
const KEEP_EVERY_MS = 2000;

/**
 * A long job of many items, shared among several workers: it tells how far it is, can be held up and goes on, can be stopped, and
 * keeps what was found as it goes, so that after a reload only the rest is left to do.
 */
export class PooledRun<Api> {
  /** 0 to 1 while it runs */
  done = $state<number | null>(null);
  /** did a worker break off by a fault? */
  failed = $state(false);
  paused = $state(false);
  readonly #make: () => Worker;
  readonly #keep: () => Promise<unknown>;
  #workers: Worker[] = [];
  #stopped: () => void = () => undefined;
  #goOn: () => void = () => undefined;
  #holds: Promise<void> | null = null;

  /**
   * @param make a worker that speaks Api
   * @param keep puts what was found so far onto this device
   */
  constructor(make: () => Worker, keep: () => Promise<unknown>) {
    this.#make = make;
    this.#keep = keep;
  }

  /**
   * Does all of these, several at a time.
   * @param items are taken as they are needed
   * @param many how many there will be
   * @returns whether it came to its end
   */
  async run<Item>(
    items: Iterable<Item> | AsyncIterable<Item>,
    many: number,
    work: (remote: Remote<Api>, item: Item) => Promise<void>
  ): Promise<boolean> {
    this.stop();
    this.done = 0;
    this.failed = false;
    const atOnce = Math.min(MAX_WORKERS, many, Math.max(1, (navigator.hardwareConcurrency || 2) - 1));
    const mine = (this.#workers = Array.from({ length: atOnce }, this.#make));
    const stopped = new Promise<void>((resolve) => (this.#stopped = resolve));
    const isMine = () => this.#workers === mine;
    let [ready, keptAt] = [0, Date.now()];
    const coming = (async function* () {
      yield* items;
    })();
    const each = async (worker: Worker) => {
      const remote = asking<Api>(worker);
      // Each takes the next one: whoever asks a generator several times at once is answered in turn.
      for (;;) {
        if (this.#holds) await Promise.race([this.#holds, stopped]);
        if (!isMine()) return;
        const next = await coming.next();
        if (next.done || !isMine()) return;
        await Promise.race([work(remote, next.value), stopped]);
        if (!isMine()) return;
        ready += 1;
        this.done = ready / many;
        if (Date.now() - keptAt < KEEP_EVERY_MS) continue;
        keptAt = Date.now();
        await this.#keep();
      }
    };
    try {
      await Promise.all(mine.map(each));
    } catch {
      this.failed = isMine();
    }
    await this.#keep();
    const ended = isMine() && !this.failed;
    if (isMine()) this.stop();
    return ended;
  }

  /** Holds it up after the items that are being done. */
  pause(): void {
    this.paused = true;
    this.#holds = new Promise((resolve) => (this.#goOn = resolve));
  }

  resume(): void {
    this.paused = false;
    this.#holds = null;
    this.#goOn();
  }

  /** Ends it; what was found stays. */
  stop(): void {
    for (const worker of this.#workers) worker.terminate();
    this.#workers = [];
    this.done = null;
    this.resume();
    this.#stopped();
  }
}
