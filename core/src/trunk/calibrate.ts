import { sum } from 'd3-array';

import type { BushColumns } from './bushColumns.ts';
import type { ColumnModel } from './defaults.ts';
import { loggedHoles, Look, type LoggedTree } from './look.ts';
import type { PoolOptions } from './pool.ts';

/** Logged holes for which about the same chance of brown wood was expected. */
export interface CalibrationBin {
  readonly from: number;
  readonly to: number;
  readonly holes: number;
  /** mean chance of brown shavings that the model gave them, 0 to 1 */
  readonly expected: number;
  readonly brown: number;
  /** 90 % interval of the share that was brown (Wilson 1927) */
  readonly seenFrom: number;
  readonly seenTo: number;
}

/** What was expected of a bush's logged holes, and what was seen. */
export interface Calibration {
  readonly holes: number;
  readonly expectedBrown: number;
  readonly seenBrown: number;
  readonly bins: readonly CalibrationBin[];
  /** by logged hole that was not dry, in order: the chance of brown shavings that was expected */
  readonly expected: readonly number[];
}

/** Limits of the classes in which what was expected and what was seen are compared, shares of brown. */
const EDGES = [0, 0.04, 0.1, 0.2, 0.4, 1.0001];

/**
 * Predicted against seen brown wood over a bush's logged holes. Dry holes are left out: they have other causes.
 * @param bush what is gone by
 * @param options onProgress is told how far it is, 0 to 1, and stops it by answering false
 * @returns null when it was stopped
 */
export function calibrate(
  trees: readonly LoggedTree[],
  model: ColumnModel,
  bush: BushColumns,
  { draws = 60, seed = 1, onProgress }: Pick<PoolOptions, 'draws' | 'seed' | 'onProgress'> = {}
): Calibration | null {
  const wet = trees.flatMap(loggedHoles).filter(({ seen }) => seen !== 'dry');
  const expected: number[] = [];
  for (const [i, hole] of wet.entries()) {
    if (i % 50 === 0 && onProgress && !onProgress(i / wet.length)) return null;
    expected.push(new Look(hole, model, draws, seed + i).brown(bush));
  }
  const brownAt = wet.map(({ seen }) => seen !== 'pale');
  const bins = EDGES.slice(1).flatMap((to, k): CalibrationBin[] => {
    const from = EDGES[k]!;
    const own = wet.flatMap((_, i) => (expected[i]! >= from && expected[i]! < to ? i : []));
    if (own.length === 0) return [];
    const brown = own.filter((i) => brownAt[i]).length;
    const [seenFrom, seenTo] = wilson(brown, own.length);
    const told = sum(own.map((i) => expected[i]!)) / own.length;
    return [{ from, to: Math.min(1, to), holes: own.length, expected: told, brown, seenFrom, seenTo }];
  });
  return {
    holes: wet.length,
    expectedBrown: sum(expected),
    seenBrown: brownAt.filter(Boolean).length,
    bins,
    expected
  };
}

/** Interval of a share, 90 % (Wilson 1927, Journal of the American Statistical Association 22). */
export function wilson(hits: number, n: number, z = 1.645): [number, number] {
  const p = hits / n;
  const middle = (p + (z * z) / (2 * n)) / (1 + (z * z) / n);
  const half = (z / (1 + (z * z) / n)) * Math.sqrt((p * (1 - p)) / n + (z * z) / (4 * n * n));
  return [Math.max(0, middle - half), Math.min(1, middle + half)];
}
