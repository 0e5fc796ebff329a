/**
 * Cumulative distribution of the standard normal.
 * Abramowitz & Stegun 1964, 26.2.17; absolute error below 7.5e-8.
 */
export function normalCdf(z: number): number {
  const t = 1 / (1 + 0.2316419 * Math.abs(z));
  const poly = t * (0.31938153 + t * (-0.356563782 + t * (1.781477937 + t * (-1.821255978 + t * 1.330274429))));
  const upper = (Math.exp((-z * z) / 2) / Math.sqrt(2 * Math.PI)) * poly;
  return z >= 0 ? 1 - upper : upper;
}

/**
 * Values of a standard normal, evenly apart about nought, with what each weighs; the weights add up to 1.
 * @param apart in standard deviations
 */
export function normalSteps(nodes: number, apart: number): { readonly z: number; readonly weight: number }[] {
  const steps = Array.from({ length: nodes }, (_, i) => (i - (nodes - 1) / 2) * apart);
  const heights = steps.map((z) => Math.exp(-(z ** 2) / 2));
  const all = heights.reduce((a, b) => a + b, 0);
  return steps.map((z, i) => ({ z, weight: heights[i]! / all }));
}

/** Standard deviations to either side of the mean that hold 80 of 100; one in ten lies beyond each. */
export const Z_EIGHTY = 1.2816;
