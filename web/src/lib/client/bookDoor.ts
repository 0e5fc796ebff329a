import { userFacing } from '@baumkin/core/errors';
import { proxy } from 'comlink';

import { asking } from '../workers/asking.ts';
import type { BookWorker } from '../workers/book.worker.ts';
import type { BookOwner, Synced } from './bookTold.ts';
import { DeviceBook, ON_THIS_DEVICE } from './deviceBook.ts';

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
  const remote = asking<BookWorker>(worker);
  // What the worker is asked is answered in turn: it is open before anything else is.
  remote.open(bushId, proxy(owner)).catch(() => undefined);
  // A write that is being made is made whole or not at all.
  return doorOf(remote, async () => worker.terminate());
}

/** A worker that could not be loaded, or broke off: the book itself tells of whatever else goes wrong. */
function asProblem(error: unknown): Synced {
  const told = userFacing(error);
  if (!told) throw error;
  return { kind: 'problem', status: ON_THIS_DEVICE, problem: told.message };
}

const doorOf = (book: Omit<BookDoor, 'close'>, close: BookDoor['close']): BookDoor => ({
  glance: () => book.glance().catch(asProblem),
  sync: () => book.sync().catch(asProblem),
  toDay: (today) => book.toDay(today),
  forget: () => book.forget(),
  close
});
