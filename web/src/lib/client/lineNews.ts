import { deriveTree, groundsOf, isGone, treeRow, type Tree, type TreeRow, type TreeState } from '@baumkin/core/records';

import { keepLines, linesOf, type LineNews } from './linePacks.ts';
import type { KeptGlance, Life } from './store.ts';

/**
 * Keeps the lines of trees of which something came, as they follow from what this device holds of them now. Within the
 * transaction that keeps what came: a tab that is closed in between, or another that writes meanwhile, leaves no line behind.
 * @param lives the trees, with all their records
 * @param walk another order of the walk, where one came
 */
export async function keepLinesOf(
  { bushId, glance, expects }: KeptGlance,
  lives: readonly Life[],
  walk: LineNews['walk'] = null
): Promise<LineNews> {
  // Until the whole bush is here, a tree's place in the registry is known from its line alone.
  const untold = lives.filter(({ tree }) => tree === undefined).map(({ treeId }) => treeId);
  const lines = new Map((await linesOf(bushId, untold)).map((row) => [row.id, row]));
  const news: LineNews = {
    rows: lives.flatMap(({ treeId, tree = lines.get(treeId), records }) =>
      tree && !isGone(records) ? treeRow(tree, deriveTree(records, glance, expects)) : []
    ),
    gone: lives.flatMap(({ treeId, tree }) => (tree === null ? [treeId] : [])),
    walk
  };
  await keepLines(bushId, news);
  return news;
}

/** Trees whose lines were written since all were told at once, after some more were. */
export const stirredBy = ({ stirred }: KeptGlance, { rows, gone }: LineNews): readonly string[] => [
  ...new Set([...stirred, ...rows.map(({ id }) => id), ...gone])
];

/** A line with all that is said of a ban on tapping, whether or not it holds on the day. */
export const keptRow = (tree: Tree, state: TreeState): TreeRow => ({
  ...treeRow(tree, state),
  ...groundsOf(state, tree)
});
