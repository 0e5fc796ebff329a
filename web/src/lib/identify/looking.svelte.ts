import { priorFor, settledBeside } from '@baumkin/core/bush';
import {
  judge,
  likelyAge,
  lookSeasonOf,
  nextLooks,
  worth,
  WORTH_LOOKING_BITS,
  type AgeClass,
  type Character,
  type CharacterId,
  type Evidence,
  type LookSeason
} from '@baumkin/core/identify';
import type { WorkRecord } from '@baumkin/core/records';
import { untrack } from 'svelte';

import type { BushState } from '$lib/client/bush.svelte.ts';
import { dropDraft, keepDraft, readDraft } from '$lib/client/draft.ts';

interface LookDraft {
  age: AgeClass;
  season: LookSeason;
  evidence: Partial<Record<CharacterId, string>>;
  skipped: CharacterId[];
}

/** Why a look is asked for: it is the best by what it tells, or something comes before all others. */
export type AskedFor = 'chosen' | 'budsFirst' | 'branchingFirst' | 'tellsMost';

/**
 * Looking at one tree, clue by clue: what was seen, what that amounts to, and what to look at next. The last determination's clues
 * are where it begins; what is chosen is kept on this device until it is saved or begun afresh.
 */
export class Looking {
  work = $state<LookDraft>(null!);
  /** a clue that somebody wants to look at, whatever comes next */
  asked = $state<CharacterId | null>(null);
  /** when what was chosen before was kept on this device; null where nothing was */
  keptAt = $state<number | null>(null);
  readonly treeId: string;
  readonly #bush: BushState;

  readonly row = $derived.by(() => this.#bush.byId.get(this.treeId)!);
  readonly table = $derived.by(() => this.#bush.clueTable);
  readonly last = $derived.by(() => this.#bush.stateOf(this.treeId).determination);
  readonly #prior = $derived.by(() => priorFor(this.row, this.#bush.rows));
  /** trees of its stand whose species is settled */
  readonly settled = $derived.by(() =>
    Object.values(settledBeside(this.row, this.#bush.rows)).reduce((sum, many) => sum + many, 0)
  );
  readonly judgement = $derived.by(() =>
    judge(this.work.evidence, this.work.age, { prior: this.#prior, table: this.table, season: this.work.season })
  );
  readonly leading = $derived(this.judgement.candidates[0]!);
  readonly begun = $derived(this.judgement.reasons.length > 0);
  readonly looks = $derived.by(() => {
    const { age, season, skipped, evidence } = this.work;
    return nextLooks(evidence, age, season, { prior: this.#prior, table: this.table, skipped });
  });
  readonly best = $derived(this.looks[0] && worth(this.looks[0]) >= WORTH_LOOKING_BITS ? this.looks[0] : null);
  /** When the buds may be swelling, that comes before any bud; then branching, without which nothing is settled. */
  readonly #next = $derived.by((): { readonly id: CharacterId; readonly for: AskedFor } | null => {
    if (this.asked) return { id: this.asked, for: 'chosen' };
    if (this.work.season === 'swelling' && this.#isOpen('budStage')) return { id: 'budStage', for: 'budsFirst' };
    if (this.#isOpen('arrangement')) return { id: 'arrangement', for: 'branchingFirst' };
    return this.best && { id: this.best.character, for: 'tellsMost' };
  });
  readonly current = $derived<Character | null>(this.#next && this.table.character(this.#next.id));
  readonly askedFor = $derived<AskedFor | null>(this.#next?.for ?? null);
  /** The clues that hold for this bark: what is saved. */
  readonly usable = $derived.by(() => {
    const { age, evidence } = this.work;
    return Object.fromEntries(this.table.forAge(age).flatMap(({ id }) => (evidence[id] ? [[id, evidence[id]]] : [])));
  });
  /** The last determination says just this, and would be the same today. */
  readonly isSaved = $derived(
    this.last?.basis === 'clues' &&
      this.last.age === this.work.age &&
      this.last.verdict === this.judgement.verdict &&
      this.last.species === this.leading.species &&
      Object.keys({ ...this.last.evidence, ...this.usable }).every(
        (id) => ({ twigsFrom: 'own', ...this.last!.evidence })[id] === this.usable[id]
      )
  );
  readonly maySave = $derived.by(() => this.#bush.mayRecord && this.begun && !this.isSaved);

  constructor(bush: BushState, treeId: string) {
    this.#bush = bush;
    this.treeId = treeId;
    this.work = untrack(() => this.#begin());
  }

  #begin(): LookDraft {
    return {
      age: this.last?.age ?? likelyAge(this.row.dbhMm),
      season: lookSeasonOf(this.#bush.today),
      evidence: { twigsFrom: 'own', ...(this.last?.evidence as Evidence | undefined) },
      skipped: []
    };
  }

  #isOpen(id: CharacterId): boolean {
    const { evidence, skipped, age, season } = this.work;
    if (evidence[id] || skipped.includes(id)) return false;
    return this.table.visible(age, season).some((character) => character.id === id);
  }

  /** Takes up what was chosen on this device before. */
  async read(): Promise<void> {
    const kept = await readDraft<LookDraft>(this.#bush, 'identify', this.treeId);
    if (!kept) return;
    this.work = kept.value;
    this.keptAt = kept.at;
  }

  async keep(): Promise<void> {
    this.keptAt = null;
    if (this.#bush.mayRecord) await keepDraft(this.#bush, 'identify', this.treeId, $state.snapshot(this.work));
  }

  /** A clue was seen in this state; seen so before, it is taken off again. */
  choose(character: Character, state: string): Promise<void> {
    const { work } = this;
    if (work.evidence[character.id] === state) delete work.evidence[character.id];
    else work.evidence[character.id] = state;
    work.skipped = work.skipped.filter((id) => id !== character.id);
    this.asked = null;
    return this.keep();
  }

  /** The clue that is asked for cannot be told. */
  async cannotTell(): Promise<void> {
    const { work, current } = this;
    if (!current) return;
    delete work.evidence[current.id];
    if (!work.skipped.includes(current.id)) work.skipped.push(current.id);
    this.asked = null;
    await this.keep();
  }

  async afresh(): Promise<void> {
    await dropDraft(this.#bush, 'identify', this.treeId);
    this.work = this.#begin();
    this.asked = this.keptAt = null;
  }

  /** Writes down what it amounts to. */
  async save(): Promise<WorkRecord> {
    const { judgement, leading, work, usable } = this;
    const record = await this.#bush.record(this.treeId, {
      kind: 'determination',
      verdict: judgement.verdict,
      species: leading.species,
      probability: leading.probability,
      age: work.age,
      basis: 'clues',
      lookSeason: work.season,
      evidence: usable,
      note: ''
    });
    await dropDraft(this.#bush, 'identify', this.treeId);
    this.keptAt = null;
    return record;
  }
}
