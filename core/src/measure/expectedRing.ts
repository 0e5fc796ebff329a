import { CholeskyDecomposition, Matrix } from 'ml-matrix';

import type { ObservedRing } from './rings.ts';

export type CrownClass = 'dominant' | 'codominant' | 'intermediate' | 'suppressed' | 'open';

/** Mean ring width of a crown class and how far single trees stray from it, mm. */
export type RingPriors = Readonly<Record<CrownClass, { readonly meanMm: number; readonly sdMm: number }>>;

/**
 * Ring width to expect of a crown class before any reading, and how far single trees stray from it (mm, mm).
 * Working assumptions around the 0.1 to 0.2 in of diameter a year reported from sugarbushes (ring 1.3 to 2.5 mm).
 */
export const RING_PRIOR: RingPriors = {
  open: { meanMm: 2.2, sdMm: 0.7 },
  dominant: { meanMm: 1.7, sdMm: 0.6 },
  codominant: { meanMm: 1.4, sdMm: 0.55 },
  intermediate: { meanMm: 0.9, sdMm: 0.4 },
  suppressed: { meanMm: 0.5, sdMm: 0.3 }
};

/** Whom a tree is like, as far as its growth goes. */
export interface RingKin {
  /** null counts as codominant */
  readonly crownClass: CrownClass | null;
  readonly standId?: string | null;
  /** null or left out: not settled */
  readonly species?: string | null;
}

/** A tree whose own readings or rings say something of its growth. */
export type MeasuredTree = RingKin & ObservedRing;

/** What to expect of the growth of a bush's trees. */
export interface RingExpectation {
  readonly classes: RingPriors;
  /** by how much trees of a stand or species lay more (above 0) or less than others, as a share of what is usual of their class */
  readonly stands: Readonly<Record<string, number>>;
  readonly species: Readonly<Record<string, number>>;
  /** how far stands and species stray of which too little is known: the same shares, 1 sd; 0 where none are told apart */
  readonly standSd: number;
  readonly speciesSd: number;
}

/** What is expected where nothing was measured. */
export const USUAL_RINGS: RingExpectation = {
  classes: RING_PRIOR,
  stands: {},
  species: {},
  standSd: 0,
  speciesSd: 0
};

/** A trunk without measurable growth still lays some wood; no tree is planned with less than this. */
export const MIN_RING_MM = 0.1;

/** What a tree's ring is expected to be before it says anything itself, mm. */
export function ringPrior(expects: RingExpectation, tree: RingKin): { readonly meanMm: number; readonly sdMm: number } {
  const crownClass = tree.crownClass ?? 'codominant';
  const { meanMm, sdMm } = expects.classes[crownClass];
  const stand = expects.stands[tree.standId ?? ''];
  const species = expects.species[tree.species ?? ''];
  const usual = RING_PRIOR[crownClass].meanMm;
  const unknown = Math.hypot(stand === undefined ? expects.standSd : 0, species === undefined ? expects.speciesSd : 0);
  const more = (stand ?? 0) + (species ?? 0);
  return {
    meanMm: Math.max(MIN_RING_MM, meanMm + usual * more),
    sdMm: Math.hypot(straying(more) * sdMm, usual * unknown)
  };
}

/** Trees that lay more than others of their class stray more, too, in proportion; those that lay nothing still do. */
const straying = (more: number) => Math.max(0.2, 1 + more);

/** How far a whole bush may stray from the defaults, mm: soil, climate, age. Working assumption. */
const BUSH_SD_MM = 0.5;
/** How far a bush's stands, and its species, stray from each other, as a share of a ring. Working assumption. */
const KIN_SD = 0.15;
/** The logarithm of how much farther or less far the trees of a bush stray than is usual, and its stands and species. Working assumption. */
const LOG_SPREAD_SD = 0.5;
/** A stand or species is told apart from so many measured trees on, and where there are two such. Working assumption. */
export const KIN_FROM = 5;

const CLASSES = Object.keys(RING_PRIOR) as CrownClass[];

/**
 * What to expect of the trees in this bush: the defaults of their crown classes, moved towards the bush's own measured trees; by
 * stand and by species where enough were measured (a linear mixed model with normal effects; partial pooling). How far trees,
 * stands and species stray is learned too: where the marginal likelihood is greatest, given that each spread is log-normal
 * about the usual one. Each tree counts by how well it was measured. Crown classes share what is learned of the spread, as a
 * factor on what is usual of each; a handful of trees moves little.
 */
export function expectedRings(measured: readonly MeasuredTree[]): RingExpectation {
  if (measured.length === 0) return USUAL_RINGS;
  const stands = toldApart(measured.map(({ standId }) => standId));
  const species = toldApart(measured.map(({ species: its }) => its));
  const model = new GrowthModel(measured, stands, species);
  const spread: Spread = { trees: 1, stands: KIN_SD, species: KIN_SD };
  const asked: readonly (keyof Spread)[] = [
    'trees',
    ...(stands.length > 0 ? (['stands'] as const) : []),
    ...(species.length > 0 ? (['species'] as const) : [])
  ];
  // Each in turn, and once more where there are several: they hardly depend on each other.
  for (let round = 0; round < (asked.length > 1 ? 2 : 1); round++) {
    for (const which of asked) {
      const usual = which === 'trees' ? 1 : KIN_SD;
      spread[which] = usual * Math.exp(peakOf((log) => model.fit({ ...spread, [which]: usual * Math.exp(log) })));
    }
    model.stray(model.solved(spread).effects);
  }
  const { effects } = model.solved(spread);
  const shares = (ids: readonly string[], from: number) =>
    Object.fromEntries(ids.map((id, i) => [id, effects[from + i]!]));
  return {
    classes: Object.fromEntries(
      CLASSES.map((crownClass, i) => {
        const { meanMm, sdMm } = RING_PRIOR[crownClass];
        return [crownClass, { meanMm: Math.max(MIN_RING_MM, meanMm + effects[i]!), sdMm: sdMm * spread.trees }];
      })
    ) as RingPriors,
    stands: shares(stands, CLASSES.length),
    species: shares(species, CLASSES.length + stands.length),
    standSd: stands.length > 0 ? spread.stands : 0,
    speciesSd: species.length > 0 ? spread.species : 0
  };
}

/** Those of which enough were measured; none where that is one alone, which could not be told from the bush. */
function toldApart(ids: readonly (string | null | undefined)[]): string[] {
  const counts = new Map<string, number>();
  for (const id of ids) if (id) counts.set(id, (counts.get(id) ?? 0) + 1);
  const enough = [...counts].flatMap(([id, count]) => (count >= KIN_FROM ? id : [])).sort();
  return enough.length > 1 ? enough : [];
}

/** How far trees stray, as a factor on what is usual of their classes; stands and species, as shares of a ring. */
interface Spread {
  trees: number;
  stands: number;
  species: number;
}

/** Rings of measured trees: the usual of the class, plus effects of class (mm), stand and species (shares of the usual ring). */
class GrowthModel {
  readonly #n: number;
  readonly #stands: number;
  /** by tree: class, effect of its stand and of its species, -1 for none */
  readonly #at: Int32Array;
  /** by tree: usual ring and spread of its class, how far its own ring is off the usual, variance of that */
  readonly #of: Float64Array;
  /** by tree: factor on how far it strays */
  readonly #straying: Float64Array;

  constructor(measured: readonly MeasuredTree[], stands: readonly string[], species: readonly string[]) {
    this.#stands = stands.length;
    this.#n = CLASSES.length + stands.length + species.length;
    const standAt = new Map(stands.map((id, i) => [id, CLASSES.length + i]));
    const speciesAt = new Map(species.map((id, i) => [id, CLASSES.length + stands.length + i]));
    this.#at = new Int32Array(3 * measured.length);
    this.#of = new Float64Array(4 * measured.length);
    this.#straying = new Float64Array(measured.length).fill(1);
    measured.forEach((tree, i) => {
      const crownClass = tree.crownClass ?? 'codominant';
      const { meanMm, sdMm } = RING_PRIOR[crownClass];
      this.#at.set(
        [CLASSES.indexOf(crownClass), standAt.get(tree.standId ?? '') ?? -1, speciesAt.get(tree.species ?? '') ?? -1],
        3 * i
      );
      this.#of.set([meanMm, sdMm, tree.ringMm - meanMm, tree.seMm ** 2], 4 * i);
    });
  }

  /** Lets trees stray in proportion to what is expected of their stand and species. */
  stray(effects: readonly number[]): void {
    for (let tree = 0; 4 * tree < this.#of.length; tree++) {
      const [stand, species] = [this.#at[3 * tree + 1]!, this.#at[3 * tree + 2]!];
      this.#straying[tree] = straying((effects[stand] ?? 0) + (effects[species] ?? 0));
    }
  }

  /** Logarithm of how likely the rings are under a spread, times that of the spread itself, up to a constant. */
  fit(spread: Spread): number {
    const beforehand = [spread.trees, spread.stands / KIN_SD, spread.species / KIN_SD].reduce(
      (sum, factor) => sum + (Math.log(factor) / LOG_SPREAD_SD) ** 2,
      0
    );
    return -(this.solved(spread).unlikely + beforehand) / 2;
  }

  /** The effects that are likeliest under a spread, and minus twice the logarithm of how likely the rings are with it. */
  solved(spread: Spread): { readonly effects: readonly number[]; readonly unlikely: number } {
    const n = this.#n;
    const matrix = Array.from({ length: n }, () => new Float64Array(n));
    const right = new Float64Array(n);
    let unlikely = 0;
    for (let i = 0; i < n; i++) {
      const sd = i < CLASSES.length ? BUSH_SD_MM : i < CLASSES.length + this.#stands ? spread.stands : spread.species;
      matrix[i]![i] = 1 / sd ** 2;
      unlikely += 2 * Math.log(sd);
    }
    for (let tree = 0; 4 * tree < this.#of.length; tree++) {
      const usual = this.#of[4 * tree]!;
      const variance = (spread.trees * this.#straying[tree]! * this.#of[4 * tree + 1]!) ** 2 + this.#of[4 * tree + 3]!;
      const off = this.#of[4 * tree + 2]!;
      unlikely += Math.log(variance) + off ** 2 / variance;
      for (let a = 0; a < 3; a++) {
        const at = this.#at[3 * tree + a]!;
        if (at < 0) continue;
        const its = a === 0 ? 1 : usual;
        right[at]! += (its * off) / variance;
        for (let b = 0; b < 3; b++) {
          const other = this.#at[3 * tree + b]!;
          if (other >= 0) matrix[at]![other]! += (its * (b === 0 ? 1 : usual)) / variance;
        }
      }
    }
    const root = new CholeskyDecomposition(new Matrix(matrix));
    const effects = root.solve(Matrix.columnVector(right)).to1DArray();
    root.lowerTriangularMatrix
      .diagonal()
      .forEach((each, i) => (unlikely += 2 * Math.log(each) - right[i]! * effects[i]!));
    return { effects, unlikely };
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
