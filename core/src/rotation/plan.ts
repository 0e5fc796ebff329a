import type { BarkSpot } from '../geometry/index.ts';
import { seededRng } from '../math/index.ts';
import type { DrillPractice } from '../trunk/index.ts';
import { anneal, type Cooling } from './anneal.ts';
import { Board, roundOf, type Place } from './board.ts';
import { FORESIGHTS, seasonWeights, type Foresight } from './foresight.ts';
import type { LossKernel } from './kernel.ts';
import { evenStart, fillUp, greedyStart } from './starts.ts';

/** A hole that is in the trunk already. */
export interface PastHole extends BarkSpot {
  /** wood laid over it by the first planned season, mm */
  readonly buriedMm: number;
  readonly depthMm: number;
  /** bit that drilled it; the new holes' where it is not known */
  readonly bitMm?: number;
  /** of its own bit and the new one, where that is not the plan's; of the same belief about the grain */
  readonly kernel?: LossKernel;
  /** below 1 for one of several places where a hole of unknown place may be */
  readonly weight?: number;
}

export interface RotationTask {
  /** radius under the bark in the first planned season, and what it grows by each season, mm */
  readonly woodRadiusMm: number;
  readonly ringMm: number;
  /** relative uncertainty of the ring width; 0 where nothing is said */
  readonly ringCv?: number;
  readonly practice: Pick<DrillPractice, 'depthMm' | 'lowestMm' | 'highestMm' | 'spacingMm'>;
  readonly kernel: LossKernel;
  readonly past: readonly PastHole[];
  /** holes of each season, in order; its length is how far the plan looks ahead: see `seasonsToPlan` */
  readonly taps: readonly number[];
  /** may a hole be drilled there at all? Asked for the middles of cells, which reach `CELL_REACH_MM` */
  readonly allowed?: (spot: BarkSpot) => boolean;
  /** what a place costs for being unhandy, in shares of a hole */
  readonly unhandy?: (spot: BarkSpot) => number;
  /** places of the first season that are drilled already */
  readonly taken?: readonly BarkSpot[];
  /** what early and late losses count for; a generation's where nothing is said */
  readonly foresight?: Foresight;
  readonly seed: number;
}

/** A place that is meant for a season: 0 is the one that is being planned. */
export interface MeantHole extends BarkSpot {
  readonly season: number;
}

export interface PlannedHole extends MeantHole {
  /** expected share of its path in stained wood, all older holes of past and plan taken into account */
  readonly lost: number;
}

/**
 * The annealing begins at these temperatures, in shares of what a hole costs in the mean when it begins: hot, to find another
 * order, and cool, to keep the one that it began from. The better of the two is taken.
 */
const HOTTEST = [0.25, 0.08] as const;
/** It ends at this temperature, in the same shares: what nobody notices. */
const COLDEST = 0.002;
/** It tries so many changes for each hole. */
const STEPS_A_HOLE = 2000;
/** And so many where holes lose next to nothing as it is. */
const STEPS_WHERE_CLEAR = 700;
/** Less stained wood than this, as a share of the path, is next to nothing. */
const CLEAR = 0.002;

/** A plan looks past the burial of today's holes by so many seasons, so that those of the next years find their followers. */
const PAST_BURIAL = 15;
/** It looks at least so many seasons ahead. */
const LEAST_AHEAD = 45;
/** And at most so many. */
const MOST_AHEAD = 75;

/** How many seasons a plan has to look ahead: its last ones have nothing after them and crowd. */
export function seasonsToPlan(depthMm: number, ringMm: number): number {
  return Math.min(MOST_AHEAD, Math.max(LEAST_AHEAD, PAST_BURIAL + burialSeasons(depthMm, ringMm)));
}

/** Seasons until no drill meets the column of today's hole any more. */
function burialSeasons(depthMm: number, ringMm: number): number {
  return Math.ceil(depthMm / ringMm);
}

/**
 * The holes of the coming seasons, planned together: the sum of what each is expected to lose to all older ones, weighed by
 * how far ahead the bush looks (`seasonWeights`), is made as small as it can be found. Being careful with this season alone
 * leaves gaps that later fit nothing; a good rotation packs the girth so that a place comes round again when new wood has
 * buried the old hole.
 *
 * Starts from the better of the greedy choice and many even spacings (steps along the girth at one to four heights by
 * turns), and improves it by simulated annealing. Where a decade of the next fifty years would lose more than greed does,
 * that decade counts for more and the plan is gone over again. The work is set by the trunk, not by the clock: the same task
 * gives the same plan.
 * @returns by season; fewer than asked in a season whose spacing leaves no room
 */
export function planRotation(task: RotationTask): PlannedHole[] {
  const weights = weightsOf(task);
  const board = new Board(task, weights);
  greedyStart(board, 2);
  const greedy = { places: board.places(), cost: board.total(), decades: decadesOf(board) };
  evenStart(board, Math.max(1, ...task.taps));
  if (greedy.cost < board.total()) board.put(greedy.places);
  const start = { places: board.places(), ...cooling(board) };
  const rng = seededRng(task.seed);
  const tried = HOTTEST.map((hottest) => {
    board.put(start.places);
    anneal(board, { ...start, hottest: hottest * start.hottest }, rng);
    return { places: board.places(), ...judged(board, greedy.decades) };
  });
  const best = tried.reduce((a, b) => (b.score < a.score ? b : a));
  board.put(best.places);
  // Whoever plans for grandchildren gives some of the next years away on purpose.
  if (FORESIGHTS[task.foresight ?? 'generation'] >= 1) {
    const again = { ...start, hottest: 0.3 * start.hottest * HOTTEST[0], stepsAHole: start.stepsAHole / 2 };
    guardDecades(board, weights, greedy.decades, () => anneal(board, again, rng));
  }
  board.weigh(weights);
  return read(board);
}

/**
 * A plan taken a season on: its holes stay where they are, seasons that it did not reach get the places where they cost
 * least, and the last seasons, which had nothing after them, are gone over once more.
 * @param before holes that were planned, counted from the season that is planned now
 */
export function carryOn(task: RotationTask, before: readonly MeantHole[]): PlannedHole[] {
  const board = new Board(task, weightsOf(task));
  const { lowestMm, highestMm } = task.practice;
  const waiting = [...before];
  fillUp(
    board,
    Array.from(board.seasons, (season): Place | null => {
      const at = waiting.findIndex((hole) => hole.season === season);
      if (at < 0) return null;
      const { bearingDeg, heightMm } = waiting.splice(at, 1)[0]!;
      return { round: roundOf(bearingDeg), heightMm: Math.min(highestMm, Math.max(lowestMm, heightMm)) };
    })
  );
  const unsettled = board.seasons.findIndex((season) => season >= task.taps.length - UNSETTLED);
  const { hottest, coldest } = cooling(board);
  if (unsettled >= 0)
    anneal(board, { hottest: 0.03 * hottest, coldest, stepsAHole: CARRY_STEPS }, seededRng(task.seed), unsettled);
  return read(board);
}

/** So many of a plan's last seasons are moved about still when it is taken a season on. */
const UNSETTLED = 25;
/** With so many tries for each hole. */
const CARRY_STEPS = 300;

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

function weightsOf({ taps, practice, ringMm, foresight = 'generation' }: RotationTask): number[] {
  return seasonWeights(taps.length, burialSeasons(practice.depthMm, ringMm), FORESIGHTS[foresight]);
}

function cooling(board: Board): Cooling {
  const holes = Math.max(1, board.planned);
  const mean = board.total() / holes;
  const lost = board.losses().reduce((sum, each) => sum + each, 0) / holes;
  return {
    hottest: mean,
    coldest: COLDEST * mean,
    stepsAHole: lost < CLEAR ? STEPS_WHERE_CLEAR : STEPS_A_HOLE
  };
}

function read(board: Board): PlannedHole[] {
  const losses = board.losses();
  return board.places().flatMap(({ round, heightMm }, i) => {
    const lost = losses[i]!;
    return lost > 1 ? [] : [{ season: board.seasons[i]!, bearingDeg: 360 * round, heightMm, lost }];
  });
}

/** Decades that may not lose more than greed does. */
const GUARDED = 5;
/** So often the plan is gone over for their sake. */
const GUARD_ROUNDS = 3;
/** More than greed's by a smaller share than this is none. */
const AS_MUCH = 1.03;
/** Nor is it by less than this in all, as a share of a path: nobody could tell it in a lifetime. */
const TOLD_APART = 5e-5;
/** What a decade loses more than greed does counts so much more than what all decades lose. */
const GUARD = 2;

/** What the plan on the board loses by decade, how much more that is than greed's, and how good it is by both. */
function judged(board: Board, greedy: readonly number[]) {
  const decades = decadesOf(board);
  const short = decades.reduce((sum, lost, decade) => sum + Math.max(0, lost - asMuch(greedy[decade]!)), 0);
  return { decades, short, score: decades.reduce((a, b) => a + b, 0) + GUARD * short };
}

const asMuch = (lost: number) => AS_MUCH * lost + TOLD_APART;

/** Goes over the plan on the board until no decade loses more than greed's, or as often as that may help. */
function guardDecades(board: Board, weights: readonly number[], greedy: readonly number[], goOver: () => void): void {
  let last = { places: board.places(), ...judged(board, greedy) };
  let best = last;
  let guarded = weights;
  for (let round = 0; round < GUARD_ROUNDS && last.short > 0; round++) {
    guarded = guarded.map((weight, season) => {
      const decade = Math.floor(season / 10);
      const over = decade < GUARDED ? last.decades[decade]! / asMuch(greedy[decade]!) : 0;
      return over <= 1 ? weight : weight * Math.min(2, Math.max(1.1, over));
    });
    board.weigh(guarded);
    goOver();
    last = { places: board.places(), ...judged(board, greedy) };
    if (last.score < best.score) best = last;
  }
  board.put(best.places);
}

/** What a hole loses in the mean of each of the next decades. */
function decadesOf(board: Board): number[] {
  const losses = board.losses();
  return Array.from({ length: GUARDED }, (_, decade) => {
    const these = losses.filter((_lost, i) => Math.floor(board.seasons[i]! / 10) === decade);
    return these.length === 0 ? 0 : these.reduce((a, b) => a + Math.min(1, b), 0) / these.length;
  });
}
