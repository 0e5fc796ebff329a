import { proxy, wrap } from 'comlink';

import type { BookWorker } from '../workers/book.worker.ts';
import { DeviceBook, type BookOwner, type Synced } from './deviceBook.ts';

/** The book of a bush as a page asks for it. */
export interface BookDoor {
  readonly glance: () => Promise<Synced>;
  readonly sync: () => Promise<Synced>;
  readonly toDay: (today: string) => Promise<void>;
  readonly forget: () => Promise<void>;
  /** resolves once nothing is written any more */
  readonly close: () => Promise<void>;
}

/** Opens the book of a bush in a worker of its own, so that the page stays free; on the page where there are no workers. */
export function openBook(bushId: string, owner: BookOwner): BookDoor {
  if (!('Worker' in globalThis)) {
    const book = new DeviceBook(bushId, owner);
    return doorOf(book, () => book.stop());
  }
  const worker = new Worker(new URL('../workers/book.worker.ts', import.meta.url), { type: 'module' });
  const remote = wrap<BookWorker>(worker);
  // What the worker is asked is answered in turn: it is open before anything else is.
  void remote.open(bushId, proxy(owner));
  // A write that is being made is made whole or not at all.
  return doorOf(remote, async () => worker.terminate());
}

const doorOf = (book: Omit<BookDoor, 'close'>, close: BookDoor['close']): BookDoor => ({
  glance: () => book.glance(),
  sync: () => book.sync(),
  toDay: (today) => book.toDay(today),
  forget: () => book.forget(),
  close
});
