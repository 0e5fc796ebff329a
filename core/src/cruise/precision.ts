// The package brings no types; whoever compiles this file has to find the ones beside it.
// eslint-disable-next-line @typescript-eslint/triple-slash-reference
/// <reference path="./jstat.d.ts" />
import jStat from 'jstat';

import { mean, sampleDeviation } from '../math/index.ts';

/** A mean over plots with its confidence interval. */
export interface MeanOverPlots {
  readonly plots: number;
  readonly mean: number;
  /** standard error of the mean; null with fewer than two plots */
  readonly se: number | null;
  /** half the width of the confidence interval */
  readonly half: number | null;
  /** coefficient of variation between plots, 0..1 and above; null while the mean is 0 */
  readonly cv: number | null;
}

/** Confidence that the intervals are given at. */
export const CONFIDENCE = 0.9;

/**
 * Mean over plots with Student's confidence interval (any text on sampling, e.g. Avery & Burkhart, Forest Measurements).
 * Plots are taken as a simple random sample of a large stand: no finite population correction.
 */
export function meanOverPlots(values: readonly number[], confidence = CONFIDENCE): MeanOverPlots {
  const n = values.length;
  const centre = n === 0 ? 0 : mean(values);
  if (n < 2) return { plots: n, mean: centre, se: null, half: null, cv: null };
  const sd = sampleDeviation(values);
  const se = sd / Math.sqrt(n);
  return {
    plots: n,
    mean: centre,
    se,
    half: se * jStat.studentt.inv((1 + confidence) / 2, n - 1),
    cv: centre > 0 ? sd / centre : null
  };
}

/**
 * How many plots in all give an interval of the wished half-width: the least n with `t(n-1) * CV / sqrt(n) <= wished`.
 * @param cv coefficient of variation between plots
 * @param wished half-width as a share of the mean, for example 0.15
 * @returns null when more than 10,000 would be needed
 */
export function plotsNeeded(cv: number, wished: number, confidence = CONFIDENCE): number | null {
  for (let n = 2; n <= 10_000; n++)
    if ((jStat.studentt.inv((1 + confidence) / 2, n - 1) * cv) / Math.sqrt(n) <= wished) return n;
  return null;
}
