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
  const costed = (spacing: Spacing) => {
    board.put(places(spacing));
    return { spacing, cost: board.total() };
  };
  const shapes = [1, 2, 3, 4].flatMap((levels) =>
    Array.from({ length: 39 }, (_, i) => costed({ levels, step: (8 + 4 * i) / board.roundMm, start: 0 }))
  );
  const turned = shapes
    .sort((a, b) => a.cost - b.cost)
    .slice(0, TURNED)
    .flatMap(({ spacing: { levels, step } }) =>
      Array.from({ length: 2 * TURNS }, (_, i) =>
        costed({ levels, step: i % 2 ? step : -step, start: (i >> 1) / TURNS })
      )
    );
  const best = [...shapes, ...turned].reduce((a, b) => (b.cost < a.cost ? b : a));
  board.put(places(best.spacing));
}
