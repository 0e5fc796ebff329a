import { seededRng } from '../math/index.ts';
import { MIN_CROP_SCORE, type CropCandidate, type CropScore } from './crop.ts';
import { neighbours, type Neighbours } from './competition.ts';
import { PROVEN_GAP, type Answer, type Program, type Solver } from './solver.ts';

export interface CropWish {
  /** crop trees keep at least this distance, metres */
  readonly spacingM: number;
  /** chosen whatever their points or neighbours */
  readonly pinned: ReadonlySet<string>;
  readonly vetoed: ReadonlySet<string>;
  readonly leastScore?: number;
}

/** A scored tree with its place. */
export interface ScoredTree extends CropCandidate {
  readonly score: CropScore;
}

/** A set of crop trees that keep their spacing. */
export interface CropSet {
  readonly ids: readonly string[];
  /** no other set has more points by a greater share than this; infinite where that could not be told */
  readonly gap: number;
}

/** The solver is given so long for each of the open trees, seconds: two for 600, five for 1,200. */
const SECONDS_A_TREE = 1 / 300;
/** And at least so long, seconds. */
const LEAST_SECONDS = 1;

/**
 * The crop trees: of all sets that keep the spacing, the one with most points (a maximum-weight independent set). The better of an
 * exchange search and of what a solver finds in its time; the solver's bound tells how far it may be from the best. Two pinned
 * trees may stand closer; nobody else may stand closer to them.
 */
export function chooseCropTrees(
  trees: readonly ScoredTree[],
  { spacingM, pinned, vetoed, leastScore = MIN_CROP_SCORE }: CropWish,
  solve: Solver
): CropSet {
  const firm = trees.filter(({ id }) => pinned.has(id));
  const open = trees.filter(
    (tree) =>
      !pinned.has(tree.id) &&
      !vetoed.has(tree.id) &&
      tree.score.barred === null &&
      tree.score.score >= leastScore &&
      firm.every((other) => Math.hypot(tree.eastM - other.eastM, tree.northM - other.northM) >= spacingM)
  );
  // Two trees exactly as far apart as asked keep the spacing.
  const near = neighbours(open, spacingM - TOUCHING_M);
  const points = open.map(({ score }) => score.score);
  const exchanged = [...bySwaps(points, near)];
  const answer = solved(spacingProgram(open, near, spacingM), solve, {
    gap: PROVEN_GAP,
    seconds: Math.max(LEAST_SECONDS, open.length * SECONDS_A_TREE)
  });
  const gained = exchanged.reduce((sum, i) => sum + points[i]!, 0);
  const chosen =
    answer?.values && answer.gain > gained ? open.flatMap((_, i) => (answer.values![i]! > 0.5 ? [i] : [])) : exchanged;
  const most = chosen.reduce((sum, i) => sum + points[i]!, 0);
  return {
    ids: [...firm.map(({ id }) => id), ...chosen.map((i) => open[i]!.id)],
    gap: answer === null ? Infinity : most === 0 ? 0 : Math.max(0, answer.bound / most - 1)
  };
}

/** Nearer than the spacing by less than this is at the spacing, metres. */
const TOUCHING_M = 1e-9;

/** The solver's answer; null where it found none in its time. */
function solved(program: Program, solve: Solver, options: Parameters<Solver>[1]): Answer | null {
  try {
    return solve(program, options);
  } catch {
    return null;
  }
}

/** So many exchanges are tried for each tree. */
const SWAPS_A_TREE = 300;
/** They begin with exchanges that lose up to about so many points, and end with none that do. */
const HOTTEST = 12;

/** A set that keeps the spacing, by simulated annealing: a tree is put in, and those that are too near to it are taken out. */
function bySwaps(points: readonly number[], { from, of }: Neighbours): ReadonlySet<number> {
  const rng = seededRng(points.length);
  const inside = new Set<number>();
  let [gained, most] = [0, 0];
  let best: ReadonlySet<number> = new Set();
  const steps = SWAPS_A_TREE * points.length;
  for (let step = 0; step < steps; step++) {
    const tree = Math.floor(rng.uniform() * points.length);
    if (inside.has(tree)) continue;
    const out: number[] = [];
    for (let k = from[tree]!; k < from[tree + 1]!; k++) if (inside.has(of[k]!)) out.push(of[k]!);
    const gain = points[tree]! - out.reduce((sum, other) => sum + points[other]!, 0);
    const heat = HOTTEST * (1 - step / steps) ** 2;
    if (gain < 0 && rng.uniform() >= Math.exp(gain / Math.max(heat, 1e-9))) continue;
    for (const other of out) inside.delete(other);
    inside.add(tree);
    gained += gain;
    if (gained > most + 1e-9) [most, best] = [gained, new Set(inside)];
  }
  return best;
}

/**
 * One row a pair that is too close would do. Of all trees within a disc as wide as the spacing no two keep it, which says the same of
 * many pairs at once and is far the stronger: a row for each disc that has two trees on its rim, but for those whose trees are
 * all in another's.
 */
function spacingProgram(open: readonly ScoredTree[], { from, of, distanceM }: Neighbours, spacingM: number): Program {
  const discs = new Map<string, number[]>();
  const radius = spacingM / 2;
  for (const [i, a] of open.entries())
    for (let k = from[i]!; k < from[i + 1]!; k++) {
      const j = of[k]!;
      if (j < i) continue;
      const b = open[j]!;
      const [east, north] = [b.eastM - a.eastM, b.northM - a.northM];
      const up = Math.sqrt(Math.max(0, radius ** 2 - (distanceM[k]! / 2) ** 2)) / (distanceM[k]! || 1);
      for (const side of [up, -up]) {
        const [x, y] = [(a.eastM + b.eastM) / 2 - side * north, (a.northM + b.northM) / 2 + side * east];
        const within = [i, j];
        for (let m = from[i]!; m < from[i + 1]!; m++) {
          const other = open[of[m]!]!;
          if (of[m] !== j && Math.hypot(other.eastM - x, other.northM - y) < radius - TOUCHING_M) within.push(of[m]!);
        }
        within.sort((one, another) => one - another);
        discs.set(within.join(), within);
      }
    }
  return {
    columns: open.map(({ score }) => ({ gain: score.score, lower: 0, upper: 1, whole: true })),
    rows: notWithinAnother([...discs.values()], open.length).map((within) => ({
      lower: -Infinity,
      upper: 1,
      terms: within.map((tree) => [tree, 1] as const)
    }))
  };
}

/** Sets of trees without those that are part of another one. */
function notWithinAnother(sets: readonly (readonly number[])[], trees: number): (readonly number[])[] {
  const kept: { readonly set: readonly number[]; readonly has: ReadonlySet<number> }[] = [];
  const holding = Array.from({ length: trees }, (): number[] => []);
  for (const set of [...sets].sort((a, b) => b.length - a.length)) {
    const rarest = set.reduce((a, b) => (holding[b]!.length < holding[a]!.length ? b : a));
    if (holding[rarest]!.some((k) => set.every((tree) => kept[k]!.has.has(tree)))) continue;
    for (const tree of set) holding[tree]!.push(kept.length);
    kept.push({ set, has: new Set(set) });
  }
  return kept.map(({ set }) => set);
}

/** Spacings that are tried, widest first, metres. */
const SPACINGS_M = [12, 11, 10, 9, 8, 7, 6, 5] as const;

/** Crop trees at a spacing that was found for wished taps. */
export interface SpacedCrops extends CropSet {
  readonly spacingM: number;
  readonly taps: number;
  /** as many as wished? */
  readonly enough: boolean;
}

/**
 * The widest spacing that still gives the wished taps: wide spacing frees crowns, narrow spacing keeps taps.
 * @param wish with the taps wished in all, and those that each crop tree carries
 * @returns the last one tried where none gives as many
 */
export function spacingForTaps(
  trees: readonly ScoredTree[],
  wish: Omit<CropWish, 'spacingM'> & { readonly taps: number; readonly tapsOf: (id: string) => number },
  solve: Solver
): SpacedCrops {
  let last: SpacedCrops | null = null;
  for (const spacingM of SPACINGS_M) {
    const { ids, gap } = chooseCropTrees(trees, { ...wish, spacingM }, solve);
    const taps = ids.reduce((sum, id) => sum + wish.tapsOf(id), 0);
    last = { spacingM, ids, gap, taps, enough: taps >= wish.taps };
    if (last.enough) break;
  }
  return last!;
}
