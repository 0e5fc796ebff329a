import { isMaple, speciesById, type SpeciesId, type Verdict } from '../identify/index.ts';
import type { MeasureMethod } from '../measure/index.ts';
import { knownMaple } from './maple.ts';

/* How tables that go out write what records hold. */

/** Ways of measuring as tables write them. */
export const METHOD_WORD: Readonly<Record<MeasureMethod, string>> = {
  diameterTape: 'diameter tape',
  girthTape: 'tape',
  calipers: 'calipers',
  biltmore: 'stick',
  plainStick: 'plain stick',
  hug: 'hug'
};

/** The species as a table names it; empty while it is open whether the tree is a maple. */
export function speciesWord(
  determination: { readonly species: SpeciesId | null; readonly verdict: Verdict } | null
): string {
  if (!determination) return '';
  const maple = knownMaple(determination);
  if (determination.verdict === 'mapleOpen') return 'maple';
  if (maple === null || !determination.species) return '';
  return maple === isMaple(determination.species) ? speciesById(determination.species).name : '';
}

/** Up to three decimals, none that say nothing. */
export function plainNumber(value: number | null): string {
  return value === null ? '' : String(Number(value.toFixed(3)));
}
