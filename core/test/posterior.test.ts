import { describe, expect, it } from 'vitest';

import { seededRng } from '../src/math/index.ts';
import {
  columnHalfLength,
  columnsWithin,
  DEFAULT_COLUMNS,
  drawTruth,
  learnTrunk,
  overlapOf,
  readingChances,
  stainedShare,
  trunkToday,
  type SeenShavings,
  type Trunk,
  type TrunkDraw,
  type TrunkTruth
} from '../src/trunk/index.ts';

/* What the shavings teach, held against sums over a million possible truths weighed one by one. */

const BIT = 7.9375;
const DEPTH = 38.1;
const RING_CV = 0.35;
const hole = (season: number, bearingDeg: number, heightMm: number) => ({
  season,
  bearingDeg,
  heightMm,
  bitMm: BIT,
  depthMm: DEPTH
});
const trunk: Trunk = trunkToday(380, 1.6, 2027, [hole(2012, 180, 1000), hole(2020, 183, 1090)]);
const look = (seen: SeenShavings['seen'], brownShare: number | null = null): SeenShavings => ({
  hole: 1,
  seen,
  brownShare,
  brownFromMm: null
});
const SPOT = { bearingDeg: 181, heightMm: 900 };

/** Is a new hole at the spot clear under a truth? */
function clearAt(draw: TrunkDraw): boolean {
  const round = 2 * Math.PI * trunk.woodRadiusMm;
  const left = (SPOT.bearingDeg / 360) * round;
  const overlaps = draw.flatMap((column) => {
    const offset = ((column.leftMm - left + 1.5 * round) % round) - round / 2;
    return overlapOf(column, { offsetMm: offset, heightMm: SPOT.heightMm, bitMm: BIT, depthMm: DEPTH }) ?? [];
  });
  return stainedShare(overlaps, BIT, DEPTH) <= DEFAULT_COLUMNS.hitShare;
}

/** The stained share of the second hole's path when it was drilled, from the first one's column. */
function sharedThen(truth: TrunkTruth): number {
  const [first, second] = trunk.holes;
  const [a, b] = truth.holes;
  const since = b!.buriedMm * truth.growth;
  const from = Math.max(0, a!.buriedMm * truth.growth - since);
  const radius = trunk.woodRadiusMm - since;
  const long = columnHalfLength(a!.ratio * Math.exp(truth.logSize), BIT, a!.halfWidthMm);
  const up = second!.heightMm + b!.upMm - first!.heightMm - a!.upMm;
  if (from >= DEPTH || Math.abs(up) >= long) return 0;
  const drift = (radius / (trunk.woodRadiusMm - a!.buriedMm * truth.growth)) * a!.leftMm;
  const apart = (((first!.bearingDeg - second!.bearingDeg) * Math.PI) / 180) * radius + drift - b!.leftMm;
  const centre = apart + up * Math.tan((truth.leanDeg * Math.PI) / 180);
  const half = a!.halfWidthMm * (1 - (up / long) ** 2);
  const wide = Math.min(BIT / 2, centre + half) - Math.max(-BIT / 2, centre - half);
  return wide <= 0 ? 0 : (wide * (Math.min(DEPTH, from + DEPTH) - from)) / (BIT * DEPTH);
}

/** Chance of clear wood and mean lean after a look, each possible truth weighed by how well it explains it. */
function weighed(seen: SeenShavings): { pClear: number; lean: number } {
  const rng = seededRng(99);
  let [all, clear, lean] = [0, 0, 0];
  for (let i = 0; i < 150_000; i++) {
    const truth = drawTruth(trunk, DEFAULT_COLUMNS, rng, RING_CV);
    const stained = sharedThen(truth);
    let weight = readingChances(stained, DEFAULT_COLUMNS.hitShare)[seen.seen];
    if (seen.brownShare !== null) weight *= 0.02 + Math.exp(-0.5 * ((seen.brownShare - stained) / 0.12) ** 2);
    weight += 1e-6;
    all += weight;
    lean += weight * truth.leanDeg;
    if (clearAt(columnsWithin(trunk, truth, DEPTH))) clear += weight;
  }
  return { pClear: clear / all, lean: lean / all };
}

const learnt = (seen: readonly SeenShavings[], seed: number, draws = 500) =>
  learnTrunk(trunk, seen, DEFAULT_COLUMNS, { draws, depthMm: DEPTH, seed, ringCv: RING_CV });
const clearShare = (draws: readonly TrunkDraw[]) => draws.filter(clearAt).length / draws.length;

describe('the posterior of a trunk (self-consistency: over seeds of the same model)', () => {
  it('does not hang on the seed while growth is uncertain: spread over 24 seeds at most 0.03', () => {
    for (const seen of [[], [look('pale')], [look('brown')], [look('partly', 0.5)]]) {
      const found = Array.from({ length: 24 }, (_, i) => clearShare(learnt(seen, 1000 + i).draws));
      const mean = found.reduce((a, b) => a + b, 0) / found.length;
      const sd = Math.sqrt(found.reduce((sum, p) => sum + (p - mean) ** 2, 0) / (found.length - 1));
      expect([seen[0]?.seen, sd <= 0.03, sd]).toEqual([seen[0]?.seen, true, sd]);
    }
  });

  it('holds as many growths as it holds truths', () => {
    const depths = new Set(learnt([look('brown')], 5).draws.flatMap((draw) => draw.map((c) => c.fromDepthMm)));
    expect(depths.size).toBeGreaterThan(100);
  });

  it.each([
    ['pale', null],
    ['brown', null],
    ['partly', 0.5]
  ] as const)('agrees with weighing every truth: %s', (seen, share) => {
    const exact = weighed(look(seen, share));
    const { draws, learned } = learnt([look(seen, share)], 3, 6000);
    expect(Math.abs(clearShare(draws) - exact.pClear)).toBeLessThan(0.025);
    expect(Math.abs(learned.leanMeanDeg - exact.lean)).toBeLessThan(0.35);
  });
});
