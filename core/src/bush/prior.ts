import { standPrior, type Prior, type SpeciesId } from '../identify/index.ts';
import { knownMaple, type TreeRow } from '../records/index.ts';
/** The prior for a tree: its stand's own settled trees, itself left out. */
export function priorFor(tree: TreeRow, rows: readonly TreeRow[]): Prior {
  const settled: Partial<Record<SpeciesId, number>> = {};
  for (const other of rows)
    if (
      other.id !== tree.id &&
      other.standId === tree.standId &&
      other.species &&
      knownMaple(other) !== null &&
      other.verdict !== 'mapleOpen'
    )
      settled[other.species] = (settled[other.species] ?? 0) + 1;
  return standPrior(settled);
}
