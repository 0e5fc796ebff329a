import type { BarkSpot } from '../geometry/index.ts';
import { depthShared, REACH_UP_MM, STEP_SIDE, STEP_UP, type LossKernel } from './kernel.ts';
import type { RotationTask } from './task.ts';

/** Holes of one season are never set closer than this sideways: not one above the other. Six inches, common practice. */
export const SIDEWAYS_APART_MM = 152.4;

/** Width of a cell of the picture that rules places out and finds the greedy choice, mm. */
const CELL_SIDE_MM = 6;
/** Height of such a cell, mm. */
const CELL_UP_MM = 25;

/** A place is never farther than this from the middle of its cell, where the task is asked about it, mm. */
export const CELL_REACH_MM = Math.ceil(Math.hypot(CELL_SIDE_MM, CELL_UP_MM) / 2) + 1;

/** Where nothing may be drilled, as a cost that no loss comes near, however its season is weighed. */
export const FORBIDDEN = 1e6;

/** A place on the board: `round` is its bearing as a share of the way round, 0 to 1. */
export interface Place {
  readonly round: number;
  readonly heightMm: number;
}

/** Where a hole is that has no place yet: it meets nothing, and nothing is too near to it. */
export const NOWHERE: Place = { round: NaN, heightMm: -1e9 };

/** The hole that is drilled next is worth so much more handiness than one that is only planned. Working assumption. */
const NOW_HANDY = 3;

/** The way round is cut into so many sectors, a power of two. */
const SECTORS = 64;

/** Added to an offset in lines it gives the line of a kernel's table, rounded by cutting off. */
const MIDDLE_LINE = REACH_UP_MM / STEP_UP + 0.5;

/**
 * What the holes of a plan cost each other. Holes are numbered: first those that are in the trunk already, the deepest
 * buried first, then the planned ones by season. Of two holes the later one loses; what it loses counts by the weight of
 * its season.
 */
export class Board {
  /** season of each planned hole, by its number in the plan */
  readonly seasons: Int32Array;
  /** how many holes are in the trunk already */
  readonly fixed: number;
  /** where every hole lies, fixed ones first; those of the plan are moved about */
  readonly rounds: Float64Array;
  readonly heights: Float64Array;
  readonly lowestMm: number;
  readonly bandMm: number;
  readonly columns: number;
  readonly rows: number;
  /** the way round the wood in the first season, mm */
  readonly roundMm: number;
  /** what a loss counts for, by season */
  #weights: readonly number[] = [];
  readonly #spacingMm: number;
  /** cell by cell: FORBIDDEN, or what a hole there costs whatever the others do; in the first season, and later */
  readonly #siteNow: Float32Array;
  readonly #siteLater: Float32Array;
  readonly #rowMm: number;
  // By planned hole and any other, one row a planned hole: the share of their depths that meets, and the same weighed; the way
  // round in the later one's season, mm; which picture of which kernel tells what the later one loses.
  readonly #shared: Float32Array;
  readonly #factor: Float32Array;
  readonly #girth: Float32Array;
  readonly #table: Uint8Array;
  readonly #tables: readonly Float32Array[];
  readonly #kernel: LossKernel;
  /** by line of the kernels: farther off sideways than this, nothing is lost */
  readonly #reachAt: Float32Array;
  // The way round is cut into sectors: a hole meets only those in its own and in the next few.
  readonly #sectors: readonly Int32Array[];
  readonly #inSector: Int32Array;
  readonly #sectorOf: Int32Array;
  readonly #reachSectors: number;
  readonly #taken: readonly Place[];
  #end = 0;
  /** what the last hole that was asked about meets where it is, and what the two cost each other */
  readonly met: Int32Array;
  readonly metCost: Float64Array;
  metCount = 0;

  /** @param weights what a loss counts for, by season */
  constructor(task: RotationTask, weights: readonly number[]) {
    const { practice, woodRadiusMm, ringMm, ringCv = 0, taps, taken = [], kernel } = task;
    this.#kernel = kernel;
    this.#spacingMm = practice.spacingMm;
    this.roundMm = 2 * Math.PI * woodRadiusMm;
    this.columns = Math.max(24, Math.round(this.roundMm / CELL_SIDE_MM));
    this.lowestMm = practice.lowestMm;
    this.bandMm = practice.highestMm - practice.lowestMm;
    this.rows = Math.max(2, Math.round(this.bandMm / CELL_UP_MM) + 1);
    this.#rowMm = this.bandMm / (this.rows - 1);
    this.#siteNow = this.#sites(task, true).map((cost) => (cost < FORBIDDEN ? NOW_HANDY * cost : cost));
    this.#siteLater = this.#sites(task, false);

    this.seasons = Int32Array.from(
      taps.flatMap((many, season) => Array<number>(Math.max(0, many - (season === 0 ? taken.length : 0))).fill(season))
    );
    const past = [...task.past].sort((a, b) => b.buriedMm - a.buriedMm);
    this.fixed = past.length;
    const planned = this.seasons.length;
    const all = this.fixed + planned;
    this.rounds = new Float64Array(all);
    this.heights = new Float64Array(all);
    this.met = new Int32Array(all);
    this.metCost = new Float64Array(all);
    past.forEach(({ bearingDeg, heightMm }, k) => {
      this.rounds[k] = roundOf(bearingDeg);
      this.heights[k] = heightMm;
    });

    const kernels = [...new Set([kernel, ...past.flatMap((hole) => hole.kernel ?? [])])];
    if (kernels.some(({ lineLength }) => lineLength !== kernel.lineLength))
      throw new RangeError('The kernels of a plan come from one belief about the grain.');
    this.#tables = kernels.flatMap(({ tables }) => tables);
    const tableOf = (of: LossKernel, growth: number) =>
      kernels.indexOf(of) * kernel.tables.length + kernel.stageOf(growth);
    const radii = taps.map((_, season) => woodRadiusMm + season * ringMm);
    const shared = (buriedMm: number, laidMm: number, depthMm: number) =>
      sharedUnsure({ buriedMm, laidMm, cv: ringCv }, depthMm, practice.depthMm);

    this.#shared = new Float32Array(planned * all);
    this.#factor = new Float32Array(planned * all);
    this.#girth = new Float32Array(planned * all);
    this.#table = new Uint8Array(planned * all);
    const met = taps.map((_, apart) => shared(0, apart * ringMm, practice.depthMm));
    const set = (i: number, k: number, meeting: { shared: number; later: number; growth: number; of: LossKernel }) => {
      const at = i * all + k;
      const { shared, later, growth, of } = meeting;
      // The picture nearest to the growth between the two is drawn out to it.
      const wider = of.widthOf(growth);
      this.#shared[at] = shared * wider;
      this.#girth[at] = 2 * Math.PI * radii[later]! * wider;
      this.#table[at] = tableOf(of, growth);
    };
    for (let i = 0; i < planned; i++) {
      const season = this.seasons[i]!;
      past.forEach((hole, k) => {
        const then = Math.max(woodRadiusMm / 2, woodRadiusMm - hole.buriedMm);
        set(i, k, {
          shared: shared(hole.buriedMm, season * ringMm, hole.depthMm) * (hole.weight ?? 1),
          later: season,
          growth: radii[season]! / then,
          of: hole.kernel ?? kernel
        });
      });
      for (let k = 0; k < planned; k++) {
        const other = this.seasons[k]!;
        const [earlier, later] = other < season ? [other, season] : [season, other];
        set(i, this.fixed + k, {
          // Holes of one season do not meet: they keep their distance.
          shared: earlier === later ? 0 : met[later - earlier]!,
          later,
          growth: radii[later]! / radii[earlier]!,
          of: kernel
        });
      }
    }

    this.#taken = taken.map(({ bearingDeg, heightMm }) => ({ round: roundOf(bearingDeg), heightMm }));
    this.#sectors = Array.from({ length: SECTORS }, () => new Int32Array(all));
    this.#inSector = new Int32Array(SECTORS);
    this.#sectorOf = new Int32Array(all).fill(-1);
    const band = Math.ceil(this.bandMm / STEP_UP);
    const middle = (kernel.reachAt.length - 1) / 2;
    this.#reachAt = kernel.reachAt.map((_, line) => Math.max(...kernels.map(({ reachAt }) => reachAt[line]!)));
    const reach = Math.max(...this.#reachAt.subarray(Math.max(0, middle - band), middle + band + 1));
    this.#reachSectors = Math.ceil((reach / this.roundMm) * SECTORS);
    past.forEach((_, k) => this.#enter(k));
    this.weigh(weights);
  }

  /** Sets what a loss counts for, by season. Of two holes the later one loses. */
  weigh(weights: readonly number[]): void {
    this.#weights = weights;
    const all = this.rounds.length;
    for (let i = 0; i < this.planned; i++)
      for (let k = 0; k < all; k++) {
        const later = k < this.fixed ? this.seasons[i]! : Math.max(this.seasons[k - this.fixed]!, this.seasons[i]!);
        this.#factor[i * all + k] = this.#shared[i * all + k]! * weights[later]!;
      }
  }

  /** How many holes are planned. */
  get planned(): number {
    return this.seasons.length;
  }

  /** The middle of a cell. */
  middleOf(cell: number): Place {
    return {
      round: ((cell % this.columns) + 0.5) / this.columns,
      heightMm: this.lowestMm + Math.floor(cell / this.columns) * this.#rowMm
    };
  }

  /** Puts the planned holes where a plan has them. */
  put(places: readonly Place[]): void {
    places.forEach(({ round, heightMm }, i) => this.move(i, round, heightMm));
  }

  /** Puts one planned hole somewhere else. */
  move(i: number, round: number, heightMm: number): void {
    const k = this.fixed + i;
    this.#leave(k);
    this.rounds[k] = round;
    this.heights[k] = heightMm;
    if (round >= 0) this.#enter(k);
  }

  #enter(k: number): void {
    const sector = Math.min(SECTORS - 1, Math.floor(this.rounds[k]! * SECTORS));
    this.#sectorOf[k] = sector;
    this.#sectors[sector]![this.#inSector[sector]!++] = k;
  }

  #leave(k: number): void {
    const sector = this.#sectorOf[k]!;
    if (sector < 0) return;
    const members = this.#sectors[sector]!;
    const last = --this.#inSector[sector]!;
    for (let at = 0; at < last; at++) if (members[at] === k) members[at] = members[last]!;
    this.#sectorOf[k] = -1;
  }

  /** Where the planned holes are. */
  places(): Place[] {
    return Array.from(this.seasons, (_, i) => ({
      round: this.rounds[this.fixed + i]!,
      heightMm: this.heights[this.fixed + i]!
    }));
  }

  /** What a place costs hole i whatever the others do: FORBIDDEN, or how unhandy it is, weighed as a loss of its season. */
  #siteAt(i: number, round: number, heightMm: number): number {
    const column = Math.min(this.columns - 1, Math.floor(round * this.columns));
    const row = Math.round((heightMm - this.lowestMm) / this.#rowMm);
    const season = this.seasons[i]!;
    return (season === 0 ? this.#siteNow : this.#siteLater)[row * this.columns + column]! * this.#weights[season]!;
  }

  /** What hole i of the plan costs where it is: see `costAt`. */
  costOf(i: number, limit: number): number {
    return this.costAt(i, this.rounds[this.fixed + i]!, this.heights[this.fixed + i]!, limit);
  }

  /**
   * What hole i of the plan would cost at a place, itself and the others; with which it would, `met` tells. What is more
   * than `limit` need not be exact: no term is below zero, and the adding up stops there.
   */
  costAt(i: number, round: number, heightMm: number, limit: number): number {
    this.#end = this.rounds.length;
    return this.#sum(i, round, heightMm, limit);
  }

  /** What hole i would lose at a place to the holes before it; past `limit` it need not be exact. */
  lostAt(i: number, round: number, heightMm: number, limit: number): number {
    this.#end = this.fixed + i;
    return this.#sum(i, round, heightMm, limit);
  }

  /**
   * The innermost loop of all planning: what hole i and those of the holes before `#end` that it meets cost each other. It reads
   * the kernels' tables as `LossKernel.at` does, without a call.
   */
  #sum(i: number, round: number, height: number, limit: number): number {
    const { rounds, heights, met, metCost } = this;
    const end = this.#end;
    const factors = this.#factor;
    const girths = this.#girth;
    const kinds = this.#table;
    const tables = this.#tables;
    const { reachSideMm, lineLength } = this.#kernel;
    const reachAt = this.#reachAt;
    const self = this.fixed + i;
    const row = i * rounds.length;
    this.metCount = 0;
    let sum = this.#siteAt(i, round, height) + this.#crowdingAt(i, round, height);
    const middle = Math.floor(round * SECTORS);
    const reach = this.#reachSectors;
    // On a thin trunk all the way round, and no sector twice.
    const many = Math.min(SECTORS, 2 * reach + 1);
    for (let nth = 0; nth < many; nth++) {
      if (sum > limit) return sum;
      // Its own sector first, then by turns left and right: what is near costs most, and is too dear soonest.
      const sector = (middle + (nth & 1 ? (nth + 1) >> 1 : -(nth >> 1))) & (SECTORS - 1);
      const members = this.#sectors[sector]!;
      const inside = this.#inSector[sector]!;
      for (let at = 0; at < inside; at++) {
        const k = members[at]!;
        const factor = factors[row + k]!;
        if (factor === 0 || k >= end || k === self) continue;
        let side = round - rounds[k]!;
        side = (side - Math.round(side)) * girths[row + k]!;
        const line = ((height - heights[k]!) * (1 / STEP_UP) + MIDDLE_LINE) | 0;
        if (!(Math.abs(side) < reachAt[line]!)) continue;
        const column = (side + reachSideMm) * (1 / STEP_SIDE);
        const whole = column | 0;
        const table = tables[kinds[row + k]!]!;
        const left = table[line * lineLength + whole]!;
        const cost = factor * (left + (table[line * lineLength + whole + 1]! - left) * (column - whole));
        met[this.metCount] = k;
        metCost[this.metCount++] = cost;
        sum += cost;
      }
    }
    return sum;
  }

  /** FORBIDDEN where a place is too near to another hole of hole i's season, of those before `#end`. */
  #crowdingAt(i: number, round: number, heightMm: number): number {
    const { seasons, rounds, heights, fixed, planned } = this;
    const season = seasons[i]!;
    for (let k = i - 1; k >= 0 && seasons[k] === season; k--)
      if (this.#near(i, round - rounds[fixed + k]!, heightMm - heights[fixed + k]!)) return FORBIDDEN;
    for (let k = i + 1; k < planned && fixed + k < this.#end && seasons[k] === season; k++)
      if (this.#near(i, round - rounds[fixed + k]!, heightMm - heights[fixed + k]!)) return FORBIDDEN;
    return season === 0 && this.#taken.some((other) => this.#near(i, round - other.round, heightMm - other.heightMm))
      ? FORBIDDEN
      : 0;
  }

  #near(i: number, apart: number, up: number): boolean {
    const side = (apart - Math.round(apart)) * this.#girth[i * this.rounds.length + this.fixed + i]!;
    return Math.abs(side) < SIDEWAYS_APART_MM || side * side + up * up < this.#spacingMm * this.#spacingMm;
  }

  /** The whole plan's cost; past `limit` it need not be exact. */
  total(limit = Infinity): number {
    let sum = 0;
    for (let i = 0; i < this.planned && sum <= limit; i++)
      sum += this.lostAt(i, this.rounds[this.fixed + i]!, this.heights[this.fixed + i]!, Infinity);
    return sum;
  }

  /**
   * What each planned hole is expected to lose where it is, 0 to 1; more than 1 where it may not be drilled. Costs add up; of
   * wood that two columns take one takes it first: what is met of each, taken as independent, leaves the rest clear.
   */
  losses(): number[] {
    return Array.from(this.seasons, (season, i) => {
      const cost = this.lostAt(i, this.rounds[this.fixed + i]!, this.heights[this.fixed + i]!, Infinity);
      if (cost >= FORBIDDEN / 10) return FORBIDDEN;
      let clear = 1;
      for (let at = 0; at < this.metCount; at++) clear *= 1 - Math.min(1, this.metCost[at]! / this.#weights[season]!);
      return 1 - clear;
    });
  }

  /** May hole i be drilled where it is? */
  mayStay(i: number): boolean {
    const [round, heightMm] = [this.rounds[this.fixed + i]!, this.heights[this.fixed + i]!];
    this.#end = this.rounds.length;
    return this.#siteAt(i, round, heightMm) + this.#crowdingAt(i, round, heightMm) < FORBIDDEN / 10;
  }

  #sites({ allowed, unhandy }: RotationTask, now: boolean): Float32Array {
    const site = new Float32Array(this.columns * this.rows);
    if (!allowed && !unhandy) return site;
    return site.map((_, cell) => {
      const { round, heightMm } = this.middleOf(cell);
      const spot: BarkSpot = { bearingDeg: 360 * round, heightMm };
      return allowed && !allowed(spot, now) ? FORBIDDEN : (unhandy?.(spot, now) ?? 0);
    });
  }
}

/** A bearing as a share of the way round, 0 to 1. */
export function roundOf(bearingDeg: number): number {
  return wrapped(bearingDeg / 360);
}

/** A share of the way round between 0 and 1. */
export const wrapped = (round: number) => round - Math.floor(round);

/** Five values of a standard normal that weigh the same, stretched to a variance of 1. */
const FIVE = [-1.3998, -0.5314, 0, 0.5314, 1.3998].map((z) => z / Math.sqrt((2 * (1.3998 ** 2 + 0.5314 ** 2)) / 5));

/** The share of the depth in which two holes meet, in the mean over what the trunk may have grown between them. */
function sharedUnsure(
  { buriedMm, laidMm, cv }: { buriedMm: number; laidMm: number; cv: number },
  oldDepthMm: number,
  newDepthMm: number
): number {
  if (cv === 0) return depthShared(buriedMm + laidMm, oldDepthMm, newDepthMm);
  const grown = FIVE.map((z) => depthShared((buriedMm + laidMm) * Math.max(0.2, 1 + cv * z), oldDepthMm, newDepthMm));
  return grown.reduce((a, b) => a + b, 0) / FIVE.length;
}
