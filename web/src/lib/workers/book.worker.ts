import { expose, type ProxyMarked } from 'comlink';

import type { BookOwner } from '../client/bookTold.ts';
import { DeviceBook } from '../client/deviceBook.ts';

/** The book of a bush, off the page's thread: what comes from the server is read, derived and kept here. */
export class BookWorker {
  #book: DeviceBook | null = null;

  open(bushId: string, owner: BookOwner & ProxyMarked): void {
    this.#book = new DeviceBook(bushId, {
      progress: (progress) => void owner.progress(progress),
      changed: (news) => void owner.changed(news),
      replaced: (now) => void owner.replaced(now),
      refilled: () => void owner.refilled()
    });
  }
  glance = () => this.#book!.glance();
  sync = () => this.#book!.sync();
  toDay = (today: string) => this.#book!.toDay(today);
  forget = () => this.#book!.forget();
}

expose(new BookWorker());
