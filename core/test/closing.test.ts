import { describe, expect, it } from 'vitest';

import { mean, seededRng } from '../src/math/index.ts';
import {
  closingGauge,
  closingSpeed,
  courseOf,
  HOLE_LIVES,
  litresByHole,
  ringByBoth,
  seasonLeft,
  vigourFalls,
  type GaugeTree,
  type Scenario
} from '../src/season/index.ts';
import { simulatedYear } from './climate.ts';

const rms = (values: readonly number[]) => Math.sqrt(mean(values.map((value) => value ** 2)));

describe('the speed of closing', () => {
  it('is told by holes that were still open, and is at least so much where all were closed', () => {
    const open = { bitMm: 8, gapMm: 3, summers: 2 };
    const closed = { bitMm: 8, gapMm: 0, summers: 2 };
    expect(closingSpeed([open, closed])).toEqual({ mmASummer: 2.5, holes: 1, atLeast: false });
    expect(closingSpeed([closed, { ...closed, summers: 1 }])).toEqual({ mmASummer: 8, holes: 2, atLeast: true });
    expect(closingSpeed([])).toBeNull();
  });
});

describe('closing as a gauge of growth', () => {
  /** Trees whose rings differ, and whose speed of closing follows with a slope and a scatter. */
  function bush(many: number, { slope, scatter }: { slope: number; scatter: number }, seed: number): GaugeTree[] {
    const rng = seededRng(seed);
    return Array.from({ length: many }, () => {
      const ringMm = Math.max(0.3, rng.normal(1.8, 0.7));
      return { ringMm, mmASummer: 1 + slope * ringMm + rng.normal(0, scatter) };
    });
  }

  it('says nothing with fewer than thirty trees, and nothing where it tells no more than their mean', () => {
    expect(closingGauge(bush(29, { slope: 2, scatter: 0.1 }, 1))).toMatchObject({ usable: false, why: 'tooFew' });
    const tries = 200;
    let wrongly = 0;
    for (let seed = 0; seed < tries; seed++)
      if (closingGauge(bush(40, { slope: 0, scatter: 1 }, seed)).usable) wrongly += 1;
    expect(wrongly / tries).toBeLessThan(0.03);
    expect(closingGauge(Array.from({ length: 40 }, () => ({ ringMm: 2, mmASummer: 3 })))).toMatchObject({
      why: 'notConfirmed'
    });
  });

  it('misses trees that it never saw by what it says', () => {
    const gauge = closingGauge(bush(60, { slope: 2, scatter: 0.8 }, 3));
    if (!gauge.usable) throw new Error('It has to be usable.');
    const others = bush(2000, { slope: 2, scatter: 0.8 }, 4);
    const missed = rms(others.map((tree) => gauge.ring(tree.mmASummer) - tree.ringMm));
    expect(missed / gauge.missesMm).toBeGreaterThan(0.8);
    expect(missed / gauge.missesMm).toBeLessThan(1.25);
  });

  it('beats two readings of the girth, or of a diameter tape, from a scatter on that is printed', () => {
    // Ring from two readings three years apart, 1 sd: girth tape 0.71 mm, diameter tape 0.47 mm.
    const beats = (slope: number, scatter: number, tapeMm: number) => {
      const gauge = closingGauge(bush(60, { slope, scatter }, 11));
      return gauge.usable && gauge.missesMm < tapeMm;
    };
    for (const tapeMm of [0.71, 0.47]) {
      const upTo = [1, 2, 3, 4].map((slope) => {
        let scatter = 0;
        while (beats(slope, scatter + 0.05, tapeMm)) scatter += 0.05;
        return { slope, scatter };
      });
      console.log(
        `Closing beats a tape of ${tapeMm} mm up to a scatter of ` +
          upTo.map(({ slope, scatter }) => `${scatter.toFixed(2)} mm at a slope of ${slope}`).join(', ')
      );
      // Among rings that differ by 0.7 mm, 1 sd, the mean alone misses by as much. The error of a line read backwards is about its scatter by its slope, and drawn to the mean where that is large.
      for (const { slope, scatter } of upTo) expect(scatter / slope).toBeGreaterThan(0.4);
      expect(upTo[3]!.scatter).toBeGreaterThan(2 * upTo[0]!.scatter);
    }
  });

  it('never outvotes a tape, and warns where a tree closes clearly slower than it grew', () => {
    const both = ringByBoth({ ringMm: 2, seMm: 0.5 }, { ringMm: 1, seMm: 0.05 });
    expect(both.ringMm).toBeCloseTo(1.5, 9);
    expect(ringByBoth({ ringMm: 2, seMm: 0.5 }, { ringMm: 1, seMm: 1 }).ringMm).toBeCloseTo(1.8, 9);
    expect(ringByBoth(null, { ringMm: 1, seMm: 1 })).toEqual({ ringMm: 1, seMm: 1 });
    expect(vigourFalls({ ringMm: 2.2, seMm: 0.3 }, { ringMm: 1.2, seMm: 0.4 })).toBe(true);
    expect(vigourFalls({ ringMm: 2.2, seMm: 0.6 }, { ringMm: 1.6, seMm: 0.5 })).toBe(false);
  });
});

describe('what is left of a season', () => {
  const rng = seededRng(17);
  const scenarios = Array.from({ length: 40 }, (): Scenario => ({
    course: courseOf(simulatedYear(2027, rng), { species: 'sugarMaple', sunny: false })!,
    weight: 1
  }));
  const round = { lifeDays: HOLE_LIVES.bucket };

  it('for a hole of today is what a hole of that day gives, and less for one that has aged', () => {
    const fresh = seasonLeft(scenarios, { drilled: 70, today: 70 }, round);
    expect(fresh.litres).toBeCloseTo(mean(scenarios.map(({ course }) => litresByHole(course, round)[70]!)), 9);
    expect(fresh.low).toBeLessThan(fresh.litres);
    expect(fresh.high).toBeGreaterThan(fresh.litres);
    expect(seasonLeft(scenarios, { drilled: 50, today: 70 }, round).litres).toBeLessThan(fresh.litres);
  });

  it('comes to an end: fewer runs, a surer end, and a last day that keeps its order', () => {
    const [early, late, gone] = [60, 100, 150].map((today) => seasonLeft(scenarios, { drilled: 60, today }, round));
    expect(early!.over).toBe(0);
    expect(early!.runs).toBeGreaterThan(late!.runs);
    expect(late!.over).toBeGreaterThan(0);
    expect(gone!).toMatchObject({ over: 1, lastRun: null, runs: 0 });
    const [first, middle, last] = early!.lastRun!;
    expect(first).toBeLessThan(middle);
    expect(middle).toBeLessThan(last);
  });
});
