import { suggestTaps, type SuggestionInput } from './suggest.ts';

/** Middles of the ten tenths of a standard normal. */
const TENTHS = [-1.645, -1.036, -0.674, -0.385, -0.126, 0.126, 0.385, 0.674, 1.036, 1.645] as const;
/** Ring width known as well as a tape can ever tell it, mm. */
const KNOWN_SE_MM = 0.05;

/**
 * How likely a new measurement is to change the count: the share of growths that this tree may well have, under which the
 * suggestion would be another one if they were known. A tree whose count stands whatever it grows can wait.
 * @param yearsSinceReading over which an unknown growth has also made the diameter uncertain
 * @returns 0..1, in tenths
 */
export function valueOfMeasuring(input: SuggestionInput, yearsSinceReading: number): number {
  const now = suggestTaps(input).taps;
  const changed = TENTHS.filter((z) => {
    const ringMm = Math.max(0.05, input.ringMm + z * input.ringSeMm);
    const dbhMm = Math.max(1, input.dbhMm + 2 * (ringMm - input.ringMm) * yearsSinceReading);
    return suggestTaps({ ...input, dbhMm, ringMm, ringSeMm: Math.min(KNOWN_SE_MM, input.ringSeMm) }).taps !== now;
  });
  return changed.length / TENTHS.length;
}
