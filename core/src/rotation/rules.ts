import type { BarkSpot } from '../geometry/index.ts';
import { seededRng, toDegrees, toRadians, type Rng } from '../math/index.ts';
import {
  columnHalfLength,
  drawHole,
  overlapOf,
  shorterWay,
  stainedShare,
  TREE_SIZE_SIGMA,
  type Column,
  type ColumnModel
} from '../trunk/index.ts';
import type { PastHole } from './task.ts';

/** A tree and a way of drilling, for the seasons to come. Lengths in mm. */
export interface RuleTree {
  /** radius under the bark in the first season, and the ring of each season */
  readonly woodRadiusMm: number;
  readonly ringMm: number;
  readonly bitMm: number;
  readonly depthMm: number;
  readonly lowestMm: number;
  readonly highestMm: number;
  readonly taps: number;
  /** holes that are in the trunk already, as they were recorded */
  readonly past?: readonly PastHole[];
  /** where holes may be drilled at all; all over the band where nothing is said */
  readonly allowed?: (spot: BarkSpot) => boolean;
}

/** Where a rule wants its holes in a season; it knows where the earlier ones were meant to be, not where they ended up. */
export type PlacementRule = (
  season: number,
  tree: RuleTree,
  earlier: readonly (readonly BarkSpot[])[],
  rng: Rng
) => readonly BarkSpot[];

/** South, N(180, 30 deg), at any height of the band; the taps of a season are told apart by chance alone. */
export const sunnySide: PlacementRule = (_season, tree, _earlier, rng) =>
  Array.from({ length: tree.taps }, () => ({ bearingDeg: rng.normal(180, 30), heightMm: anyHeight(tree, rng) }));

/** Anywhere in the band. */
export const haphazard: PlacementRule = (_season, tree, _earlier, rng) =>
  Array.from({ length: tree.taps }, () => ({ bearingDeg: rng.uniform() * 360, heightMm: anyHeight(tree, rng) }));

/** 50 mm on along the bark each season, 115 mm above and below the middle of the band by turns; several taps evenly round. */
export const pattern: PlacementRule = (season, tree, earlier) => {
  const last = earlier.filter((spots) => spots.length > 0).at(-1)?.[0]?.bearingDeg ?? 180;
  const turn = toDegrees(50 / (tree.woodRadiusMm + season * tree.ringMm));
  const middle = (tree.lowestMm + tree.highestMm) / 2;
  return Array.from({ length: tree.taps }, (_, i) => ({
    bearingDeg: (season === 0 ? last : last + turn) + (i * 360) / tree.taps,
    heightMm: middle + (season % 2 === 0 ? 115 : -115)
  }));
};

function anyHeight({ lowestMm, highestMm }: RuleTree, rng: Rng): number {
  return lowestMm + rng.uniform() * (highestMm - lowestMm);
}

/** What became of one season's hole. */
export interface Drilled extends BarkSpot {
  readonly season: number;
  /** share of its path in stained wood */
  readonly lost: number;
}

/**
 * One trunk with everything in it that nobody sees: the lean of its grain, and the true column of every hole. Holes land
 * off where they were meant by the position error; bearings are of the hole as it landed.
 */
export class HiddenTrunk {
  readonly leanDeg: number;
  readonly #columns: { readonly column: Column; readonly bearingDeg: number; readonly season: number }[] = [];
  readonly #logSize: number;

  constructor(
    readonly tree: RuleTree,
    readonly model: ColumnModel,
    readonly rng: Rng
  ) {
    this.leanDeg = rng.normal(0, model.grainSdDeg);
    this.#logSize = rng.normal(0, TREE_SIZE_SIGMA);
    for (const hole of tree.past ?? []) {
      const landed = this.#truthOf(hole, hole.depthMm, tree.woodRadiusMm, hole.bitMm ?? tree.bitMm);
      this.#columns.push({ ...landed, season: -hole.buriedMm / tree.ringMm });
    }
  }

  /** Drills the holes of a season: none of them meets another of the same season. */
  drill(season: number, spots: readonly BarkSpot[]): Drilled[] {
    const landed = spots.map((spot) => this.#truthOf(spot, this.tree.depthMm, this.#radius(season), this.tree.bitMm));
    const drilled = landed.map(({ bearingDeg, column: { heightMm } }) => {
      const spot = { bearingDeg, heightMm };
      return { ...spot, season, lost: this.lostAt(season, spot) };
    });
    this.#columns.push(...landed.map((hole) => ({ ...hole, season })));
    return drilled;
  }

  /** Share of a path exactly there that lies in stained wood. */
  lostAt(season: number, spot: BarkSpot): number {
    const { bitMm, depthMm } = this.tree;
    const overlaps = this.columnsIn(season).flatMap((column) => {
      const round = 2 * Math.PI * this.#radius(season);
      const offset = shorterWay(column.leftMm - (spot.bearingDeg / 360) * round, round);
      return overlapOf(column, { offsetMm: offset, heightMm: spot.heightMm, bitMm, depthMm }) ?? [];
    });
    return stainedShare(overlaps, bitMm, depthMm);
  }

  /** The true columns as a season's trunk holds them, those that new wood has buried left out. */
  columnsIn(season: number): Column[] {
    const perDegree = (Math.PI * this.#radius(season)) / 180;
    return this.#columns.flatMap(({ column, bearingDeg, season: drilled }) => {
      const buried = (season - drilled) * this.tree.ringMm;
      if (buried >= this.tree.depthMm) return [];
      return {
        ...column,
        leftMm: bearingDeg * perDegree,
        fromDepthMm: buried,
        toDepthMm: buried + column.toDepthMm
      };
    });
  }

  #radius(season: number): number {
    return this.tree.woodRadiusMm + season * this.tree.ringMm;
  }

  /** Where a hole really ends up, and the column that it will have. */
  #truthOf(
    { bearingDeg, heightMm }: BarkSpot,
    depthMm: number,
    radiusMm: number,
    bitMm: number
  ): { column: Column; bearingDeg: number } {
    const hole = { season: 0, bearingDeg, heightMm, bitMm, depthMm, buriedMm: 0 };
    const { leftMm, upMm, ratio, halfWidthMm } = drawHole(hole, this.model, this.rng);
    return {
      bearingDeg: bearingDeg + toDegrees(leftMm / radiusMm),
      column: {
        hole: 0,
        leftMm: 0,
        heightMm: heightMm + upMm,
        halfWidthMm,
        halfLengthMm: columnHalfLength(ratio * Math.exp(this.#logSize), bitMm, halfWidthMm),
        lean: Math.tan(toRadians(this.leanDeg)),
        fromDepthMm: 0,
        toDepthMm: depthMm
      }
    };
  }
}

export interface RuleRun {
  /** mean share of the paths in stained wood, by season */
  readonly lostBySeason: Float64Array;
  /** by tree: mean over the seasons from `from` on */
  readonly lostByTree: Float64Array;
}

/**
 * A rule lived through on many trunks: true columns and the grain of each are drawn from the model, every hole lands off
 * its plan, and what its path meets is added up.
 * @param trees how many; tree k draws its truth from seed and k alone, so that habits can be compared in pairs
 * @param from the season from which a tree's mean is taken
 * @param unwritten chance that a season's holes are drilled wherever it looks clear and never written down: no way knows of them
 */
export function liveThrough(
  rule: PlacementRule,
  tree: RuleTree,
  model: ColumnModel,
  options: {
    readonly seasons: number;
    readonly trees: number;
    readonly from: number;
    readonly seed: number;
    readonly unwritten?: number;
  }
): RuleRun {
  const { seasons, trees, from, seed, unwritten = 0 } = options;
  const lostBySeason = new Float64Array(seasons);
  const lostByTree = new Float64Array(trees);
  for (let k = 0; k < trees; k++) {
    const trunk = new HiddenTrunk(tree, model, seededRng(seed + 2 * k));
    const whim = seededRng(seed + 2 * k + 1);
    // Unrecorded seasons are drawn alike for every rule.
    const stray = seededRng(seed + 1_000_003 + k);
    const meant: (readonly BarkSpot[])[] = [];
    for (let season = 0; season < seasons; season++) {
      const written = unwritten === 0 || stray.uniform() >= unwritten;
      const spots = written ? rule(season, tree, meant, whim) : haphazard(season, tree, meant, stray);
      for (const { lost } of trunk.drill(season, spots)) {
        lostBySeason[season]! += lost / spots.length / trees;
        if (season >= from) lostByTree[k]! += lost / spots.length / (seasons - from);
      }
      // An empty season keeps the count of years without telling where its holes are.
      meant.push(written ? spots : []);
    }
  }
  return { lostBySeason, lostByTree };
}
