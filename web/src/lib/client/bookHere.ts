import { hasLines } from './linePacks.ts';
import type { Glance } from './overview.ts';
import { store, type BookState } from './store.ts';

/* How much of a bush is on this device. */

/** Is the bush at a glance on this device, by the program that is here now? */
export async function isReadable(bushId: string): Promise<boolean> {
  const kept = await store.glances.get(bushId);
  return kept?.core === CORE && (await hasLines(bushId));
}

export const isWholeFor = (book: BookState | undefined, { member }: Glance): boolean =>
  book !== undefined && book.taking === null && book.memberId === member.id;

/** Is all of a snapshot here, and the bush at a glance no older than it, so that the feed alone is missing? */
export const hasAllParts = (book: BookState | undefined, { member, feed, number }: Glance): boolean =>
  book?.memberId === member.id &&
  book.feed === feed &&
  book.number <= number &&
  book.taking !== null &&
  book.taking.part >= book.taking.parts;

/** Is the whole bush on this device? */
export async function isWhole(bushId: string): Promise<boolean> {
  const kept = await store.glances.get(bushId);
  return kept !== undefined && isWholeFor(await store.books.get(bushId), kept.glance);
}
