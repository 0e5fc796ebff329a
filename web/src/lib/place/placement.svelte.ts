import type { Placement, PlacementTask } from '@baumkin/core/rotation';
import { FIRST } from '@baumkin/core/bush';

import { placeWorker } from './worker.ts';

/**
 * The placement of a task that may change: a coarse picture of the wood first, then the full one with holes and plan. An
 * answer to a task that is no longer asked is dropped.
 */
export class LivePlacement {
  placement = $state.raw<Placement | null>(null);
  stage = $state<'working' | 'coarse' | 'full' | 'failed'>('working');

  constructor(task: () => PlacementTask | null) {
    let turn = 0;
    let lastKey = '';
    $effect(() => {
      const wanted = task();
      const key = JSON.stringify(wanted);
      if (key === lastKey) return;
      lastKey = key;
      turn += 1;
      if (wanted) void this.#run(wanted, turn, () => turn);
      else this.placement = null;
    });
  }

  async #run(task: PlacementTask, mine: number, current: () => number): Promise<void> {
    this.stage = 'working';
    try {
      const coarse = await placeWorker().place({ ...task, ...FIRST });
      if (current() !== mine) return;
      // Holes are shown only with the full plan: a proposal that jumps about is worse than one that comes a moment later.
      this.placement = { ...coarse, proposals: [] };
      this.stage = 'coarse';
      const full = await placeWorker().place(task);
      if (current() !== mine) return;
      this.placement = full;
      this.stage = 'full';
    } catch {
      if (current() === mine) this.stage = 'failed';
    }
  }
}
