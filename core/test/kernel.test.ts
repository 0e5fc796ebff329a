import { describe, expect, it } from 'vitest';

import { shortOrLong } from '../../testing/long.ts';
import { mean, seededRng } from '../src/math/index.ts';
import { depthShared, HiddenTrunk, LossKernel, type RuleTree } from '../src/rotation/index.ts';
import { DEFAULT_COLUMNS } from '../src/trunk/index.ts';

const BIT = 7.9375;
const DEPTH = 38.1;
const kernel = new LossKernel(BIT, DEFAULT_COLUMNS);

describe('the loss kernel (self-consistency: against drilling drawn from the same model)', () => {
  it('is what drilling says, a millimetre off its own grid too: one old hole, one new hole, both off their place', () => {
    // Planners look for the places that cost least, and find every fault of the kernel: at 35 mm one millimetre is a tenth.
    const draws = shortOrLong(10_000, 100_000);
    for (const [side, up, laid] of [
      [35, 0, 0],
      [-25, 200, 0],
      [35, 0, 20]
    ] as const) {
      const tree: RuleTree = {
        woodRadiusMm: 150,
        ringMm: 1,
        bitMm: BIT,
        depthMm: DEPTH,
        lowestMm: 600,
        highestMm: 1210,
        taps: 1
      };
      const radius = tree.woodRadiusMm + laid;
      const spot = { bearingDeg: 90 + (side / radius) * (180 / Math.PI), heightMm: 900 + up };
      const lost = Array.from({ length: draws }, (_, k) => {
        const hidden = new HiddenTrunk(tree, DEFAULT_COLUMNS, seededRng(k));
        hidden.drill(0, [{ bearingDeg: 90, heightMm: 900 }]);
        return hidden.drill(laid, [spot])[0]!.lost;
      });
      const said = kernel.at(side, up, radius / tree.woodRadiusMm) * depthShared(laid, DEPTH, DEPTH);
      const sd = Math.sqrt(mean(lost.map((each) => (each - mean(lost)) ** 2)));
      // Three standard errors of the drilling, and three in a hundred that the kernel's steps may leave open.
      expect(Math.abs(mean(lost) - said)).toBeLessThan((3 * sd) / Math.sqrt(draws) + 0.03 * said);
    }
  });

  it('turned by half a circle is the same, and widens as errors grow with the trunk', () => {
    expect(kernel.at(24, 140)).toBeCloseTo(kernel.at(-24, -140), 6);
    expect(kernel.at(45, 0, 1.35)).toBeGreaterThan(kernel.at(45, 0));
    expect(kernel.at(0, 0, 1.35)).toBeLessThan(kernel.at(0, 0));
  });

  it('leans as the grain leans', () => {
    const leaning = new LossKernel(BIT, DEFAULT_COLUMNS, { leanMeanDeg: 8, leanSdDeg: 1, sizeFactor: 1 });
    expect(leaning.at(25, 180)).toBeGreaterThan(3 * leaning.at(-25, 180));
  });
});
