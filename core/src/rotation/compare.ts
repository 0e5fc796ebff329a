import type { BarkSpot } from '../geometry/index.ts';
import { mean, normaliseBearing, sampleDeviation, seededRng } from '../math/index.ts';
import type { ColumnModel } from '../trunk/index.ts';
import { HiddenTrunk, liveThrough, type PlacementRule, type RuleTree } from './rules.ts';
import { FORESIGHT_IDS, type Foresight } from './foresight.ts';
import { kernelFor } from './kernel.ts';
import { carryOn } from './carry.ts';
import { planRotation } from './plan.ts';
import { seasonsToPlan, type MeantHole, type PlannedHole, type RotationTask } from './task.ts';
import { PLACEMENT_STRATEGIES, placementStrategyById, type PlacementStrategyId } from './strategies.ts';

/**
 * What is planned of a tree in one of its seasons.
 * @param meant where holes were meant to be in the seasons before, counted from the first
 */
export function rotationTaskOf(
  tree: RuleTree,
  model: ColumnModel,
  season: number,
  meant: readonly MeantHole[] = []
): RotationTask {
  const { ringMm, bitMm, depthMm, lowestMm, highestMm, taps, past = [], allowed } = tree;
  const laid = season * ringMm;
  return {
    woodRadiusMm: tree.woodRadiusMm + laid,
    ringMm,
    practice: { depthMm, lowestMm, highestMm, spacingMm: 300 },
    kernel: kernelFor(bitMm, bitMm, model),
    past: [
      ...past.map((hole) => ({
        ...hole,
        buriedMm: hole.buriedMm + laid,
        ...(hole.bitMm === undefined ? {} : { kernel: kernelFor(hole.bitMm, bitMm, model) })
      })),
      ...meant.map((hole) => ({ ...hole, buriedMm: laid - hole.season * ringMm, depthMm }))
    ],
    taps: Array<number>(seasonsToPlan(depthMm, ringMm)).fill(taps),
    ...(allowed ? { allowed } : {}),
    seed: 1
  };
}

/**
 * The rotation as something that can be lived through beside the habits: planned at the start and carried on from season to
 * season, on what is written down: where the holes were meant to be.
 */
export function livedRotation(tree: RuleTree, model: ColumnModel, seasons: number): MeantHole[] {
  const meant: MeantHole[] = [];
  let plan: readonly MeantHole[] = [];
  for (let season = 0; season < seasons; season++) {
    const task = rotationTaskOf(tree, model, season, meant);
    plan =
      season === 0
        ? planRotation(task)
        : carryOn(
            task,
            plan.filter((hole) => hole.season > 0).map((hole) => ({ ...hole, season: hole.season - 1 }))
          );
    meant.push(...plan.filter((hole) => hole.season === 0).map((hole) => ({ ...hole, season })));
  }
  return meant;
}

/** What a plan is expected to lose in the mean, as shares of a path, by how far ahead it looks. */
export interface FrontierPoint {
  readonly foresight: Foresight;
  /** over the next 25 seasons, and over all that are planned after them */
  readonly soon: number;
  readonly later: number;
}

/** Seasons on either side of the frontier: those that most stewards drill themselves, and those of who comes after them. */
const SOON = 25;

/** What looking farther ahead costs soon and brings later, on one tree: the plans of all ways to look ahead. */
export function foresightFrontier(tree: RuleTree, model: ColumnModel): FrontierPoint[] {
  const task = rotationTaskOf(tree, model, 0);
  // Each begins from the one before, so that what they differ by is how far they look and not the luck of a start.
  let plan: readonly PlannedHole[] = [];
  return FORESIGHT_IDS.map((foresight) => {
    plan = planRotation({ ...task, foresight }, plan);
    const lost = (of: (season: number) => boolean) =>
      mean(plan.filter(({ season }) => of(season)).map((hole) => hole.lost));
    return { foresight, soon: lost((season) => season < SOON), later: lost((season) => season >= SOON) };
  });
}

const ruleOf = (id: PlacementStrategyId, tree: RuleTree, model: ColumnModel, seasons: number): PlacementRule => {
  const rule = placementStrategyById(id).rule;
  if (rule) return rule;
  const plan = livedRotation(tree, model, seasons);
  return (season) => plan.filter((hole) => hole.season === season);
};

/** One way of placing, lived through. */
export interface LivedStrategy {
  readonly id: PlacementStrategyId;
  /** mean share of the paths in stained wood, by season */
  readonly lostBySeason: readonly number[];
  /** mean over the second half of the seasons, when the rule has caught up with itself, with a 95 % interval */
  readonly late: number;
  readonly lateFrom: number;
  readonly lateTo: number;
  /** the same mean where one season in five is drilled wherever it looks clear and never written down */
  readonly lateUnwritten: number;
}

/** Holes that nobody writes down. Working assumption: "one in five". */
const UNWRITTEN = 0.2;

export interface CompareOptions {
  readonly seasons: number;
  /** hidden trunks; every way of placing is lived through on the same ones */
  readonly trees: number;
  readonly seed: number;
  /** told how far it is, 0 to 1; false stops it */
  readonly onProgress?: (done: number) => boolean;
}

/**
 * Every way of placing, lived through on the same hidden trunks.
 * @returns the least loss first; null when it was stopped
 */
export function compareStrategies(tree: RuleTree, model: ColumnModel, options: CompareOptions): LivedStrategy[] | null {
  const { seasons, trees, seed, onProgress } = options;
  const lived: LivedStrategy[] = [];
  for (const [i, { id }] of PLACEMENT_STRATEGIES.entries()) {
    if (onProgress && !onProgress(i / PLACEMENT_STRATEGIES.length)) return null;
    const from = Math.floor(seasons / 2);
    const rule = ruleOf(id, tree, model, seasons);
    const run = liveThrough(rule, tree, model, { seasons, trees, from, seed });
    const careless = liveThrough(rule, tree, model, { seasons, trees, from, seed, unwritten: UNWRITTEN });
    const late = mean(run.lostByTree);
    const half = trees < 2 ? 0 : (1.96 * sampleDeviation(run.lostByTree)) / Math.sqrt(trees);
    lived.push({
      id,
      lostBySeason: [...run.lostBySeason],
      late,
      lateFrom: Math.max(0, late - half),
      lateTo: late + half,
      lateUnwritten: careless.lostByTree.reduce((a, b) => a + b, 0) / trees
    });
  }
  return lived.sort((a, b) => a.late - b.late);
}

/** A trunk to practise on, with its past as it was recorded. */
export interface PracticeTrunk {
  readonly tree: RuleTree;
  readonly past: readonly (BarkSpot & {
    readonly seasonsAgo: number;
    readonly buriedMm: number;
    readonly depthMm: number;
  })[];
}

/** Seasons that the practice lasts. */
export const PRACTICE_SEASONS = 10;

/** A trunk of middling size that was tapped on its sunny side for twelve seasons and by nobody's plan since. */
export function practiceTrunk(seed: number): PracticeTrunk {
  const rng = seededRng(seed);
  const ringMm = 1 + 0.8 * rng.uniform();
  const depthMm = 38.1;
  const past = Array.from({ length: 14 }, (_, i) => {
    const seasonsAgo = 14 - i;
    const sunny = rng.uniform() < 0.7;
    return {
      seasonsAgo,
      bearingDeg: normaliseBearing(sunny ? rng.normal(180, 35) : 360 * rng.uniform()),
      heightMm: 700 + 600 * rng.uniform(),
      buriedMm: seasonsAgo * ringMm,
      depthMm
    };
  });
  const woodRadiusMm = 150 + 50 * rng.uniform();
  const tree = { woodRadiusMm, ringMm, bitMm: 7.9375, depthMm, lowestMm: 600, highestMm: 1400, taps: 1, past };
  return { tree, past };
}

/** The truth of a practice trunk, the same for everybody who drills it. */
export function hiddenTruth({ tree }: PracticeTrunk, model: ColumnModel, seed: number): HiddenTrunk {
  return new HiddenTrunk(tree, model, seededRng(seed + 1));
}

/** What others would have lost on the same trunk, by season. */
export function othersOnPractice(
  practice: PracticeTrunk,
  model: ColumnModel,
  seed: number
): { readonly id: PlacementStrategyId; readonly lost: readonly number[] }[] {
  return (['sunny', 'pattern', 'rotation'] as const).map((id) => {
    const rule = ruleOf(id, practice.tree, model, PRACTICE_SEASONS);
    const hidden = hiddenTruth(practice, model, seed);
    const whim = seededRng(seed + 2);
    const meant: (readonly BarkSpot[])[] = [];
    const lost = Array.from({ length: PRACTICE_SEASONS }, (_, season) => {
      const spots = rule(season, practice.tree, meant, whim);
      meant.push(spots);
      const drilled = hidden.drill(season, spots);
      return drilled.reduce((sum, hole) => sum + hole.lost, 0) / Math.max(1, drilled.length);
    });
    return { id, lost };
  });
}
