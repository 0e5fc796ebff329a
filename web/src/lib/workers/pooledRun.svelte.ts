import { wrap, type Remote } from 'comlink';

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

  /** Does all of these, several at a time. @returns whether it came to its end */
  async run<Item>(items: readonly Item[], work: (remote: Remote<Api>, item: Item) => Promise<void>): Promise<boolean> {
    this.stop();
    this.done = 0;
    this.failed = false;
    const many = Math.min(MAX_WORKERS, items.length, Math.max(1, (navigator.hardwareConcurrency || 2) - 1));
    const mine = (this.#workers = Array.from({ length: many }, this.#make));
    const stopped = new Promise<void>((resolve) => (this.#stopped = resolve));
    const isMine = () => this.#workers === mine;
    let [next, ready, keptAt] = [0, 0, Date.now()];
    const each = async (worker: Worker) => {
      const remote = wrap<Api>(worker);
      while (next < items.length) {
        if (this.#holds) await Promise.race([this.#holds, stopped]);
        if (!isMine()) return;
        await Promise.race([work(remote, items[next++]!), stopped]);
        if (!isMine()) return;
        ready += 1;
        this.done = ready / items.length;
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
