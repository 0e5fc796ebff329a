import { NOWHERE, roundOf, wrapped, type Board, type Place } from './board.ts';
import type { MeantHole, RotationTask } from './task.ts';

/** What a place would cost a hole; past the least so far it need not be exact. */
type CostAt = (round: number, heightMm: number, least: number) => number;

/** The choice of somebody who looks at each season alone: its clearest cell. Leaves it on the board. */
export function greedyStart(board: Board): void {
  for (let i = 0; i < board.planned; i++)
    putInBestCell(board, i, (round, heightMm, least) => board.lostAt(i, round, heightMm, least));
}

/**
 * Holes that were planned stay, as far as they may be drilled there now; each of the others takes the cell where it costs
 * least, itself and the others.
 * @param before counted from the first season of the task
 */
export function fillWith(board: Board, { practice }: RotationTask, before: readonly MeantHole[]): void {
  const { lowestMm, highestMm } = practice;
  const waiting = [...before];
  const places = Array.from(board.seasons, (season): Place => {
    const at = waiting.findIndex((hole) => hole.season === season);
    if (at < 0) return NOWHERE;
    const { bearingDeg, heightMm } = waiting.splice(at, 1)[0]!;
    return { round: roundOf(bearingDeg), heightMm: Math.min(highestMm, Math.max(lowestMm, heightMm)) };
  });
  board.put(places);
  const without = places.flatMap((place, i) => {
    if (place !== NOWHERE && board.mayStay(i)) return [];
    board.move(i, NOWHERE.round, NOWHERE.heightMm);
    return [i];
  });
  for (const i of without) putInBestCell(board, i, (round, heightMm, least) => board.costAt(i, round, heightMm, least));
}

function putInBestCell(board: Board, i: number, costAt: CostAt): void {
  let [best, least] = [0, Infinity];
  for (let row = 0; row < board.rows; row++) {
    const { heightMm } = board.middleOf(row * board.columns);
    for (let column = 0; column < board.columns; column++) {
      const cost = costAt((column + 0.5) / board.columns, heightMm, least);
      if (cost < least) [best, least] = [row * board.columns + column, cost];
    }
  }
  const { round, heightMm } = board.middleOf(best);
  board.move(i, round, heightMm);
}

/** An even spacing: a step along the girth each season, and heights by turns. */
interface Spacing {
  readonly levels: number;
  readonly step: number;
  readonly start: number;
}

/** So many of the best spacings are tried from every side. */
const TURNED = 8;
/** That is, from so many sides, either way round. */
const TURNS = 16;

/**
 * The best of many even spacings: steps along the girth, one to four heights by turns, where to start, which way round.
 * Leaves it on the board.
 */
export function evenStart(board: Board, most: number): void {
  const places = ({ levels, step, start }: Spacing): Place[] => {
    let nth = 0;
    return Array.from(board.seasons, (season, i) => {
      nth = i > 0 && board.seasons[i - 1] === season ? nth + 1 : 0;
      const level = levels === 1 ? 0.5 : ((season + nth) % levels) / (levels - 1);
      return { round: wrapped(start + season * step + nth / most), heightMm: board.lowestMm + board.bandMm * level };
    });
  };
  const best: { readonly spacing: Spacing; readonly cost: number }[] = [];
  /** Keeps a spacing that is among the best so far; one that is not is given up as soon as that is seen. */
  const consider = (spacing: Spacing, keep: number) => {
    board.put(places(spacing));
    const limit = best[keep - 1]?.cost ?? Infinity;
    const cost = board.total(limit);
    if (cost >= limit) return;
    best.push({ spacing, cost });
    best.sort((one, other) => one.cost - other.cost).splice(keep);
  };
  for (const levels of [1, 2, 3, 4])
    for (let i = 0; i < 39; i++) consider({ levels, step: (8 + 4 * i) / board.roundMm, start: 0 }, TURNED);
  const shapes = best.splice(1);
  for (const { levels, step } of [...best, ...shapes].map(({ spacing }) => spacing))
    for (let i = 0; i < 2 * TURNS; i++) consider({ levels, step: i % 2 ? step : -step, start: (i >> 1) / TURNS }, 1);
  board.put(places(best[0]!.spacing));
}
