import type { ApiPaths } from '../server/contract.ts';
import { api, asked } from './api.ts';
import { addToLives, store, type BookState, type Life } from './store.ts';

type Gives<Path extends keyof ApiPaths> = ApiPaths[Path] extends { readonly get: { readonly gives: infer G } }
  ? G
  : never;
/** One page of the feed. */
export type Changes = Gives<'/bushes/{bush}/changes'>;
type SnapshotPart = Gives<'/bushes/{bush}/snapshot/{number}/{part}'>;

/** How far the bush has come onto this device. */
export interface Progress {
  readonly trees: number;
  readonly of: number;
}

/** What a look at the server came to; a problem is a sentence for people, with no status where nobody answered. */
export type Synced =
  { readonly kind: 'inStep' } | { readonly kind: 'problem'; readonly status: number | null; readonly problem: string };

/** A page of the feed that is on this device now. */
export interface BookNews {
  readonly changes: Changes;
  /** the number after which it tells */
  readonly after: number;
  /** the trees that it touched, as they are here */
  readonly lives: readonly Life[];
}

/** What the book tells of while it comes into step. */
export interface BookOwner {
  readonly memberId: () => string | undefined;
  readonly progress: (progress: Progress | null) => void;
  readonly changed: (news: BookNews) => Promise<void>;
  /** the whole of the bush was begun anew: what was known of it as a whole may be old */
  readonly begun: () => Promise<void>;
}

const PART_WAIT_MS = 500;
const HAS_GONE = 410;
const IN_STEP: Synced = { kind: 'inStep' };

/**
 * The book of a bush on this device: all its trees with everything recorded of them. It begins with a snapshot, taken part
 * by part, so that a visit that was cut off goes on where it ended; from then on the feed of changes keeps it in step.
 */
export class DeviceBook {
  #syncing: Promise<Synced> | null = null;
  #next: Promise<Synced> | null = null;
  #stopped = false;

  constructor(
    readonly bushId: string,
    readonly owner: BookOwner
  ) {}

  /** Is the whole bush on this device? */
  async isWhole(): Promise<boolean> {
    const book = await store.books.get(this.bushId);
    return book !== undefined && book.taking === null && book.memberId === this.owner.memberId();
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
    return (this.#syncing = this.#alone().finally(() => (this.#syncing = null)));
  }

  /** One tab at a time: two would take the same parts, and write the same pages. */
  #alone(): Promise<Synced> {
    const locks = (navigator as { locks?: LockManager }).locks;
    return locks ? locks.request(`baumkin-book-${this.bushId}`, () => this.#look()) : this.#look();
  }

  async #look(): Promise<Synced> {
    const memberId = this.owner.memberId();
    if (memberId === undefined || this.#stopped) return IN_STEP;
    let book = await store.books.get(this.bushId);
    if (!book || book.taking !== null || book.memberId !== memberId) {
      const taken = await this.#takeSnapshot(memberId, book?.memberId === memberId ? book : undefined);
      if (taken.kind === 'problem' || this.#stopped) return taken;
      book = (await store.books.get(this.bushId))!;
    }
    return this.#follow(book);
  }

  async #takeSnapshot(memberId: string, known: BookState | undefined): Promise<Synced> {
    const params = { path: { bush: this.bushId } };
    const first = await asked(api.GET('/bushes/{bush}/snapshot', { params }));
    if (first.problem !== null) return { kind: 'problem', ...first };
    let state = first.data;
    const { feed, number, parts } = state;
    // Part 0 tells of the bush as a whole, which the page has asked for itself.
    const goesOn = known?.taking && known.feed === feed && known.number === number;
    let part = goesOn ? known.taking!.part : 1;
    if (!goesOn) await store.lives.where('bushId').equals(this.bushId).delete();
    while (part < parts) {
      if (this.#stopped) return IN_STEP;
      if (part >= state.ready) {
        await new Promise((resolve) => setTimeout(resolve, PART_WAIT_MS));
        const look = await asked(api.GET('/bushes/{bush}/snapshot', { params }));
        if (look.problem !== null) return { kind: 'problem', ...look };
        // Another one meanwhile: the parts of the first may be gone.
        if (look.data.number !== number || look.data.feed !== feed) return this.#takeSnapshot(memberId, undefined);
        state = look.data;
        continue;
      }
      const path = { bush: this.bushId, number: String(number), part: String(part) };
      const answer = await asked(api.GET('/bushes/{bush}/snapshot/{number}/{part}', { params: { path } }));
      if (answer.problem !== null) return { kind: 'problem', ...answer };
      part += 1;
      await this.#keepPart(answer.data, { memberId, feed, number, taking: { part, parts } });
      const trees = await store.lives.where('bushId').equals(this.bushId).count();
      this.owner.progress({ trees, of: state.trees });
    }
    await store.books.put({ bushId: this.bushId, memberId, feed, number, taking: null });
    this.owner.progress(null);
    await this.owner.begun();
    return IN_STEP;
  }

  async #keepPart({ lives = [] }: SnapshotPart, book: Omit<BookState, 'bushId'>): Promise<void> {
    await store.transaction('rw', store.lives, store.books, async () => {
      await store.lives.bulkPut(lives.map(({ id, ...life }) => ({ ...life, treeId: id, bushId: this.bushId })));
      await store.books.put({ bushId: this.bushId, ...book });
    });
  }

  async #follow(book: BookState): Promise<Synced> {
    let { number } = book;
    for (;;) {
      const query = { feed: book.feed, after: String(number) };
      const params = { path: { bush: this.bushId }, query };
      const answer = await asked(api.GET('/bushes/{bush}/changes', { params }));
      if (answer.problem !== null) {
        if (answer.status !== HAS_GONE) return { kind: 'problem', ...answer };
        await store.books.delete(this.bushId);
        return this.#look();
      }
      const changes = answer.data;
      const lives = await this.#keepChanges(changes, book);
      await this.owner.changed({ changes, after: number, lives });
      number = changes.to;
      if (number >= changes.last || this.#stopped) return IN_STEP;
    }
  }

  async #keepChanges(changes: Changes, book: BookState): Promise<Life[]> {
    const { bushId } = this;
    const { walk, to } = changes;
    return store.transaction('rw', store.lives, store.books, async () => {
      const lives = await addToLives(bushId, changes);
      if (walk) {
        const steps = new Map(walk.map(({ id, walkOrder }) => [id, walkOrder]));
        await store.lives
          .where('bushId')
          .equals(bushId)
          .modify((life) => {
            const walkOrder = steps.get(life.treeId);
            if (walkOrder === undefined) return;
            life.walkOrder = walkOrder;
            if (life.tree) life.tree = { ...life.tree, walkOrder };
          });
      }
      await store.books.put({ ...book, number: to, taking: null });
      return lives;
    });
  }

  /** Ends after the step that is being made. */
  stop(): void {
    this.#stopped = true;
  }

  /** What was known of the bush goes from this device; what waits to be sent stays for its writer. */
  async forget(): Promise<void> {
    await store.transaction('rw', store.lives, store.books, store.overviews, async () => {
      await store.lives.where('bushId').equals(this.bushId).delete();
      await store.books.delete(this.bushId);
      await store.overviews.delete(this.bushId);
    });
  }
}
