import type { TreeRow, WorkRecord } from '@baumkin/core/records';

import { store } from './store.ts';

/** A tree with everything recorded of it. */
export interface TreeLife {
  readonly tree: TreeRow;
  readonly records: readonly WorkRecord[];
}

/** Trees whose records are in memory at once. */
const AT_ONCE = 250;

/**
 * Trees with everything recorded of each, read from this device some hundreds at a time: the records of a big bush are more
 * than a page can hold, and whoever scrolls meanwhile is not to wait.
 * @param withWaiting adds what waits to be sent of a tree to what is kept of it
 */
export async function* livesOf(
  rows: readonly TreeRow[],
  withWaiting: (treeId: string, kept: readonly WorkRecord[]) => readonly WorkRecord[]
): AsyncGenerator<TreeLife> {
  for (let i = 0; i < rows.length; i += AT_ONCE) {
    const part = rows.slice(i, i + AT_ONCE);
    const lives = await store.lives.bulkGet(part.map(({ id }) => id));
    for (const [j, tree] of part.entries()) yield { tree, records: withWaiting(tree.id, lives[j]?.records ?? []) };
  }
}

/**
 * New records of trees with all that the page has of these trees. The device may hold nothing of them any more, where its book
 * begins anew: kept alone, the news would be all that is known of a tree.
 */
export function withAtHand(
  news: readonly WorkRecord[],
  atHand: ReadonlyMap<string, readonly WorkRecord[]>
): WorkRecord[] {
  const fresh = new Set(news.map(({ id }) => id));
  const trees = new Set(news.map(({ treeId }) => treeId));
  const known = [...trees].flatMap((treeId) => atHand.get(treeId) ?? []);
  return [...known.filter(({ id }) => !fresh.has(id)), ...news];
}
