import type { Placement, PlacementTask } from '@baumkin/core/rotation';
import { wrap } from 'comlink';
import { SvelteMap } from 'svelte/reactivity';

import { store } from '$lib/client/store.ts';
import type { PlaceWorker } from '$lib/workers/place.worker.ts';

/** A hole of the round, as it was planned. */
export interface RoundHole {
  readonly bearingDeg: number;
  readonly heightMm: number;
  readonly pClear: number;
}

/** Rougher than the sheet of one trunk, which has the time to look closely. */
const ROUGH = { draws: 200, cellMm: 25, effort: 0.4, seasonsAhead: 1 };
const MAX_WORKERS = 4;

/** The holes of a whole round, planned by several workers and kept on this device for the season. */
export class RoundPlan {
  readonly holes = new SvelteMap<string, readonly RoundHole[]>();
  /** 0 to 1 while it is being planned */
  done = $state<number | null>(null);
  /** did a worker break off by a fault? */
  failed = $state(false);
  readonly #key: string;
  readonly #bushId: string;
  #workers: Worker[] = [];

  constructor(bushId: string, season: number) {
    this.#bushId = bushId;
    this.#key = `roundPlan/${bushId}/${season}`;
  }

  async open(): Promise<void> {
    const kept = await store.drafts.get(this.#key);
    for (const [treeId, holes] of (kept?.value ?? []) as [string, RoundHole[]][]) this.holes.set(treeId, holes);
  }

  /**
   * Plans these trees, several at a time. What was planned stays when it is stopped, and so do the places of holes that are
   * drilled already (`done`).
   */
  async plan(
    trees: readonly { readonly treeId: string; readonly task: PlacementTask; readonly done: readonly RoundHole[] }[]
  ): Promise<void> {
    this.stop();
    const queue = [...trees];
    let ready = 0;
    this.done = 0;
    this.failed = false;
    const many = Math.min(MAX_WORKERS, Math.max(1, (navigator.hardwareConcurrency || 2) - 1));
    this.#workers = Array.from(
      { length: many },
      () => new Worker(new URL('../workers/place.worker.ts', import.meta.url), { type: 'module' })
    );
    const mine = this.#workers;
    const stopped = new Promise<null>((resolve) => (this.#stopped = () => resolve(null)));
    const work = Promise.all(
      mine.map(async (worker) => {
        const remote = wrap<PlaceWorker>(worker);
        for (let next = queue.shift(); next && this.#workers === mine; next = queue.shift()) {
          const { treeId, task, done } = next;
          const placed: Placement | null = await Promise.race([remote.place({ ...task, ...ROUGH }), stopped]);
          if (!placed || this.#workers !== mine) return;
          const fresh = placed.proposals.map(({ bearingDeg, heightMm, outlook }) => ({
            bearingDeg,
            heightMm,
            pClear: outlook.pClear
          }));
          this.holes.set(treeId, [...done, ...fresh]);
          ready += 1;
          this.done = ready / trees.length;
        }
      })
    );
    try {
      await work;
    } catch {
      this.failed = true;
    }
    await this.#keep();
    if (this.#workers === mine) this.stop();
  }
  #stopped: () => void = () => undefined;

  stop(): void {
    for (const worker of this.#workers) worker.terminate();
    this.#workers = [];
    this.done = null;
    this.#stopped();
  }

  async #keep(): Promise<void> {
    await store.drafts.put({ key: this.#key, bushId: this.#bushId, value: [...this.holes], at: Date.now() });
  }
}
