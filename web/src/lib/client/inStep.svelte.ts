import { UserFacingError } from '@baumkin/core/errors';
import type { TreeState, WorkRecord } from '@baumkin/core/records';

import { api, asked, KEPT_HERE, type Asked } from './api.ts';
import { DeviceBook, type BookNews, type Progress } from './deviceBook.ts';
import { withChanges, type Overview } from './overview.ts';
import { store, type Life } from './store.ts';

/** What the server says to one who is no member, whether the bush exists or not. */
const NO_MEMBER = 'There is no such bush, or you are not a member of it.';

const NOT_ALL_HERE =
  'Not all of this bush is on this device yet, so that what is asked for cannot be worked out. It comes along while there is a network.';

/** What has to know of what comes from the server. */
export interface InStepOwner {
  /** trees came in, or changed, as they are on this device now */
  readonly came: (lives: readonly Life[]) => void;
  /** all may be another: trees whose records are open */
  readonly opened: () => readonly string[];
  readonly stateFrom: (records: readonly WorkRecord[]) => TreeState;
  /** whether the server answered */
  readonly answered: (answered: boolean) => void;
  readonly isInStep: () => void;
}

/** The bush as the server has it: at a glance for the page, whole in the book of this device, both kept in step. */
export class InStep {
  overview = $state.raw<Overview | null>(null);
  problem = $state<string | null>(null);
  /** how much of the bush has come onto this device, while it comes for the first time */
  progress = $state.raw<Progress | null>(null);
  readonly #book: DeviceBook;
  /** tells the other tabs, whose book is the same */
  readonly #tabs: BroadcastChannel | null;
  #endListening: () => void = () => undefined;
  #closed = false;

  constructor(
    readonly bushId: string,
    readonly owner: InStepOwner
  ) {
    this.#book = new DeviceBook(bushId, {
      memberId: () => this.overview?.member.id,
      progress: (progress) => (this.progress = progress),
      begun: () => this.#begun(),
      changed: async (news) => {
        if (this.#closed) return;
        this.#tabs?.postMessage(news);
        await this.#changed(news);
      }
    });
    this.#tabs = 'BroadcastChannel' in globalThis ? new BroadcastChannel(`baumkin-${bushId}`) : null;
    this.#tabs?.addEventListener('message', ({ data }: MessageEvent<BookNews>) => void this.#changed(data));
  }

  /** Reads the glance that this device keeps. */
  async read(): Promise<void> {
    const kept = await store.overviews.get(this.bushId);
    if (kept) this.overview = kept.overview;
  }

  close(): void {
    this.#closed = true;
    this.#endListening();
    this.#tabs?.close();
    this.#book.stop();
  }

  /** Is the whole bush on this device? */
  isWhole(): Promise<boolean> {
    return this.#book.isWhole();
  }

  /**
   * Comes into step with the server: by the feed, where the whole bush is on this device; else by asking for the bush at a
   * glance, while the rest comes along behind it.
   */
  async refresh(): Promise<void> {
    if (this.overview?.feed !== undefined && (await this.isWhole())) return this.takeAlong();
    if (await this.#askOverview()) void this.takeAlong();
  }

  /** Brings the whole bush onto this device, or what is new of it. */
  async takeAlong(): Promise<void> {
    const synced = await this.#book.sync();
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
    if (!locks) return this.#hear();
    const waits = new AbortController();
    this.#endListening = () => waits.abort();
    const listening = locks.request(
      `baumkin-events-${this.bushId}`,
      { signal: waits.signal },
      () =>
        new Promise<void>((done) => {
          this.#hear();
          const end = this.#endListening;
          this.#endListening = () => {
            end();
            done();
          };
        })
    );
    // Another tab listened until this one was closed.
    listening.catch(() => undefined);
  }

  #hear(): void {
    const events = new EventSource(`/api/v1/bushes/${this.bushId}/events`);
    this.#endListening = () => events.close();
    events.addEventListener('changed', ({ data }: MessageEvent<string>) => {
      const { feed, last } = JSON.parse(data) as { feed: string; last: number };
      if (feed !== this.overview?.feed || last !== this.overview.number) void this.refresh();
    });
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

  /** Sets what is known at a glance, on this device too. */
  async set(overview: Overview): Promise<void> {
    this.overview = overview;
    await store.overviews.put({ bushId: this.bushId, overview });
  }

  async #askOverview(): Promise<boolean> {
    const answer = await this.ask(api.GET('/bushes/{bush}', { params: { path: { bush: this.bushId } } }));
    if (!answer) return false;
    await this.set(answer);
    this.#succeeded();
    this.owner.came([]);
    return true;
  }

  /** A page of the feed has come onto this device, by this tab or by another. */
  async #changed({ changes, after, lives }: BookNews): Promise<void> {
    const { overview } = this;
    if (!overview || this.#closed) return;
    const { feed, number = 0, today, member, bush } = overview;
    // Another day, or another member on this device: every line may be another. So may those that a page was missed of.
    const missed = feed !== changes.feed || number < after;
    const another = changes.memberId !== member.id;
    if (missed || another || changes.today !== today) await this.#askOverview();
    else if (number < changes.to) await this.set(withChanges(overview, changes, lives, this.owner.stateFrom));
    else if (bush.role !== changes.role) await this.set({ ...overview, bush: { ...bush, role: changes.role } });
    this.owner.came(lives);
    // Her book is not the one of the member before: it begins anew once this page is through.
    if (another) void this.takeAlong();
  }

  /** The whole bush has come onto this device, for the first time or anew. */
  async #begun(): Promise<void> {
    const lives = await store.lives.bulkGet([...this.owner.opened()]);
    this.owner.came(lives.filter((life) => life !== undefined));
    const book = await store.books.get(this.bushId);
    if (book && this.overview?.feed !== book.feed) await this.#askOverview();
  }

  #succeeded(): void {
    this.problem = null;
    this.owner.answered(true);
    this.owner.isInStep();
  }

  #failed({ status, problem }: { readonly status: number | null; readonly problem: string }): void {
    if (status === null) this.owner.answered(false);
    else if (status === 401) window.location.href = `/sign-in?to=${encodeURIComponent(window.location.pathname)}`;
    else this.problem = problem;
    // Who is no member any more keeps nothing of the bush.
    if (status === 404 && problem === NO_MEMBER) void this.#book.forget();
  }
}
