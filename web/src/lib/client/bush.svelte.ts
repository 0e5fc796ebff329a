import {
  closingSample,
  dropAt,
  hangingOf,
  isClosingTime,
  questionsIn,
  settingsAt,
  type Hanging,
  type TreeSettings
} from '@baumkin/core/bush';
import { ClueTable } from '@baumkin/core/identify';
import {
  deriveTree,
  effectiveRecords,
  mayTakeBack,
  paintOf,
  type BushRecord,
  type Entry,
  type Expectations,
  type Paint,
  type SiteFeature,
  type Station,
  type TreeRow,
  type TreeState,
  type WorkRecord
} from '@baumkin/core/records';
import { getContext, setContext } from 'svelte';
import { SvelteMap } from 'svelte/reactivity';

import { api } from './api.ts';
import { BushChanges } from './bushChanges.ts';
import { Outbox } from './outbox.svelte.ts';
import { InStep } from './inStep.svelte.ts';
import { LastDone } from './lastDone.svelte.ts';
import { livesOf, withAtHand, type TreeLife } from './lives.ts';
import type { Glance } from './overview.ts';
import { writeDown, writeDownOfBush, type BushDraft, type Draft } from './recordDraft.ts';
import { rowsOf } from './rows.ts';
import { addToLives, keeping, notKept, store, treesIn, type OutboxEntry } from './store.ts';
import { Waiting } from './waiting.ts';

const RETRY_MS = 15_000;
const NONE: ReadonlySet<string> = new Set();
/** A record of a tree, or of the bush. */
type Written = WorkRecord | BushRecord;

/**
 * The bush on this device: rows for every tree, records for those that were opened, and the outbox. Every write goes
 * through the outbox first, whether there is a network or not; what waits there already counts on the screen.
 */
export class BushState {
  /** entries of trees that came into the registry here and that the server's list does not show yet */
  #born = $state.raw<readonly Entry[]>([]);
  readonly #records = new SvelteMap<string, readonly WorkRecord[]>();
  /** the tree whose records were asked for last */
  #looksAt: string | null = null;
  #closed = false;
  /** the session is over: what is here can be worked with, and what is written waits until somebody signs in */
  signedOut = $state(false);
  /** why the bush could not be opened at all */
  #broken = $state<string | null>(null);
  #timer: ReturnType<typeof setInterval> | undefined;

  readonly outbox: Outbox;
  readonly lastDone: LastDone;
  /** what the server has, kept in step */
  readonly #server: InStep;
  /** what is no record of work and cannot wait: the bush's own numbers, its walk, its ground */
  readonly change = new BushChanges(this);
  /** the trees, those that came into the registry here and wait to be sent included */
  readonly #all = $derived.by(() => {
    const entries = this.outbox.entries.flatMap(({ record, refused }) =>
      record.kind === 'entry' && refused === null ? [record] : []
    );
    return rowsOf(this.#server.lines, this, this.expects, {
      waiting: [...this.outbox.byTree.keys()].filter((id): id is string => id !== null && this.hasLife(id)),
      recordsOf: (treeId) => this.recordsOf(treeId),
      born: [...this.#born, ...entries]
    });
  });
  /** Trees that came into the registry here and wait to be sent: all there is to know of them was written here. */
  readonly #bornHere = $derived.by(
    () =>
      new Set(
        this.outbox.entries.flatMap(({ record }) =>
          record.kind === 'entry' && record.correctsId === null ? [record.treeId] : []
        )
      )
  );
  /** the trees that stand */
  readonly rows = $derived(this.#all.filter((row) => !row.cut));
  /** trees that were felled or fell: their lives can still be read */
  readonly stumps = $derived(this.#all.filter((row) => row.cut));
  readonly byId = $derived(new Map(this.#all.map((row) => [row.id, row])));
  readonly features = $derived<readonly SiteFeature[]>(this.overview?.features ?? []);
  /** The clue table with this bush's own shares. */
  readonly clueTable = $derived(new ClueTable(this.overview?.bush.settings.clueTable ?? {}));
  /** all records of the bush as a whole, those in the outbox included */
  readonly #ofBush = $derived.by((): readonly BushRecord[] => {
    const stored = this.#server.bushRecords;
    const known = new Set(stored.map((record) => record.id));
    const waiting = (this.outbox.byTree.get(null) ?? []).map(({ record }) => record as BushRecord);
    return [...stored, ...waiting.filter(({ id }) => !known.has(id))];
  });
  /** Those that stand. */
  readonly bushRecords = $derived(effectiveRecords(this.#ofBush));
  /** Questions of the bush, each with what was answered; null while it is open. */
  readonly questions = $derived(questionsIn(this.bushRecords));
  readonly openQuestions = $derived(this.questions.filter(({ answer }) => answer === null).length);
  /** the trees of a round that was taken out of the walk; null while the whole walk is walked */
  round = $state.raw<ReadonlySet<string> | null>(null);
  /** what the bead string and the keys step through */
  readonly walked = $derived.by(() => {
    const { round } = this;
    const rows = round === null ? [] : this.rows.filter((row) => round.has(row.id));
    // Trees without a tag are in the registry as neighbours; the walk leaves them out.
    return rows.length > 0 ? rows : this.rows.filter((row) => row.tagged !== false);
  });
  readonly season = $derived(this.overview?.season ?? new Date().getFullYear());
  /** what limits where taps may be, as a text: the same where nothing of it changed */
  readonly tapLimits = $derived(JSON.stringify([...hangingOf(this.bushRecords)]));
  readonly #hanging = $derived(new Map(JSON.parse(this.tapLimits) as [string, Hanging][]));
  readonly today = $derived(this.overview?.today ?? new Date().toISOString().slice(0, 10));
  readonly mayRecord = $derived(this.overview !== null && this.overview.bush.role !== 'viewer');
  readonly mayDecide = $derived(this.overview?.bush.role === 'steward');
  readonly #waiting = $derived(new Waiting(this.today, this.overview?.stands ?? []));
  /** the trees of this summer's closing round; none at another time of the year */
  readonly #closing = $derived(isClosingTime(this.today) ? closingSample(this.rows, this.today) : NONE);
  /** how many trees wait at each station */
  readonly outstanding = $derived(this.#waiting.count(this.rows, this.#closing));

  constructor(readonly id: string) {
    const session = (stands: boolean) => void (this.signedOut = !stands);
    this.lastDone = new LastDone(this);
    this.outbox = new Outbox(id, {
      memberId: () => this.overview?.member.id,
      arrived: (entries) => this.#arrived(entries),
      askAnew: () => this.refresh(),
      session
    });
    this.#server = new InStep(id, {
      came: (treeIds) => this.#came(treeIds),
      answered: (answered) => (this.outbox.offline = !answered),
      isInStep: () => (this.outbox.problem = null),
      session
    });
  }

  /** What is known of the bush at a glance; null until something is. */
  get overview(): Glance | null {
    return this.#server.glance;
  }
  /** what is expected of the bush's trees */
  get expects(): Partial<Expectations> {
    return this.#server.expects;
  }
  get problem(): string | null {
    return this.#broken ?? this.#server.problem ?? this.outbox.unkept ?? this.outbox.problem;
  }
  /** how much of the bush has come onto this device, while it comes for the first time */
  get progress() {
    return this.#server.progress;
  }

  /** Opens the bush: what the device has at once, what the server has as soon as it answers. */
  async open(): Promise<void> {
    try {
      await this.#open();
    } catch (error) {
      console.error(error);
      this.#broken = notKept(error);
    }
  }

  async #open(): Promise<void> {
    // Before anything shows: a bush without what waits here would say that all is saved.
    await this.outbox.read();
    await this.#server.read();
    await this.lastDone.read();
    const round = await store.drafts.get(`round/${this.id}`);
    this.round = round?.value ? new Set(round.value as string[]) : null;
    await this.#fromDevice(treesIn(this.outbox.entries));
    // The page may be gone by now: its timers and listeners end with it.
    if (this.#closed) return;
    window.addEventListener('online', this.#wake);
    window.addEventListener('offline', this.#sleep);
    document.addEventListener('visibilitychange', this.#lookAgain);
    this.#timer = setInterval(() => void (this.outbox.waiting > 0 && this.outbox.send()), RETRY_MS);
    await this.refresh();
    await this.outbox.read();
    this.#server.listen();
    await this.outbox.send();
  }

  /** Resolves once nothing that comes from the server is written to this device any more. */
  close(): Promise<void> {
    this.#closed = true;
    window.removeEventListener('online', this.#wake);
    window.removeEventListener('offline', this.#sleep);
    document.removeEventListener('visibilitychange', this.#lookAgain);
    clearInterval(this.#timer);
    return this.#server.close();
  }

  /** Comes into step with the server. */
  refresh(): Promise<void> {
    return this.#server.refresh();
  }

  /** Records of trees came onto this device: those that are open are read anew. */
  async #came(treeIds: readonly string[] = [...this.#records.keys()]): Promise<void> {
    // Until the whole bush is here, the records of the tree that is looked at come by themselves.
    if (this.#looksAt !== null && !(await this.#server.isWhole())) void this.loadTree(this.#looksAt);
    const open = treeIds.filter((id) => this.#records.has(id));
    for (const life of await store.lives.bulkGet(open)) if (life) this.#records.set(life.treeId, life.records);
    if (this.#born.length === 0) return;
    const listed = new Set(this.#server.lines.map(({ id }) => id));
    this.#born = this.#born.filter(({ treeId }) => !listed.has(treeId));
  }

  /** All records of a tree, those in the outbox included; empty until they are loaded. */
  recordsOf(treeId: string): readonly WorkRecord[] {
    return this.#withWaiting(treeId, this.#records.get(treeId) ?? []);
  }

  #withWaiting(treeId: string, kept: readonly WorkRecord[]): readonly WorkRecord[] {
    const waiting = this.outbox.byTree.get(treeId);
    if (!waiting) return kept;
    const known = new Set(kept.map(({ id }) => id));
    return [...kept, ...waiting.flatMap(({ id, record }) => (known.has(id) ? [] : [record as WorkRecord]))];
  }

  /** A tree's tag, to name it by. */
  tagOf(treeId: string): string {
    return this.byId.get(treeId)?.tag ?? 'a tree no longer in the book';
  }

  /** The paint that can be seen under a season's holes; null where there is none. */
  paintOf(season: number): Paint | null {
    const settings = this.overview?.bush.settings;
    return settings ? paintOf(season, settings, this.season) : null;
  }

  /** The season and the snow that holes are placed for, and the paints that can be seen. */
  readonly asPlanned = $derived({
    season: this.season,
    snowMm: this.overview?.bush.settings.snowMm ?? 0,
    paintOf: (season: number) => this.paintOf(season)
  });

  /** The bush's own numbers, as they hold at a tree. */
  settingsAt(treeId: string): TreeSettings {
    return settingsAt(this.overview!.bush.settings, this.#hanging.get(treeId));
  }

  /** Do buckets hang at a tree, and not tubes? */
  hangsBuckets(treeId: string): boolean {
    return dropAt(this.settingsAt(treeId)) === null;
  }

  /** Are the tree's records here? */
  hasLife(treeId: string): boolean {
    return this.#records.has(treeId) || this.#bornHere.has(treeId);
  }

  stateOf(treeId: string): TreeState {
    return this.stateFrom(this.recordsOf(treeId));
  }

  /** The state that records amount to, seen among the bush's other trees. */
  stateFrom(records: readonly WorkRecord[]): TreeState {
    return deriveTree(records, this, this.expects);
  }

  /** Brings a tree's records: from the device, or from the server where they are not there yet. */
  async loadTree(treeId: string): Promise<void> {
    this.#looksAt = treeId;
    await this.#fromDevice([treeId]);
    if (this.#records.has(treeId) && (await this.#server.isWhole())) return;
    const answer = await this.#server.ask(
      api.GET('/bushes/{bush}/trees/{tree}', { params: { path: { bush: this.id, tree: treeId } } })
    );
    if (!answer) return;
    this.#records.set(treeId, answer.records);
    await keeping([store.lives], () => addToLives(this.id, { trees: [], records: answer.records }));
  }

  /**
   * Writes a record down: kept on this device first, then sent.
   * @returns the record, with its new id
   */
  async record(treeId: string, draft: Draft): Promise<WorkRecord> {
    return (await this.recordAll([{ treeId, draft }]))[0]!;
  }

  /** Writes many records down at once, all or none on this device. */
  async recordAll(drafts: readonly { readonly treeId: string; readonly draft: Draft }[]): Promise<WorkRecord[]> {
    const records = drafts.map(({ treeId, draft }) => writeDown(treeId, draft, this.#writer));
    await this.#keep(records);
    return records;
  }

  /** Writes a record of the bush as a whole down, or a correction of one. */
  async recordOfBush(draft: BushDraft): Promise<BushRecord> {
    const record = writeDownOfBush(draft, this.#writer);
    await this.#keep([record]);
    return record;
  }

  get #writer() {
    return { authorId: this.overview?.member.id ?? '', today: this.today };
  }

  /** What this device knows of these trees has to be at hand, or what is new would not show on their lines. */
  #keep(records: readonly (WorkRecord | BushRecord)[]): Promise<void> {
    // After they are kept: nothing may delay that.
    const treeIds = records.flatMap((record) => ('treeId' in record ? [record.treeId] : []));
    return this.outbox.put(records, () => this.#fromDevice(treeIds));
  }

  /** Crosses records out, a tree's or the bush's. @returns the corrections that say nothing instead */
  withdraw(...records: readonly Written[]): Promise<Written[]> {
    return this.#replace(records, (record) => ({ ...record, withdrawn: true }));
  }

  /**
   * Takes back what was written down, where it is seen or as it was said: what a record corrected or crossed out stands again, written
   * anew in its place.
   * @returns what was written down to do so
   */
  takeBack(...records: readonly Written[]): Promise<Written[]> {
    return this.#replace(records, (record) => {
      const around = 'treeId' in record ? this.recordsOf(record.treeId) : this.#ofBush;
      const earlier = around.find(({ id }) => id === record.correctsId);
      return earlier && !earlier.withdrawn ? earlier : { ...record, withdrawn: true };
    });
  }

  async #replace(records: readonly Written[], by: (record: Written) => Written): Promise<Written[]> {
    const taken = records.map((record) => {
      const { id: _id, recordedAt: _at, ...draft } = by(record);
      const instead = { ...draft, correctsId: record.id };
      return 'treeId' in record
        ? writeDown(record.treeId, instead as Draft, this.#writer)
        : writeDownOfBush(instead as BushDraft, this.#writer);
    });
    await this.#keep(taken);
    await this.lastDone.forget(records);
    return taken;
  }

  /** Steps through these trees alone, in walking order, until the round is ended. */
  walkOnly(ids: readonly string[] | null): void {
    this.round = ids === null ? null : new Set(ids);
    void store.drafts.put({ key: `round/${this.id}`, bushId: this.id, value: ids, at: Date.now() });
  }

  /** The name of whoever wrote a record down. */
  authorOf(record: WorkRecord | BushRecord): string {
    return this.overview?.people.find((person) => person.id === record.authorId)?.name ?? 'somebody else';
  }

  /**
   * Adds records that the server has to what is known of their trees, if anything is. All at once: a batch of hundreds
   * shows, and is written to the device, as one change.
   * @returns whether this device holds all of these trees
   */
  async #arrived(entries: readonly OutboxEntry[]): Promise<boolean> {
    await this.#fromDevice(treesIn(entries));
    const news: WorkRecord[] = [];
    const ofBush: BushRecord[] = [];
    const born: Entry[] = [];
    let known = true;
    for (const { treeId, record } of entries) {
      if (treeId === null) {
        ofBush.push(record as BushRecord);
        continue;
      }
      // A tree that came into the registry here: all there is to know of it was written on this device.
      const isNew = record.kind === 'entry' && record.correctsId === null;
      if (isNew) born.push(record);
      const isHere = this.#records.has(treeId) || born.some((entry) => entry.treeId === treeId);
      if (!isHere || isNew) known = false;
      if (isHere) news.push(record as WorkRecord);
    }
    if (born.length > 0) this.#born = [...this.#born, ...born];
    const { lives, followed } = await this.#server.arrived(withAtHand(news, this.#records), ofBush);
    for (const { treeId, records } of lives) this.#records.set(treeId, records);
    return known && followed;
  }

  /** What the device holds of trees whose records are not at hand yet. */
  async #fromDevice(treeIds: readonly string[]): Promise<void> {
    const wanted = [...new Set(treeIds)].filter((treeId) => !this.#records.has(treeId));
    if (wanted.length === 0) return;
    for (const life of await store.lives.bulkGet(wanted))
      if (life && !this.#records.has(life.treeId)) this.#records.set(life.treeId, life.records);
  }

  /**
   * Trees with everything recorded of each, one after the other.
   * @param rows of them; all where nothing is said
   * @throws UserFacingError where not all of it is on this device, which the page has told by then: a tree whose holes are not
   *   known is not one without holes
   */
  async *lives(rows: readonly TreeRow[] = this.#all): AsyncGenerator<TreeLife> {
    await this.#server.takeAll();
    yield* livesOf(rows, (treeId, kept) => this.#withWaiting(treeId, kept));
  }

  /** May whoever works here take a record back? The server holds to the same. */
  mayTakeBack(record: WorkRecord | BushRecord): boolean {
    const { overview, today } = this;
    return overview !== null && mayTakeBack(record, { memberId: overview.member.id, role: overview.bush.role, today });
  }

  isOutstanding(station: Station, row: TreeRow): boolean {
    return this.#waiting.isAt(station, row, this.#closing);
  }

  standOf(row: TreeRow) {
    return this.#waiting.standOf(row);
  }

  readonly #wake = () => {
    this.outbox.offline = false;
    void this.outbox.send();
    void this.refresh();
  };
  /** Back at this page after a while: others may have worked on the bush. */
  readonly #lookAgain = () => {
    if (document.visibilityState === 'visible') void this.refresh();
  };
  readonly #sleep = () => {
    this.outbox.offline = true;
  };
}

const KEY = Symbol('bush');

/** Gives a bush to all that is drawn inside this component. */
export function provideBush(bush: BushState): void {
  setContext(KEY, bush);
}

/** The bush of the page: the same for as long as a component lives. */
export function useBush(): BushState {
  return getContext<BushState>(KEY);
}
