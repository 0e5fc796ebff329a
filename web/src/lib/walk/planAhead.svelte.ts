import type { BushState } from '$lib/client/bush.svelte.ts';
import { keepRotation } from '$lib/place/keepRotation.ts';
import { placeWorker } from '$lib/place/worker.ts';

import type { TapStop } from './tapStops.ts';

/** Plans the holes of the trees that come next, one after another, and writes them into the book. */
export class PlanAhead {
  /** did the computation fail? */
  failed = $state(false);
  readonly #bush: BushState;
  #wanted: readonly TapStop[] = [];
  #busy = false;
  /** what was planned, word for word: where that does not settle a tree, it is not tried again and again */
  readonly #tried = new Set<string>();

  constructor(bush: BushState) {
    this.#bush = bush;
  }

  /** @param stops the trees that come next, the nearest first */
  plan(stops: readonly TapStop[]): void {
    this.#wanted = stops;
    if (!this.#busy) void this.#work();
  }

  #next(): TapStop | undefined {
    return this.#wanted.find(
      ({ line }) => !line.settled && line.left > 0 && !this.#tried.has(JSON.stringify(line.placing.task))
    );
  }

  async #work(): Promise<void> {
    this.#busy = true;
    try {
      for (let stop = this.#next(); stop; stop = this.#next()) {
        const { placing } = stop.line;
        this.#tried.add(JSON.stringify(placing.task));
        keepRotation(this.#bush, stop.treeId, placing, await placeWorker().plan(placing.task));
      }
    } catch (error) {
      console.error(error);
      this.failed = true;
    } finally {
      this.#busy = false;
    }
  }
}
