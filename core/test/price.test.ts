import { describe, expect, it } from 'vitest';

import { kernelFor, PlacedTrunk, type PlacementTask } from '../src/rotation/index.ts';
import { depthShared } from '../src/rotation/kernel.ts';
import { dearestHole, priceBy, priceOfHole } from '../src/rotation/price.ts';
import type { RotationTask } from '../src/rotation/task.ts';
import { DEFAULT_COLUMNS, DEFAULT_PRACTICE, trunkToday } from '../src/trunk/index.ts';

const BIT = 7.9375;
const kernel = kernelFor(BIT, BIT, DEFAULT_COLUMNS);
const task = (taps: readonly number[], ringMm = 1.2): RotationTask => ({
  woodRadiusMm: 160,
  ringMm,
  practice: { depthMm: 38.1, lowestMm: 600, highestMm: 1500, spacingMm: 300 },
  kernel,
  past: [],
  taps,
  seed: 1
});
const at = (season: number, bearingDeg: number, heightMm: number) => ({ season, bearingDeg, heightMm });

describe('the price of a hole', () => {
  it('is what a later hole right above it loses to its column, by the kernel and the rings between them', () => {
    const plan = [at(0, 90, 800), at(5, 90, 900)];
    const price = dearestHole(task([1, 0, 0, 0, 0, 1]), plan)!;
    expect(price.now).toBe(1);
    // The trunk grows by five rings between the two.
    const growth = (160 + 5 * 1.2) / 160;
    const lost = kernel.at(0, 100, growth) * depthShared(5 * 1.2, 38.1, 38.1);
    expect(price.later).toBeGreaterThan(0.1);
    expect(Math.abs(price.later - lost)).toBeLessThan(0.01);
  });

  it('is nothing where what comes after it is far from it, or so late that wood has grown over it', () => {
    expect(dearestHole(task([1, 1]), [at(0, 90, 800), at(1, 270, 800)])!.later).toBeLessThan(0.001);
    const late = Array.from({ length: 36 }, (_, season) => (season % 35 === 0 ? 1 : 0));
    expect(dearestHole(task(late), [at(0, 90, 800), at(35, 90, 810)])!.later).toBeLessThan(0.001);
  });

  it('is less where a bush loses less to stain: what it brings grows, what it takes shrinks', () => {
    const price = { now: 0.4, later: 0.5 };
    expect(priceBy(price, 1)).toEqual(price);
    // Six tenths of its path are stained: at half the loss that costs three tenths.
    expect(priceBy(price, 0.5)).toEqual({ now: 0.7, later: 0.25 });
  });
  it('of several holes the dearest is told, and of none nothing', () => {
    const plan = [at(0, 90, 800), at(0, 270, 800), at(1, 90, 830)];
    expect(dearestHole(task([2, 1]), plan)!.later).toBeGreaterThan(0.3);
    expect(dearestHole(task([0, 1]), [at(1, 90, 830)])).toBeNull();
  });

  it('of one hole more is less where there is room for it, and none where this season’s leave no room', () => {
    const crowded = Array.from({ length: 6 }, (_, i) => at(0, 60 * i, 800));
    const narrow = { ...task([6]), practice: { depthMm: 38.1, lowestMm: 750, highestMm: 850, spacingMm: 300 } };
    expect(priceOfHole(narrow, crowded)).toBeNull();
    const roomy = priceOfHole(task([1, 1]), [at(0, 90, 800), at(1, 270, 800)])!;
    expect(roomy.now).toBeGreaterThan(0.99);
    expect(roomy.later).toBeLessThan(0.01);
  });

  it('on a thin trunk that hardly grows a tap in a narrow band takes most of it back; on a stout one next to nothing', () => {
    const dearest = (dbhMm: number, ringMm: number, bandMm: number) => {
      const placement: PlacementTask = {
        trunk: trunkToday(dbhMm, ringMm, 2027, []),
        practice: { ...DEFAULT_PRACTICE, highestMm: DEFAULT_PRACTICE.lowestMm + bandMm, spacingMm: 150 },
        model: DEFAULT_COLUMNS,
        seed: 1,
        draws: 20,
        cellMm: 60,
        ringMm,
        ringCv: 0.1,
        wanted: 0,
        taps: 2
      };
      return new PlacedTrunk(placement).dearest()!;
    };
    expect(dearest(550, 2.2, 900).later).toBeLessThan(0.05);
    expect(dearest(220, 0.2, 80).later).toBeGreaterThan(0.5);
  });
});
