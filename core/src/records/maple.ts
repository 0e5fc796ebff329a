import { isMaple, otherSapOf, type OtherSap, type SpeciesId, type Verdict } from '../identify/index.ts';

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

/** Whose sap it is: each kind has a season and a ratio of its own, and none counts as maple but maple. */
export type SapKind = 'maple' | OtherSap;

/** What sap a tree gives; null where that is open, or where nobody boils its sap. */
export function sapOf(row: Parameters<typeof knownMaple>[0]): SapKind | null {
  const maple = knownMaple(row);
  if (maple === true) return 'maple';
  return maple === false && row.species !== null ? otherSapOf(row.species) : null;
}

/** Of what kind its sap is, where the tree is known to be no maple and some tap it all the same; null otherwise. */
export function otherSapOfTree(row: Parameters<typeof knownMaple>[0]): OtherSap | null {
  const sap = sapOf(row);
  return sap === 'maple' ? null : sap;
}

/** Does a tree want a visit in leaf? Maples of open species, and trees that were looked at and left open. */
export function wantsLeafVisit(row: { readonly verdict: Verdict | null }): boolean {
  return row.verdict === 'mapleOpen' || row.verdict === 'lookAgain';
}
