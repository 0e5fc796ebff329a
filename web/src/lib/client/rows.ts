import {
  deriveTree,
  isGone,
  treeLine,
  treeRow,
  type AsOf,
  type Entry,
  type Expectations,
  type TreeRow,
  type WorkRecord
} from '@baumkin/core/records';

/** What this device knows beside the lines that it keeps. */
export interface KnownHere {
  /** trees of which something waits to be sent, and whose records are at hand */
  readonly waiting: readonly string[];
  /** all that is known of a tree, what waits to be sent included */
  readonly recordsOf: (treeId: string) => readonly WorkRecord[];
  /** entries of trees that came into the registry here, in their order */
  readonly born: readonly Entry[];
}

/**
 * The lines of all trees: as they are kept, and derived anew where something waits to be sent. Trees that came into the
 * registry here stand where they were put on the walk.
 */
export function rowsOf(
  lines: readonly TreeRow[],
  at: AsOf,
  expects: Partial<Expectations>,
  here: KnownHere
): readonly TreeRow[] {
  if (here.waiting.length === 0 && here.born.length === 0) return lines;
  const stateOf = (records: readonly WorkRecord[]) => deriveTree(records, at, expects);
  const waiting = new Set(here.waiting);
  const rows = lines.flatMap((row) => {
    if (!waiting.has(row.id)) return row;
    const records = here.recordsOf(row.id);
    return isGone(records) ? [] : treeRow(row, stateOf(records));
  });
  const known = new Set(lines.map((row) => row.id));
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

/**
 * The tagged trees right before and after one on the walk: under whose tags its readings may have been written. Those that
 * were felled since are among them.
 * @param all in walking order, felled ones too
 */
export function besideOnWalk(all: Iterable<TreeRow>, treeId: string): readonly TreeRow[] {
  const walk = [...all].filter((row) => row.tagged !== false || row.id === treeId);
  const at = walk.findIndex((row) => row.id === treeId);
  return at < 0 ? [] : [walk[at - 1] ?? [], walk[at + 1] ?? []].flat();
}
