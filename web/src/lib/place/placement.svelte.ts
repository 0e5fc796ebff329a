import type { Placement, PlacementTask } from '@baumkin/core/rotation';
import { FIRST } from '@baumkin/core/bush';

import { keepAnswer, keptAnswer } from '$lib/client/answers.ts';

import { placeWorker } from './worker.ts';

/** Whose placement it is, by which it is kept on this device. */
export interface PlacementOf {
  readonly bushId: string;
  /** the page and the tree */
  readonly key: string;
}

interface Wanted {
  readonly task: PlacementTask;
  readonly question: string;
  readonly of: PlacementOf;
}

/**
 * The placement of a task that may change: the one that is kept of it at once, or else a coarse picture of the wood first, then the
 * full one with holes and plan. While it changes fast, only the last is asked for: an answer to what is no longer asked helps
 * nobody, and the worker gives one after the other.
 */
export class LivePlacement {
  placement = $state.raw<Placement | null>(null);
  stage = $state<'working' | 'coarse' | 'full' | 'failed'>('working');
  #wanted: Wanted | null = null;
  #busy = false;

  constructor(task: () => PlacementTask | null, of: () => PlacementOf) {
    let last = '';
    $effect(() => {
      const wanted = task();
      const question = JSON.stringify(wanted);
      if (question === last) return;
      last = question;
      this.#wanted = wanted && { task: wanted, question, of: of() };
      if (wanted === null) this.placement = null;
      else this.stage = 'working';
      if (!this.#busy) void this.#work();
    });
  }

  async #work(): Promise<void> {
    this.#busy = true;
    for (let now = this.#wanted; now; now = this.#wanted === now ? null : this.#wanted) await this.#answer(now);
    this.#busy = false;
  }

  async #answer(now: Wanted): Promise<void> {
    const { task, question, of } = now;
    try {
      const kept = await keptAnswer<Placement>(of.key, question);
      if (kept) {
        this.#show(now, kept, 'full');
        return;
      }
      const coarse = await placeWorker().place({ ...task, ...FIRST });
      // Holes are shown only with the full plan: a proposal that jumps about is worse than one that comes a moment later.
      if (!this.#show(now, { ...coarse, proposals: [] }, 'coarse')) return;
      const full = await placeWorker().place(task);
      if (this.#show(now, full, 'full')) await keepAnswer(of.key, of.bushId, question, full);
    } catch {
      if (this.#wanted === now) this.stage = 'failed';
    }
  }

  /** @returns whether it is what is asked for still */
  #show(now: Wanted, placement: Placement, stage: 'coarse' | 'full'): boolean {
    if (this.#wanted !== now) return false;
    this.placement = placement;
    this.stage = stage;
    return true;
  }
}
