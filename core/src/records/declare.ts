import { isMaple, type SpeciesId } from '../identify/index.ts';
import type { Determination } from './kinds/index.ts';

/**
 * What a determination says when somebody who knows declares it, without clues written down.
 * @param species null where it is only known to be a maple
 * @param note how it is known: seen in leaf, planted, from an older list
 */
export function declaration(
  species: SpeciesId | null,
  note: string
): Pick<
  Determination,
  'kind' | 'verdict' | 'species' | 'probability' | 'age' | 'basis' | 'lookSeason' | 'evidence' | 'note'
> {
  return {
    kind: 'determination',
    verdict: species === null ? 'mapleOpen' : isMaple(species) ? 'settled' : 'notMaple',
    species,
    probability: 1,
    age: 'grown',
    basis: 'declared',
    lookSeason: null,
    evidence: {},
    note
  };
}
