import { mean, sampleDeviation } from '../math/index.ts';
import type { ColumnModel } from '../trunk/index.ts';
import { liveThrough, type PlacementRule, type RuleTree } from './rules.ts';
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

/** A way of placing as it is lived: a habit, or the plan. */
export const ruleOf = (id: PlacementStrategyId, tree: RuleTree, model: ColumnModel, seasons: number): PlacementRule => {
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
