import { CholeskyDecomposition, Matrix } from 'ml-matrix';

/** Something that happened or not, and what may have moved it. */
export interface YesOrNo {
  readonly happened: boolean;
  /** what is known beforehand of its log odds */
  readonly offset: number;
  readonly of: readonly { readonly effect: number; readonly times: number }[];
}

/** What moves log odds. */
export interface LogisticFit {
  /** the likeliest effects, given how far each usually strays from nought */
  readonly effects: readonly number[];
  /** what is left unknown of each, 1 sd, by Laplace's normal at the peak */
  readonly doubts: readonly number[];
}

/** Steps of Newton's after which the peak is reached, or never is; and how near to it is there. */
const NEWTON = { steps: 50, near: 1e-9 } as const;

/** The chance that goes with log odds. */
export const chanceOf = (logOdds: number): number => 1 / (1 + Math.exp(-logOdds));
/** The log odds that go with a chance, 0 and 1 left out. */
export const logOddsOf = (chance: number): number => Math.log(chance / (1 - chance));

/**
 * Logistic regression with normal effects: the peak of the posterior by Newton's steps.
 * @param sds how far each effect usually strays from nought, 1 sd; infinity where nothing is known beforehand
 * @throws RangeError where no peak is found: everything happened on one side of an effect of which nothing is known beforehand
 */
export function logistic(observed: readonly YesOrNo[], sds: readonly number[]): LogisticFit {
  let effects = sds.map(() => 0);
  for (let step = 0; step < NEWTON.steps; step++) {
    const curve = Matrix.diag(sds.map((sd) => 1 / sd ** 2));
    const slope = effects.map((effect, i) => -effect / sds[i]! ** 2);
    for (const { happened, offset, of } of observed) {
      const chance = chanceOf(of.reduce((sum, { effect, times }) => sum + times * effects[effect]!, offset));
      for (const a of of) {
        slope[a.effect]! += a.times * ((happened ? 1 : 0) - chance);
        for (const b of of)
          curve.set(a.effect, b.effect, curve.get(a.effect, b.effect) + a.times * b.times * chance * (1 - chance));
      }
    }
    const root = new CholeskyDecomposition(curve);
    if (!root.isPositiveDefinite()) break;
    const moved = root.solve(Matrix.columnVector(slope)).to1DArray();
    effects = effects.map((effect, i) => effect + moved[i]!);
    if (moved.every((each) => Math.abs(each) < NEWTON.near))
      return { effects, doubts: root.solve(Matrix.eye(sds.length)).diagonal().map(Math.sqrt) };
  }
  throw new RangeError('These observations have no peak.');
}
