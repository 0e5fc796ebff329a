import { standPrior, type Prior, type SpeciesId } from '../identify/index.ts';
import { knownMaple, type TreeRow } from '../records/index.ts';

/** The settled trees of a tree's own stand by species, itself left out. */
export function settledBeside(tree: TreeRow, rows: readonly TreeRow[]): Partial<Record<SpeciesId, number>> {
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
  return settled;
}

/** The prior for a tree: its stand's own settled trees, and what is usual where maples are tapped. */
export const priorFor = (tree: TreeRow, rows: readonly TreeRow[]): Prior => standPrior(settledBeside(tree, rows));
