import type { PracticeAnswer } from '@baumkin/core/identify';
import { fromOlderRecord, type BushRecord, type Expectations, type Tree, type WorkRecord } from '@baumkin/core/records';
import { group } from 'd3-array';
import Dexie, { type EntityTable, type Table } from 'dexie';

import type { Glance } from './overview.ts';

/** A record that has not reached the server yet, or that the server refused. */
export interface OutboxEntry {
  readonly id: string;
  readonly bushId: string;
  /** who wrote it; nobody else on this device sends it in her name */
  readonly memberId: string;
  /** null for a record of the bush as a whole */
  readonly treeId: string | null;
  readonly record: WorkRecord | BushRecord;
  readonly addedAt: number;
  /** the server's reason for refusing it; null while it waits */
  readonly refused: string | null;
}

/** The trees that waiting records belong to. */
export const treesIn = (outbox: readonly OutboxEntry[]): string[] =>
  outbox.flatMap((entry) => (entry.treeId === null ? [] : [entry.treeId]));

/** A tree with everything recorded of it. */
export interface Life {
  readonly treeId: string;
  readonly bushId: string;
  records: readonly WorkRecord[];
  /** as the registry has it; null once it was taken out; nothing where the tree came in here and was not yet told of */
  tree?: Tree | null;
  walkOrder?: number;
}

/** A bush at a glance on this device. */
export interface KeptGlance {
  readonly bushId: string;
  readonly glance: Glance;
  /** what was expected of the bush's trees when its lines were told */
  readonly expects: Expectations;
  /** the day of this device when the server said which day it is there: days that pass without a network are added to it */
  readonly dayHere: string;
  /** names the core that the lines were derived by */
  readonly core: string;
  /** trees whose lines were written since all were told at once */
  readonly stirred: readonly string[];
  /** how many were told then */
  readonly trees: number;
}

/** The lines of some of a bush's trees. */
export interface LinePack {
  readonly bushId: string;
  readonly pack: number;
  readonly text: string;
}

/** Records of a bush as a whole, those of a year. */
interface BushPack {
  readonly bushId: string;
  readonly year: string;
  readonly text: string;
}

/** What was worked out for a tree, until it is asked something else. */
export interface KeptAnswer {
  /** what was asked, and of which tree */
  readonly key: string;
  readonly bushId: string;
  /** the question word for word, with the core that answered it */
  readonly question: string;
  readonly answer: unknown;
  readonly at: number;
}

/** What was found on every tree by a job that takes minutes, to be gone on with. */
export interface KeptSearch {
  readonly key: string;
  readonly bushId: string;
  /** all that an answer follows from beside a tree's own records */
  readonly question: string;
  /** by tree */
  readonly found: readonly (readonly [string, unknown])[];
}

/** How far this device holds a bush. */
export interface BookState {
  readonly bushId: string;
  /** who may read it */
  readonly memberId: string;
  /** the feed that it follows, and the number up to which it did */
  readonly feed: string;
  readonly number: number;
  /** the next part of the snapshot that it begins with; null once it is whole */
  readonly taking: { readonly part: number; readonly parts: number } | null;
}

/** What a sheet holds half done, so that leaving it loses nothing. */
export interface SheetDraft {
  /** member, sheet and tree or bush */
  readonly key: string;
  readonly bushId: string;
  readonly value: unknown;
  readonly at: number;
}

/** One answer of the practice, on this device alone. */
export interface PracticeEntry {
  readonly id?: number;
  readonly memberId: string;
  readonly at: number;
  readonly answer: PracticeAnswer;
}

/** Whose device it is by now: the first's, or that of whoever came after so many had signed out. */
interface Holder {
  readonly key: 'holder';
  readonly after: number;
}

/** What this device keeps, so that work goes on without a network and nothing typed is lost. */
class DeviceStore extends Dexie {
  glances!: EntityTable<KeptGlance, 'bushId'>;
  packs!: Table<LinePack, [string, number]>;
  bushPacks!: Table<BushPack, [string, string]>;
  lives!: EntityTable<Life, 'treeId'>;
  books!: EntityTable<BookState, 'bushId'>;
  answers!: EntityTable<KeptAnswer, 'key'>;
  searches!: EntityTable<KeptSearch, 'key'>;
  outbox!: EntityTable<OutboxEntry, 'id'>;
  drafts!: EntityTable<SheetDraft, 'key'>;
  practice!: EntityTable<PracticeEntry, 'id'>;
  holder!: EntityTable<Holder, 'key'>;

  constructor() {
    super('baumkin');
    this.version(1).stores({ overviews: 'bushId', lives: 'treeId, bushId', outbox: 'id, bushId, treeId' });
    this.version(2).stores({ drafts: 'key, bushId', practice: '++id, memberId' });
    // Kinds and fields were renamed: what waits here, and what is read without a network, is renamed too.
    this.version(3).upgrade(async (kept) => {
      await kept
        .table<{ record: unknown }>('outbox')
        .toCollection()
        .modify((entry) => {
          entry.record = fromOlderRecord(entry.record);
        });
      await kept
        .table<{ records: unknown[] }>('lives')
        .toCollection()
        .modify((life) => {
          life.records = life.records.map(fromOlderRecord);
        });
    });
    this.version(4).stores({ books: 'bushId' });
    // Lines are kept apart from what is told of the bush as a whole. Both come anew with the next look at the server.
    this.version(5).stores({
      overviews: null,
      glances: 'bushId',
      packs: '[bushId+pack], bushId',
      answers: 'key, bushId, at'
    });
    // What was found of a bush is known of it, and goes with the rest that is.
    this.version(6)
      .stores({ searches: 'key, bushId' })
      .upgrade(async (kept) => {
        await kept
          .table<{ stirred: string[]; trees: number }>('glances')
          .toCollection()
          .modify({ stirred: [], trees: 0 });
        await kept.table('drafts').where('key').startsWith('roundPlan/').delete();
      });
    this.version(7).stores({ holder: 'key' });
    // The plan of a round is in the book.
    this.version(8).upgrade((kept) => kept.table('searches').where('key').startsWith('roundPlan/').delete());
    // Records of the bush as a whole are kept by the year: what is told at a glance is written with every page of the feed.
    this.version(9)
      .stores({ bushPacks: '[bushId+year], bushId' })
      .upgrade(async (kept) => {
        const packs: BushPack[] = [];
        await kept
          .table<{ bushId: string; glance: { bushRecords?: BushRecord[] } }>('glances')
          .toCollection()
          .modify(({ bushId, glance }) => {
            for (const [year, records] of group(glance.bushRecords ?? [], ({ on }) => on.slice(0, 4)))
              packs.push({ bushId, year, text: JSON.stringify(records) });
            delete glance.bushRecords;
          });
        await kept.table('bushPacks').bulkPut(packs);
      });
  }
}

export const store = new DeviceStore();

/** Says that this device does not keep what it is given, and what helps. */
export function notKept(error: unknown): string {
  const says = error instanceof Error ? error.message || error.name : String(error);
  // Dexie repeats what the browser said, and names a page to visit.
  const [first] = says.split(/\n|Please visit/);
  return `This device does not keep what it is given (${first!.trim()}). Free some space, allow this site to keep data, or leave private browsing; then open the page again.`;
}

/** What this device knows of bushes: it goes with whoever signs out. What waits to be sent stays. */
export const KNOWN_OF_BUSHES = [
  store.glances,
  store.packs,
  store.bushPacks,
  store.lives,
  store.books,
  store.answers,
  store.searches
] as const;

const signedOutSoFar = async () => (await store.holder.get('holder'))?.after ?? 0;
/** How many had signed out when this page, or this worker, began. */
const begunAfter = signedOutSoFar();
// Whoever writes is told.
begunAfter.catch(() => undefined);

/** Somebody signed out on this device since this page, or this worker, began. */
export class SignedOut extends Error {
  override readonly name = 'SignedOut';
}

/**
 * Writes what this device is to know of bushes, all of it or nothing. What was begun before somebody signed out writes nothing any
 * more, in whatever tab or worker it runs.
 * @throws SignedOut
 */
export async function keeping<T>(written: readonly Table[], work: () => Promise<T>): Promise<T> {
  const before = await begunAfter;
  return store.transaction('rw', [...written, store.holder], async () => {
    if ((await signedOutSoFar()) !== before) throw new SignedOut();
    return work();
  });
}

/** Takes everything that is known of bushes off this device, for whoever signs out. */
export const forgetAll = (): Promise<void> =>
  store.transaction('rw', [...KNOWN_OF_BUSHES, store.holder], async () => {
    await Promise.all(KNOWN_OF_BUSHES.map((table) => table.clear()));
    await store.holder.put({ key: 'holder', after: (await signedOutSoFar()) + 1 });
  });

/** What came of some trees: their line in the registry, records, or both. */
interface News {
  readonly trees: readonly { readonly id: string; readonly walkOrder: number; readonly tree: Tree | null }[];
  readonly records: readonly WorkRecord[];
}

/** Adds what is new of trees to what the device keeps of them. Whatever else is written to them meanwhile stays. */
export async function addToLives(bushId: string, { trees, records }: News): Promise<Life[]> {
  return store.transaction('rw', store.lives, async () => {
    const ids = [...new Set([...trees.map(({ id }) => id), ...records.map(({ treeId }) => treeId)])];
    const known = await store.lives.bulkGet(ids);
    const lives = new Map<string, Life>(ids.map((treeId, i) => [treeId, known[i] ?? { treeId, bushId, records: [] }]));
    for (const { id, walkOrder, tree } of trees) lives.set(id, { ...lives.get(id)!, walkOrder, tree });
    for (const [treeId, news] of group(records, (record) => record.treeId)) {
      const life = lives.get(treeId)!;
      const fresh = new Set(news.map(({ id }) => id));
      lives.set(treeId, { ...life, records: [...life.records.filter(({ id }) => !fresh.has(id)), ...news] });
    }
    await store.lives.bulkPut([...lives.values()]);
    return [...lives.values()];
  });
}
