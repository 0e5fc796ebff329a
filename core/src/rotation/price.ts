import { Board } from './board.ts';
import { fillWith } from './starts.ts';
import { read, weightsOf, type MeantHole, type RotationTask } from './task.ts';

/** Seasons over which the price of a hole is told: those that a steward and who comes after her drill. */
export const PRICE_SEASONS = 40;

/** What one hole more this season brings now and costs later on its trunk, both in the yield of a hole in clear wood. */
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
  const [now, ...later] = task.taps;
  const more = lossesOf({ ...task, taps: [(now ?? 0) + 1, ...later] }, plan);
  const ofSeason = (losses: typeof more, season: number) => losses.filter((hole) => hole.season === season);
  if (ofSeason(more, 0).length <= ofSeason(without, 0).length) return null;
  const sum = (losses: typeof more, from: number) =>
    losses.reduce((all, { season, lost }) => all + (season >= from && season <= PRICE_SEASONS ? lost : 0), 0);
  return {
    now: Math.max(0, 1 - (sum(more, 0) - sum(more, 1) - (sum(without, 0) - sum(without, 1)))),
    later: Math.max(0, sum(more, 1) - sum(without, 1))
  };
}

function lossesOf(task: RotationTask, plan: readonly MeantHole[]) {
  const board = new Board(task, weightsOf(task));
  fillWith(board, task, plan);
  return read(board);
}
