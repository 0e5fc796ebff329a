import { speciesById, type AgeClass, type LookSeason, type SpeciesId, type Verdict } from '@baumkin/core';

export const SEASON_NAMES: Readonly<Record<LookSeason, string>> = {
  bare: 'bare',
  swelling: 'buds swelling',
  leaf: 'in leaf',
  fall: 'leaves falling'
};

export const AGE_NAMES: Readonly<Record<AgeClass, string>> = { young: 'young', grown: 'grown', old: 'old' };

/** A verdict as a headline. */
export function headlineOf(verdict: Verdict, leading: SpeciesId, begun: boolean): string {
  if (!begun) return 'Not looked at yet';
  return {
    settled: `Settled: ${speciesById(leading).name}`,
    mapleOpen: 'A maple, species open',
    lookAgain: 'Look again',
    notMaple: 'Not a maple'
  }[verdict];
}

/** The colours of a verdict's panel. */
export function toneOf(verdict: Verdict, begun: boolean): string {
  if (!begun) return 'bg-base-200';
  return {
    settled: 'bg-secondary text-secondary-content',
    mapleOpen: 'bg-secondary text-secondary-content',
    lookAgain: 'bg-primary text-primary-content',
    notMaple: 'bg-neutral text-neutral-content'
  }[verdict];
}

/** A probability as one says it, never more exactly than the table knows. */
export function inHundred(p: number): string {
  return p > 0.995 ? 'over 99 in 100' : p < 0.005 ? 'under 1 in 100' : `${Math.round(p * 100)} in 100`;
}
