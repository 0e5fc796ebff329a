import { Matrix, solve } from 'ml-matrix';

import type { Point } from '../geometry/index.ts';

/** The height of a place of the ground, metres above anything. */
export interface GroundHeight {
  readonly at: Point;
  readonly heightM: number;
}

/** Places that the ground between them is told from, and those of them within which they count most. Working assumptions. */
const [PLACES, NEAR_PLACES] = [16, 6];
/** Nearer than this all places count alike, metres: what they stray by sideways. Working assumption. */
const LEAST_NEAR_M = 5;
/** A slope is drawn to none as if a place so far off said so, metres: where places lie in a row it is not known across. */
const KNOWN_SLOPE_M = 1;

/**
 * The ground between places whose height is known: at each place a plane through the nearest, those near by counting most.
 * @throws RangeError where no height is known
 */
export function groundFrom(known: readonly GroundHeight[]): (at: Point) => number {
  if (known.length === 0) throw new RangeError('No height of the ground is known.');
  return ([x, y]) => {
    const near = known
      .map(({ at, heightM }) => ({ dx: at[0] - x, dy: at[1] - y, heightM, away: Math.hypot(at[0] - x, at[1] - y) }))
      .sort((a, b) => a.away - b.away)
      .slice(0, PLACES);
    const reach = Math.max(LEAST_NEAR_M, near[Math.min(NEAR_PLACES, near.length) - 1]!.away);
    const weights = near.map(({ away }) => Math.exp(-((away / reach) ** 2)));
    const middle = near.reduce((sum, { heightM }) => sum + heightM / near.length, 0);
    const normal = Matrix.zeros(3, 3);
    const right = Matrix.zeros(3, 1);
    for (const [i, { dx, dy, heightM }] of near.entries()) {
      const row = Matrix.rowVector([1, dx, dy]);
      const weighted = row.clone().mul(weights[i]!);
      normal.add(weighted.transpose().mmul(row));
      right.add(weighted.transpose().mul(heightM - middle));
    }
    for (const slope of [1, 2]) normal.set(slope, slope, normal.get(slope, slope) + KNOWN_SLOPE_M ** 2);
    return middle + solve(normal, right).get(0, 0);
  };
}
