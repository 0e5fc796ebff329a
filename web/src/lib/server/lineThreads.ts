import type { Tree } from '@baumkin/core/records';
import { availableParallelism } from 'node:os';
import { Worker } from 'node:worker_threads';

import type { DerivedLine } from './derivedLine.ts';
import thread from './lines.thread.ts?bundled';

/** Trees whose lines are wanted, as the registry has them. */
export interface LinesWanted {
  readonly trees: readonly Tree[];
  readonly season: number;
}

/** The server goes on answering, and the database has its part of the processors. */
const MOST = 2;

/** Threads that derive lines from parts of a snapshot, so that nobody else waits while one who asks does. */
export class LineThreads {
  readonly #threads: readonly LineThread[];
  #next = 0;

  constructor(wanted: LinesWanted) {
    const count = Math.min(MOST, availableParallelism());
    this.#threads = Array.from({ length: count }, () => new LineThread(wanted));
  }

  /**
   * The wanted lines among the trees of a part, by whichever thread has its turn.
   * @param packed the part as it is kept
   */
  derive(packed: Uint8Array): Promise<readonly DerivedLine[]> {
    const thread = this.#threads[this.#next++ % this.#threads.length]!;
    return thread.derive(packed);
  }

  async end(): Promise<void> {
    await Promise.all(this.#threads.map((thread) => thread.end()));
  }
}

class LineThread {
  readonly #worker: Worker;
  /** rejects when the thread breaks off */
  readonly #broken: Promise<never>;
  /** resolves when what was asked for before is answered */
  #before: Promise<unknown> = Promise.resolve();

  constructor(wanted: LinesWanted) {
    this.#worker = new Worker(new URL(`data:text/javascript,${encodeURIComponent(thread)}`), { workerData: wanted });
    this.#broken = new Promise((_, reject) => this.#worker.once('error', reject));
    this.#broken.catch(() => undefined);
  }

  derive(packed: Uint8Array): Promise<readonly DerivedLine[]> {
    const answer = this.#before.then(() => {
      const come = new Promise<readonly DerivedLine[]>((resolve) => this.#worker.once('message', resolve));
      this.#worker.postMessage(packed);
      return Promise.race([come, this.#broken]);
    });
    this.#before = answer.catch(() => undefined);
    return answer;
  }

  async end(): Promise<void> {
    await this.#worker.terminate();
  }
}
