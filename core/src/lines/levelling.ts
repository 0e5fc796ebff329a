import { CholeskyDecomposition, Matrix } from 'ml-matrix';

import { normalCdf } from '../math/index.ts';

/** How the heights along a line were found. */
export const LEVELLING_METHODS = ['level', 'waterTube', 'clinometer', 'receiver', 'phone', 'map'] as const;
export type LevellingMethod = (typeof LEVELLING_METHODS)[number];

/** What one reading of each method strays by, 1 sd. From memory, but the map's: half of a contour interval of 2 m. */
export const LEVELLING_ERRORS: Readonly<
  Record<
    LevellingMethod,
    { readonly of: 'height'; readonly sdM: number } | { readonly of: 'slope'; readonly sd: number }
  >
> = {
  level: { of: 'height', sdM: 0.01 },
  waterTube: { of: 'height', sdM: 0.005 },
  clinometer: { of: 'slope', sd: 0.005 },
  receiver: { of: 'height', sdM: 0.03 },
  phone: { of: 'height', sdM: 3 },
  map: { of: 'height', sdM: 1 }
};

/** All sightings of a clinometer are off by the same, 1 sd. Working assumption. */
export const CLINOMETER_OFF = 0.0025;

/** What somebody found along a line on one occasion, by one method. */
export interface LevellingSet {
  readonly method: LevellingMethod;
  /** of a method that reads heights: by node, metres above whatever it counts from */
  readonly heights?: readonly { readonly node: number; readonly heightM: number }[];
  /** of one that reads slopes: metres of fall a metre on the ground, downstream; a rise is negative */
  readonly slopes?: readonly { readonly from: number; readonly to: number; readonly slope: number }[];
  /** what a reading strays by, 1 sd, where somebody knows better */
  readonly sd?: number;
}

/**
 * Before anybody levels it, a line is taken to fall so much on the whole, metres a metre, since it was laid downhill; its single stretches
 * stray from what it falls on the whole by so much. Each 1 sd; working assumptions.
 */
export const LAID = { slope: 0.04, sd: 0.06, stretchSd: 0.05 } as const;

/** A set's own zero is unknown, about the mean of its heights: so wide, metres, that it says nothing. */
const ANY_ZERO_M = 1000;

/** A height or a fall with what is unknown of it. */
export interface Doubted {
  readonly mean: number;
  /** 1 sd */
  readonly sd: number;
}

/** The chance that a value lies below another. */
export const chanceBelow = ({ mean, sd }: Doubted, value: number): number =>
  sd > 0 ? normalCdf((value - mean) / sd) : mean < value ? 1 : 0;

/** How a line falls, as far as it was levelled. */
export interface Profile {
  /** metres along the ground from the upper end, of each node */
  readonly atM: readonly number[];
  /** metres that the line falls from one node to another downstream of it; negative where it rises */
  fall(from: number, to: number): Doubted;
}

/**
 * How a line falls, from all that was ever levelled along it: weighted least squares over the falls between its nodes, which stray
 * from what it falls on the whole, with an unknown zero for every set of heights and an unknown error of its instrument for every
 * set of slopes. So even rough heights at both ends tell something of what lies between.
 * @param atM metres along the ground from the upper end, of each post, tree or fitting; rising
 * @param sets what was found; of nodes that there are
 * @throws RangeError where nodes do not lie one after the other, or a set names none
 */
export function profileFrom(atM: readonly number[], sets: readonly LevellingSet[]): Profile {
  const lengths = atM.slice(1).map((at, i) => at - atM[i]!);
  if (atM.length < 2 || lengths.some((length) => !(length > 0)))
    throw new RangeError('The nodes of a line lie one after the other.');
  const many = lengths.length;
  // Falls of the stretches, then the line's slope on the whole, then what is unknown of each set.
  const [whole, firstSet] = [many, many + 1];
  const size = firstSet + sets.length;
  const information = Matrix.zeros(size, size);
  const told = Matrix.zeros(size, 1);
  const learn = (terms: readonly (readonly [index: number, times: number])[], value: number, sd: number) => {
    for (const [i, a] of terms) {
      told.set(i, 0, told.get(i, 0) + (a * value) / sd ** 2);
      for (const [j, b] of terms) information.set(i, j, information.get(i, j) + (a * b) / sd ** 2);
    }
  };
  learn([[whole, 1]], LAID.slope, LAID.sd);
  lengths.forEach((length, i) =>
    learn(
      [
        [i, 1 / length],
        [whole, -1]
      ],
      0,
      LAID.stretchSd
    )
  );
  const between = (from: number, to: number, times: number) => {
    if (!(from >= 0 && from < to && to < atM.length)) throw new RangeError('A reading names a node that is not there.');
    return Array.from({ length: to - from }, (_, i) => [from + i, times] as const);
  };
  sets.forEach(({ method, heights = [], slopes = [], sd }, set) => {
    const error = LEVELLING_ERRORS[method];
    const own = firstSet + set;
    information.set(own, own, 1 / (error.of === 'height' ? ANY_ZERO_M : CLINOMETER_OFF) ** 2);
    const zero = heights.reduce((sum, { heightM }) => sum + heightM / heights.length, 0);
    for (const { node, heightM } of heights)
      learn(
        [...(node === 0 ? [] : between(0, node, -1)), [own, 1]],
        heightM - zero,
        sd ?? (error.of === 'height' ? error.sdM : Infinity)
      );
    for (const { from, to, slope } of slopes) {
      const length = atM[to]! - atM[from]!;
      const strays = sd ?? (error.of === 'slope' ? error.sd : Infinity);
      learn([...between(from, to, 1 / length), [own, 1]], slope, strays);
    }
  });
  const root = new CholeskyDecomposition(information);
  const falls = root.solve(told).to1DArray();
  const covariance = root.solve(Matrix.eye(size));
  return {
    atM,
    fall(from, to) {
      let [mean, variance] = [0, 0];
      for (let i = from; i < to; i++) {
        mean += falls[i]!;
        for (let j = from; j < to; j++) variance += covariance.get(i, j);
      }
      return { mean, sd: Math.sqrt(Math.max(0, variance)) };
    }
  };
}
