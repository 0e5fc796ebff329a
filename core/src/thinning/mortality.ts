import type { SpeciesId } from '../identify/index.ts';
import { vigourClass, type VigourClass } from '../taps/index.ts';

/** Deaths a year by the crown's dieback. Working assumptions, of the order that crown surveys tell. */
const DEATHS_A_YEAR: Readonly<Record<VigourClass, number>> = {
  healthy: 0.004,
  light: 0.008,
  moderate: 0.03,
  severe: 0.1,
  dead: 1
};

/** Species that are counted on to go: beech with bark disease, ash where the borer is near. Working assumption. */
const DOOMED: readonly SpeciesId[] = ['beech', 'whiteAsh', 'blackAsh'];
/** Deaths a year of a species that is counted on to go. Working assumption. */
const DOOMED_A_YEAR = 0.04;
/** Ash where the borer is present: 15 to 25 % a year (reports from the 2000s and 2010s; from memory). */
export const ASH_WITH_BORER_A_YEAR = 0.2;
/** A girdled tree dies within one to three years. Common practice. */
const GIRDLED_A_YEAR = 0.5;

/** A species that the ash borer kills. */
export const isAsh = (species: SpeciesId | null) => species === 'whiteAsh' || species === 'blackAsh';

/** A species that is counted on to go. */
export const isDoomed = (species: SpeciesId | null) => species !== null && DOOMED.includes(species);

/** What a tree's chance to live hangs on. */
export interface MortalTree {
  readonly species: SpeciesId | null;
  /** null where nobody looked up */
  readonly diebackPct: number | null;
  readonly girdled?: boolean;
  /** is the ash borer near? */
  readonly borer?: boolean;
}

/** Chance that a tree dies within a year on its own. */
export function deathsAYear({ species, diebackPct, girdled = false, borer = false }: MortalTree): number {
  const base = Math.max(DEATHS_A_YEAR[vigourClass(diebackPct ?? 5)], girdled ? GIRDLED_A_YEAR : 0);
  if (!isDoomed(species)) return base;
  return Math.max(base, borer && isAsh(species) ? ASH_WITH_BORER_A_YEAR : DOOMED_A_YEAR);
}
