import { seededRng, type Rng } from '../random/index.ts';
import { columnHalfLength, stainedShare, type Overlap } from './column.ts';
import type { ColumnModel } from './defaults.ts';
import {
  columnsWithin,
  drawHole,
  drawTruth,
  TREE_SIZE_SIGMA,
  type HoleTruth,
  type TrunkDraw,
  type TrunkTruth
} from './draws.ts';
import { shorterWay } from './spot.ts';
import type { Trunk } from './trunk.ts';

/** What came out of a hole. */
export interface SeenShavings {
  /** which of the trunk's holes */
  readonly hole: number;
  readonly seen: 'pale' | 'partly' | 'brown' | 'dry';
  /** share of brown shavings where partly brown; null where it was not said */
  readonly brownShare: number | null;
  /** depth at which they turned brown, mm; null where nobody looked */
  readonly brownFromMm: number | null;
}

/**
 * How people read shavings of a path with a given stained share: working assumptions. Little stain is overlooked, a share
 * is told to about an eighth, the depth of the change to about a quarter inch, and a hole may stay dry for other reasons
 * than stain.
 */
const READING = {
  overlooked: 0.08,
  shareSd: 0.12,
  allBrownFrom: 0.8,
  depthSdMm: 6,
  dry: 0.02,
  dryByStain: 0.15
} as const;

/** Chances that a path is read as each kind, given its stained share. They add up to 1. */
export function readingChances(stained: number, hitShare: number): Record<SeenShavings['seen'], number> {
  const dry = READING.dry + READING.dryByStain * stained;
  const pale = 0.01 + 0.96 * Math.exp(-Math.max(0, stained - hitShare) / READING.overlooked);
  const allBrown = 1 / (1 + Math.exp(-(stained - READING.allBrownFrom) / 0.05));
  return {
    dry,
    pale: (1 - dry) * pale,
    brown: (1 - dry) * (1 - pale) * allBrown,
    partly: (1 - dry) * (1 - pale) * (1 - allBrown)
  };
}

/** What somebody says of a path, drawn: for practice and for tests. */
export function readShavings(stained: number, hitShare: number, rng: Rng): Pick<SeenShavings, 'seen' | 'brownShare'> {
  const chances = readingChances(stained, hitShare);
  let left = rng.uniform();
  const seen = (['pale', 'partly', 'brown'] as const).find((kind) => (left -= chances[kind]) < 0) ?? 'dry';
  const share = Math.min(0.95, Math.max(0.05, rng.normal(stained, READING.shareSd)));
  return { seen, brownShare: seen === 'partly' ? share : null };
}

/** What a tree's shavings say about its grain and columns. */
export interface Learned {
  /** holes whose shavings were looked at */
  readonly looked: number;
  /** lean of the grain, degrees; above 0 it leans to the left going up, as one faces the trunk */
  readonly leanMeanDeg: number;
  readonly leanSdDeg: number;
  /** 80 % interval */
  readonly leanFromDeg: number;
  readonly leanToDeg: number;
  /** factor on the volume of its columns against other trees */
  readonly sizeFactor: number;
  /** by hole: how far from its recorded place it seems to lie, mm */
  readonly shifts: readonly { readonly leftMm: number; readonly upMm: number }[];
}

export interface LearnedTrunk {
  /** columns as today's trunk holds them, equally likely */
  readonly draws: readonly TrunkDraw[];
  readonly learned: Learned;
}

export interface LearnOptions {
  /** how many possible truths to return */
  readonly draws: number;
  /** of the hole that is to be judged: columns that lie deeper are left out */
  readonly depthMm: number;
  readonly seed: number;
  /** relative uncertainty of the growth that buried the holes */
  readonly ringCv?: number;
}

/** Chains that start far from each other, and how many sweeps each takes before and between the truths that are kept. */
const CHAINS = 6;
const WARM_UP = 30;
const BETWEEN = 2;

/**
 * Possible truths about a trunk, as likely as the shavings of its logged holes make them. Metropolis chains walk through
 * the truths: the grain's lean, the size of the tree's columns, and each hole's own place and column are changed in turn,
 * and a change stays by how much better or worse it explains what was seen (Metropolis et al. 1953; Hastings 1970).
 *
 * Without shavings the draws are the model's own. One tree's few shavings say little: the intervals stay wide.
 */
export function learnTrunk(
  trunk: Trunk,
  seen: readonly SeenShavings[],
  model: ColumnModel,
  { draws, depthMm, seed, ringCv = 0 }: LearnOptions
): LearnedTrunk {
  const rng = seededRng(seed);
  const truths: TrunkTruth[] = [];
  if (seen.length === 0) for (let i = 0; i < draws; i++) truths.push(drawTruth(trunk, model, rng, ringCv));
  else {
    const each = Math.ceil(draws / CHAINS);
    for (let chain = 0; chain < CHAINS; chain++) {
      const walk = new Chain(trunk, seen, model, rng, ringCv);
      for (let i = 0; i < WARM_UP; i++) walk.sweep();
      for (let i = 0; i < each && truths.length < draws; i++) {
        for (let k = 0; k < BETWEEN; k++) walk.sweep();
        truths.push(walk.truth());
      }
    }
  }
  return {
    draws: truths.map((truth) => columnsWithin(trunk, truth, depthMm)),
    learned: summary(trunk, truths, seen.length)
  };
}

/** Older holes farther off than this sideways have no part in what was seen, mm. */
const NEAR_MM = 200;

/** An observation with the older holes that its path may have met. */
interface Look extends SeenShavings {
  readonly older: readonly { readonly index: number; readonly turn: number }[];
}

/** One chain: a truth, and how well it explains each observation. */
class Chain {
  readonly #trunk: Trunk;
  readonly #model: ColumnModel;
  readonly #rng: Rng;
  readonly #looks: readonly Look[];
  /** by hole: the looks that it has a part in */
  readonly #about: readonly (readonly number[])[];
  readonly #fits: Float64Array;
  readonly #trial: Float64Array;
  readonly #all: readonly number[];
  /** holes that some look speaks of */
  readonly #concerned: readonly number[];
  readonly #sidewaysSd: readonly number[];
  #leanDeg: number;
  #logSize: number;
  readonly #growth: number;
  readonly #holes: HoleTruth[];

  constructor(trunk: Trunk, seen: readonly SeenShavings[], model: ColumnModel, rng: Rng, ringCv: number) {
    this.#trunk = trunk;
    this.#model = model;
    this.#rng = rng;
    // Where nothing older is near, shavings say nothing of the grain.
    this.#looks = seen
      .map((look) => ({ ...look, older: olderNear(trunk, look.hole) }))
      .filter(({ older }) => older.length > 0);
    this.#about = trunk.holes.map((_, index) =>
      this.#looks.flatMap((look, i) => (look.hole === index || look.older.some((o) => o.index === index) ? i : []))
    );
    this.#all = this.#looks.map((_, i) => i);
    this.#concerned = trunk.holes.flatMap((_, index) => (this.#about[index]!.length > 0 ? index : []));
    this.#sidewaysSd = trunk.holes.map(({ unsure }) => Math.hypot(model.positionSdSidewaysMm, unsure?.sidewaysMm ?? 0));
    const truth = drawTruth(trunk, model, rng, ringCv);
    this.#leanDeg = truth.leanDeg;
    this.#logSize = truth.logSize;
    this.#growth = truth.growth;
    this.#holes = [...truth.holes];
    this.#fits = Float64Array.from(this.#looks, (look) => this.#fit(look));
    this.#trial = new Float64Array(this.#looks.length);
  }

  truth(): TrunkTruth {
    const holes = this.#holes.map((hole, index) =>
      this.#about[index]!.length === 0 ? drawHole(this.#trunk.holes[index]!, this.#model, this.#rng) : hole
    );
    return { leanDeg: this.#leanDeg, logSize: this.#logSize, growth: this.#growth, holes };
  }

  /** Tries to change everything once. */
  sweep(): void {
    const rng = this.#rng;
    const leanSd = this.#model.grainSdDeg;
    const lean = this.#leanDeg;
    this.#leanDeg = lean + rng.normal(0, 0.7 * leanSd);
    if (!this.#stays(this.#all, (lean ** 2 - this.#leanDeg ** 2) / (2 * leanSd ** 2))) this.#leanDeg = lean;
    const size = this.#logSize;
    this.#logSize = size + rng.normal(0, TREE_SIZE_SIGMA);
    if (!this.#stays(this.#all, (size ** 2 - this.#logSize ** 2) / (2 * TREE_SIZE_SIGMA ** 2))) this.#logSize = size;
    for (const index of this.#concerned) {
      // Drawn from its own prior, so that only the fit decides. Holes that no look speaks of wait until a truth is kept.
      const before = this.#holes[index]!;
      this.#holes[index] = drawHole(this.#trunk.holes[index]!, this.#model, rng);
      if (!this.#stays(this.#about[index]!, 0)) this.#holes[index] = before;
    }
    this.#shear();
  }

  /**
   * Leans the grain and moves every hole sideways along with it, so that each path meets what it met before: what was seen
   * cannot tell such truths apart, the priors alone do, and together they are a bell from which the change is drawn.
   */
  #shear(): void {
    const slopeSd = Math.tan((this.#model.grainSdDeg * Math.PI) / 180);
    const slope = Math.tan((this.#leanDeg * Math.PI) / 180);
    const heights = this.#concerned.map((index) => this.#trunk.holes[index]!.heightMm + this.#holes[index]!.upMm);
    const middle = heights.reduce((a, b) => a + b, 0) / Math.max(1, heights.length);
    let precision = 1 / slopeSd ** 2;
    let pull = -slope / slopeSd ** 2;
    this.#concerned.forEach((index, i) => {
      const sd = this.#sidewaysSd[index]!;
      const arm = heights[i]! - middle;
      precision += (arm / sd) ** 2;
      pull -= (this.#holes[index]!.leftMm * arm) / sd ** 2;
    });
    const change = this.#rng.normal(pull / precision, 1 / Math.sqrt(precision));
    this.#leanDeg = (Math.atan(slope + change) * 180) / Math.PI;
    this.#concerned.forEach((index, i) => {
      const hole = this.#holes[index]!;
      this.#holes[index] = { ...hole, leftMm: hole.leftMm + (heights[i]! - middle) * change };
    });
    // The girth's growth between two holes makes the invariance a little less than exact: take what was seen anew.
    for (const i of this.#all) this.#fits[i] = this.#fit(this.#looks[i]!);
  }

  /** Does a change that these looks speak of stay? */
  #stays(looks: readonly number[], prior: number): boolean {
    let gain = prior;
    for (const i of looks) {
      this.#trial[i] = this.#fit(this.#looks[i]!);
      gain += this.#trial[i] - this.#fits[i]!;
    }
    if (gain < 0 && this.#rng.uniform() >= Math.exp(gain)) return false;
    for (const i of looks) this.#fits[i] = this.#trial[i]!;
    return true;
  }

  /** Logarithm of the chance of an observation. */
  #fit(look: Look): number {
    const { woodRadiusMm, holes } = this.#trunk;
    const hole = holes[look.hole]!;
    const own = this.#holes[look.hole]!;
    const grownSince = own.buriedMm * this.#growth;
    const round = 2 * Math.PI * Math.max(20, woodRadiusMm - grownSince);
    const lean = Math.tan((this.#leanDeg * Math.PI) / 180);
    const size = Math.exp(this.#logSize);
    const overlaps: Overlap[] = [];
    for (const { index, turn } of look.older) {
      const old = this.#holes[index]!;
      const { bitMm, heightMm, depthMm } = holes[index]!;
      const from = Math.max(0, old.buriedMm * this.#growth - grownSince);
      if (from >= hole.depthMm) continue;
      const halfLengthMm = columnHalfLength(old.ratio * size, bitMm, old.halfWidthMm);
      const up = hole.heightMm + own.upMm - heightMm - old.upMm;
      if (up >= halfLengthMm || up <= -halfLengthMm) continue;
      // An error of the bearing has grown with the trunk since.
      const grown = (woodRadiusMm - grownSince) / Math.max(20, woodRadiusMm - old.buriedMm * this.#growth);
      const offset = shorterWay(turn * round + old.leftMm * grown - own.leftMm, round) + up * lean;
      const half = old.halfWidthMm * (1 - (up / halfLengthMm) ** 2);
      const left = Math.max(-hole.bitMm / 2, offset - half);
      const right = Math.min(hole.bitMm / 2, offset + half);
      if (left < right) overlaps.push({ left, right, from, to: Math.min(hole.depthMm, from + depthMm) });
    }
    const stained = stainedShare(overlaps, hole.bitMm, hole.depthMm);
    let chance = readingChances(stained, this.#model.hitShare)[look.seen];
    if (look.seen === 'partly' && look.brownShare !== null) chance *= bell(look.brownShare - stained, READING.shareSd);
    if (look.brownFromMm !== null) {
      const from = Math.min(hole.depthMm, ...overlaps.map((o) => o.from));
      chance *= bell(look.brownFromMm - from, READING.depthSdMm);
    }
    return Math.log(chance + 1e-6);
  }
}

/** Older holes beside a hole, with how far round the trunk they lie from it, as a share of the way round. */
function olderNear(trunk: Trunk, index: number): Look['older'] {
  const hole = trunk.holes[index]!;
  const round = 2 * Math.PI * (trunk.woodRadiusMm - hole.buriedMm);
  return trunk.holes.flatMap((other, i) => {
    const turn = (other.bearingDeg - hole.bearingDeg) / 360;
    const near = Math.abs(shorterWay(turn * round, round)) < NEAR_MM + 2 * (other.unsure?.sidewaysMm ?? 0);
    return other.season < hole.season && near ? { index: i, turn } : [];
  });
}

/** A bell with a floor: people now and then misread wholly. */
function bell(off: number, sd: number): number {
  return 0.02 + Math.exp(-0.5 * (off / sd) ** 2);
}

function summary(trunk: Trunk, truths: readonly TrunkTruth[], looked: number): Learned {
  const mean = (of: (truth: TrunkTruth) => number) => truths.reduce((sum, p) => sum + of(p), 0) / truths.length;
  const leans = truths.map(({ leanDeg }) => leanDeg).sort((a, b) => a - b);
  const leanMeanDeg = mean(({ leanDeg }) => leanDeg);
  const at = (share: number) => leans[Math.min(leans.length - 1, Math.floor(share * leans.length))]!;
  return {
    looked,
    leanMeanDeg,
    leanSdDeg: Math.sqrt(mean(({ leanDeg }) => (leanDeg - leanMeanDeg) ** 2)),
    leanFromDeg: at(0.1),
    leanToDeg: at(0.9),
    sizeFactor: Math.exp(mean(({ logSize }) => logSize)),
    shifts: trunk.holes.map((_, i) => ({
      leftMm: mean((p) => p.holes[i]!.leftMm),
      upMm: mean((p) => p.holes[i]!.upMm)
    }))
  };
}

/** Share of a path that was stained, as its shavings tell it; a dry hole gives nothing, whatever the cause. */
export function stainedOf({ seen, brownShare }: Pick<SeenShavings, 'seen' | 'brownShare'>): number {
  switch (seen) {
    case 'pale':
      return 0;
    case 'partly':
      return brownShare ?? 0.5;
    case 'brown':
    case 'dry':
      return 1;
  }
}
