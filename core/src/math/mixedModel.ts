import { CholeskyDecomposition, Matrix } from 'ml-matrix';

/** Something that was observed of one among many that differ from each other, and by what they are of. */
export interface Observed {
  readonly value: number;
  /** variance of the observation itself */
  readonly variance: number;
  /** how far such things usually stray from what they are of, 1 sd */
  readonly sd: number;
  /** the effects that move it, and how many times each */
  readonly of: readonly { readonly effect: number; readonly times: number }[];
}

/** Effects of one kind: all stands, all species. */
export interface EffectKind {
  readonly many: number;
  /** how far they usually stray from nought, 1 sd */
  readonly sd: number;
  /** is it learned how far they stray, or taken as it is? */
  readonly learned: boolean;
}

/** What is learned of many things together. */
export interface Pooled {
  /** kind after kind, in their order */
  readonly effects: readonly number[];
  /** what is left unknown of each, 1 sd */
  readonly doubts: readonly number[];
  /** factors on how far single things and the effects of each kind usually stray */
  readonly spread: number;
  readonly spreads: readonly number[];
  /** logarithm of how likely the observations are under all that, up to a constant: to hold one against another */
  readonly logLikely: number;
}

/** So many observations at the most tell how far things stray: each is gone through a hundred times. */
const MOST_FOR_SPREAD = 4000;

/** A factor on how far a thing strays, from what moves it. */
type Straying = (moved: readonly { readonly effect: number; readonly by: number }[]) => number;

/** The logarithm of how much farther or less far things stray than is usual. Working assumption. */
const LOG_SPREAD_SD = 0.5;

/**
 * A linear mixed model with normal effects: what each adds, given how far effects and single things stray, and that learned
 * too: where the marginal likelihood is greatest, given that each spread is log-normal about the usual one (empirical Bayes). Each
 * observation counts by its own error.
 * @param options whether it is learned how far single things stray; and a factor on that, where it follows from the effects that
 *   move a thing
 */
export function pool(
  observed: readonly Observed[],
  kinds: readonly EffectKind[],
  { learnsSpread, strayingOf }: { readonly learnsSpread: boolean; readonly strayingOf?: Straying }
): Pooled {
  // How far things stray is known well enough from some thousands of them.
  const every = Math.ceil(observed.length / MOST_FOR_SPREAD);
  const model = new MixedModel(
    observed.filter((_, i) => i % every === 0),
    kinds
  );
  const learned = kinds.flatMap(({ many, learned: asked }, kind) => (asked && many > 0 ? kind : []));
  let spread = 1;
  let spreads = kinds.map(() => 1);
  // Each in turn, and once more where there are several: they hardly depend on each other.
  for (let round = 0; round < (learned.length > 0 ? 2 : 1); round++) {
    if (learnsSpread) spread = Math.exp(peakOf((log) => model.fit(Math.exp(log), spreads)));
    for (const kind of learned) {
      const tried = (log: number) => spreads.map((own, i) => (i === kind ? Math.exp(log) : own));
      const peak = peakOf((log) => model.fit(spread, tried(log)));
      spreads = tried(peak);
    }
    if (strayingOf) model.stray(model.solved(spread, spreads).effects, strayingOf);
  }
  const all = new MixedModel(observed, kinds);
  if (strayingOf) all.stray(model.solved(spread, spreads).effects, strayingOf);
  const { effects, root } = all.solved(spread, spreads);
  const covariance = root.solve(Matrix.eye(effects.length));
  return {
    effects,
    doubts: covariance.diagonal().map(Math.sqrt),
    spread,
    spreads,
    logLikely: all.fit(spread, spreads)
  };
}

class MixedModel {
  readonly #observed: readonly Observed[];
  readonly #kinds: readonly EffectKind[];
  /** by observation: value, variance, how far it strays */
  readonly #values: Float64Array;
  readonly #variances: Float64Array;
  readonly #sds: Float64Array;
  /** what moves the observations, one after another, and where each one's begins */
  readonly #effects: Int32Array;
  readonly #times: Float64Array;
  readonly #from: Int32Array;

  constructor(observed: readonly Observed[], kinds: readonly EffectKind[]) {
    this.#observed = observed;
    this.#kinds = kinds;
    this.#values = Float64Array.from(observed, ({ value }) => value);
    this.#variances = Float64Array.from(observed, ({ variance }) => variance);
    this.#sds = Float64Array.from(observed, ({ sd }) => sd);
    const moved = observed.flatMap(({ of }) => of);
    this.#effects = Int32Array.from(moved, ({ effect }) => effect);
    this.#times = Float64Array.from(moved, ({ times }) => times);
    let end = 0;
    this.#from = Int32Array.from([0, ...observed.map(({ of }) => (end += of.length))]);
  }

  stray(effects: readonly number[], strayingOf: Straying): void {
    this.#observed.forEach(({ of, sd }, i) => {
      this.#sds[i] = sd * strayingOf(of.map(({ effect, times }) => ({ effect, by: times * effects[effect]! })));
    });
  }

  /** Logarithm of how likely the observations are under a spread, times that of the spread itself, up to a constant. */
  fit(spread: number, spreads: readonly number[]): number {
    const beforehand = [spread, ...spreads].reduce((sum, factor) => sum + (Math.log(factor) / LOG_SPREAD_SD) ** 2, 0);
    return -(this.solved(spread, spreads).unlikely + beforehand) / 2;
  }

  /** The effects that are likeliest under a spread, and minus twice the logarithm of how likely the observations are with it. */
  solved(
    spread: number,
    spreads: readonly number[]
  ): { readonly effects: readonly number[]; readonly root: CholeskyDecomposition; readonly unlikely: number } {
    const sds = this.#kinds.flatMap(({ many, sd }, kind) => Array<number>(many).fill(sd * spreads[kind]!));
    const matrix = sds.map((sd, i) => Float64Array.from(sds, (_, j) => (i === j ? 1 / sd ** 2 : 0)));
    const right = new Float64Array(sds.length);
    let unlikely = sds.reduce((sum, sd) => sum + 2 * Math.log(sd), 0);
    for (let i = 0; i < this.#values.length; i++) {
      const value = this.#values[i]!;
      const variance = (spread * this.#sds[i]!) ** 2 + this.#variances[i]!;
      unlikely += Math.log(variance) + value ** 2 / variance;
      const until = this.#from[i + 1]!;
      for (let a = this.#from[i]!; a < until; a++) {
        const row = matrix[this.#effects[a]!]!;
        right[this.#effects[a]!]! += (this.#times[a]! * value) / variance;
        for (let b = this.#from[i]!; b < until; b++)
          row[this.#effects[b]!]! += (this.#times[a]! * this.#times[b]!) / variance;
      }
    }
    const root = new CholeskyDecomposition(new Matrix(matrix));
    const effects = root.solve(Matrix.columnVector(right)).to1DArray();
    root.lowerTriangularMatrix
      .diagonal()
      .forEach((each, i) => (unlikely += 2 * Math.log(each) - right[i]! * effects[i]!));
    return { effects, root, unlikely };
  }
}

/** Logarithms of factors that are looked among: from a seventh of what is usual to four times. */
const LOG_FACTORS = [Math.log(1 / 7), Math.log(4)] as const;
/** The golden section of one. */
const GOLDEN = (Math.sqrt(5) - 1) / 2;

/** Where a function of a factor's logarithm is greatest, by golden section. */
function peakOf(of: (log: number) => number): number {
  let [low, high]: [number, number] = [...LOG_FACTORS];
  let [left, right] = [high - GOLDEN * (high - low), low + GOLDEN * (high - low)];
  let [atLeft, atRight] = [of(left), of(right)];
  while (high - low > 0.005) {
    if (atLeft > atRight) {
      [high, right, atRight] = [right, left, atLeft];
      left = high - GOLDEN * (high - low);
      atLeft = of(left);
    } else {
      [low, left, atLeft] = [left, right, atRight];
      right = low + GOLDEN * (high - low);
      atRight = of(right);
    }
  }
  return (low + high) / 2;
}

/** Those that are named so often; none where that is one alone, which could not be told from all. */
export function toldApart(ids: readonly (string | null | undefined)[], from: number): string[] {
  const counts = new Map<string, number>();
  for (const id of ids) if (id) counts.set(id, (counts.get(id) ?? 0) + 1);
  const enough = [...counts].flatMap(([id, count]) => (count >= from ? id : [])).sort();
  return enough.length > 1 ? enough : [];
}
