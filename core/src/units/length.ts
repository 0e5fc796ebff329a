/**
 * Lengths in the core are millimetres. This file turns what people write into millimetres and back into words.
 * 1 in = 25.4 mm exactly (international yard and pound agreement, 1959).
 */
export const MM_PER_INCH = 25.4;
/** Twelve inches. */
export const MM_PER_FOOT = 304.8;
/** 1 mile in mm: 5280 feet. */
export const MM_PER_MILE = 1_609_344;

/** How the steward wants to see figures. */
export type UnitSystem = 'metric' | 'inch';

/** What is being shown decides how finely it is rounded. */
export type LengthUse =
  /** trunk diameter or girth: 0.1 cm or 0.1 in */
  | 'trunk'
  /** what a hand can lay off on bark: 1 cm or half an inch */
  | 'hand'
  /** bits and hole depths: 1 mm or a sixteenth of an inch */
  | 'drill'
  /** the size of a bit, which is sold in inches: mm with the inches beside them, or the inches */
  | 'bit'
  /** ring widths and yearly growth: 0.1 mm or 0.001 in, for a hundredth would hide how well they are known */
  | 'ring'
  /** distances on the ground, heights of trees: 0.1 m or 1 ft */
  | 'ground'
  /** ways to walk: 0.1 km or 0.1 mi; short ones in whole metres or feet */
  | 'way';

/**
 * Writes a length for people.
 * @param mm length in millimetres, any sign
 * @example formatLength(365, 'metric', 'trunk') // "36.5 cm"
 * @example formatLength(38.1, 'inch', 'drill') // "1 1/2 in"
 * @example formatLength(7.9375, 'metric', 'bit') // "8 mm (5/16 in)"
 */
export function formatLength(mm: number, system: UnitSystem, use: LengthUse): string {
  if (!Number.isFinite(mm)) return '–';
  return system === 'metric' ? formatMetric(mm, use) : formatInch(mm, use);
}

function formatMetric(mm: number, use: LengthUse): string {
  switch (use) {
    case 'trunk':
      return `${(mm / 10).toFixed(1)} cm`;
    case 'hand':
      return `${Math.round(mm / 10)} cm`;
    case 'drill':
      return `${Math.round(mm)} mm`;
    case 'bit':
      return `${Math.round(mm)} mm (${inchFraction(mm / MM_PER_INCH, 16)} in)`;
    case 'ring':
      return `${mm.toFixed(1)} mm`;
    case 'ground':
      return `${(mm / 1000).toFixed(1)} m`;
    case 'way':
      return mm < 1e6 ? `${Math.round(mm / 1000)} m` : `${(mm / 1e6).toFixed(1)} km`;
  }
}

function formatInch(mm: number, use: LengthUse): string {
  const inches = mm / MM_PER_INCH;
  switch (use) {
    case 'trunk':
      return `${inches.toFixed(1)} in`;
    case 'hand':
      return `${inchFraction(inches, 2)} in`;
    case 'drill':
    case 'bit':
      return `${inchFraction(inches, 16)} in`;
    case 'ring':
      return `${inches.toFixed(3)} in`;
    case 'ground':
      return `${Math.round(mm / MM_PER_FOOT)} ft`;
    case 'way':
      return mm < MM_PER_MILE ? `${Math.round(mm / MM_PER_FOOT)} ft` : `${(mm / MM_PER_MILE).toFixed(1)} mi`;
  }
}

/**
 * Inches as a whole number and a binary fraction in lowest terms.
 * @example inchFraction(1.5, 16) // "1 1/2"
 */
export function inchFraction(inches: number, denominator: number): string {
  const sign = inches < 0 ? '-' : '';
  const parts = Math.round(Math.abs(inches) * denominator);
  const whole = Math.floor(parts / denominator);
  let over = parts % denominator;
  let under = denominator;
  while (over > 0 && over % 2 === 0) {
    over /= 2;
    under /= 2;
  }
  if (over === 0) return `${sign}${whole}`;
  return whole === 0 ? `${sign}${over}/${under}` : `${sign}${whole} ${over}/${under}`;
}
