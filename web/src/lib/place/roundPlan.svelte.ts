import { rotationToKeep, type TreePlacement } from '@baumkin/core/bush';

import type { BushState } from '$lib/client/bush.svelte.ts';
import type { Draft } from '$lib/client/recordDraft.ts';
import type { PlaceWorker } from '$lib/workers/place.worker.ts';
import { PooledRun } from '$lib/workers/pooledRun.svelte.ts';

/** The holes of a whole round, planned by several workers and written into the book as they are found. */
export class RoundPlan {
  readonly run = new PooledRun<PlaceWorker>(
    () => new Worker(new URL('../workers/place.worker.ts', import.meta.url), { type: 'module' }),
    () => this.#keep()
  );
  readonly #bush: BushState;
  #found: { readonly treeId: string; readonly draft: Draft }[] = [];

  constructor(bush: BushState) {
    this.#bush = bush;
  }

  /** Plans these trees, or looks at their plans again. What was found stays when it is stopped. */
  async plan(trees: readonly { readonly treeId: string; readonly placing: TreePlacement }[]): Promise<void> {
    await this.run.run(trees, trees.length, async (remote, { treeId, placing: { basis, task } }) => {
      const draft = rotationToKeep(basis, task.seed, await remote.plan(task));
      if (draft) this.#found.push({ treeId, draft });
    });
  }

  async #keep(): Promise<void> {
    const found = this.#found;
    this.#found = [];
    if (found.length > 0) await this.#bush.recordAll(found);
  }
}
