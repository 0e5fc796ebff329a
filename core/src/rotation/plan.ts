import type { BarkSpot } from '../geometry/index.ts';
import { seededRng, type Rng } from '../math/index.ts';
import type { DrillPractice } from '../trunk/index.ts';
import { depthShared, type LossKernel } from './kernel.ts';

/** A hole that is in the trunk already. */
export interface PastHole extends BarkSpot {
  /** wood laid over it by the first planned season, mm */
  readonly buriedMm: number;
  readonly depthMm: number;
  /** bit that drilled it; the new holes' where it is not known */
  readonly bitMm?: number;
  /** of its own bit and the new one, where that is not the plan's */
  readonly kernel?: LossKernel;
  /** below 1 for one of several places where a hole of unknown place may be */
  readonly weight?: number;
}

export interface RotationTask {
  /** radius under the bark in the first planned season, and what it grows by each season, mm */
  readonly woodRadiusMm: number;
  readonly ringMm: number;
  readonly practice: Pick<DrillPractice, 'depthMm' | 'lowestMm' | 'highestMm' | 'spacingMm'>;
  readonly kernel: LossKernel;
  readonly past: readonly PastHole[];
  /** holes of each season, in order; its length is how far the plan looks ahead */
  readonly taps: readonly number[];
  /** may a hole be drilled there at all? Asked for the middles of cells, which reach `CELL_REACH_MM` */
  readonly allowed?: (spot: BarkSpot) => boolean;
  /** places of the first season that are drilled already */
  readonly taken?: readonly BarkSpot[];
  /** what a loss counts for against the same loss a season earlier */
  readonly patience?: number;
  /** 1 unless a rougher plan will do, or a finer one is worth the wait */
  readonly effort?: number;
  readonly seed: number;
}

export interface PlannedHole extends BarkSpot {
  /** 0 is the season that is being planned */
  readonly season: number;
  /** expected share of its path in stained wood, all older holes of past and plan taken into account */
  readonly lost: number;
}

/** Holes of one season are never set closer than this sideways: not one above the other. Six inches, common practice. */
export const SIDEWAYS_APART_MM = 152.4;

/** Width of a cell of the picture that rules places out and finds the greedy choice, mm. */
const CELL_SIDE_MM = 6;
/** Height of such a cell, mm. */
const CELL_UP_MM = 25;

/** A place is never farther than this from the middle of its cell, where `allowed` is asked, mm. */
export const CELL_REACH_MM = Math.ceil(Math.hypot(CELL_SIDE_MM, CELL_UP_MM) / 2) + 1;

/** Where nothing may be drilled, as a cost that no loss reaches. */
const FORBIDDEN = 1e6;

/** A hole of the plan: `round` is its bearing as a share of the way round, 0 to 1. */
interface Placed {
  readonly season: number;
  round: number;
  heightMm: number;
}

/**
 * The holes of the coming seasons, planned together: the sum of what each is expected to lose to all older ones is made
 * as small as it can be found. Being careful with this season alone leaves gaps that later fit nothing; a good rotation
 * packs the girth so that a place comes round again when new wood has buried the old hole.
 *
 * Starts from the best of the greedy choice and many even spacings (steps along the girth at one to four heights by
 * turns), and improves it by simulated annealing (Kirkpatrick, Gelatt & Vecchi 1983). The work is set by `effort`, not
 * by the clock: the same task gives the same plan. What comes out is never worse, in expectation, than what it began from.
 *
 * The plan must look past what is shown: its last seasons have nothing after them and crowd.
 * @returns by season; fewer than asked in a season whose spacing leaves no room
 */
export function planRotation(task: RotationTask): PlannedHole[] {
  const board = new Board(task);
  const starts = [board.greedy(), ...board.evenSpacings(1)].map((placed) => ({ placed, cost: board.total(placed) }));
  const best = starts.reduce((a, b) => (b.cost < a.cost ? b : a));
  return board.read(board.anneal(best.placed, best.cost, task.effort ?? 1, seededRng(task.seed)));
}

/** The plan of somebody who takes the best place of each season and does not think of the next. */
export function planGreedily(task: RotationTask): PlannedHole[] {
  const board = new Board(task);
  return board.read(board.greedy());
}

/** The best of the even spacings, started where it fits the trunk's past best. */
export function planEvenly(task: RotationTask): PlannedHole[] {
  const board = new Board(task);
  return board.read(board.evenSpacings(1)[0]!);
}

class Board {
  readonly #task: RotationTask;
  readonly #columns: number;
  readonly #rows: number;
  readonly #rowMm: number;
  readonly #lowestMm: number;
  readonly #bandMm: number;
  /** per season: what a hole there loses to the past, cell by cell */
  readonly #base: readonly Float32Array[];
  /** by two seasons: the share of their holes' depths that meets, times what a loss in the later one counts for */
  readonly #factor: Float32Array;
  /** by two seasons: the kernel's stage for the growth between them */
  readonly #stage: Uint8Array;
  /** per season: what a loss then counts for */
  readonly #weight: Float32Array;
  /** per season: the way round the wood, mm */
  readonly #round: Float32Array;

  constructor(task: RotationTask) {
    this.#task = task;
    const { practice, woodRadiusMm, ringMm, taps } = task;
    this.#columns = Math.max(24, Math.round((2 * Math.PI * woodRadiusMm) / CELL_SIDE_MM));
    this.#lowestMm = practice.lowestMm;
    this.#bandMm = practice.highestMm - practice.lowestMm;
    this.#rows = Math.max(2, Math.round(this.#bandMm / CELL_UP_MM) + 1);
    this.#rowMm = this.#bandMm / (this.#rows - 1);
    this.#round = Float32Array.from(taps, (_, season) => 2 * Math.PI * (woodRadiusMm + season * ringMm));
    this.#weight = Float32Array.from(taps, (_, season) => (task.patience ?? 0.96) ** season);
    const seasons = taps.length;
    this.#factor = new Float32Array(seasons * seasons);
    this.#stage = new Uint8Array(seasons * seasons);
    for (let a = 0; a < seasons; a++)
      for (let b = 0; b < seasons; b++) {
        const later = Math.max(a, b);
        const shared = depthShared(Math.abs(a - b) * ringMm, practice.depthMm, practice.depthMm);
        this.#factor[a * seasons + b] = this.#weight[later]! * shared;
        this.#stage[a * seasons + b] = task.kernel.stageOf(this.#round[later]! / this.#round[Math.min(a, b)]!);
      }
    const closed = new Float32Array(this.#columns * this.#rows);
    if (task.allowed)
      for (let cell = 0; cell < closed.length; cell++) if (!task.allowed(this.#spotAt(cell))) closed[cell] = FORBIDDEN;
    this.#base = taps.map((_, season) => {
      const base = closed.slice();
      for (const hole of task.past) {
        const shared = depthShared(hole.buriedMm + season * ringMm, hole.depthMm, practice.depthMm);
        const then = Math.max(woodRadiusMm / 2, woodRadiusMm - hole.buriedMm);
        const stage = task.kernel.stageOf((woodRadiusMm + season * ringMm) / then);
        const factor = this.#weight[season]! * shared * (hole.weight ?? 1);
        const placed = { season, round: roundOf(hole), heightMm: hole.heightMm };
        this.#spread(base, placed, { stage, factor, kernel: hole.kernel });
      }
      if (season === 0) for (const spot of task.taken ?? []) this.#close(base, roundOf(spot), spot.heightMm, 0);
      return base;
    });
  }

  /** The choice of somebody who looks at this season alone. */
  greedy(): Placed[] {
    const placed: Placed[] = [];
    for (const hole of this.#holes()) {
      const map = this.#base[hole.season]!.slice();
      for (const older of placed) {
        const pair = hole.season * this.#round.length + older.season;
        if (older.season === hole.season) this.#close(map, older.round, older.heightMm, hole.season);
        else
          this.#spread(
            map,
            { ...older, season: hole.season },
            { stage: this.#stage[pair]!, factor: this.#factor[pair]! }
          );
      }
      const spot = this.#spotAt(map.reduce((best, cost, cell) => (cost < map[best]! ? cell : best), 0));
      placed.push({ season: hole.season, round: roundOf(spot), heightMm: spot.heightMm });
    }
    return placed;
  }

  /** The best few of many even spacings: steps along the girth, heights by turns, where to start, which way round. */
  evenSpacings(keep: number): Placed[][] {
    const { practice, past, allowed, taken } = this.#task;
    const anywhere = !allowed && !taken?.length && past.every((hole) => hole.buriedMm >= practice.depthMm);
    const costed = (placed: Placed[]) => ({ placed, cost: this.total(placed) });
    const shapes: { levels: number; step: number; placed: Placed[]; cost: number }[] = [];
    for (let levels = 1; levels <= 4; levels++)
      for (let stepMm = 8; stepMm <= 160; stepMm += 4) {
        const step = stepMm / this.#round[0]!;
        shapes.push({ levels, step, ...costed(this.#even(levels, step, 0)) });
      }
    shapes.sort((a, b) => a.cost - b.cost);
    if (anywhere) return shapes.slice(0, keep).map(({ placed }) => placed);
    const started = shapes
      .slice(0, 8)
      .flatMap(({ levels, step }) =>
        Array.from({ length: 32 }, (_, i) => costed(this.#even(levels, i % 2 ? step : -step, (i >> 1) / 16)))
      );
    return started
      .sort((a, b) => a.cost - b.cost)
      .slice(0, keep)
      .map(({ placed }) => placed);
  }

  /** Everything that the planned holes lose, to the past and to each other. */
  total(placed: readonly Placed[]): number {
    let sum = 0;
    placed.forEach((hole, i) => {
      sum += this.#baseAt(hole.season, hole.round, hole.heightMm);
      for (let k = 0; k < i; k++) sum += this.#pair(placed[k]!, hole);
    });
    return sum;
  }

  /**
   * Simulated annealing: one hole is moved a little, or anywhere, or changes places with one of another season. The
   * innermost loop of the whole tool, so it runs on plain arrays.
   */
  anneal(start: readonly Placed[], startCost: number, effort: number, rng: Rng): Placed[] {
    const n = start.length;
    const rounds = Float64Array.from(start, ({ round }) => round);
    const heights = Float64Array.from(start, ({ heightMm }) => heightMm);
    const seasons = Int32Array.from(start, ({ season }) => season);
    const [factor, stage, girth, all] = [this.#factor, this.#stage, this.#round, this.#round.length];
    const tables = this.#task.kernel.tables;
    const { reachSideMm, lineLength, stepUpMm, stepSideMm, reachUpMm } = this.#task.kernel;
    const { spacingMm } = this.#task.practice;
    const [lowest, band] = [this.#lowestMm, this.#bandMm];

    /** What hole i would cost, and cost others, at a place; hole `except` is thought away. */
    const costAt = (i: number, round: number, height: number, except: number): number => {
      const season = seasons[i]!;
      let sum = this.#baseAt(season, round, height);
      for (let k = 0; k < n; k++) {
        const other = seasons[k]!;
        const pair = season * all + other;
        const f = factor[pair]!;
        if (f === 0 || k === i || k === except) continue;
        let side = round - rounds[k]!;
        if (side > 0.5) side -= 1;
        else if (side < -0.5) side += 1;
        side *= girth[season > other ? season : other]!;
        if (season === other) {
          const up = height - heights[k]!;
          const apart = side < 0 ? -side : side;
          if (apart < SIDEWAYS_APART_MM || apart * apart + up * up < spacingMm * spacingMm) sum += FORBIDDEN;
          continue;
        }
        const at = (side + reachSideMm) / stepSideMm + 0.5;
        const up = (height - heights[k]! + reachUpMm) / stepUpMm + 0.5;
        if (at < 0 || at >= lineLength || up < 0) continue;
        // Outside the table it gives undefined.
        sum += f * (tables[stage[pair]!]![(up | 0) * lineLength + (at | 0)] ?? 0);
      }
      return sum;
    };

    let [cost, bestCost] = [startCost, startCost];
    let best = start.map((hole) => ({ ...hole }));
    const steps = Math.round(effort * STEPS_A_HOLE * n);
    for (let step = 0; step < steps; step++) {
      const heat = HOTTEST * (COLDEST / HOTTEST) ** (step / steps);
      const i = Math.floor(rng.uniform() * n);
      const kind = rng.uniform();
      const [round, height] = [rounds[i]!, heights[i]!];
      if (kind < 0.12) {
        const k = Math.floor(rng.uniform() * n);
        if (seasons[k] === seasons[i]) continue;
        const [otherRound, otherHeight] = [rounds[k]!, heights[k]!];
        const before = costAt(i, round, height, -1) + costAt(k, otherRound, otherHeight, i);
        [rounds[i], heights[i], rounds[k], heights[k]] = [otherRound, otherHeight, round, height];
        const change = costAt(i, otherRound, otherHeight, -1) + costAt(k, round, height, i) - before;
        if (change > 0 && rng.uniform() >= Math.exp(-change / heat)) {
          [rounds[i], heights[i], rounds[k], heights[k]] = [round, height, otherRound, otherHeight];
          continue;
        }
        cost += change;
      } else {
        const far = kind < 0.2;
        const toRound = far ? rng.uniform() : wrapped(round + ((rng.uniform() - 0.5) * 60) / girth[seasons[i]!]!);
        const up = far ? rng.uniform() * band : height - lowest + (rng.uniform() - 0.5) * 200;
        const toHeight = lowest + Math.min(band, Math.max(0, up));
        const change = costAt(i, toRound, toHeight, -1) - costAt(i, round, height, -1);
        if (change > 0 && rng.uniform() >= Math.exp(-change / heat)) continue;
        rounds[i] = toRound;
        heights[i] = toHeight;
        cost += change;
      }
      if (cost < bestCost - 1e-7 && step > steps / 2) {
        bestCost = cost;
        best = start.map(({ season }, k) => ({ season, round: rounds[k]!, heightMm: heights[k]! }));
      }
    }
    return best;
  }

  read(placed: readonly Placed[]): PlannedHole[] {
    return placed.flatMap((hole, i) => {
      let lost = this.#baseAt(hole.season, hole.round, hole.heightMm);
      placed.forEach((other, k) => {
        if (other.season < hole.season || (other.season === hole.season && k < i)) lost += this.#pair(other, hole);
      });
      if (lost >= FORBIDDEN) return [];
      const { season, heightMm } = hole;
      return [{ season, bearingDeg: 360 * hole.round, heightMm, lost: Math.min(1, lost / this.#weight[season]!) }];
    });
  }

  /** All holes of the task, still without a place. */
  #holes(): { readonly season: number; readonly nth: number }[] {
    return this.#task.taps.flatMap((taps, season) => {
      const open = season === 0 ? taps - (this.#task.taken?.length ?? 0) : taps;
      return Array.from({ length: Math.max(0, open) }, (_, nth) => ({ season, nth }));
    });
  }

  #even(levels: number, step: number, start: number): Placed[] {
    const most = Math.max(1, ...this.#task.taps);
    return this.#holes().map(({ season, nth }) => ({
      season,
      round: wrapped(start + season * step + nth / most),
      heightMm: this.#lowestMm + this.#bandMm * (levels === 1 ? 0.5 : ((season + nth) % levels) / (levels - 1))
    }));
  }

  #spotAt(cell: number): BarkSpot {
    return {
      bearingDeg: (((cell % this.#columns) + 0.5) * 360) / this.#columns,
      heightMm: this.#lowestMm + Math.floor(cell / this.#columns) * this.#rowMm
    };
  }

  #baseAt(season: number, round: number, heightMm: number): number {
    const column = Math.min(this.#columns - 1, Math.floor(round * this.#columns));
    const row = Math.round((heightMm - this.#lowestMm) / this.#rowMm);
    return this.#base[season]![row * this.#columns + column]!;
  }

  #pair(older: Placed, newer: Placed): number {
    return this.#lost(newer.season, newer.round, newer.heightMm, older);
  }

  /** What a hole of a season there and another one cost each other: the later of the two loses it. */
  #lost(season: number, round: number, heightMm: number, other: Placed): number {
    const pair = season * this.#round.length + other.season;
    const factor = this.#factor[pair]!;
    if (factor === 0) return 0;
    let side = round - other.round;
    side = (side - Math.round(side)) * this.#round[season > other.season ? season : other.season]!;
    const up = heightMm - other.heightMm;
    if (season === other.season) {
      const apart = Math.abs(side);
      return apart < SIDEWAYS_APART_MM || Math.hypot(apart, up) < this.#task.practice.spacingMm ? FORBIDDEN : 0;
    }
    return factor * this.#task.kernel.atStage(side, up, this.#stage[pair]!);
  }

  /** Adds what a hole's column takes from holes of a season all round it. */
  #spread(
    map: Float32Array,
    { round, heightMm, season }: Placed,
    { stage, factor, kernel = this.#task.kernel }: { stage: number; factor: number; kernel?: LossKernel | undefined }
  ): void {
    if (factor === 0) return;
    const columns = this.#columns;
    const width = this.#round[season]! / columns;
    const reach = Math.min(Math.floor(columns / 2), Math.floor(kernel.reachSideMm / width));
    const column = round * columns - 0.5;
    const middle = Math.round(column);
    for (let row = 0; row < this.#rows; row++) {
      const up = this.#lowestMm + row * this.#rowMm - heightMm;
      for (let c = middle - reach; c <= middle + reach; c++) {
        const lost = kernel.atStage((c - column) * width, up, stage);
        if (lost > 0) map[row * columns + (((c % columns) + columns) % columns)]! += factor * lost;
      }
    }
  }

  /** Rules out what lies too near to a hole of the same season. */
  #close(map: Float32Array, round: number, heightMm: number, season: number): void {
    for (let cell = 0; cell < map.length; cell++) {
      const spot = this.#spotAt(cell);
      const other = { season, round, heightMm };
      if (this.#lost(season, roundOf(spot), spot.heightMm, other) >= FORBIDDEN) map[cell] = FORBIDDEN;
    }
  }
}

/** The annealing begins at this temperature, in shares of a hole: what a poor place costs. */
const HOTTEST = 0.01;
/** It ends at this temperature, in shares of a hole: what nobody notices. */
const COLDEST = 2e-6;
/** The annealing tries so many changes for each hole that it plans. */
const STEPS_A_HOLE = 1000;

const wrapped = (round: number) => round - Math.floor(round);
const roundOf = ({ bearingDeg }: BarkSpot) => wrapped(bearingDeg / 360);
