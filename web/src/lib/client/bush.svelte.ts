import { ClueTable } from '@baumkin/core/identify';
import {
  deriveTree,
  bushRecordSchema,
  isGone,
  isOutstanding,
  paintOf,
  recordSchema,
  effectiveRecords,
  STATIONS,
  treeLine,
  treeRow,
  type BushRecord,
  type BushSettings,
  type Entry,
  type BaseMapFit,
  type Paint,
  type RecordInput,
  type SiteFeature,
  type Stand,
  type Station,
  type TreeRow,
  type TreeState,
  type WorkRecord
} from '@baumkin/core/records';
import { getContext, setContext } from 'svelte';
import { SvelteMap } from 'svelte/reactivity';

import type { Overview } from './overview.ts';
import { sendInHalves, type Answer } from './sendInHalves.ts';
import { store, type OutboxEntry } from './store.ts';

/** A record without the parts that are the same for all: id, moment and tree. */
type Draft = RecordInput extends infer R
  ? R extends RecordInput
    ? Omit<R, 'id' | 'treeId' | 'recordedAt' | 'correctsId' | 'withdrawn' | 'on' | 'authorId'> & {
        correctsId?: string;
        on?: string;
        withdrawn?: boolean;
      }
    : never
  : never;

type BushDraft = BushRecord extends infer R
  ? R extends BushRecord
    ? Omit<R, 'id' | 'recordedAt' | 'on' | 'correctsId' | 'withdrawn' | 'authorId'> & {
        on?: string;
        correctsId?: string;
        withdrawn?: boolean;
      }
    : never
  : never;

/** The line of a tree as an entry in the place of its last, to be changed. */
export function lineDraft({ tag, tagged, standId, stemOf }: TreeRow, entry: Entry | null) {
  return {
    kind: 'entry' as const,
    tag,
    tagged,
    standId,
    stemOf,
    afterId: null,
    note: '',
    ...(entry ? { correctsId: entry.id } : {})
  };
}

/** The trees that waiting records belong to. */
const treesIn = (outbox: readonly OutboxEntry[]) =>
  outbox.flatMap((entry) => (entry.treeId === null ? [] : [entry.treeId]));

const RETRY_MS = 15_000;
/** A record on which the server breaks is tried so often before it is set aside. */
const MAX_TRIES = 3;

/**
 * The bush on this device: rows for every tree, records for those that were opened, and the outbox. Every write goes
 * through the outbox first, whether there is a network or not; what waits there already counts on the screen.
 */
export class BushState {
  overview = $state.raw<Overview | null>(null);
  /** the server could not be reached at the last try */
  offline = $state(false);
  problem = $state<string | null>(null);
  outbox = $state.raw<readonly OutboxEntry[]>([]);
  /** entries of trees that came into the registry here and that the server's list does not show yet */
  #born = $state.raw<readonly Entry[]>([]);
  readonly #records = new SvelteMap<string, readonly WorkRecord[]>();
  #sending: Promise<void> | null = null;
  #sendAgain = false;
  /** how often the server broke on a record */
  readonly #tries = new Map<string, number>();
  #closed = false;
  #timer: ReturnType<typeof setInterval> | undefined;

  /** Batches that are just being put onto this device: nothing is saved before they are there. */
  keeping = $state(0);
  readonly waiting = $derived(this.outbox.filter((entry) => entry.refused === null).length);
  readonly refused = $derived(this.outbox.filter((entry) => entry.refused !== null));
  readonly #waitingByTree = $derived.by(() => {
    const byTree = new Map<string, WorkRecord[]>();
    for (const { treeId, record, refused } of this.outbox) {
      if (treeId === null || refused !== null) continue;
      const records = byTree.get(treeId);
      if (records) records.push(record as WorkRecord);
      else byTree.set(treeId, [record as WorkRecord]);
    }
    return byTree;
  });
  readonly #all = $derived.by(() => this.#rowsWithOutbox());
  /** the trees that stand */
  readonly rows = $derived(this.#all.filter((row) => !row.cut));
  /** trees that were felled or fell: their lives can still be read */
  readonly stumps = $derived(this.#all.filter((row) => row.cut));
  readonly byId = $derived(new Map(this.#all.map((row) => [row.id, row])));
  /** A device may hold an overview from before features were sent. */
  readonly features = $derived<readonly SiteFeature[]>(this.overview?.features ?? []);
  /** The clue table with this bush's own shares. */
  readonly clueTable = $derived(new ClueTable(this.overview?.bush.settings.clueTable ?? {}));
  /** Records of the bush as a whole that stand, those in the outbox included. */
  readonly bushRecords = $derived.by((): readonly BushRecord[] => {
    const stored = this.overview?.bushRecords ?? [];
    const known = new Set(stored.map((record) => record.id));
    const waiting = this.outbox.flatMap((entry) =>
      entry.treeId === null && entry.refused === null && !known.has(entry.id) ? [entry.record as BushRecord] : []
    );
    return effectiveRecords([...stored, ...waiting]);
  });
  /** the trees of a round that was taken out of the walk; null while the whole walk is walked */
  round = $state.raw<ReadonlySet<string> | null>(null);
  /** what the bead string and the keys step through */
  readonly walked = $derived.by(() => {
    const { round } = this;
    const rows = round === null ? [] : this.rows.filter((row) => round.has(row.id));
    // Nobody walks to neighbours without a tag for their own sake.
    return rows.length > 0 ? rows : this.rows.filter((row) => row.tagged !== false);
  });
  readonly season = $derived(this.overview?.season ?? new Date().getFullYear());
  readonly today = $derived(this.overview?.today ?? new Date().toISOString().slice(0, 10));
  readonly mayRecord = $derived(this.overview !== null && this.overview.bush.role !== 'viewer');
  readonly mayDecide = $derived(this.overview?.bush.role === 'steward');
  readonly outstanding = $derived.by(() => this.#countOutstanding());

  constructor(readonly id: string) {}

  /** Opens the bush: what the device has at once, what the server has as soon as it answers. */
  async open(): Promise<void> {
    const kept = await store.overviews.get(this.id);
    if (kept) this.overview = kept.overview;
    const round = await store.drafts.get(`round/${this.id}`);
    this.round = round?.value ? new Set(round.value as string[]) : null;
    await this.#readOutbox();
    await this.#fromDevice(treesIn(this.outbox));
    // The page may be gone by now: its timers and listeners end with it.
    if (this.#closed) return;
    window.addEventListener('online', this.#wake);
    window.addEventListener('offline', this.#sleep);
    document.addEventListener('visibilitychange', this.#lookAgain);
    this.#timer = setInterval(() => void (this.waiting > 0 && this.send()), RETRY_MS);
    await this.refresh();
    await this.#readOutbox();
    void this.#takeAlong();
    await this.send();
  }

  close(): void {
    this.#closed = true;
    window.removeEventListener('online', this.#wake);
    window.removeEventListener('offline', this.#sleep);
    document.removeEventListener('visibilitychange', this.#lookAgain);
    clearInterval(this.#timer);
  }

  /** Asks the server for the bush at a glance. */
  async refresh(): Promise<void> {
    const answer = await this.#get<Overview>(`/api/v1/bushes/${this.id}`);
    if (!answer) return;
    this.overview = answer;
    this.#born = [];
    this.problem = null;
    await store.overviews.put({ bushId: this.id, overview: answer });
  }

  /** All records of a tree, those in the outbox included; empty until they are loaded. */
  recordsOf(treeId: string): readonly WorkRecord[] {
    const stored = this.#records.get(treeId) ?? [];
    const waiting = this.#waitingByTree.get(treeId);
    if (!waiting) return stored;
    const known = new Set(stored.map((record) => record.id));
    return [...stored, ...waiting.filter((record) => !known.has(record.id))];
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

  /** Are the tree's records here? */
  hasLife(treeId: string): boolean {
    return this.#records.has(treeId);
  }

  stateOf(treeId: string): TreeState {
    return this.stateFrom(this.recordsOf(treeId));
  }

  /** The state that records amount to, seen among the bush's other trees. */
  stateFrom(records: readonly WorkRecord[]): TreeState {
    return deriveTree(records, this, { priors: this.overview?.ringPriors, sizes: this.overview?.sizes });
  }

  /** Brings a tree's records: from the device at once, then from the server. */
  async loadTree(treeId: string): Promise<void> {
    await this.#fromDevice([treeId]);
    const answer = await this.#get<{ records: WorkRecord[] }>(`/api/v1/bushes/${this.id}/trees/${treeId}`);
    if (!answer) return;
    this.#records.set(treeId, answer.records);
    await store.lives.put({ treeId, bushId: this.id, records: answer.records });
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
    const authorId = this.overview?.member.id ?? '';
    const records = drafts.map(({ treeId, draft }): WorkRecord => ({
      ...recordSchema.parse({
        on: this.today,
        ...draft,
        id: crypto.randomUUID(),
        treeId,
        recordedAt: new Date().toISOString()
      }),
      authorId
    }));
    await this.#intoOutbox(records);
    return records;
  }

  /** Writes a record of the bush as a whole down, or a correction of one. */
  async recordOfBush(draft: BushDraft): Promise<BushRecord> {
    const authorId = this.overview?.member.id ?? '';
    const record: BushRecord = {
      ...bushRecordSchema.parse({
        on: this.today,
        ...draft,
        id: crypto.randomUUID(),
        recordedAt: new Date().toISOString()
      }),
      authorId
    };
    await this.#intoOutbox([record]);
    return record;
  }

  /** Keeps records on this device and begins to send them. */
  async #intoOutbox(records: readonly (WorkRecord | BushRecord)[]): Promise<void> {
    this.keeping += 1;
    try {
      const now = Date.now();
      await store.outbox.bulkPut(
        records.map((record, i) => ({
          id: record.id,
          bushId: this.id,
          memberId: record.authorId ?? '',
          treeId: 'treeId' in record ? record.treeId : null,
          record,
          // In the order of the batch: a tree's entry goes before what is said of it.
          addedAt: now + i / 1000,
          refused: null
        }))
      );
      // What this device knows of these trees has to be at hand, or what is new would not show on their lines. Only now:
      // nothing may come between the click and the record's being kept.
      await this.#fromDevice(records.flatMap((record) => ('treeId' in record ? [record.treeId] : [])));
      await this.#readOutbox();
    } finally {
      this.keeping -= 1;
    }
    void this.send();
  }

  /** Takes a record of the bush back. */
  async withdrawOfBush({ id, recordedAt: _at, ...rest }: BushRecord): Promise<void> {
    await this.recordOfBush({ ...rest, correctsId: id, withdrawn: true });
  }

  /** Takes records back: corrections that say nothing instead. */
  async withdraw(...records: readonly WorkRecord[]): Promise<void> {
    await this.recordAll(
      records.map(({ id, treeId, recordedAt: _at, ...rest }) => ({
        treeId,
        draft: { ...rest, correctsId: id, withdrawn: true } as Draft
      }))
    );
  }

  /**
   * Changes some of the bush's own numbers.
   * @returns a sentence when that was refused; null when it is done
   */
  async changeSettings(settings: Partial<BushSettings>): Promise<string | null> {
    if (!this.overview) return 'The bush is not open.';
    return this.#send('PATCH', 'settings', { version: this.overview.bush.version, settings });
  }

  /** Lets the others see one's own share of brown wood under one's name, or no more. */
  async showHoles(showsHoles: boolean): Promise<string | null> {
    return this.#send('PATCH', 'members', { showsHoles });
  }

  /** Puts the trees into a new walking order. @returns a sentence when that was refused; null when it is done */
  async changeWalk(order: readonly string[]): Promise<string | null> {
    return this.#send('PUT', 'walk', { order });
  }

  /** Steps through these trees alone, in walking order, until the round is ended. */
  walkOnly(ids: readonly string[] | null): void {
    this.round = ids === null ? null : new Set(ids);
    void store.drafts.put({ key: `round/${this.id}`, bushId: this.id, value: ids, at: Date.now() });
  }

  /** Draws a stand or something else on the ground, or another shape of it. */
  async upsertShape(what: 'stand' | 'feature', shape: Stand | SiteFeature): Promise<string | null> {
    return this.#send('PUT', `${what}s/${shape.id}`, { version: this.overview!.bush.version, [what]: shape });
  }

  /** Takes a stand or something else on the ground away. */
  async deleteShape(what: 'stand' | 'feature', id: string): Promise<string | null> {
    return this.#send('DELETE', `${what}s/${id}`, { version: this.overview!.bush.version });
  }

  /** Says where on earth the bush lies. */
  async lieAt(origin: { lat: number; lon: number }): Promise<string | null> {
    return this.#send('PATCH', '', { version: this.overview!.bush.version, origin });
  }

  /** Lays a picture under the map, or takes it away. */
  async setBaseMap(picture: { pictureBase64: string; fit: BaseMapFit } | null): Promise<string | null> {
    return picture ? this.#send('PUT', 'base-map', picture) : this.#send('DELETE', 'base-map', {});
  }

  /** What is no record of work and cannot wait in the outbox. @returns a sentence when that failed */
  async #send(method: string, what: string, body: object): Promise<string | null> {
    try {
      const response = await fetch(`/api/v1/bushes/${this.id}${what === '' ? '' : `/${what}`}`, {
        method,
        headers: { 'content-type': 'application/json' },
        body: JSON.stringify(body)
      });
      if (!response.ok) return await messageOf(response);
    } catch {
      return 'There is no network. That changes only where the server can be reached; nothing was changed.';
    }
    await this.refresh();
    return null;
  }

  /** The name of whoever wrote a record down. */
  authorOf(record: WorkRecord | BushRecord): string {
    return this.overview?.people?.find((person) => person.id === record.authorId)?.name ?? 'somebody else';
  }

  /** Sends a refused entry of a tree again under another tag, and with it what was refused for want of that tree. */
  async retag(entry: OutboxEntry, tag: string): Promise<void> {
    const record = recordSchema.parse({ ...entry.record, tag });
    await store.outbox.update(entry.id, { record: { ...record, authorId: entry.memberId }, refused: null });
    const others = this.outbox.filter((other) => other.treeId === entry.treeId && other.id !== entry.id);
    await Promise.all(others.map((other) => store.outbox.update(other.id, { refused: null })));
    await this.#readOutbox();
    await this.send();
  }

  /** Drops a refused record from the outbox, once a person has read why. */
  async drop(entryId: string): Promise<void> {
    await store.outbox.delete(entryId);
    await this.#readOutbox();
  }

  /** Sends what waits. One sender at a time; what is added meanwhile goes in the next turn. */
  async send(): Promise<void> {
    if (this.#sending) {
      this.#sendAgain = true;
      return this.#sending;
    }
    this.#sending = this.#sendAll().finally(() => (this.#sending = null));
    await this.#sending;
    if (this.#sendAgain) {
      this.#sendAgain = false;
      await this.send();
    }
  }

  async #sendAll(): Promise<void> {
    // Two tabs share one outbox; the server takes a record that comes twice as one, so no lock is needed.
    const batch = this.outbox.filter((entry) => entry.refused === null).slice(0, 200);
    if (batch.length === 0) return;
    const { outcomes, aside, stopped } = await sendInHalves(batch, (part) => this.#post(part));
    this.offline = stopped !== null && stopped.reason === null;
    const byId = new Map(outcomes.map((outcome) => [outcome.id, outcome]));
    const stored: OutboxEntry[] = [];
    for (const entry of batch) {
      const outcome = byId.get(entry.id);
      if (outcome?.status === 'refused') await store.outbox.update(entry.id, { refused: outcome.reason ?? 'refused' });
      else if (outcome) stored.push(entry);
    }
    // What the server does not take even alone is set aside with its reason; the rest has arrived.
    for (const { item, reason, final } of aside) {
      const tries = (this.#tries.get(item.id) ?? 0) + 1;
      this.#tries.set(item.id, tries);
      if (final || tries >= MAX_TRIES) await store.outbox.update(item.id, { refused: reason });
    }
    this.problem =
      stopped?.reason ??
      (aside.length > 0 ? `${stored.length} stored, ${aside.length} not taken: ${aside[0]!.reason}` : null);
    const known = await this.#arrived(stored);
    await this.#readOutbox();
    // A tree whose records this device never held: only the server can say how its line looks now.
    if (!known) await this.refresh();
    // Only what made headway is followed up at once; the rest waits for the next turn of the clock.
    if (this.waiting > 0 && stopped === null && stored.length > 0) this.#sendAgain = true;
  }

  /** Posts a part of the outbox. */
  async #post(part: readonly OutboxEntry[]): Promise<Answer<{ id: string; status: string; reason?: string }>> {
    let response: Response;
    try {
      response = await fetch(`/api/v1/bushes/${this.id}/records`, {
        method: 'POST',
        headers: { 'content-type': 'application/json' },
        body: JSON.stringify({ records: part.map((entry) => entry.record) })
      });
    } catch {
      return { kind: 'stop', reason: null };
    }
    if (response.ok)
      return {
        kind: 'taken',
        outcomes: ((await response.json()) as { outcomes: { id: string; status: string }[] }).outcomes
      };
    if (response.status === 401) return { kind: 'stop', reason: 'Sign in again; your records wait on this device.' };
    // Forbidden or throttled as a whole: halving would change nothing.
    if (response.status === 403 || response.status === 404 || response.status === 429)
      return { kind: 'stop', reason: await messageOf(response) };
    return { kind: 'refused', reason: await messageOf(response), final: response.status < 500 };
  }

  /**
   * Moves records from the outbox to what is known of their trees, if anything is. All at once: a batch of hundreds
   * shows, and is written to the device, as one change.
   * @returns whether this device holds all of these trees
   */
  async #arrived(entries: readonly OutboxEntry[]): Promise<boolean> {
    await this.#fromDevice(treesIn(entries));
    const changed = new Map<string, readonly WorkRecord[]>();
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
      const before = changed.get(treeId) ?? this.#records.get(treeId) ?? (isNew ? [] : undefined);
      if (!before || isNew) known = false;
      if (before) changed.set(treeId, [...before.filter(({ id }) => id !== record.id), record as WorkRecord]);
    }
    if (ofBush.length > 0 && this.overview) {
      const others = (this.overview.bushRecords ?? []).filter(({ id }) => !ofBush.some((record) => record.id === id));
      this.overview = { ...this.overview, bushRecords: [...others, ...ofBush] };
      await store.overviews.put({ bushId: this.id, overview: this.overview });
    }
    await store.lives.bulkPut(
      [...changed].map(([treeId, records]) => ({ treeId, bushId: this.id, records: [...records] }))
    );
    await store.outbox.bulkDelete(entries.map(({ id }) => id));
    if (born.length > 0) this.#born = [...this.#born, ...born];
    for (const [treeId, records] of changed) this.#records.set(treeId, records);
    return known;
  }

  async #readOutbox(): Promise<void> {
    const entries = await store.outbox.where('bushId').equals(this.id).toArray();
    const own = entries.filter((entry) => entry.memberId === this.overview?.member.id);
    this.outbox = own.sort((a, b) => a.addedAt - b.addedAt);
  }

  /** What the device holds of trees whose records are not at hand yet. */
  async #fromDevice(treeIds: readonly string[]): Promise<void> {
    const wanted = [...new Set(treeIds)].filter((treeId) => !this.#records.has(treeId));
    if (wanted.length === 0) return;
    for (const life of await store.lives.bulkGet(wanted))
      if (life && !this.#records.has(life.treeId)) this.#records.set(life.treeId, life.records);
  }

  /** Brings the whole bush onto the device, for the woods. */
  async #takeAlong(): Promise<void> {
    const pack = await this.#get<{ lives: { treeId: string; records: WorkRecord[] }[] }>(
      `/api/v1/bushes/${this.id}/pack`
    );
    if (!pack) return;
    await store.lives.bulkPut(pack.lives.map((life) => ({ ...life, bushId: this.id })));
  }

  /** Every tree with everything recorded of it: as the server has it, or as far as this device does. */
  async everything(): Promise<{ tree: TreeRow; records: readonly WorkRecord[] }[]> {
    await this.#takeAlong();
    const lives = await store.lives.where('bushId').equals(this.id).toArray();
    const byTree = new Map(lives.map((life) => [life.treeId, life.records]));
    for (const { treeId, record, refused } of this.outbox)
      if (treeId !== null && refused === null && !byTree.get(treeId)?.some(({ id }) => id === record.id))
        byTree.set(treeId, [...(byTree.get(treeId) ?? []), record as WorkRecord]);
    return this.#all.map((tree) => ({ tree, records: byTree.get(tree.id) ?? this.recordsOf(tree.id) }));
  }

  /** Gives trees another stand, or none: each gets an entry in the place of its last. @returns puts them back */
  async putIntoStands(
    moves: readonly { readonly row: TreeRow; readonly standId: string | null }[]
  ): Promise<() => Promise<unknown>> {
    const known = new Map((await this.everything()).map(({ tree, records }) => [tree.id, records]));
    await this.recordAll(
      moves.map(({ row, standId }) => {
        const entry = this.stateFrom(known.get(row.id) ?? []).entry;
        return { treeId: row.id, draft: { ...lineDraft(row, entry), standId } };
      })
    );
    return () => this.putIntoStands(moves.map(({ row }) => ({ row, standId: row.standId })));
  }

  #rowsWithOutbox(): readonly TreeRow[] {
    if (!this.overview) return [];
    const { trees, season, today, ringPriors, sizes = null } = this.overview;
    const rows = trees.flatMap((row) => {
      if (!this.#records.has(row.id)) return row;
      const records = this.recordsOf(row.id);
      return isGone(records) ? [] : treeRow(row, deriveTree(records, { season, today }, { priors: ringPriors, sizes }));
    });
    // Trees that came into the registry on this device and that the server's list does not know yet.
    const known = new Set(trees.map((row) => row.id));
    const waiting = this.outbox.flatMap(({ record, refused }) =>
      record.kind === 'entry' && refused === null ? [record] : []
    );
    for (const { treeId, afterId } of [...this.#born, ...waiting]) {
      if (known.has(treeId)) continue;
      known.add(treeId);
      const records = this.recordsOf(treeId);
      const line = treeLine(treeId, 0, records);
      if (!line) continue;
      const after = rows.findIndex((row) => row.id === afterId);
      const at = after < 0 ? rows.length : after + 1;
      rows.splice(at, 0, treeRow(line, deriveTree(records, { season, today }, { priors: ringPriors, sizes })));
    }
    return rows;
  }

  #countOutstanding(): Record<Station, number> {
    const counts = Object.fromEntries(STATIONS.map((station) => [station, 0])) as Record<Station, number>;
    for (const row of this.rows)
      for (const station of STATIONS) if (this.isOutstanding(station, row)) counts[station] += 1;
    return counts;
  }

  isOutstanding(station: Station, row: TreeRow): boolean {
    return isOutstanding(station, row, this.today, this.standOf(row));
  }

  standOf(row: TreeRow) {
    return this.overview?.stands.find((stand) => stand.id === row.standId) ?? null;
  }

  async #get<T>(path: string): Promise<T | null> {
    try {
      const response = await fetch(path);
      if (response.ok) {
        this.offline = false;
        return (await response.json()) as T;
      }
      if (response.status === 401) window.location.href = `/sign-in?to=${encodeURIComponent(window.location.pathname)}`;
      else this.problem = await messageOf(response);
    } catch {
      this.offline = true;
    }
    return null;
  }

  readonly #wake = () => {
    this.offline = false;
    void this.send();
  };
  /** Back at this page after a while: others may have worked on the bush. */
  readonly #lookAgain = () => {
    if (document.visibilityState === 'visible') void this.refresh();
  };
  readonly #sleep = () => {
    this.offline = true;
  };
}

async function messageOf(response: Response): Promise<string> {
  const body = (await response.json().catch(() => null)) as { message?: string } | null;
  return body?.message ?? 'The server did not answer as it should. What you wrote is kept on this device.';
}

const KEY = Symbol('bush');

export function provideBush(bush: BushState): void {
  setContext(KEY, bush);
}

/** The bush of the page: the same for as long as a component lives. */
export function useBush(): BushState {
  return getContext<BushState>(KEY);
}
