import { seededRng } from '../math/index.ts';
import { anneal } from './anneal.ts';
import { Board, roundOf } from './board.ts';
import { planRotation } from './plan.ts';
import { fillWith } from './starts.ts';
import { cooling, read, weightsOf, type MeantHole, type PlannedHole, type RotationTask } from './task.ts';

/** Which planner this is: whoever changes what it finds counts on, so that kept plans are looked at again. */
export const ROTATION_PLANNER = 3;

/**
 * So many of a plan's last seasons are moved about still when it is taken a season on: they had nothing after them. On slow trunks
 * they are those after the first fifty, which were promised.
 */
export const UNSETTLED = 7;
/** With so many tries for each hole. */
const CARRY_STEPS = 300;

/**
 * A plan taken a season on: its holes stay where they are, those that may not be drilled there any more and the seasons that
 * it did not reach get the places where they cost least, and the last seasons, which had nothing after them, are gone over
 * once more.
 * @param before holes that were planned, counted from the season that is planned now
 */
export function carryOn(task: RotationTask, before: readonly MeantHole[]): PlannedHole[] {
  const board = new Board(task, weightsOf(task));
  fillWith(board, task, before);
  const unsettled = board.seasons.findIndex((season) => season >= task.taps.length - UNSETTLED);
  const { hottest, coldest } = cooling(board);
  if (unsettled >= 0)
    anneal(board, { hottest: 0.03 * hottest, coldest, stepsAHole: CARRY_STEPS }, seededRng(task.seed), unsettled);
  return read(board);
}

/**
 * Whoever walks by a plan has to trust it: another one has to save at least so much stained wood, in the mean of its holes, as a
 * share of a path. Working assumption: half a thousandth cannot be told in a lifetime.
 */
export const TRUST = 0.0005;
/** And at least this share of what the plan loses. Working assumption. */
const TRUST_SHARE = 0.05;

/** What became of a plan when it was looked at again. */
export interface Renewed {
  readonly plan: readonly PlannedHole[];
  /** was another plan better by more than a change costs in trust? */
  readonly changed: boolean;
  /** what the best other plan that was found saves in the mean of the holes, as a share of a path; null where none was looked for */
  readonly saves: number | null;
}

/**
 * A plan looked at again with what is known now. It is carried on; only where it no longer holds what it promised, or where it is
 * asked for, another one is looked for, and taken where it is better by more than a change costs in trust.
 * @param kept what was planned, with the losses that were expected then, counted from the season that is planned now
 * @param lookAnew look for another plan even where this one holds what it promised: more may be possible now
 */
export function renew(task: RotationTask, kept: readonly PlannedHole[], lookAnew: boolean): Renewed {
  const plan = carryOn(task, kept);
  const settled = Math.min(task.taps.length - UNSETTLED, 1 + Math.max(-1, ...kept.map(({ season }) => season)));
  const holds = meanLost(task, plan, settled) <= meanLost(task, kept, settled) + TRUST;
  if (holds && !lookAnew) return { plan, changed: false, saves: null };
  const fresh = backWhereItCostsLittle(task, planRotation(task, plan), plan);
  const now = meanLost(task, plan);
  const saves = Math.max(0, now - meanLost(task, fresh));
  const changed = saves > Math.max(TRUST, TRUST_SHARE * now);
  return { plan: changed ? fresh : plan, changed, saves };
}

/** A hole goes back to where it was planned when that costs no more than this, as a share of a path. Working assumption. */
const BACK = 0.0002;

/** A new plan with as many holes as possible where the one before had them: nobody is to be led elsewhere for nothing. */
function backWhereItCostsLittle(
  task: RotationTask,
  fresh: readonly PlannedHole[],
  before: readonly PlannedHole[]
): PlannedHole[] {
  const weights = weightsOf(task);
  const board = new Board(task, weights);
  fillWith(board, task, fresh);
  const waiting = [...before];
  board.seasons.forEach((season, i) => {
    const at = waiting.findIndex((hole) => hole.season === season);
    if (at < 0) return;
    const [was] = waiting.splice(at, 1);
    const round = roundOf(was!.bearingDeg);
    const more = board.costAt(i, round, was!.heightMm, Infinity) - board.costOf(i, Infinity);
    if (more <= BACK * weights[season]!) board.move(i, round, was!.heightMm);
  });
  return read(board);
}

/** What the holes of the first seasons lose in the mean, weighed as the bush looks ahead; one without a place loses all. */
function meanLost(task: RotationTask, holes: readonly PlannedHole[], seasons = task.taps.length): number {
  const weights = weightsOf(task);
  let [sum, all] = [0, 0];
  for (let season = 0; season < seasons; season++) {
    const asked = task.taps[season]! - (season === 0 ? (task.taken?.length ?? 0) : 0);
    const lost = holes.flatMap((hole) => (hole.season === season ? [hole.lost] : []));
    const without = Math.max(0, asked - lost.length);
    sum += weights[season]! * (without + lost.reduce((a, b) => a + b, 0));
    all += weights[season]! * (without + lost.length);
  }
  return all === 0 ? 0 : sum / all;
}
