import { Board } from './board.ts';
import { fillWith } from './starts.ts';
import { read, weightsOf, type MeantHole, type PlannedHole, type RotationTask } from './task.ts';

/** Seasons over which the price of a hole is told: those that a steward and who comes after her drill. */
export const PRICE_SEASONS = 40;

/** What one hole brings now and costs later on its trunk, both in the yield of a hole in clear wood. */
export interface HolePrice {
  /** share of a hole's yield that it gives this season */
  readonly now: number;
  /** what the holes of the next seasons lose to its column, added up */
  readonly later: number;
}

/**
 * The price of one hole more than planned this season: it is drilled in the place where it costs least, and all others stay where they
 * are planned. What the later holes lose to its column is what it costs.
 * @param plan of the task
 * @returns null where no place keeps its distance from this season's holes
 */
export function priceOfHole(task: RotationTask, plan: readonly MeantHole[]): HolePrice | null {
  const without = lossesOf(task, plan);
  const more = lossesOf(withTaps(task, 1), plan);
  const now = (losses: readonly PlannedHole[]) => losses.filter(({ season }) => season === 0).length;
  return now(more) > now(without) ? priceBetween(without, more) : null;
}

/**
 * The price of the dearest of this season's planned holes: without it all others stay where they are planned.
 * @param plan of the task
 * @returns null where none is planned
 */
export function dearestHole(task: RotationTask, plan: readonly MeantHole[]): HolePrice | null {
  const all = lossesOf(task, plan);
  const prices = plan.flatMap((hole) => {
    if (hole.season > 0) return [];
    const others = plan.filter((each) => each !== hole);
    return priceBetween(lossesOf(withTaps(task, -1), others), all);
  });
  return prices.reduce<HolePrice | null>(
    (dearest, each) => (dearest && dearest.later - dearest.now >= each.later - each.now ? dearest : each),
    null
  );
}

/** The same where a bush loses less to stain. @param stainLoss share of its sap that a tap loses whose path is all stained, 0..1 */
export const priceBy = ({ now, later }: HolePrice, stainLoss: number): HolePrice => ({
  now: 1 - stainLoss * (1 - now),
  later: stainLoss * later
});

/** What the hole that one of two plans has more brings and costs. */
function priceBetween(without: readonly PlannedHole[], more: readonly PlannedHole[]): HolePrice {
  const lost = (losses: readonly PlannedHole[], from: number, to: number) =>
    losses.reduce((sum, hole) => sum + (hole.season >= from && hole.season <= to ? hole.lost : 0), 0);
  return {
    now: Math.max(0, 1 - (lost(more, 0, 0) - lost(without, 0, 0))),
    later: Math.max(0, lost(more, 1, PRICE_SEASONS) - lost(without, 1, PRICE_SEASONS))
  };
}

const withTaps = (task: RotationTask, more: 1 | -1): RotationTask => {
  const [now = 0, ...later] = task.taps;
  return { ...task, taps: [now + more, ...later] };
};

function lossesOf(task: RotationTask, plan: readonly MeantHole[]): PlannedHole[] {
  const board = new Board(task, weightsOf(task));
  fillWith(board, task, plan);
  return read(board);
}
