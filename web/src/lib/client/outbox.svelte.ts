import {
  bushRecordSchema,
  isBushRecordKind,
  recordSchema,
  type BushRecord,
  type WorkRecord
} from '@baumkin/core/records';
import { group } from 'd3-array';

import { api, asked, KEPT_HERE } from './api.ts';
import { SIGN_IN } from './deviceBook.ts';
import { sendInHalves, type Answer } from './sendInHalves.ts';
import { notKept, store, type OutboxEntry } from './store.ts';

const schemaOf = ({ kind }: OutboxEntry['record']) => (isBushRecordKind(kind) ? bushRecordSchema : recordSchema);

/** A record on which the server breaks is tried so often before it is set aside. */
const MAX_TRIES = 3;

/** What a proxy answers where the server behind it does not. */
const NOBODY_BEHIND: readonly number[] = [502, 503, 504];

/** What the outbox asks of the bush that it belongs to. */
export interface OutboxOwner {
  /** who works on this device; nobody's records are sent in another's name */
  readonly memberId: () => string | undefined;
  /**
   * Takes over records that the server has, before they leave the outbox.
   * @returns whether this device knows what they change; if not, the bush is asked for anew once they have left
   */
  readonly arrived: (entries: readonly OutboxEntry[]) => Promise<boolean>;
  readonly askAnew: () => Promise<void>;
  /** does the session stand, as the server says? */
  readonly session: (stands: boolean) => void;
}

/**
 * Records that wait on this device for the server, or that it refused. They are kept before anything else happens to them,
 * and leave only when the server has them or a person has read why it does not want them.
 */
export class Outbox {
  /** what the device keeps of this bush, whoever wrote it */
  #kept = $state.raw<readonly OutboxEntry[]>([]);
  /** what the one who works here wrote */
  readonly entries = $derived(this.#kept.filter((entry) => entry.memberId === this.owner.memberId()));
  /** batches that are just being put onto this device: nothing is saved before they are there */
  keeping = $state(0);
  /** the server could not be reached at the last try */
  offline = $state(false);
  /** why not all could be sent, in a sentence */
  problem = $state<string | null>(null);

  /** why what was written last is not even on this device, in a sentence: it stands in its form alone */
  unkept = $state<string | null>(null);

  readonly #waiting = $derived(this.entries.filter((entry) => entry.refused === null));
  readonly refused = $derived(this.entries.filter((entry) => entry.refused !== null));
  /** how many records wait */
  readonly waiting = $derived(this.#waiting.length);
  /** what waits of each tree; of the bush as a whole under null */
  readonly byTree = $derived(group(this.#waiting, (entry) => entry.treeId));

  #sending: Promise<void> | null = null;
  #sendAgain = false;
  /** how often the server broke on a record */
  readonly #tries = new Map<string, number>();

  constructor(
    readonly bushId: string,
    readonly owner: OutboxOwner
  ) {}

  /** Reads what the device keeps. */
  async read(): Promise<void> {
    const kept = await store.outbox.where('bushId').equals(this.bushId).toArray();
    this.#kept = kept.sort((a, b) => a.addedAt - b.addedAt);
  }

  /**
   * Keeps records on this device and begins to send them: all of them, or none.
   * @param kept waited for once they are safe and before they show
   */
  async put(records: readonly (WorkRecord | BushRecord)[], kept: () => Promise<void>): Promise<void> {
    this.keeping += 1;
    try {
      const now = Date.now();
      await this.#keep(
        records.map((record, i) => ({
          id: record.id,
          bushId: this.bushId,
          memberId: record.authorId ?? '',
          treeId: 'treeId' in record ? record.treeId : null,
          record,
          // In the order of the batch: a tree's entry goes before what is said of it.
          addedAt: now + i / 1000,
          refused: null
        }))
      );
      this.unkept = null;
      await kept();
      await this.read();
    } finally {
      this.keeping -= 1;
    }
    void this.send();
  }

  async #keep(entries: readonly OutboxEntry[]): Promise<void> {
    try {
      await store.outbox.bulkPut(entries);
    } catch (error) {
      this.unkept = `Not saved: it stands in its form alone. ${notKept(error)}`;
      throw error;
    }
  }

  /** Sends a refused entry of a tree again under another tag, and with it what was refused for want of that tree. */
  async retag(entry: OutboxEntry, tag: string): Promise<void> {
    const record = recordSchema.parse({ ...entry.record, tag });
    await store.outbox.update(entry.id, { record: { ...record, authorId: entry.memberId }, refused: null });
    const others = this.entries.filter((other) => other.treeId === entry.treeId && other.id !== entry.id);
    await Promise.all(others.map((other) => store.outbox.update(other.id, { refused: null })));
    await this.read();
    await this.send();
  }

  /** Sends refused records again as they are: what stood in their way may be gone. */
  async again(entries: readonly OutboxEntry[]): Promise<void> {
    for (const { id } of entries) this.#tries.delete(id);
    await Promise.all(entries.map(({ id }) => store.outbox.update(id, { refused: null })));
    await this.read();
    await this.send();
  }

  /** Sends a refused record for another tree. */
  async giveTo(entry: OutboxEntry, treeId: string): Promise<void> {
    const record = recordSchema.parse({ ...entry.record, treeId });
    await store.outbox.update(entry.id, { treeId, record: { ...record, authorId: entry.memberId } });
    await this.again([entry]);
  }

  /** Sends a refused record for another season. @throws ZodError where it can be of none */
  async toSeason(entry: OutboxEntry, season: number): Promise<void> {
    const record = schemaOf(entry.record).parse({ ...entry.record, season });
    await store.outbox.update(entry.id, { record: { ...record, authorId: entry.memberId } });
    await this.again([entry]);
  }

  /** Drops a refused record, once a person has read why. */
  async drop(entryId: string): Promise<void> {
    await store.outbox.delete(entryId);
    await this.read();
  }

  /** Sends what waits. One sender at a time; what is added meanwhile goes in the next turn. */
  async send(): Promise<void> {
    if (this.#sending) {
      this.#sendAgain = true;
      return this.#sending;
    }
    this.#sending = this.#sendAll()
      .catch((error: unknown) => {
        // A full disk, say: what waits stays here, and the server takes what comes twice as one.
        console.error(error);
        this.problem = `The server has it, and nothing is lost; it is tried again. ${notKept(error)}`;
      })
      .finally(() => (this.#sending = null));
    await this.#sending;
    if (this.#sendAgain) {
      this.#sendAgain = false;
      await this.send();
    }
  }

  async #sendAll(): Promise<void> {
    // Two tabs share one outbox; the server takes a record that comes twice as one, so no lock is needed.
    const batch = this.#waiting.slice(0, 200);
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
    const known = await this.owner.arrived(stored);
    await store.outbox.bulkDelete(stored.map(({ id }) => id));
    await this.read();
    if (!known) await this.owner.askAnew();
    // After some success the next batch follows at once; without any it waits for the timer.
    if (this.waiting > 0 && stopped === null && stored.length > 0) this.#sendAgain = true;
  }

  async #post(part: readonly OutboxEntry[]): Promise<Answer<{ id: string | null; status: string; reason?: string }>> {
    const answer = await asked(
      api.POST('/bushes/{bush}/records', {
        params: { path: { bush: this.bushId } },
        body: { records: part.map((entry) => entry.record) }
      }),
      KEPT_HERE
    );
    if (answer.problem === null) {
      this.owner.session(true);
      return { kind: 'taken', outcomes: answer.data.outcomes };
    }
    const { status, problem } = answer;
    // A proxy that answers for a server that is down says nothing of the records.
    if (status === null || NOBODY_BEHIND.includes(status)) return { kind: 'stop', reason: null };
    if (status === SIGN_IN) {
      this.owner.session(false);
      return { kind: 'stop', reason: 'Sign in again; your records wait on this device.' };
    }
    // Forbidden or throttled as a whole: halving would change nothing.
    if (status === 403 || status === 404 || status === 429) return { kind: 'stop', reason: problem };
    return { kind: 'refused', reason: problem, final: status < 500 };
  }
}
