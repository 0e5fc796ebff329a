import type { UnitSystem } from './length.ts';

/** A temperature in °C as a number of the scale that is used. */
export const toScale = (c: number, system: UnitSystem): number => (system === 'metric' ? c : c * 1.8 + 32);
/** A number of the scale that is used as °C. */
export const fromScale = (value: number, system: UnitSystem): number =>
  system === 'metric' ? value : (value - 32) / 1.8;

/** A temperature, °C, as it is read. @param digits after the point */
export function formatDegrees(c: number, system: UnitSystem, digits = 0): string {
  const value = toScale(c, system);
  const rounded = Number(value.toFixed(digits));
  // A minus is a minus, and nought has none.
  const sign = rounded < 0 ? '−' : '';
  return `${sign}${Math.abs(rounded).toFixed(digits)} °${system === 'metric' ? 'C' : 'F'}`;
}
