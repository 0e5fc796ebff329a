import { CholeskyDecomposition, Matrix } from 'ml-matrix';

/** Things that stray, part of it together: how unlikely it is that they stray so far. */
export class Straying {
  readonly #weights: Float64Array[];
  /** what they stray by, times the weights */
  readonly #told: Float64Array;

  constructor(covariance: Matrix, strays: readonly number[]) {
    const size = strays.length;
    const inverse = size > 0 ? new CholeskyDecomposition(covariance).solve(Matrix.eye(size)) : Matrix.zeros(0, 0);
    this.#weights = Array.from({ length: size }, (_, i) => Float64Array.from(inverse.getRow(i)));
    this.#told = Float64Array.from(this.#weights, (row) => row.reduce((sum, each, j) => sum + each * strays[j]!, 0));
  }

  /** By how much the log likelihood grows where more is expected of some. */
  gain(which: readonly number[], more: readonly number[]): number {
    const { along, against } = this.terms(which, more);
    return along - against / 2;
  }

  /** The same where it is taken so many times: `along` times that, less half of `against` times its square. */
  terms(which: readonly number[], more: readonly number[]): { readonly along: number; readonly against: number } {
    let [along, against] = [0, 0];
    for (let k = 0; k < which.length; k++) {
      const own = more[k]!;
      const row = this.#weights[which[k]!]!;
      let times = 0;
      for (let l = 0; l < which.length; l++) times += row[which[l]!]! * more[l]!;
      along += own * this.#told[which[k]!]!;
      against += own * times;
    }
    return { along, against };
  }

  expect(which: readonly number[], more: readonly number[]): void {
    const told = this.#told;
    for (const [k, i] of which.entries()) {
      if (more[k] === 0) continue;
      const row = this.#weights[i]!;
      for (let j = 0; j < told.length; j++) told[j]! -= row[j]! * more[k]!;
    }
  }
}

/** How things that stray for themselves and together with others vary: rows of what each hangs on, and the spread of these. */
export function covarianceOf(
  own: readonly number[],
  rows: readonly (readonly number[])[],
  sds: readonly number[]
): Matrix {
  const hangs = new Matrix(rows.map((row) => row.map((times, k) => times * sds[k]!)));
  const all = sds.length > 0 && rows.length > 0 ? hangs.mmul(hangs.transpose()) : Matrix.zeros(own.length, own.length);
  own.forEach((sd, i) => all.set(i, i, all.get(i, i) + sd ** 2));
  return all;
}
