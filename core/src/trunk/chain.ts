import { toDegrees, toRadians, type Rng } from '../math/index.ts';
import { columnHalfLength, type Overlap } from './column.ts';
import type { ColumnModel } from './defaults.ts';
import {
  drawGrowthFactor,
  drawHole,
  drawTruth,
  priorOf,
  TREE_SIZE_SIGMA,
  type HolePrior,
  type HoleTruth,
  type TrunkTruth
} from './draws.ts';
import { logChance, type SeenShavings } from './shavings.ts';
import { shorterWay } from './spot.ts';
import type { Trunk } from './trunk.ts';

/** From so many holes that some look speaks of on, they are many: steps are dear, and what explains a look is seldom out of reach. */
const MANY_FROM = 7;
/** Sweeps between two truths that are kept: with few holes, and with many. */
const BETWEEN = { few: 9, many: 2 } as const;
/** A small step, in standard deviations. */
const NUDGE = 0.7;
/** A small step of the sapwood's logarithm, in its own standard deviations. */
const SAPWOOD_STEP = 0.5;
/** Of a look, where no column of its older holes has changed. */
const NOTHING_MOVED = -2;
/** Truths from which each chain chooses its beginning: with few holes, and with many. */
const STARTS = { few: 80, many: 30 } as const;

/** Older holes farther off than this sideways have no part in what was seen, mm. */
const NEAR_MM = 200;

/** An observation with the older holes that its path may have met. */
interface Look extends SeenShavings {
  readonly older: readonly { readonly index: number; readonly turn: number }[];
  /** logarithm of its chance where the path meets nothing, as most do */
  readonly ifClear: number;
}

/** A look, and which of its older holes is meant. */
interface Part {
  readonly look: number;
  readonly at: number;
}

/** What a step adds to the logarithm of a standard normal prior. @param off and `step` in standard deviations */
function nearer(off: number, step: number): number {
  return -step * (off + step / 2);
}

/** One chain: a truth, and how well it explains each observation. */
export class Chain {
  readonly #trunk: Trunk;
  readonly #model: ColumnModel;
  readonly #rng: Rng;
  readonly #looks: readonly Look[];
  /** by hole: the looks that it has a part in, and its place among their older holes; -1 in those at the hole itself */
  readonly #about: readonly (readonly Part[])[];
  readonly #fits: Float64Array;
  readonly #trial: Float64Array;
  /** looks whose path may have met an older hole's column, and all of them */
  readonly #all: readonly Part[];
  readonly #every: readonly Part[];
  /** no hole that was looked at is deeper, mm: sapwood that ends deeper still changes nothing */
  readonly #deepestMm: number;
  /** by look: what its path meets of each older hole */
  readonly #meets: (Overlap | null)[][];
  /** what a change that is tried has replaced in `#meets` */
  readonly #undo: { readonly look: number; readonly at: number; readonly was: Overlap | null }[] = [];
  /** holes that some look speaks of */
  readonly #concerned: readonly number[];
  readonly #priors: readonly HolePrior[];
  /** what a path meets, gathered for one look at a time */
  readonly #met: Overlap[] = [];
  #leanDeg = 0;
  #sapwoodMm: number;
  #logSize = 0;
  // What follows from the two, and of which they follow.
  #slopeOf = 0;
  #sizeOf = 0;
  readonly #kept = { slope: 0, size: 1 };
  #growth = 1;
  readonly #ringCv: number;
  #holes: HoleTruth[] = [];
  // By hole, of its truth: how high it lies, and how far its column reaches up and down, mm. Most paths are out of reach of most columns.
  readonly #heights: Float64Array;
  readonly #lengths: Float64Array;

  constructor(
    trunk: Trunk,
    seen: readonly SeenShavings[],
    model: ColumnModel,
    { rng, ringCv }: { readonly rng: Rng; readonly ringCv: number }
  ) {
    this.#trunk = trunk;
    this.#model = model;
    this.#rng = rng;
    this.#ringCv = ringCv;
    this.#looks = seen.map((look) => ({
      ...look,
      older: olderNear(trunk, look.hole),
      ifClear: logChance(look, [], trunk.holes[look.hole]!, model.hitShare)
    }));
    this.#about = trunk.holes.map((_, index) =>
      this.#looks.flatMap(({ hole, older }, look) => {
        const at = hole === index ? -1 : older.findIndex((o) => o.index === index);
        return (hole === index && older.length > 0) || at >= 0 ? { look, at } : [];
      })
    );
    // Where nothing older is near, shavings say nothing of the grain; of the sapwood they do.
    this.#all = this.#looks.flatMap(({ older }, look) => (older.length > 0 ? { look, at: -1 } : []));
    this.#every = this.#looks.map((_, look) => ({ look, at: NOTHING_MOVED }));
    this.#deepestMm = Math.max(0, ...seen.map(({ hole }) => trunk.holes[hole]!.depthMm));
    this.#sapwoodMm = Math.max(model.sapwoodMm, this.#deepestMm);
    this.#meets = this.#looks.map(({ older }) => older.map(() => null));
    this.#concerned = trunk.holes.flatMap((_, index) => (this.#about[index]!.length > 0 ? index : []));
    this.#priors = trunk.holes.map((hole) => priorOf(hole, model));
    this.#heights = new Float64Array(trunk.holes.length);
    this.#lengths = new Float64Array(trunk.holes.length);
    this.#fits = new Float64Array(this.#looks.length);
    this.#trial = new Float64Array(this.#looks.length);
    this.#begin();
  }

  /** Begins with one of several truths drawn from the priors, chosen by how well they explain what was seen. */
  #begin(): void {
    const starts = Array.from({ length: STARTS[this.#many] }, () => {
      this.#set(drawTruth(this.#trunk, this.#model, this.#rng, this.#ringCv));
      const fit = this.#looks.reduce((sum, _, look) => sum + this.#fitOf(look, -1), 0);
      return { leanDeg: this.#leanDeg, logSize: this.#logSize, growth: this.#growth, holes: this.#holes, fit };
    });
    const best = Math.max(...starts.map(({ fit }) => fit));
    let left = this.#rng.uniform() * starts.reduce((sum, { fit }) => sum + Math.exp(fit - best), 0);
    this.#set(starts.find(({ fit }) => (left -= Math.exp(fit - best)) <= 0) ?? starts[0]!);
    for (const look of this.#looks.keys()) this.#fits[look] = this.#fitOf(look, -1);
    this.#undo.length = 0;
  }

  #set({ leanDeg, logSize, growth, holes }: TrunkTruth): void {
    this.#leanDeg = leanDeg;
    this.#logSize = logSize;
    this.#growth = growth;
    this.#holes = [...holes];
    for (const [index, hole] of holes.entries()) this.#put(index, hole);
  }

  #put(index: number, truth: HoleTruth): void {
    this.#holes[index] = truth;
    this.#heights[index] = this.#trunk.holes[index]!.heightMm + truth.upMm;
    this.#stretch(index);
  }

  /** Its column reaches as far as its own volume and the tree's have it. */
  #stretch(index: number): void {
    const { ratio, halfWidthMm } = this.#holes[index]!;
    this.#lengths[index] = columnHalfLength(ratio * this.#size(), this.#trunk.holes[index]!.bitMm, halfWidthMm);
  }

  #resize(logSize: number): void {
    this.#logSize = logSize;
    for (let index = 0; index < this.#holes.length; index++) this.#stretch(index);
  }

  /** Sweeps between two truths that are kept: on a trunk with few holes the steps are cheap, and the truths far apart. */
  get between(): number {
    return BETWEEN[this.#many];
  }

  get #many(): 'few' | 'many' {
    return this.#concerned.length < MANY_FROM ? 'few' : 'many';
  }

  /** How deep sap is carried in this tree, mm. */
  get sapwoodMm(): number {
    return this.#sapwoodMm;
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
    const { grainMeanDeg, grainSdDeg } = this.#model;
    const lean = this.#leanDeg;
    this.#leanDeg = lean + rng.normal(0, 0.7 * grainSdDeg);
    const [before, after] = [lean - grainMeanDeg, this.#leanDeg - grainMeanDeg];
    if (!this.#stays(this.#all, (before ** 2 - after ** 2) / (2 * grainSdDeg ** 2))) this.#leanDeg = lean;
    const size = this.#logSize;
    this.#resize(size + rng.normal(0, TREE_SIZE_SIGMA));
    if (!this.#stays(this.#all, (size ** 2 - this.#logSize ** 2) / (2 * TREE_SIZE_SIGMA ** 2))) this.#resize(size);
    this.#grow();
    this.#deepen();
    // Holes without shavings are drawn only when a truth is kept: they change no likelihood.
    for (const index of this.#concerned) {
      this.#redraw(index);
      this.#nudge(index);
    }
    this.#shear();
  }

  /** Draws one hole from its own prior, so that only the fit decides. */
  #redraw(index: number): void {
    const before = this.#holes[index]!;
    this.#put(index, drawHole(this.#trunk.holes[index]!, this.#model, this.#rng));
    if (!this.#stays(this.#about[index]!, 0)) this.#put(index, before);
  }

  /** Moves one hole's place and column a little: what explains brown shavings is seldom drawn anew from the priors. */
  #nudge(index: number): void {
    const { sidewaysMm, upMm, ratio, margin } = this.#priors[index]!;
    const before = this.#holes[index]!;
    const halfBit = this.#trunk.holes[index]!.bitMm / 2;
    const reach = before.halfWidthMm - halfBit;
    const rng = this.#rng;
    const step = {
      left: rng.normal(0, NUDGE),
      up: rng.normal(0, NUDGE),
      ratio: rng.normal(0, NUDGE),
      margin: rng.normal(0, NUDGE)
    };
    const prior =
      nearer(before.leftMm / sidewaysMm, step.left) +
      nearer(before.upMm / upMm, step.up) +
      nearer(ratio.offOf(before.ratio), step.ratio) +
      nearer(margin.offOf(reach), step.margin);
    this.#put(index, {
      leftMm: before.leftMm + step.left * sidewaysMm,
      upMm: before.upMm + step.up * upMm,
      ratio: before.ratio * Math.exp(step.ratio * ratio.sigma),
      halfWidthMm: halfBit + reach * Math.exp(step.margin * margin.sigma),
      buriedMm: before.buriedMm,
      there: before.there
    });
    if (!this.#stays(this.#about[index]!, prior)) this.#put(index, before);
  }

  /**
   * Another growth over the holes: one from its own prior, so that only the fit decides (without looks it always stays), and
   * one near by.
   */
  #grow(): void {
    const cv = this.#ringCv;
    if (cv === 0) return;
    let growth = this.#growth;
    this.#growth = drawGrowthFactor(this.#rng, cv);
    if (!this.#stays(this.#all, 0)) this.#growth = growth;
    growth = this.#growth;
    this.#growth = growth + this.#rng.normal(0, 0.5 * cv);
    const prior = ((growth - 1) ** 2 - (this.#growth - 1) ** 2) / (2 * cv ** 2);
    if (this.#growth < 0 || !this.#stays(this.#all, prior)) this.#growth = growth;
  }

  /** Another depth of the sapwood: one from its own prior, so that only the fit decides, and one near by. */
  #deepen(): void {
    const { sapwoodMm: median, sapwoodSigma: sigma } = this.#model;
    if (sigma === 0) return;
    const off = (mm: number) => Math.log(mm / median) / sigma;
    const tried = (mm: number, prior: number) => {
      const before = this.#sapwoodMm;
      this.#sapwoodMm = mm;
      const told = Math.min(before, mm) < this.#deepestMm ? this.#every : [];
      if (!this.#stays(told, prior)) this.#sapwoodMm = before;
    };
    tried(this.#rng.logNormal(median, sigma), 0);
    const near = this.#sapwoodMm * Math.exp(this.#rng.normal(0, SAPWOOD_STEP * sigma));
    tried(near, (off(this.#sapwoodMm) ** 2 - off(near) ** 2) / 2);
  }

  /**
   * Leans the grain and moves every hole sideways along with it, so that each path meets nearly what it met before: what was
   * seen hardly tells such truths apart, and single steps would take hours along that ridge. The new lean is drawn from the
   * bell that the priors make along the ridge, whatever the old one was (an independence step, Hastings 1970); what the bell
   * leaves out, the fit and that the lean's own prior is normal in degrees and not in slope, decides whether it stays.
   */
  #shear(): void {
    const { grainMeanDeg, grainSdDeg } = this.#model;
    const slopeMean = Math.tan(toRadians(grainMeanDeg));
    const slopeSd = Math.tan(toRadians(grainSdDeg));
    const slope = Math.tan(toRadians(this.#leanDeg));
    const heights = this.#concerned.map((index) => this.#trunk.holes[index]!.heightMm + this.#holes[index]!.upMm);
    const middle = heights.reduce((a, b) => a + b, 0) / Math.max(1, heights.length);
    let precision = 1 / slopeSd ** 2;
    let pull = (slopeMean - slope) / slopeSd ** 2;
    this.#concerned.forEach((index, i) => {
      const sd = this.#priors[index]!.sidewaysMm;
      const arm = heights[i]! - middle;
      precision += (arm / sd) ** 2;
      pull -= (this.#holes[index]!.leftMm * arm) / sd ** 2;
    });
    const change = this.#rng.normal(pull / precision, 1 / Math.sqrt(precision));
    const before = { lean: this.#leanDeg, holes: this.#concerned.map((index) => this.#holes[index]!) };
    /** logarithm of the lean's prior over the bell's part of it, with the change of measure from degrees to slope */
    const beyondTheBell = (leanDeg: number) => {
      const t = Math.tan(toRadians(leanDeg));
      const [inSlope, inDegrees] = [(t - slopeMean) / slopeSd, (leanDeg - grainMeanDeg) / grainSdDeg];
      return (inSlope ** 2 - inDegrees ** 2) / 2 - Math.log(1 + t ** 2);
    };
    this.#leanDeg = toDegrees(Math.atan(slope + change));
    this.#concerned.forEach((index, i) => {
      const hole = this.#holes[index]!;
      this.#holes[index] = { ...hole, leftMm: hole.leftMm + (heights[i]! - middle) * change };
    });
    if (this.#stays(this.#all, beyondTheBell(this.#leanDeg) - beyondTheBell(before.lean))) return;
    this.#leanDeg = before.lean;
    this.#concerned.forEach((index, i) => (this.#holes[index] = before.holes[i]!));
  }

  /** Does a change that these looks speak of stay? */
  #stays(parts: readonly Part[], prior: number): boolean {
    let gain = prior;
    for (const { look, at } of parts) {
      this.#trial[look] = this.#fitOf(look, at);
      gain += this.#trial[look] - this.#fits[look]!;
    }
    const stays = gain >= 0 || this.#rng.uniform() < Math.exp(gain);
    if (stays) for (const { look } of parts) this.#fits[look] = this.#trial[look]!;
    else for (const { look, at, was } of this.#undo) this.#meets[look]![at] = was;
    this.#undo.length = 0;
    return stays;
  }

  /** Logarithm of the chance of an observation after one older hole has changed, or (-1) whatever has, or the sapwood alone. */
  #fitOf(index: number, at: number): number {
    const look = this.#looks[index]!;
    const meets = this.#meets[index]!;
    let same = true;
    const until = at === NOTHING_MOVED ? 0 : at < 0 ? meets.length : at + 1;
    for (let k = Math.max(0, at); k < until; k++) {
      const was = meets[k]!;
      const now = this.#overlapWith(look, look.older[k]!);
      if (was === null && now === null) continue;
      same = false;
      this.#undo.push({ look: index, at: k, was });
      meets[k] = now;
    }
    if (same && at >= 0) return this.#fits[index]!;
    const hole = this.#trunk.holes[look.hole]!;
    const { bitMm, depthMm } = hole;
    const overlaps = this.#met;
    overlaps.length = 0;
    for (const each of meets) if (each !== null) overlaps.push(each);
    if (this.#sapwoodMm < depthMm)
      overlaps.push({ left: -bitMm / 2, right: bitMm / 2, from: this.#sapwoodMm, to: depthMm });
    return overlaps.length === 0 ? look.ifClear : logChance(look, overlaps, hole, this.#model.hitShare);
  }

  /** What an observation's path meets of an older hole's column; null where it misses it. */
  #overlapWith(look: Look, { index, turn }: Look['older'][number]): Overlap | null {
    const up = this.#heights[look.hole]! - this.#heights[index]!;
    const halfLengthMm = this.#lengths[index]!;
    if (up >= halfLengthMm || up <= -halfLengthMm) return null;
    const { woodRadiusMm, holes } = this.#trunk;
    const hole = holes[look.hole]!;
    const own = this.#holes[look.hole]!;
    const old = this.#holes[index]!;
    if (!old.there) return null;
    const grownSince = own.buriedMm * this.#growth;
    const from = Math.max(0, old.buriedMm * this.#growth - grownSince);
    if (from >= hole.depthMm) return null;
    const round = 2 * Math.PI * Math.max(20, woodRadiusMm - grownSince);
    // An error of the bearing has grown with the trunk since.
    const grown = (woodRadiusMm - grownSince) / Math.max(20, woodRadiusMm - old.buriedMm * this.#growth);
    const offset = shorterWay(turn * round + old.leftMm * grown - own.leftMm, round) + up * this.#slope();
    const half = old.halfWidthMm * (1 - (up / halfLengthMm) ** 2);
    const left = Math.max(-hole.bitMm / 2, offset - half);
    const right = Math.min(hole.bitMm / 2, offset + half);
    return left < right ? { left, right, from, to: Math.min(hole.depthMm, from + holes[index]!.depthMm) } : null;
  }

  /** The slope of the grain, kept until it leans otherwise. */
  #slope(): number {
    if (this.#leanDeg !== this.#slopeOf)
      [this.#slopeOf, this.#kept.slope] = [this.#leanDeg, Math.tan(toRadians(this.#leanDeg))];
    return this.#kept.slope;
  }

  /** The factor on the volume of all columns, kept until it is another. */
  #size(): number {
    if (this.#logSize !== this.#sizeOf) [this.#sizeOf, this.#kept.size] = [this.#logSize, Math.exp(this.#logSize)];
    return this.#kept.size;
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
