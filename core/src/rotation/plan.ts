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
const GUARD_HOTTEST = 0.025;
/** with so much of the tries. */
const GUARD_TRIES = 0.12;

/**
 * The holes of the coming seasons, planned together: the sum of what each is expected to lose to all older ones, weighed by
 * how far ahead the bush looks (`seasonWeights`), is made as small as it can be found. Being careful with this season alone
 * leaves gaps that later fit nothing; a good rotation packs the girth so that a place comes round again when new wood has
 * buried the old hole.
 *
 * Starts from the better of the greedy choice and many even spacings (steps along the girth at one to four heights by
 * turns), and improves it by simulated annealing. Where a decade of the next fifty years would lose more than simple ways do,
 * that decade counts for more, and the plan is gone over until none does, or as often as that may help. The work is set by the
 * trunk, not by the clock: the same task gives the same plan.
 * @param before what was planned already, counted from the first season: where it is better than both, it is what is improved
 * @returns by season; fewer than asked in a season whose spacing leaves no room
 */
export function planRotation(task: RotationTask, before: readonly MeantHole[] = []): PlannedHole[] {
  const weights = weightsOf(task);
  const board = new Board(task, weights);
  greedyStart(board);
  const greedy = { places: board.places(), parts: partsOf(board, board.losses()), cost: board.total() };
  evenStart(board, Math.max(1, ...task.taps));
  const even = partsOf(board, board.losses());
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
    const judge = new Judge(board, weights, limitsOf(greedy.parts, even));
    guardParts(judge, { greedy: greedy.places, beyond: isHard(even) ? BEYOND : 1 }, () => anneal(board, again, rng));
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

/**
 * Parts of the next fifty years that may not lose more than simple ways do, in seasons from the first: no more than greed does,
 * and where much is stained even in the best even spacing, no more than that either. So in the second half on every trunk, where
 * greed is at its worst.
 */
const GUARDED = [
  [0, 10],
  [10, 20],
  [20, 30],
  [30, 40],
  [40, 50],
  [25, 50]
] as const;
/** The last decade of them, */
const LAST_DECADE = 4;
/** and the second half. */
const SECOND_HALF = 5;
/** The first season after them. */
const PROMISED = 50;
/** What is planned past those years is looked for again before it comes: on hard trunks it counts for so much until then. */
const BEYOND = 0.1;
/** A trunk is a hard one, and a decade, from this share of a path on, which the best even spacing loses in it. Working assumption. */
const HARD = 0.02;
/** So often the plan is gone over for their sake. */
const GUARD_ROUNDS = 14;
/** More by a smaller share than this is no more. */
const AS_MUCH = 1.01;
/** Nor is it by less than this, as a share of a path: nobody could tell it in a lifetime. */
const TOLD_APART = 5e-5;
/**
 * Columns of an even spacing lie over each other, and take less of a path than if it met them independently: by so much of the
 * square of what is reckoned, where much is stained. From trunks that were lived through.
 */
const NESTED = 0.06;
/** From this share of a path on much is stained. */
const MUCH = 0.2;
/** In the last decade, where most of them lie over each other, they take so much of what is reckoned. From the same. */
const NESTED_LAST = 0.98;
/** What a part loses more than it may counts so much more than what all holes lose. */
const GUARD = 2.5;
/** What a part counts for grows by at least this while it loses more than it may, */
const LEAST_GUARD_STEP = 1.3;
/** and is changed by no more than this from one going over to the next. */
const GUARD_STEP = 3;
/** Between them it grows with so high a power of what it loses over what it may. */
const GUARD_POWER = 4;

/** What a hole loses in the mean of each guarded part. */
function partsOf({ seasons }: Board, losses: readonly number[]): number[] {
  return GUARDED.map(([from, until]) => {
    const these = losses.filter((_, i) => seasons[i]! >= from && seasons[i]! < until);
    return these.length === 0 ? 0 : mean(these.map((lost) => Math.min(1, lost)));
  });
}

const isHard = (even: readonly number[]) => even[LAST_DECADE]! > HARD;

function limitsOf(greedy: readonly number[], even: readonly number[]): number[] {
  return greedy.map((lost, part) => {
    const stepped = asStepped(even[part]!) * (part === LAST_DECADE ? NESTED_LAST : 1);
    const simple = part === SECOND_HALF || even[part]! > HARD ? Math.min(lost, stepped) : lost;
    return AS_MUCH * simple + TOLD_APART;
  });
}

/** What holes of an even spacing lose, by what they would if their columns were met independently. */
const asStepped = (lost: number) => (lost < MUCH ? lost : lost - NESTED * lost ** 2);

interface Judged {
  readonly places: readonly Place[];
  /** by guarded part: what it loses over what it may */
  readonly over: readonly number[];
  /** how much more than they may its parts lose, together */
  readonly short: number;
  readonly score: number;
}

/** Judges what is on the board: by what it loses, as the bush weighs it, and by what guarded parts lose more than they may. */
class Judge {
  constructor(
    readonly board: Board,
    readonly weights: readonly number[],
    readonly limits: readonly number[]
  ) {}

  judged(): Judged {
    const { board, weights, limits } = this;
    const losses = board.losses().map((lost) => Math.min(1, lost));
    const counts = losses.map((_, i) => weights[board.seasons[i]!]!);
    const weighed = sum(losses.map((lost, i) => lost * counts[i]!)) / sum(counts);
    const parts = partsOf(board, losses);
    const short = sum(parts.map((lost, part) => Math.max(0, lost - limits[part]!)));
    const over = parts.map((lost, part) => lost / limits[part]!);
    return { places: board.places(), over, short, score: weighed + GUARD * short };
  }
}

interface Guard {
  /** greed's own choice loses no more than greed: it is taken where nothing better is found */
  readonly greedy: readonly Place[];
  /** what seasons after the guarded ones count for meanwhile */
  readonly beyond: number;
}

/**
 * Goes over the plan on the board until no guarded part loses more than it may, or as often as that may help. What a part counts
 * for is a multiplier of Lagrange's: it grows while the part loses too much, and falls back where it does not.
 */
function guardParts(judge: Judge, { greedy, beyond }: Guard, goOver: () => void): void {
  const { board, weights } = judge;
  let last = judge.judged();
  board.put(greedy);
  const simple = judge.judged();
  board.put(last.places);
  let best = last.score < simple.score ? last : simple;
  const multipliers = GUARDED.map(() => 1);
  for (let round = 0; round < GUARD_ROUNDS && best.short > TOLD_APART; round++) {
    for (const [part, over] of last.over.entries()) {
      const more = Math.min(GUARD_STEP, Math.max(LEAST_GUARD_STEP, over ** GUARD_POWER));
      const by = over > 1 ? more : Math.max(1 / GUARD_STEP, over);
      multipliers[part] = Math.max(1, multipliers[part]! * by);
    }
    const counts = (season: number) => (season < PROMISED ? countsIn(season, multipliers) : beyond);
    board.weigh(weights.map((weight, season) => weight * counts(season)));
    goOver();
    last = judge.judged();
    if (last.score < best.score) best = last;
  }
  board.put(best.places);
}

/** What a season counts for by the guarded parts that it lies in. */
function countsIn(season: number, multipliers: readonly number[]): number {
  return GUARDED.reduce(
    (all, [from, until], part) => (season >= from && season < until ? all * multipliers[part]! : all),
    1
  );
}
