import { stopsAhead, type Stop } from '@baumkin/core/bush';
import type { BushRecord, WorkRecord } from '@baumkin/core/records';
import { SvelteSet } from 'svelte/reactivity';

import type { BushState } from '$lib/client/bush.svelte.ts';
import { keepDraft, readDraft } from '$lib/client/draft.ts';

/** So many of the last things done can be taken back on the walk. */
const DONE_KEPT = 30;

/** Something that was done on a walk, by its records, the newest last. */
export interface Done {
  readonly treeId: string;
  readonly says: string;
  readonly records: readonly (WorkRecord | BushRecord)[];
}

/** What of a walk is kept on this device: a phone that went out goes on where it was. */
interface Kept {
  readonly started: boolean;
  readonly standId: string;
  readonly helper?: string | null;
  readonly at: number | null;
  readonly here: string | null;
  readonly later: readonly string[];
  readonly passed: readonly string[];
  readonly dealt?: readonly string[];
  readonly done: readonly Done[];
  /** how many were done on which day */
  readonly tally?: { readonly on: string; readonly many: number };
}

/**
 * A round that somebody walks on this device, one tree at a time, whatever is asked at the trees. What is left to do is told by
 * the records; where she is, what she put off and what she did last are kept on the device as it changes.
 */
export class Walk<S extends Stop> {
  started = $state(false);
  /** the stand that is walked; all where it is empty */
  standId = $state('');
  /** whose part is walked; all where it is empty, and null as long as nobody chose */
  helper = $state<string | null>(null);
  /** questions that were passed over, by the record that they are about */
  readonly passed = new SvelteSet<string>();
  readonly later = new SvelteSet<string>();
  /** trees of which all was said that can be said on this walk, whatever is still open */
  readonly dealt = new SvelteSet<string>();
  done = $state.raw<readonly Done[]>([]);
  isRead = $state(false);
  /** Is something being written down or taken back? What was done last is not known before it is. */
  busy = $state(false);
  #tally = $state.raw({ on: '', many: 0 });
  #at = $state<number | null>(null);
  /** the tree where she stands, as long as there is anything left to do at it */
  #here = $state<string | null>(null);
  readonly #bush: BushState;
  /** whose walk it is besides: two who share a phone walk each her own */
  readonly #key: string;
  readonly #stops: () => readonly S[];

  readonly ahead = $derived.by(() => stopsAhead(this.#stops(), { at: this.#at, later: this.later }));
  readonly stop = $derived.by(() => this.ahead.find(({ treeId }) => treeId === this.#here) ?? this.ahead[0] ?? null);

  /** @param round which round it is @param stops what is left to do on it */
  constructor(bush: BushState, round: string, stops: () => readonly S[]) {
    this.#bush = bush;
    this.#key = `${round}/${bush.id}`;
    this.#stops = stops;
    void this.#read();
  }

  async #read(): Promise<void> {
    const kept = (await readDraft<Kept>(this.#bush, 'walk', this.#key))?.value;
    if (kept) {
      this.started = kept.started;
      this.standId = kept.standId;
      this.helper = kept.helper ?? null;
      this.#at = kept.at;
      this.#here = kept.here;
      this.done = kept.done;
      this.#tally = kept.tally ?? this.#tally;
      for (const id of kept.later) this.later.add(id);
      for (const id of kept.passed) this.passed.add(id);
      for (const id of kept.dealt ?? []) this.dealt.add(id);
    }
    this.isRead = true;
  }

  /** Keeps on this device how far she is. */
  async #keep(): Promise<void> {
    const { started, standId, helper, done } = this;
    const value: Kept = {
      started,
      standId,
      helper,
      at: this.#at,
      here: this.#here,
      later: [...this.later],
      passed: [...this.passed],
      dealt: [...this.dealt],
      done: $state.snapshot(done) as Done[],
      tally: this.#tally
    };
    await keepDraft(this.#bush, 'walk', this.#key, value);
  }

  start(): Promise<void> {
    this.started = true;
    return this.#keep();
  }

  end(): Promise<void> {
    this.started = false;
    this.#at = null;
    this.#here = null;
    this.later.clear();
    this.dealt.clear();
    return this.#keep();
  }

  /**
   * Writes down or takes back, one thing at a time: what is touched meanwhile is not done, for it would mean what was there
   * before.
   */
  async write(work: () => Promise<void>): Promise<void> {
    if (this.busy) return;
    this.busy = true;
    try {
      await work();
    } finally {
      this.busy = false;
    }
  }

  /** Something was done at a tree; it can be taken back as long as it is among the last. */
  did(stop: S, says: string, records: Done['records']): void {
    this.#count(1);
    this.done = [...this.done, { treeId: stop.treeId, says, records }].slice(-DONE_KEPT);
    void this.#onward(stop);
  }

  /** All was said of a tree that can be said on this walk. */
  finish(stop: S, says: string, records: Done['records']): void {
    this.dealt.add(stop.treeId);
    this.did(stop, says, records);
  }

  #count(by: 1 | -1): void {
    const { today } = this.#bush;
    this.#tally = { on: today, many: Math.max(0, this.doneToday + by) };
  }

  /** how many things were done on this device today */
  get doneToday(): number {
    return this.#tally.on === this.#bush.today ? this.#tally.many : 0;
  }

  /** A question about a record of a tree is passed over. */
  pass(stop: S, recordId: string): Promise<void> {
    this.passed.add(recordId);
    return this.#onward(stop);
  }

  /** Stays at a tree as long as anything is left to do at it; then on to the next. */
  #onward({ treeId, walkOrder }: S): Promise<void> {
    const left = this.#stops().some((stop) => stop.treeId === treeId);
    this.#here = left ? treeId : null;
    if (!left) {
      this.#at = walkOrder;
      this.later.delete(treeId);
    }
    return this.#keep();
  }

  /** She stands at another tree of the round. */
  goTo(treeId: string): Promise<void> {
    this.#here = treeId;
    return this.#keep();
  }

  /** Out of reach now: the tree comes again after the others. */
  putOff(stop: S): Promise<void> {
    this.later.add(stop.treeId);
    this.#at = stop.walkOrder;
    this.#here = null;
    return this.#keep();
  }

  /** Takes back one of the last things that were done, and goes back to its tree. */
  takeBack(what: Done): Promise<void> {
    return this.write(async () => {
      await this.#bush.takeBack(...what.records);
      this.#count(-1);
      this.done = this.done.filter((each) => each !== what);
      this.dealt.delete(what.treeId);
      this.#here = what.treeId;
      void this.#keep();
    });
  }
}
