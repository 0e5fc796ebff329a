import { LITRES_A_TAP, sapToSyrup } from './rule.ts';

/** Sugar in the sap of maples of which nobody knows the kind, per cent. Common practice: about two. */
const USUAL_BRIX = 2;
/**
 * By how much a tap's syrup of a year strays from what is usual, as a factor, eight times in ten: five to fifteen gallons of sap, a fifth
 * more or less sugar. Common practice; as a number a working assumption.
 */
export const SYRUP_SPREAD = 1.6;

/** A number, and the span that holds it eight times in ten. */
export interface Span {
  readonly usual: number;
  readonly low: number;
  readonly high: number;
}

/** Litres of syrup that taps with buckets give in a season. @param taps 0 or more */
export function syrupFrom(taps: number): Span {
  const usual = (taps * LITRES_A_TAP) / sapToSyrup(USUAL_BRIX);
  return { usual, low: usual / SYRUP_SPREAD, high: usual * SYRUP_SPREAD };
}

/**
 * Taps that so much syrup in a year takes, in whole taps.
 * @param litres of syrup, above 0 @throws RangeError where none is wished for
 */
export function tapsForSyrup(litres: number): Span {
  if (!(litres > 0)) throw new RangeError('No syrup takes no taps.');
  const taps = litres / syrupFrom(1).usual;
  return {
    usual: Math.max(1, Math.round(taps)),
    low: Math.max(1, Math.round(taps / SYRUP_SPREAD)),
    high: Math.max(1, Math.ceil(taps * SYRUP_SPREAD))
  };
}
