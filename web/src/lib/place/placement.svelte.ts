import { FIRST, type TreePlacement } from '@baumkin/core/bush';
import { woodQuestion, type Placement } from '@baumkin/core/rotation';

import { keepAnswer, keptAnswer } from '$lib/client/answers.ts';

import { placeWorker } from './worker.ts';

/** Whose placement it is, by which it is kept on this device. */
export interface PlacementOf {
  readonly bushId: string;
  /** the page and the tree */
  readonly key: string;
}

interface Wanted {
  readonly placing: TreePlacement;
  readonly question: string;
  readonly of: PlacementOf;
}

/**
 * The placement of a tree, of which more may be learned: the one that is kept of it at once, or else a coarse picture of the wood first, then the
 * full one with holes and plan. While it changes fast, only the last is asked for: an answer to what is no longer asked helps
 * nobody, and the worker gives one after the other.
 */
export class LivePlacement {
  placement = $state.raw<Placement | null>(null);
  stage = $state<'working' | 'coarse' | 'full' | 'failed'>('working');
  /** what it answers: holes in the way are numbered by it, and the tree may have others by now */
  answers = $state.raw<TreePlacement | null>(null);
  #wanted: Wanted | null = null;
  #busy = false;
  /** what the full picture answers */
  #answered = $state.raw<Wanted | null>(null);

  /** @param keep keeps what is new of a full placement, where it is to be kept; says whether it did */
  constructor(
    placing: () => TreePlacement | null,
    of: () => PlacementOf,
    keep: (placing: TreePlacement, full: Placement) => boolean = () => false
  ) {
    let last = '';
    let kept = '';
    $effect(() => {
      const wanted = placing();
      const question = JSON.stringify(wanted && wanted.task);
      if (question === last) return;
      last = question;
      this.#wanted = wanted && { placing: wanted, question, of: of() };
      if (wanted === null) this.placement = null;
      else this.stage = 'working';
      if (!this.#busy) void this.#work();
    });
    $effect(() => {
      const [wanted, answered, placement] = [placing(), this.#answered, this.placement];
      const question = answered?.question;
      if (!wanted || !placement || !question || question === kept || JSON.stringify(wanted.task) !== question) return;
      if (keep(wanted, placement)) kept = question;
    });
  }

  async #work(): Promise<void> {
    this.#busy = true;
    for (let now = this.#wanted; now; now = this.#wanted === now ? null : this.#wanted) await this.#answer(now);
    this.#busy = false;
  }

  async #answer(now: Wanted): Promise<void> {
    const { placing, question, of } = now;
    try {
      const kept = await keptAnswer<Placement>(of.key, question);
      if (kept) {
        this.#show(now, kept, 'full');
        return;
      }
      // Of wood that is shown already another plan comes at once.
      if (this.#answered === null || woodQuestion(this.#answered.placing.task) !== woodQuestion(placing.task)) {
        const coarse = await placeWorker().place({ ...placing.task, ...FIRST });
        // Holes are shown only with the full plan: a proposal that jumps about is worse than one that comes a moment later.
        if (!this.#show(now, { ...coarse, proposals: [] }, 'coarse')) return;
      }
      const full = await placeWorker().place(placing.task);
      if (this.#show(now, full, 'full')) await keepAnswer(of.key, of.bushId, question, full);
    } catch {
      if (this.#wanted === now) this.stage = 'failed';
    }
  }

  /** @returns whether it is what is asked for still */
  #show(now: Wanted, placement: Placement, stage: 'coarse' | 'full'): boolean {
    if (this.#wanted !== now) return false;
    this.placement = placement;
    this.answers = now.placing;
    this.stage = stage;
    this.#answered = stage === 'full' ? now : null;
    return true;
  }
}
