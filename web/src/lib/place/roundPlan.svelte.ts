import type { PlacementTask } from '@baumkin/core/rotation';

import { keeping, store } from '$lib/client/store.ts';
import type { PlaceWorker } from '$lib/workers/place.worker.ts';
import { PooledRun } from '$lib/workers/pooledRun.svelte.ts';

/** A hole of the round, as it was planned. */
export interface RoundHole {
  readonly bearingDeg: number;
  readonly heightMm: number;
  readonly pClear: number;
}

/** The picture is rougher than on the sheet of one trunk, which has the time to look closely; the plan is not. */
const ROUGH = { draws: 200, cellMm: 25, seasonsAhead: 1 };

/** The holes of a whole round, planned by several workers and kept on this device for the season. */
export class RoundPlan {
  /** planned holes by tree; brought up to date every few seconds: the lists that read them are long */
  holes = $state.raw<ReadonlyMap<string, readonly RoundHole[]>>(new Map());
  readonly #planned = new Map<string, readonly RoundHole[]>();
  readonly run = new PooledRun<PlaceWorker>(
    () => new Worker(new URL('../workers/place.worker.ts', import.meta.url), { type: 'module' }),
    () => this.#keep()
  );
  readonly #key: string;
  readonly #bushId: string;

  constructor(bushId: string, season: number) {
    this.#bushId = bushId;
    this.#key = `roundPlan/${bushId}/${season}`;
  }

  async open(): Promise<void> {
    const kept = await store.searches.get(this.#key);
    for (const [treeId, holes] of (kept?.found ?? []) as [string, RoundHole[]][]) this.#planned.set(treeId, holes);
    this.holes = new Map(this.#planned);
  }

  /**
   * Plans these trees, several at a time. What was planned stays when it is stopped, and so do the places of holes that are
   * drilled already (`done`).
   */
  async plan(
    trees: readonly { readonly treeId: string; readonly task: PlacementTask; readonly done: readonly RoundHole[] }[]
  ): Promise<void> {
    await this.run.run(trees, trees.length, async (remote, { treeId, task, done }) => {
      const { proposals } = await remote.place({ ...task, ...ROUGH });
      const fresh = proposals.map(({ bearingDeg, heightMm, outlook }) => ({
        bearingDeg,
        heightMm,
        pClear: outlook.pClear
      }));
      this.#planned.set(treeId, [...done, ...fresh]);
    });
  }

  async #keep(): Promise<void> {
    this.holes = new Map(this.#planned);
    // A round that was planned is walked as it was, whatever is known since.
    const kept = { key: this.#key, bushId: this.#bushId, question: '', found: [...this.#planned] };
    await keeping([store.searches], () => store.searches.put(kept));
  }
}
