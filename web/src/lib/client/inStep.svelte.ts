import { UserFacingError } from '@baumkin/core/errors';
import type { BushRecord, Expectations, TreeRow, WorkRecord } from '@baumkin/core/records';

import { asked, KEPT_HERE, type Asked } from './api.ts';
import { openBook, type BookDoor } from './bookDoor.ts';
import type { BookNews, Progress, Replaced, Synced } from './bookTold.ts';
import { isWhole } from './bookHere.ts';
import { dayHere, ON_THIS_DEVICE, SIGN_IN } from './deviceBook.ts';
import { addBushRecords, readBushRecords, withRecords } from './bushPacks.ts';
import { keepLinesOf, stirredBy } from './lineNews.ts';
import { hasLines, readLines, unpackAll, withNews } from './linePacks.ts';
import type { Glance } from './overview.ts';
import { addToLives, keeping, store, type KeptGlance, type Life } from './store.ts';

/** What the server says to one who is no member, whether the bush exists or not. */
const NO_MEMBER = 'There is no such bush, or you are not a member of it.';

const DAY_MS = 86_400_000;
/** How long is waited before the server's events are asked for again, where the answer was a no. */
const HEAR_AGAIN_MS = 3000;

/** How long is waited before a look at the server that failed is made again: twice as long each time, up to a minute. */
const FIRST_AGAIN_MS = 2000;
const LAST_AGAIN_MS = 60_000;
/** From here on an answer says that the server, or something between, did not work. */
const SERVER_FAILED = 500;

const NOT_ALL_HERE =
  'Not all of this bush is on this device yet, so that what is asked for cannot be worked out. It comes along while there is a network.';

type News = BookNews | Replaced | 'refilled';

/** What has to know of what comes from the server. */
export interface InStepOwner {
  /** records of trees came in, or changed, on this device; of whichever trees where nothing is said */
  readonly came: (treeIds?: readonly string[]) => Promise<void>;
  /** whether the server answered */
  readonly answered: (answered: boolean) => void;
  readonly isInStep: () => void;
  /** does the session stand, as the server says? */
  readonly session: (stands: boolean) => void;
}

/** The bush as the server has it: at a glance for the page, whole in the book of this device, both kept in step. */
export class InStep {
  glance = $state.raw<Glance | null>(null);
  /** records of the bush as a whole */
  bushRecords = $state.raw<readonly BushRecord[]>([]);
  /** what is expected of the bush's trees */
  expects = $state.raw<Partial<Expectations>>({});
  /** a line for every tree, in walking order */
  lines = $state.raw<readonly TreeRow[]>([]);
  problem = $state<string | null>(null);
  /** how much of the bush has come onto this device, while it comes for the first time */
  progress = $state.raw<Progress | null>(null);
  readonly #book: BookDoor;
  /** tells the other tabs, whose book is the same */
  readonly #tabs: BroadcastChannel | null;
  #endListening: () => void = () => undefined;
  #events: EventSource | null = null;
  #hearAgain: ReturnType<typeof setTimeout> | undefined;
  #askAgain: ReturnType<typeof setTimeout> | undefined;
  #againMs = FIRST_AGAIN_MS;
  #closed = false;
  /** a glance that was asked for before anything else, where nothing was here */
  #asked: Promise<Synced> | null = null;
  /** what came is shown in turn */
  #showing: Promise<void> = Promise.resolve();
  /** did something that came not show, since the device did not read it? */
  #missed = false;

  constructor(
    readonly bushId: string,
    readonly owner: InStepOwner
  ) {
    this.#book = openBook(bushId, {
      progress: (progress) => {
        this.progress = progress;
        // Something came: it is worth asking again soon.
        this.#againMs = FIRST_AGAIN_MS;
      },
      changed: (news) => this.#told(news),
      replaced: (now) => this.#told(now),
      refilled: () => this.#told('refilled')
    });
    this.#tabs = 'BroadcastChannel' in globalThis ? new BroadcastChannel(`baumkin-${bushId}`) : null;
    this.#tabs?.addEventListener('message', ({ data }: MessageEvent<News>) => this.#show(data));
  }

  /** Reads the bush at a glance as this device keeps it. */
  async read(): Promise<void> {
    const kept = await store.glances.get(this.bushId);
    if (kept?.core !== CORE || !(await hasLines(this.bushId))) {
      // Nobody waits for what else is read first.
      this.#asked = this.#book.glance();
      return;
    }
    let lines: readonly TreeRow[];
    try {
      lines = await readLines(this.bushId);
    } catch {
      // A pack that a disk or a cut-off write spoilt: lines follow from the records, or from the server.
      await store.packs.where('bushId').equals(this.bushId).delete();
      return;
    }
    let bushRecords: readonly BushRecord[];
    try {
      bushRecords = await readBushRecords(this.bushId);
    } catch {
      // Those the server alone has: all that is told at a glance is asked for.
      await store.glances.delete(this.bushId);
      return;
    }
    if (this.#closed) return;
    this.#set(lines, kept, bushRecords);
    // Days that passed since the server said which one it is there.
    const passed = Math.round((Date.parse(dayHere()) - Date.parse(kept.dayHere)) / DAY_MS);
    if (passed > 0)
      void this.#book.toDay(new Date(Date.parse(kept.glance.today) + passed * DAY_MS).toISOString().slice(0, 10));
  }

  /** Resolves once nothing is written to this device any more. */
  close(): Promise<void> {
    this.#closed = true;
    clearTimeout(this.#askAgain);
    this.#endListening();
    this.#tabs?.close();
    return this.#book.close();
  }

  /** Is the whole bush on this device? */
  isWhole(): Promise<boolean> {
    return isWhole(this.bushId);
  }

  /**
   * Comes into step with the server: by the feed, where the whole bush is on this device; else by asking for the bush at a
   * glance, while the rest comes along behind it.
   */
  async refresh(): Promise<void> {
    const glanced = await (this.#asked ?? this.#book.glance());
    this.#asked = null;
    await this.#showing;
    if (glanced.kind === 'problem') return this.#failed(glanced);
    if (await this.isWhole()) return this.takeAlong();
    this.#succeeded();
    void this.takeAlong();
  }

  /** Brings the whole bush onto this device, or what is new of it. */
  async takeAlong(): Promise<void> {
    const synced = await this.#book.sync();
    await this.#showing;
    if (synced.kind === 'problem') return this.#failed(synced);
    this.#succeeded();
  }

  /** Brings all of the bush onto this device. @throws UserFacingError where that cannot be */
  async takeAll(): Promise<void> {
    await this.takeAlong();
    if (await this.isWhole()) return;
    this.problem = NOT_ALL_HERE;
    throw new UserFacingError('notAllHere', NOT_ALL_HERE);
  }

  /**
   * Listens to what others do, from now on. One tab listens for all of them: a browser opens six connections to a server,
   * and seven tabs that listened would have none left to ask by.
   */
  listen(): void {
    if (this.#closed || !('EventSource' in globalThis)) return;
    const locks = (navigator as { locks?: LockManager }).locks;
    if (!locks) {
      this.#endListening = () => this.#endHearing();
      return this.#hear();
    }
    const waits = new AbortController();
    this.#endListening = () => waits.abort();
    const listening = locks.request(
      `baumkin-events-${this.bushId}`,
      { signal: waits.signal },
      () =>
        new Promise<void>((done) => {
          this.#hear();
          this.#endListening = () => {
            this.#endHearing();
            done();
          };
        })
    );
    // Another tab listened until this one was closed.
    listening.catch(() => undefined);
  }

  #hear(): void {
    const events = (this.#events = new EventSource(`/api/v1/bushes/${this.bushId}/events`));
    events.addEventListener('changed', ({ data }: MessageEvent<string>) => {
      const { feed, last } = JSON.parse(data) as { feed: string; last: number };
      if (feed !== this.glance?.feed || last !== this.glance.number) void this.refresh();
    });
    // A browser asks again by itself where the line was cut, and never where the answer was a no: of a proxy whose server is
    // started anew, say, or because the session is over.
    events.addEventListener('error', () => {
      if (events.readyState !== EventSource.CLOSED) return;
      void this.refresh();
      this.#hearAgain = setTimeout(() => this.problem === NO_MEMBER || this.#hear(), HEAR_AGAIN_MS);
    });
  }

  #endHearing(): void {
    clearTimeout(this.#hearAgain);
    this.#events?.close();
  }

  /** What the server says to a question, or null where it says nothing or no. */
  async ask<T>(call: Parameters<typeof asked<T>>[0]): Promise<T | null> {
    const answer: Asked<T> = await asked(call, KEPT_HERE);
    if (answer.problem === null) {
      this.owner.answered(true);
      return answer.data;
    }
    this.#failed(answer);
    return null;
  }

  /**
   * What was sent from here has arrived: it shows, and is kept, before the feed tells of it.
   * @param records of trees that are on this device
   * @returns these trees, and whether their lines could follow
   */
  async arrived(
    records: readonly WorkRecord[],
    bushRecords: readonly BushRecord[]
  ): Promise<{ readonly lives: readonly Life[]; readonly followed: boolean }> {
    const { lives, news } = await keeping([store.lives, store.glances, store.packs, store.bushPacks], async () => {
      const lives = await addToLives(this.bushId, { trees: [], records });
      const kept = await store.glances.get(this.bushId);
      if (!kept) return { lives, news: null };
      const news = await keepLinesOf(kept, lives);
      await store.glances.put({ ...kept, stirred: stirredBy(kept, news) });
      await addBushRecords(this.bushId, bushRecords);
      return { lives, news };
    });
    if (news) this.lines = withNews(this.lines, news);
    this.bushRecords = withRecords(this.bushRecords, bushRecords);
    return { lives, followed: news !== null };
  }

  /** This tab's book has come into step, and with it that of all others. */
  #told(news: News): void {
    if (this.#closed) return;
    this.#tabs?.postMessage(news);
    this.#show(news);
  }

  #show(news: News): void {
    this.#showing = this.#showing.then(async () => {
      if (this.#closed) return;
      try {
        const treeIds = await this.#take(news);
        await this.owner.came(this.#missed ? undefined : treeIds);
        this.#missed = false;
      } catch (error) {
        // The device did not read what it keeps: all is read once more with what comes next.
        console.error(error);
        this.#missed = true;
      }
    });
  }

  /** @returns the trees whose records may be others now; undefined where they may be any */
  async #take(news: News): Promise<readonly string[] | undefined> {
    if (news === 'refilled') return undefined;
    if ('texts' in news) {
      this.#set(unpackAll(news.texts), news.kept, news.bushRecords);
      return undefined;
    }
    const { glance } = this;
    // Where a page of the feed was missed, all is read anew.
    if (!glance || glance.feed !== news.kept.glance.feed || glance.number < news.after) {
      await this.read();
      return undefined;
    }
    this.#set(withNews(this.lines, news), news.kept, withRecords(this.bushRecords, news.bushRecords));
    return [...news.rows.map(({ id }) => id), ...news.gone];
  }

  #set(lines: readonly TreeRow[], { glance, expects }: KeptGlance, bushRecords: readonly BushRecord[]): void {
    this.lines = lines;
    this.bushRecords = bushRecords;
    this.expects = expects;
    this.glance = glance;
  }

  /** Asks again after a while: a bush that was coming along would stand still, and the page say that there is no network. */
  #lookAgain(): void {
    clearTimeout(this.#askAgain);
    if (this.#closed) return;
    this.#askAgain = setTimeout(() => void this.refresh(), this.#againMs);
    this.#againMs = Math.min(2 * this.#againMs, LAST_AGAIN_MS);
  }

  #succeeded(): void {
    clearTimeout(this.#askAgain);
    this.#againMs = FIRST_AGAIN_MS;
    this.problem = null;
    this.owner.session(true);
    this.owner.answered(true);
    this.owner.isInStep();
  }

  #failed({ status, problem }: { readonly status: number | null; readonly problem: string }): void {
    if (status === null || status === ON_THIS_DEVICE || status >= SERVER_FAILED) this.#lookAgain();
    if (status === null) this.owner.answered(false);
    else if (status === SIGN_IN) {
      // Whoever works with what is here is not taken out of it.
      if (this.glance) this.owner.session(false);
      else window.location.href = `/sign-in?to=${encodeURIComponent(window.location.pathname)}`;
    } else this.problem = problem;
    // Who is no member any more keeps nothing of the bush.
    if (status === 404 && problem === NO_MEMBER) void this.#book.forget();
  }
}
