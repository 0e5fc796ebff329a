import { SPECIES, type OtherSap, type Species, type SpeciesId } from './table.ts';

const BY_ID = new Map<SpeciesId, Species>(SPECIES.map((species) => [species.id, species]));

/** All that the table holds of a species. */
export function speciesById(id: SpeciesId): Species {
  return BY_ID.get(id)!;
}

/** Is this one of the maples? */
export function isMaple(id: SpeciesId): boolean {
  return speciesById(id).sap !== 'none';
}

/** What kind of sap it gives where it is no maple and some tap it all the same; null otherwise. */
export function otherSapOf(id: SpeciesId): OtherSap | null {
  return speciesById(id).otherSap ?? null;
}

/**
 * Sugar and black maple are treated as one by many botanists and are tapped alike; no winter clue tells them apart for
 * certain. Under a flat prior they count together, or nothing could ever be settled as sugar maple before summer.
 */
const SISTERS: readonly SpeciesId[] = ['sugarMaple', 'blackMaple'];

/** The species that no winter clue tells from this one, itself included. */
export function sistersOf(species: SpeciesId): readonly SpeciesId[] {
  return SISTERS.includes(species) ? SISTERS : [species];
}

/** Trees with opposite twigs that are no maples: what a maple has to be told from after the branching. */
export const OPPOSITE_LOOK_ALIKES: readonly SpeciesId[] = SPECIES.filter((s) => s.opposite && s.sap === 'none').map(
  (s) => s.id
);
