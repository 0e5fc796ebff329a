import type { BushState } from '$lib/client/bush.svelte.ts';
import { store } from '$lib/client/store.ts';

import type { RoundHole, RoundLine } from './tappingRound.svelte.ts';

/** What was printed of a round. */
interface Printed {
  /** ISO date */
  readonly on: string;
  /** by tree: the holes that were named */
  readonly holes: Readonly<Record<string, readonly string[]>>;
}

/** A hole as it stands on paper: whoever moves it by less has not moved it. */
const named = ({ bearingDeg, heightMm }: RoundHole) => `${Math.round(bearingDeg)} ${Math.round(heightMm / 10)}`;

/** The last print of the round from this device: paper does not follow the book, so it is told what changed since. */
export class PrintedRound {
  readonly #bush: BushState;
  readonly #key: string;
  #last = $state.raw<Printed | null>(null);

  constructor(bush: BushState) {
    this.#bush = bush;
    this.#key = `printed/${bush.id}`;
    void store.drafts.get(this.#key).then((kept) => (this.#last = (kept?.value as Printed | undefined) ?? null));
  }

  /** The day of the last print; null where nothing was printed here yet. */
  get on(): string | null {
    return this.#last?.on ?? null;
  }

  /** Are other holes named for a tree than on the last print? */
  isNew({ row, open }: RoundLine): boolean {
    const last = this.#last;
    if (!last) return false;
    const told = last.holes[row.id] ?? [];
    return open.some((hole) => !told.includes(named(hole)));
  }

  /** These trees are on paper from now on; others stay as they were printed. */
  async keep(lines: readonly RoundLine[]): Promise<void> {
    const holes = Object.fromEntries(lines.map(({ row, open }) => [row.id, open.map(named)]));
    const value: Printed = { on: this.#bush.today, holes: { ...this.#last?.holes, ...holes } };
    await store.drafts.put({ key: this.#key, bushId: this.#bush.id, value, at: Date.now() });
    this.#last = value;
  }
}
