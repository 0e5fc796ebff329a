import { biltmoreMark } from '../measure/index.ts';
import { M2_PER_ACRE, M2_PER_HECTARE, M2_PER_SQUARE_FOOT, type UnitSystem } from '../units/index.ts';
import { gaugeWidth, limitingDistanceM } from './plots.ts';

/** One mark of a Biltmore stick. */
export interface StickMark {
  /** from the stick's end, mm */
  readonly atMm: number;
  /** diameter in the stick's own unit: cm or in */
  readonly diameter: number;
  /** every fifth centimetre or other inch is numbered */
  readonly numbered: boolean;
}

/** Marks of a Biltmore stick for an arm's reach, every centimetre or half inch. */
export function stickMarks(reachMm: number, units: UnitSystem): StickMark[] {
  const [unit, step, most, every] = units === 'metric' ? [10, 1, 80, 5] : [25.4, 0.5, 32, 2];
  return Array.from({ length: Math.round(most / step) - 4 / step + 1 }, (_, i) => {
    const diameter = 4 + i * step;
    return { diameter, atMm: biltmoreMark(diameter * unit, reachMm), numbered: diameter % every === 0 };
  });
}

/** Basal area factors in common use, with their name in the steward's units. */
export function basalAreaFactors(units: UnitSystem): { readonly bafM2PerHa: number; readonly name: string }[] {
  if (units === 'metric') return [1, 2, 4].map((baf) => ({ bafM2PerHa: baf, name: `${baf} m²/ha` }));
  return [5, 10, 20].map((baf) => ({
    bafM2PerHa: (baf * M2_PER_SQUARE_FOOT * M2_PER_HECTARE) / M2_PER_ACRE,
    name: `${baf} ft²/ac`
  }));
}

/** Width of an angle gauge at a reach, and how far away trees of some diameters still count. */
export function gaugeRow(bafM2PerHa: number, reachMm: number, diametersMm: readonly number[]) {
  return {
    widthMm: gaugeWidth(reachMm, bafM2PerHa),
    distancesM: diametersMm.map((d) => limitingDistanceM(d, bafM2PerHa))
  };
}
