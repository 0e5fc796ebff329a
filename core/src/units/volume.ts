import type { UnitSystem } from './length.ts';

/** 1 US gallon = 231 in3 = 3.785411784 l exactly. */
export const LITRES_PER_GALLON = 3.785411784;

/** Sap or syrup for people, in whole units. @param litres */
export function formatVolume(litres: number, system: UnitSystem): string {
  const shown = system === 'metric' ? litres : litres / LITRES_PER_GALLON;
  return `${Math.round(shown).toLocaleString('en')} ${system === 'metric' ? 'l' : 'gal'}`;
}
