import { isMaple, type SpeciesId, type Verdict } from '../identify/index.ts';

/** Is the tree a maple? null while that is open. */
export function knownMaple(row: {
  readonly species: SpeciesId | null;
  readonly verdict: Verdict | null;
}): boolean | null {
  switch (row.verdict) {
    case 'settled':
      return row.species !== null && isMaple(row.species);
    case 'mapleOpen':
      return true;
    case 'notMaple':
      return false;
    default:
      return null;
  }
}

/** Does a tree want a visit in leaf? Maples of open species, and trees that were looked at and left open. */
export function wantsLeafVisit(row: { readonly verdict: Verdict | null }): boolean {
  return row.verdict === 'mapleOpen' || row.verdict === 'lookAgain';
}
