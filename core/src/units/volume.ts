import type { UnitSystem } from './length.ts';

/** 1 US gallon = 231 in3 = 3.785411784 l exactly. */
export const LITRES_PER_GALLON = 3.785411784;

/** Sap or syrup for people, in whole units. @param litres */
export function formatVolume(litres: number, system: UnitSystem): string {
  const shown = system === 'metric' ? litres : litres / LITRES_PER_GALLON;
  return `${Math.round(shown).toLocaleString('en')} ${system === 'metric' ? 'l' : 'gal'}`;
}

/** What a tap gives or a jar holds, for people: with a digit after the point where it is less than ten. @param litres */
export function formatSmallVolume(litres: number, system: UnitSystem): string {
  const shown = system === 'metric' ? litres : litres / LITRES_PER_GALLON;
  return `${shown < 9.95 ? shown.toFixed(1) : Math.round(shown).toLocaleString('en')} ${system === 'metric' ? 'l' : 'gal'}`;
}

/** A cord is 128 cubic feet of stacked wood, m3. */
export const M3_PER_CORD = 128 * 0.3048 ** 3;

/** 1 cubic yard, m3, exactly. */
export const M3_PER_CUBIC_YARD = 0.9144 ** 3;

/** A heap of brush for people. @param m3 piled */
export function formatHeap(m3: number, system: UnitSystem): string {
  return system === 'metric' ? `${Math.round(m3)} m³` : `${Math.round(m3 / M3_PER_CUBIC_YARD)} yd³`;
}

/** Stacked firewood for people. @param m3 stacked */
export function formatStacked(m3: number, system: UnitSystem): string {
  if (system === 'metric') return `${m3 < 10 ? m3.toFixed(1) : Math.round(m3)} m³`;
  const cords = m3 / M3_PER_CORD;
  return `${cords < 10 ? cords.toFixed(1) : Math.round(cords)} cords`;
}
