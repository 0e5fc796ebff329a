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
