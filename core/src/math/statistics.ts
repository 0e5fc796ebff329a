import { deviation, mean as meanOrNone, median as medianOrNone, quantileSorted } from 'd3-array';

/* Means, medians, quantiles and deviations as everybody computes them (d3-array), for lists that are never empty. */

/** Arithmetic mean; NaN of nothing. */
export const mean = (values: Iterable<number>): number => meanOrNone(values) ?? NaN;

/** The middle value, or the mean of the two middle ones; NaN of nothing. */
export const median = (values: Iterable<number>): number => medianOrNone(values) ?? NaN;

/** Standard deviation of a sample (n - 1); NaN with fewer than two values. */
export const sampleDeviation = (values: Iterable<number>): number => deviation(values) ?? NaN;

/**
 * Several quantiles of the same values, between neighbours by their distance (type 7 of Hyndman & Fan 1996).
 * @param shares each 0..1
 */
export function quantiles<const S extends readonly number[]>(
  values: readonly number[],
  shares: S
): { [K in keyof S]: number } {
  const sorted = [...values].sort((a, b) => a - b);
  return shares.map((share) => quantileSorted(sorted, share) ?? NaN) as { [K in keyof S]: number };
}

/**
 * The least of the values below or at which lies so much of their weight.
 * @param values each with what it weighs; all together 1
 * @param share 0..1
 */
export function weightedQuantile(
  values: readonly { readonly weight: number; readonly value: number }[],
  share: number
): number {
  let sum = 0;
  const sorted = [...values].sort((a, b) => a.value - b.value);
  // Weights that were divided do not add up to the last digit.
  return (sorted.find(({ weight }) => (sum += weight) >= share - 1e-9) ?? sorted.at(-1))?.value ?? NaN;
}
