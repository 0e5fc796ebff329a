import type { BarkSpot } from '../geometry/index.ts';
import type { DrillPractice } from '../trunk/index.ts';
import type { Cooling } from './anneal.ts';
import type { Board } from './board.ts';
import { FORESIGHTS, seasonWeights, type Foresight } from './foresight.ts';
import type { LossKernel } from './kernel.ts';

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
  /** may a hole be drilled there at all, in the first season or later? Asked for the middles of cells, which reach `CELL_REACH_MM` */
  readonly allowed?: (spot: BarkSpot, now: boolean) => boolean;
  /** what a place costs for being unhandy, in the first season or later, in shares of a hole */
  readonly unhandy?: (spot: BarkSpot, now: boolean) => number;
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

/** A plan looks past the burial of today's holes by so many seasons, so that those of the next years find their followers. */
const PAST_BURIAL = 6;
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

/** It ends at this temperature, in the same shares: what nobody notices. */
const COLDEST = 0.002;
/** It tries so many changes in all, */
const STEPS = 285_000;
/** for each hole no more than this, */
const MOST_STEPS_A_HOLE = 5000;
/** and no fewer, however many there are. */
const LEAST_STEPS_A_HOLE = 1200;
/** For each hole so many where holes lose next to nothing as it is. */
const STEPS_WHERE_CLEAR = 700;
/** Less stained wood than this, as a share of the path, is next to nothing. */
const CLEAR = 0.002;

/** What a loss counts for, by season of a task. */
export function weightsOf({ taps, practice, ringMm, foresight = 'generation' }: RotationTask): number[] {
  return seasonWeights(taps.length, burialSeasons(practice.depthMm, ringMm), FORESIGHTS[foresight]);
}

/** How what is on the board is annealed: hot enough to change what its holes cost in the mean. */
export function cooling(board: Board): Cooling {
  const holes = Math.max(1, board.planned);
  const mean = board.total() / holes;
  const lost = board.losses().reduce((sum, each) => sum + each, 0) / holes;
  return {
    hottest: mean,
    coldest: COLDEST * mean,
    stepsAHole:
      lost < CLEAR ? STEPS_WHERE_CLEAR : Math.min(MOST_STEPS_A_HOLE, Math.max(LEAST_STEPS_A_HOLE, STEPS / holes))
  };
}

/** What is on the board, as a plan. */
export function read(board: Board): PlannedHole[] {
  const losses = board.losses();
  return board.places().flatMap(({ round, heightMm }, i) => {
    const lost = losses[i]!;
    return lost > 1 ? [] : [{ season: board.seasons[i]!, bearingDeg: 360 * round, heightMm, lost }];
  });
}
