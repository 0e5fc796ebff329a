import {
  deriveTree,
  isGone,
  treeLine,
  treeRow,
  type Entry,
  type TreeRow,
  type WorkRecord
} from '@baumkin/core/records';

import type { Overview } from './overview.ts';

/** What this device knows beside the server's list. */
export interface KnownHere {
  /** are a tree's records at hand? */
  readonly has: (treeId: string) => boolean;
  /** all that is known of a tree, what waits to be sent included */
  readonly recordsOf: (treeId: string) => readonly WorkRecord[];
  /** entries of trees that came into the registry here, in their order */
  readonly born: readonly Entry[];
}

/**
 * The lines of all trees: as the server sent them, and derived anew where this device knows the records. Trees that came
 * into the registry here stand where they were put on the walk.
 */
export function rowsOf({ trees, season, today, ringPriors, sizes = null }: Overview, here: KnownHere): TreeRow[] {
  const stateOf = (records: readonly WorkRecord[]) =>
    deriveTree(records, { season, today }, { priors: ringPriors, sizes });
  const rows = trees.flatMap((row) => {
    if (!here.has(row.id)) return row;
    const records = here.recordsOf(row.id);
    return isGone(records) ? [] : treeRow(row, stateOf(records));
  });
  const known = new Set(trees.map((row) => row.id));
  for (const { treeId, afterId } of here.born) {
    if (known.has(treeId)) continue;
    known.add(treeId);
    const records = here.recordsOf(treeId);
    const line = treeLine(treeId, 0, records);
    if (!line) continue;
    const after = rows.findIndex((row) => row.id === afterId);
    rows.splice(after < 0 ? rows.length : after + 1, 0, treeRow(line, stateOf(records)));
  }
  return rows;
}
