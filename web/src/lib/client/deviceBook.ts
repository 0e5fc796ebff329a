import {
  deriveTree,
  expectationsOf,
  onDay,
  seasonOf,
  type AsOf,
  type BushRecord,
  type KeptLine,
  type TreeRow
} from '@baumkin/core/records';

import type { ApiPaths } from '../server/contract.ts';
import { api, asked } from './api.ts';
import type { BookNews, BookOwner, Replaced, Synced } from './bookTold.ts';
import { addBushRecords, readBushRecords, recordsUnderThisRelease, replaceBushRecords } from './bushPacks.ts';
import { hasAllParts, isReadable, isWhole, isWholeFor } from './bookHere.ts';
import { keepLinesOf, keptRow, stirredBy } from './lineNews.ts';
import { packAll, readLines, readPacks, replacePacks } from './linePacks.ts';
import { underThisRelease, withChanges, type Glance } from './overview.ts';
import {
  addToLives,
  keeping,
  KNOWN_OF_BUSHES,
  notKept,
  SignedOut,
  store,
  type BookState,
  type KeptGlance,
  type Life
} from './store.ts';

type Gives<Path extends keyof ApiPaths> = ApiPaths[Path] extends { readonly get: { readonly gives: infer G } }
  ? G
  : never;
/** One page of the feed. */
export type Changes = Gives<'/bushes/{bush}/changes'>;
type SnapshotPart = Gives<'/bushes/{bush}/snapshot/{number}/{part}'>;

const PART_WAIT_MS = 500;
const HAS_GONE = 410;
/** What the server answers where the session is over. */
export const SIGN_IN = 401;
/** Stands for a status where no answer of the server is what went wrong. */
export const ON_THIS_DEVICE = 0;
/** So often a look begins anew: a server, or something between, whose answers fit nothing is not asked for ever. */
const MOST_ANEW = 3;
const NOT_FOLLOWED: Synced = {
  kind: 'problem',
  status: ON_THIS_DEVICE,
  problem:
    'What the server tells of this bush cannot be followed. It is tried again; what you write is kept on this device.'
};
const IN_STEP: Synced = { kind: 'inStep' };
/** Trees whose records are held in memory at once. */
const AT_ONCE = 1000;

/** So many trees whose lines were written, and such a share of the bush, may let something else be expected of all trees. */
const FEWEST_STIRRED = 20;
const STIRRED_SHARE = 0.02;

/** What came of asking the server, with what a person is told where that went wrong. */
const answered = <T>(call: Parameters<typeof asked<T>>[0]) =>
  asked(call, 'The server did not answer as it should. It is asked again; what is here can be worked with.');

/** Where the bush at a glance is kept. */
const AT_A_GLANCE = [store.glances, store.packs, store.bushPacks] as const;

/** The day here, for counting days that pass: UTC, as the server counts. */
export const dayHere = () => new Date().toISOString().slice(0, 10);

/**
 * The book of a bush on this device: at a glance, with a line for every tree; and whole, all its trees with everything
 * recorded of them. The glance is asked for at once. The whole begins with a snapshot, taken part by part, so that a visit
 * that was cut off goes on where it ended; from then on the feed of changes keeps both in step.
 */
export class DeviceBook {
  #glancing: Promise<Synced> | null = null;
  #syncing: Promise<Synced> | null = null;
  #next: Promise<Synced> | null = null;
  /** a snapshot came, and nobody was told yet: what came after it is followed first, or pages would go back to it for a moment */
  #isRefilled = false;
  #stopped = false;

  constructor(
    readonly bushId: string,
    readonly owner: BookOwner
  ) {}

  /** Brings the bush at a glance onto this device. Where the whole bush is here, the feed tells what is new of it. */
  glance(): Promise<Synced> {
    return (this.#glancing = orProblem(async () =>
      (await isReadable(this.bushId)) && (await isWhole(this.bushId)) ? IN_STEP : this.#bringGlance()
    ));
  }

  /** Brings the book into step with the server. One look at a time; who asks meanwhile waits for the one after it. */
  sync(): Promise<Synced> {
    if (this.#syncing) {
      const again = () => {
        this.#next = null;
        return this.sync();
      };
      return (this.#next ??= this.#syncing.then(again, again));
    }
    return (this.#syncing = orProblem(() => this.#alone()).finally(() => (this.#syncing = null)));
  }

  /** One tab at a time: two would take the same parts, and write the same pages. */
  #alone(): Promise<Synced> {
    const locks = (navigator as { locks?: LockManager }).locks;
    return locks ? locks.request(`baumkin-book-${this.bushId}`, () => this.#look()) : this.#look();
  }

  /** @param anew how often this look has begun anew */
  async #look(anew = 0): Promise<Synced> {
    if (this.#stopped) return IN_STEP;
    const glanced = (await isReadable(this.bushId)) ? IN_STEP : await this.#bringGlance();
    if (glanced.kind === 'problem') return glanced;
    const glance = (await store.glances.get(this.bushId))?.glance;
    const book = await store.books.get(this.bushId);
    if (glance && !isWholeFor(book, glance) && !hasAllParts(book, glance)) {
      const taken = await this.#takeSnapshot(glance, book?.memberId === glance.member.id ? book : undefined);
      if (taken.kind === 'problem' || this.#stopped) return taken;
    }
    // Forgotten meanwhile: nothing of it is brought back before somebody asks for it again.
    const here = glance && (await store.books.get(this.bushId));
    if (!here) return IN_STEP;
    this.#isRefilled ||= here.taking !== null;
    return this.#follow(here, anew);
  }

  /** The lines from the records that are here, or else from the server. */
  async #bringGlance(): Promise<Synced> {
    const kept = await store.glances.get(this.bushId);
    if (kept && isWholeFor(await store.books.get(this.bushId), kept.glance)) {
      await this.#deriveAll(kept, kept.glance);
      return IN_STEP;
    }
    return this.#askGlance();
  }

  async #askGlance(): Promise<Synced> {
    const answer = await answered(api.GET('/bushes/{bush}/lines', { params: { path: { bush: this.bushId } } }));
    if (answer.problem !== null) return { kind: 'problem', ...answer };
    const { trees, bushRecords, ...glance } = answer.data;
    await this.#keepAll(this.#told(glance, trees, { today: glance.today, bushRecords }));
    return IN_STEP;
  }

  /** Keeps the bush at a glance as the server tells it. */
  async #keepAll(told: Replaced): Promise<void> {
    const { bushId } = this;
    const { kept, texts, bushRecords } = told;
    const { glance } = kept;
    // It shows before it is kept: nobody waits for the disk.
    this.owner.replaced(told);
    const later = await keeping(AT_A_GLANCE, async () => {
      const before = await store.glances.get(bushId);
      // Another tab asked later, or follows the feed already: what it wrote is not to be lost.
      if (before?.core === CORE && before.glance.feed === glance.feed && before.glance.number > glance.number)
        return { kept: before, texts: await readPacks(bushId), bushRecords: await readBushRecords(bushId) };
      await store.glances.put(kept);
      await replacePacks(bushId, texts);
      await replaceBushRecords(bushId, bushRecords);
      return null;
    });
    if (later) this.owner.replaced(later);
  }

  /** All lines of a bush told for a day. */
  #told(
    glance: Glance,
    lines: readonly KeptLine[],
    { today, bushRecords }: { readonly today: string; readonly bushRecords: readonly BushRecord[] }
  ): Replaced {
    const expects = expectationsOf(lines, today);
    const texts = packAll(lines.map((line) => onDay(line, today, expects)));
    const kept = { bushId: this.bushId, glance: { ...glance, today }, expects, dayHere: dayHere(), core: CORE };
    return { kept: { ...kept, stirred: [], trees: lines.length }, texts, bushRecords };
  }

  /** Tells the lines that are here once more: for another day, or where enough trees have changed to expect something else. */
  async #tellAgain(today: string): Promise<void> {
    const told = await keeping(AT_A_GLANCE, async () => {
      const glance = (await store.glances.get(this.bushId))?.glance;
      if (!glance) return null;
      const bushRecords = await readBushRecords(this.bushId);
      const told = this.#told(glance, await readLines(this.bushId), { today, bushRecords });
      await store.glances.put(told.kept);
      await replacePacks(this.bushId, told.texts);
      return told;
    });
    if (told) this.owner.replaced(told);
  }

  /** All lines anew from the records of all trees: another season, or another program. */
  async #deriveAll({ glance }: KeptGlance, at: AsOf): Promise<void> {
    const rows = new Map<string, TreeRow>();
    const derive = (lives: readonly (Life | undefined)[]) => {
      for (const life of lives)
        if (life?.tree) rows.set(life.treeId, keptRow(life.tree, deriveTree(life.records, at)));
        else if (life) rows.delete(life.treeId);
    };
    const keys = await store.lives.where('bushId').equals(this.bushId).primaryKeys();
    for (let i = 0; i < keys.length; i += AT_ONCE) derive(await store.lives.bulkGet(keys.slice(i, i + AT_ONCE)));
    const told = await keeping([store.lives, ...AT_A_GLANCE], async () => {
      const now = await store.glances.get(this.bushId);
      if (!now) return null;
      // A page of the feed came meanwhile, with perhaps another order of the walk.
      if (now.glance.number !== glance.number || now.glance.feed !== glance.feed) return now;
      // Trees of which something was sent from here meanwhile, and all that were written since the last time.
      derive(await store.lives.bulkGet([...now.stirred]));
      const isOlder = now.core !== CORE;
      const here = isOlder ? underThisRelease(now.glance) : now.glance;
      const known = await readBushRecords(this.bushId);
      const bushRecords = isOlder ? recordsUnderThisRelease(known) : known;
      if (isOlder) await replaceBushRecords(this.bushId, bushRecords);
      const told = this.#told({ ...here, season: at.season }, [...rows.values()], { today: at.today, bushRecords });
      await store.glances.put(told.kept);
      await replacePacks(this.bushId, told.texts);
      return told;
    });
    if (told === null) return;
    if ('texts' in told) this.owner.replaced(told);
    else await this.#deriveAll(told, at);
  }

  /** Tells the lines for another day, where this device alone knows that one has passed. */
  async toDay(today: string): Promise<void> {
    const kept = await store.glances.get(this.bushId);
    if (!kept || today <= kept.glance.today) return;
    const season = (await isWhole(this.bushId)) ? seasonOf(today) : kept.glance.season;
    await this.#turn(kept, { today, season });
  }

  async #takeSnapshot({ member }: Glance, known: BookState | undefined): Promise<Synced> {
    const params = { path: { bush: this.bushId } };
    const first = await answered(api.GET('/bushes/{bush}/snapshot', { params }));
    if (first.problem !== null) return { kind: 'problem', ...first };
    let state = first.data;
    const { feed, number, parts } = state;
    // Part 0 tells of the bush as a whole, which is known from the glance.
    const goesOn = known?.taking && known.feed === feed && known.number === number;
    let part = goesOn ? known.taking!.part : 1;
    const here = () => store.lives.where('bushId').equals(this.bushId);
    if (!goesOn) await here().delete();
    let trees = goesOn ? await here().count() : 0;
    while (part < parts) {
      if (this.#stopped) return IN_STEP;
      if (part >= state.ready) {
        await new Promise((resolve) => setTimeout(resolve, PART_WAIT_MS));
        const look = await answered(api.GET('/bushes/{bush}/snapshot', { params }));
        if (look.problem !== null) return { kind: 'problem', ...look };
        // Another one meanwhile: the parts of the first may be gone.
        if (look.data.number !== number || look.data.feed !== feed) return this.#look();
        state = look.data;
        continue;
      }
      const path = { bush: this.bushId, number: String(number), part: String(part) };
      const answer = await answered(api.GET('/bushes/{bush}/snapshot/{number}/{part}', { params: { path } }));
      if (answer.problem !== null) return { kind: 'problem', ...answer };
      part += 1;
      await this.#keepPart(answer.data, { memberId: member.id, feed, number, taking: { part, parts } });
      trees += answer.data.lives?.length ?? 0;
      this.owner.progress({ trees, of: state.trees });
    }
    const kept = await store.glances.get(this.bushId);
    // Of what came between the glance and the snapshot, the feed tells no more.
    if (!kept || kept.glance.feed !== feed || kept.glance.number < number) {
      const anew = await this.#askGlance();
      if (anew.kind === 'problem') return anew;
    }
    // What came since, the feed tells: the bush is whole once that is here too.
    const book = { bushId: this.bushId, memberId: member.id, feed, number, taking: { part: parts, parts } };
    await keeping([store.books], () => store.books.put(book));
    this.owner.progress(null);
    return IN_STEP;
  }

  async #keepPart({ lives = [] }: SnapshotPart, book: Omit<BookState, 'bushId'>): Promise<void> {
    await keeping([store.lives, store.books], async () => {
      await store.lives.bulkPut(lives.map(({ id, ...life }) => ({ ...life, treeId: id, bushId: this.bushId })));
      await store.books.put({ bushId: this.bushId, ...book });
    });
  }

  async #follow(book: BookState, anew: number): Promise<Synced> {
    let { number } = book;
    for (;;) {
      const waiting = await store.outbox.where('bushId').equals(this.bushId).count();
      const query = { feed: book.feed, after: String(number), waiting: String(waiting) };
      const params = { path: { bush: this.bushId }, query };
      const answer = await answered(api.GET('/bushes/{bush}/changes', { params }));
      if (answer.problem !== null) {
        if (answer.status !== HAS_GONE) return { kind: 'problem', ...answer };
        return this.#beginAnew(anew);
      }
      const changes = answer.data;
      // Another member's book, on a device that several share.
      if (changes.memberId !== book.memberId) return this.#beginAnew(anew);
      const news = await this.#keepChanges(changes, { ...book, number });
      if (!news) return IN_STEP;
      const { glance, stirred, trees } = news.kept;
      number = changes.to;
      const goesOn = number < changes.last && !this.#stopped;
      if (changes.today !== glance.today || changes.season !== glance.season) await this.#turn(news.kept, changes);
      else {
        this.owner.changed(news);
        if (!goesOn && stirred.length > Math.max(FEWEST_STIRRED, trees * STIRRED_SHARE))
          await this.#tellAgain(glance.today);
      }
      if (goesOn) continue;
      if (this.#isRefilled) this.owner.refilled();
      this.#isRefilled = false;
      return IN_STEP;
    }
  }

  async #beginAnew(before: number): Promise<Synced> {
    if (before >= MOST_ANEW) return NOT_FOLLOWED;
    await store.books.delete(this.bushId);
    const anew = await this.#askGlance();
    return anew.kind === 'problem' ? anew : this.#look(before + 1);
  }

  /** Another day or season than the lines were told for. */
  async #turn(kept: KeptGlance, { today, season }: AsOf): Promise<void> {
    if (season !== kept.glance.season) await this.#deriveAll(kept, { today, season });
    else await this.#tellAgain(today);
  }

  /**
   * Keeps a page of the feed: records, lines and what is told of the bush as a whole, all or nothing.
   * @returns null where the bush was forgotten meanwhile: nothing of it is brought back
   */
  async #keepChanges(changes: Changes, book: BookState): Promise<BookNews | null> {
    const { bushId } = this;
    const { walk, to, bushRecords } = changes;
    return keeping([store.lives, store.books, ...AT_A_GLANCE], async () => {
      const known = await store.glances.get(bushId);
      if (!known) return null;
      const lives = await addToLives(bushId, changes);
      const steps = new Map(walk?.map(({ id, walkOrder }) => [id, walkOrder]));
      if (walk)
        await store.lives
          .where('bushId')
          .equals(bushId)
          .modify((life) => {
            const walkOrder = steps.get(life.treeId);
            if (walkOrder === undefined) return;
            life.walkOrder = walkOrder;
            if (life.tree) life.tree = { ...life.tree, walkOrder };
          });
      // Only with the last page of what came since its snapshot is the bush here as it is.
      await store.books.put({ ...book, number: to, taking: to < changes.last ? book.taking : null });
      const { glance } = known;
      const lines = await keepLinesOf(known, lives, walk);
      // What is there now is told of whatever number: a glance that is ahead of the book stays so.
      const number = Math.max(to, glance.number);
      const kept = {
        ...known,
        glance: { ...withChanges(glance, changes), number },
        dayHere: dayHere(),
        stirred: stirredBy(known, lines)
      };
      await store.glances.put(kept);
      await addBushRecords(bushId, bushRecords);
      return { ...lines, after: book.number, kept, bushRecords };
    });
  }

  /** Ends after the step that is being made; nothing is written once that is done. */
  async stop(): Promise<void> {
    this.#stopped = true;
    await Promise.all([this.#glancing, this.#next, this.#syncing]);
  }

  /** What was known of the bush goes from this device; what waits to be sent stays for its writer. */
  async forget(): Promise<void> {
    await store.transaction('rw', [...KNOWN_OF_BUSHES], () =>
      Promise.all(KNOWN_OF_BUSHES.map((table) => table.where('bushId').equals(this.bushId).delete()))
    );
  }
}

/** What breaks on this device, or in an answer that is none, is told in words too. */
async function orProblem(work: () => Promise<Synced>): Promise<Synced> {
  try {
    return await work();
  } catch (error) {
    if (error instanceof SignedOut) return { kind: 'problem', status: SIGN_IN, problem: error.name };
    console.error(error);
    // What a store throws has its own kind; this is an answer that was read as what it is not.
    if (error instanceof TypeError) return NOT_FOLLOWED;
    return { kind: 'problem', status: ON_THIS_DEVICE, problem: notKept(error) };
  }
}
