import type { BushRecord, WorkRecord } from '@baumkin/core/records';

import type { BushState } from './bush.svelte.ts';
import { keepDraft, readDraft } from './draft.ts';

/** Something that was written down here, and can be taken back. */
export interface Written {
  readonly said: string;
  /** ISO moment */
  readonly at: string;
  readonly records: readonly (WorkRecord | BushRecord)[];
}

/** So many of the last things stay at hand. */
const MOST = 20;

/** The last things that were written down on this device: a way back that does not go with the message that said so. */
export class LastDone {
  /** the newest first */
  list = $state.raw<readonly Written[]>([]);
  readonly #bush: BushState;

  constructor(bush: BushState) {
    this.#bush = bush;
  }

  async read(): Promise<void> {
    this.list = (await readDraft<readonly Written[]>(this.#bush, 'done', this.#bush.id))?.value ?? [];
  }

  add(said: string, records: Written['records']): Promise<void> {
    this.list = [{ said, at: new Date().toISOString(), records }, ...this.list].slice(0, MOST);
    return this.#keep();
  }

  /** What was taken back, wherever, is no more to be taken back. */
  forget(records: Written['records']): Promise<void> {
    const gone = new Set(records.map(({ id }) => id));
    const left = this.list.filter((each) => !each.records.some(({ id }) => gone.has(id)));
    if (left.length === this.list.length) return Promise.resolve();
    this.list = left;
    return this.#keep();
  }

  #keep(): Promise<void> {
    return keepDraft(this.#bush, 'done', this.#bush.id, $state.snapshot(this.list));
  }
}
