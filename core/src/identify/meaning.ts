import { sapToSyrup } from '../sap/index.ts';
import { speciesById } from './species.ts';
import type { SpeciesId } from './table.ts';

/** What a species means for the sugarhouse. */
export interface SapMeaning {
  /** usual sugar in the sap, per cent of its weight */
  readonly sugarPct: readonly [low: number, high: number];
  /** the same for open-grown trees, where it is known to differ */
  readonly openGrownPct: readonly [low: number, high: number] | null;
  /** litres of sap to a litre of syrup: at the high sugar, then at the low */
  readonly ratio: readonly [few: number, many: number];
  /** days that its buds break after sugar maple's, about; negative for before */
  readonly budBreakDays: number;
}

/** What the sap of a maple is like; null for other trees. */
export function sapMeaning(species: SpeciesId): SapMeaning | null {
  const { sapSugarPct, openGrownSugarPct, budBreakDays } = speciesById(species);
  if (!sapSugarPct) return null;
  const [low, high] = sapSugarPct;
  return {
    sugarPct: sapSugarPct,
    openGrownPct: openGrownSugarPct ?? null,
    ratio: [sapToSyrup(high), sapToSyrup(low)],
    budBreakDays: budBreakDays ?? 0
  };
}

/** A maple of open species is reckoned as red maple is, per cent. */
const OPEN_SPECIES_PCT = 1.75;

/** Sugar to reckon with in the sap of a maple, per cent: the middle of what is usual for its species. */
export function usualSugarPct(species: SpeciesId | null): number {
  const meaning = species === null ? null : sapMeaning(species);
  return meaning ? (meaning.sugarPct[0] + meaning.sugarPct[1]) / 2 : OPEN_SPECIES_PCT;
}
