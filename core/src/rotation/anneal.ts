import type { Rng } from '../math/index.ts';
import { wrapped, type Board } from './board.ts';

/** How an annealing cools, in shares of a hole, and how many changes it tries for each hole that it may move. */
export interface Cooling {
  readonly hottest: number;
  readonly coldest: number;
  readonly stepsAHole: number;
}

/** Of the changes, so many let two holes change places. */
const SWAPS = 0.2;
/** And so many move a hole anywhere. */
const FAR = 0.08;

/** It cools after so many changes. */
const COOL_EVERY = 32;

/** A hole is moved by up to so much to either side at first, mm. */
const SIDE_MM = 36;
/** And by up to so much up or down, mm. */
const UP_MM = 120;
/** By so small a share of it in the end. */
const LAST_MOVES = 0.07;

/**
 * Simulated annealing (Kirkpatrick, Gelatt & Vecchi 1983) from where the board's holes are: one hole is moved a little or
 * anywhere, or changes places with one of another season. Leaves the best that it met on the board.
 * The innermost loop of the whole tool: what each hole costs is kept, so that a change that is too dear is given up after a
 * few of the others.
 * @param first the first hole that may be moved; those before it stay
 */
export function anneal(board: Board, { hottest, coldest, stepsAHole }: Cooling, rng: Rng, first = 0): void {
  const { fixed, planned, seasons, rounds, heights, lowestMm, bandMm, roundMm } = board;
  const ledger = new Ledger(board);
  const { own } = ledger;

  let cost = board.total();
  let best = cost;
  const [keptRounds, keptHeights] = [rounds.slice(), heights.slice()];
  const movable = planned - first;
  const steps = Math.round(stepsAHole * movable);
  let [part, heat, scale] = [0, hottest, 2];
  for (let step = 0; step < steps; step++) {
    if (step % COOL_EVERY === 0) {
      part = step / steps;
      heat = hottest * (coldest / hottest) ** part;
      scale = 2 * LAST_MOVES ** part;
    }
    // A change is taken when it costs less than this: the same as taking it by chance, said before.
    const leave = -heat * Math.log(1 - rng.uniform());
    const i = first + Math.floor(rng.uniform() * movable);
    const kind = rng.uniform();
    const [round, height] = [rounds[fixed + i]!, heights[fixed + i]!];
    if (kind < SWAPS) {
      const k = first + Math.floor(rng.uniform() * movable);
      if (seasons[k] === seasons[i]) continue;
      const [otherRound, otherHeight] = [rounds[fixed + k]!, heights[fixed + k]!];
      const limit = own[i]! + own[k]! + leave;
      board.move(i, otherRound, otherHeight);
      board.move(k, round, height);
      const one = board.costOf(i, limit);
      const two = one > limit ? Infinity : board.costOf(k, limit - one);
      if (one + two > limit) {
        board.move(i, round, height);
        board.move(k, otherRound, otherHeight);
        continue;
      }
      cost += one + two - own[i]! - own[k]!;
      ledger.enter(k, two);
      ledger.enter(i, board.costOf(i, Infinity));
    } else {
      const far = kind < SWAPS + FAR;
      const toRound = far ? rng.uniform() : wrapped(round + ((rng.uniform() - 0.5) * SIDE_MM * scale) / roundMm);
      const up = far ? rng.uniform() * bandMm : height - lowestMm + (rng.uniform() - 0.5) * UP_MM * scale;
      const toHeight = lowestMm + Math.min(bandMm, Math.max(0, up));
      const limit = own[i]! + leave;
      const now = board.costAt(i, toRound, toHeight, limit);
      if (now > limit) continue;
      board.move(i, toRound, toHeight);
      cost += now - own[i]!;
      ledger.enter(i, now);
    }
    if (cost < best - 1e-7 && part > 0.5) {
      best = cost;
      keptRounds.set(rounds);
      keptHeights.set(heights);
    }
  }
  for (let i = 0; i < planned; i++) board.move(i, keptRounds[fixed + i]!, keptHeights[fixed + i]!);
}

/** What every hole costs where it is, kept while holes are moved. */
class Ledger {
  /** by planned hole: what it costs, itself and the others */
  readonly own: Float64Array;
  /** by two planned holes: what they cost each other */
  readonly #pairs: Float64Array;

  constructor(readonly board: Board) {
    const { planned } = board;
    this.#pairs = new Float64Array(planned * planned);
    this.own = Float64Array.from({ length: planned }, (_, i) => {
      const cost = board.costOf(i, Infinity);
      this.#write(i);
      return cost;
    });
  }

  /** Takes over what hole i costs where it is now: what the board was asked last. */
  enter(i: number, cost: number): void {
    const { own, board } = this;
    const [pairs, n] = [this.#pairs, board.planned];
    for (let k = 0; k < n; k++) {
      const before = pairs[i * n + k]!;
      if (before === 0) continue;
      own[k]! -= before;
      pairs[i * n + k] = 0;
      pairs[k * n + i] = 0;
    }
    this.#write(i);
    for (let at = 0; at < board.metCount; at++) {
      const k = board.met[at]! - board.fixed;
      if (k >= 0) own[k]! += board.metCost[at]!;
    }
    own[i] = cost;
  }

  #write(i: number): void {
    const { met, metCost, metCount, fixed, planned } = this.board;
    for (let at = 0; at < metCount; at++) {
      const k = met[at]! - fixed;
      if (k < 0) continue;
      this.#pairs[i * planned + k] = metCost[at]!;
      this.#pairs[k * planned + i] = metCost[at]!;
    }
  }
}
