import { sum } from 'd3-array';
import { mean, seededRng } from '../math/index.ts';
import { anneal } from './anneal.ts';
import { Board, type Place } from './board.ts';
import { FORESIGHTS } from './foresight.ts';
import { evenStart, fillWith, greedyStart } from './starts.ts';
import { cooling, read, weightsOf, type MeantHole, type PlannedHole, type RotationTask } from './task.ts';

/** The annealing begins at this temperature, in shares of what a hole costs in the mean when it begins. */
const HOTTEST = 0.1;
/** For a decade's sake a plan is gone over at this temperature, in the same shares, */
const GUARD_HOTTEST = 0.075;
/** with so much of the tries. */
const GUARD_TRIES = 0.2;

/**
 * The holes of the coming seasons, planned together: the sum of what each is expected to lose to all older ones, weighed by
 * how far ahead the bush looks (`seasonWeights`), is made as small as it can be found. Being careful with this season alone
 * leaves gaps that later fit nothing; a good rotation packs the girth so that a place comes round again when new wood has
 * buried the old hole.
 *
 * Starts from the better of the greedy choice and many even spacings (steps along the girth at one to four heights by
 * turns), and improves it by simulated annealing. Where a decade of the next fifty years would lose more than greed does,
 * that decade counts for more, and the plan is gone over until none does, or as often as that may help. The work is set by the trunk, not by the clock: the same task
 * gives the same plan.
 * @param before what was planned already, counted from the first season: where it is better than both, it is what is improved
 * @returns by season; fewer than asked in a season whose spacing leaves no room
 */
export function planRotation(task: RotationTask, before: readonly MeantHole[] = []): PlannedHole[] {
  const weights = weightsOf(task);
  const board = new Board(task, weights);
  greedyStart(board);
  const greedy = { ...judged(board, weights), cost: board.total() };
  evenStart(board, Math.max(1, ...task.taps));
  if (greedy.cost < board.total()) board.put(greedy.places);
  if (before.length > 0) {
    const [places, cost] = [board.places(), board.total()];
    fillWith(board, task, before);
    if (board.total() > cost) board.put(places);
  }
  const { hottest, coldest, stepsAHole } = cooling(board);
  const rng = seededRng(task.seed);
  anneal(board, { hottest: HOTTEST * hottest, coldest, stepsAHole }, rng);
  // Whoever plans for grandchildren gives some of the next years away on purpose.
  if (FORESIGHTS[task.foresight ?? 'generation'] >= 1) {
    const again = { hottest: GUARD_HOTTEST * hottest, coldest, stepsAHole: GUARD_TRIES * stepsAHole };
    guardDecades(board, weights, greedy, () => anneal(board, again, rng));
  }
  board.weigh(weights);
  return read(board);
}

/** The plan of somebody who takes the best place of each season and does not think of the next. */
export function planGreedily(task: RotationTask): PlannedHole[] {
  const board = new Board(task, weightsOf(task));
  greedyStart(board);
  return read(board);
}

/** The best of the even spacings, started where it fits the trunk's past best. */
export function planEvenly(task: RotationTask): PlannedHole[] {
  const board = new Board(task, weightsOf(task));
  evenStart(board, Math.max(1, ...task.taps));
  return read(board);
}

/** Decades that may not lose more than greed does. */
const GUARDED = 5;
/** So often the plan is gone over for their sake. */
const GUARD_ROUNDS = 8;
/** More than greed's by a smaller share than this is none. */
const AS_MUCH = 1.01;
/** Nor is it by less than this in all, as a share of a path: nobody could tell it in a lifetime. */
const TOLD_APART = 5e-5;
/** What a decade loses more than greed does counts so much more than what all decades lose. */
const GUARD = 6;
/** What a decade counts for is changed by no more than this from one going over to the next. */
const GUARD_STEP = 3;

interface Judged {
  readonly places: readonly Place[];
  readonly decades: readonly number[];
  /** how much more than greed's its decades lose */
  readonly short: number;
  readonly score: number;
}

/** What the plan on the board loses by decade, how much more that is than greed's, and how good it is by both. */
function judged(board: Board, weights: readonly number[], greedy?: Judged): Judged {
  const losses = board.losses().map((lost) => Math.min(1, lost));
  const decades = decadesOf(board, losses);
  const short = greedy ? sum(decades.map((lost, decade) => Math.max(0, lost - asMuch(greedy.decades[decade]!)))) : 0;
  const counts = losses.map((_, i) => weights[board.seasons[i]!]!);
  const weighed = sum(losses.map((lost, i) => lost * counts[i]!)) / sum(counts);
  return { places: board.places(), decades, short, score: weighed + (GUARD / GUARDED) * short };
}

const asMuch = (lost: number) => AS_MUCH * lost + TOLD_APART;

/**
 * Goes over the plan on the board until no decade loses more than greed's, or as often as that may help. What a decade counts
 * for is a multiplier of Lagrange's: it grows while the decade loses too much, and falls back where it does not.
 */
function guardDecades(board: Board, weights: readonly number[], greedy: Judged, goOver: () => void): void {
  let last = judged(board, weights, greedy);
  // Whatever else was found: greed's own choice loses no more than greed.
  let best = last.score < greedy.score ? last : greedy;
  const multipliers = Array<number>(GUARDED).fill(1);
  for (let round = 0; round < GUARD_ROUNDS && last.short > 0; round++) {
    for (const [decade, multiplier] of multipliers.entries()) {
      const over = last.decades[decade]! / asMuch(greedy.decades[decade]!);
      const by = over > 1 ? Math.min(GUARD_STEP, Math.max(1.1, over ** 2)) : Math.max(1 / GUARD_STEP, over);
      multipliers[decade] = Math.max(1, multiplier * by);
    }
    board.weigh(weights.map((weight, season) => weight * (multipliers[Math.floor(season / 10)] ?? 1)));
    goOver();
    last = judged(board, weights, greedy);
    if (last.score < best.score) best = last;
  }
  board.put(best.places);
}

/** What a hole loses in the mean of each of the next decades. */
function decadesOf({ seasons }: Board, losses: readonly number[]): number[] {
  return Array.from({ length: GUARDED }, (_, decade) => {
    const these = losses.filter((_lost, i) => Math.floor(seasons[i]! / 10) === decade);
    return these.length === 0 ? 0 : mean(these);
  });
}
