import { describe, expect, it } from 'vitest';

import { mean, seededRng } from '../src/math/index.ts';
import { dayAfter, forecastError, learnForecasts, type KeptForecast, type WeatherDay } from '../src/season/index.ts';
import { fenceEffect, gradedEffect, thinningEffect, type BeforeAndAfter } from '../src/thinning/index.ts';

describe('what a thinning did', () => {
  /** Trees of which some are freed: good years and bad ones for all, and what freeing does. */
  function bush(freed: number, others: number, { effect, year }: { effect: number; year: number }, seed: number) {
    const rng = seededRng(seed);
    return Array.from({ length: freed + others }, (_, i): BeforeAndAfter => {
      const before = rng.normal(1.8, 0.5);
      const isFreed = i < freed;
      const after = before + year + (isFreed ? effect : 0) + rng.normal(0, 0.4);
      return { id: String(i), freed: isFreed, kind: 'sweet', dbhMm: rng.normal(300, 50), before, after };
    });
  }

  it('is how much more the freed trees changed, worked by hand', () => {
    const tree = (id: string, freed: boolean, before: number, after: number) => ({
      id,
      freed,
      kind: 'sweet',
      dbhMm: 300,
      before,
      after
    });
    const { effect, compared } = thinningEffect(
      [tree('a', true, 1, 2), tree('b', true, 2, 2.6), tree('c', false, 1, 1.2), tree('d', false, 2, 2.4)],
      6
    );
    // (1 + 0.6) / 2 - (0.2 + 0.4) / 2
    expect(effect).toBeCloseTo(0.5, 9);
    expect(compared).toBe(2);
  });

  it('lies within its interval in about 80 of 100 thinnings, whatever the years did to all', () => {
    let inside = 0;
    const tries = 600;
    for (let seed = 0; seed < tries; seed++) {
      const truth = { effect: 0.3, year: seed % 2 === 0 ? 0.5 : -0.4 };
      const { low, high } = thinningEffect(bush(25, 40, truth, seed), 6);
      if (low <= truth.effect && truth.effect <= high) inside += 1;
    }
    // Self-consistency: trees drawn as the comparison takes them to be.
    expect(inside / tries).toBeGreaterThan(0.75);
    expect(inside / tries).toBeLessThan(0.86);
  });

  it('is not told too early, from too few, or where nothing is comparable', () => {
    const truth = { effect: 0.6, year: 0 };
    expect(thinningEffect(bush(30, 60, truth, 1), 2).verdict).toBe('tooEarly');
    expect(thinningEffect(bush(5, 60, truth, 1), 6).verdict).toBe('tooFew');
    expect(thinningEffect(bush(30, 60, truth, 1), 6).verdict).toBe('more');
    expect(thinningEffect(bush(30, 60, { effect: -0.6, year: 0 }, 1), 6).verdict).toBe('less');
    const otherKind = bush(10, 20, truth, 1).map((tree) => (tree.freed ? tree : { ...tree, kind: 'red' }));
    expect(thinningEffect(otherKind, 6)).toMatchObject({ compared: 0, alone: 10, verdict: 'tooFew' });
  });
});

describe('forecasts', () => {
  it('are as wrong as is assumed until some are known, and then as they were here', () => {
    expect(learnForecasts([], []).firstC).toBeCloseTo(1.2, 6);
    expect(forecastError(learnForecasts([], []), 4)).toBeCloseTo(1.2 + 4 * 0.35, 6);
    const rng = seededRng(23);
    const came = Array.from({ length: 120 }, (_, i): WeatherDay => ({
      on: dayAfter('2026-01-01', i),
      minC: -5,
      maxC: 5
    }));
    const kept = came.slice(0, 100).map(({ on }, i): KeptForecast => ({
      madeOn: on,
      days: came.slice(i, i + 8).map((day, ahead) => ({
        on: day.on,
        minC: day.minC + rng.normal(0.8, 0.5 + 0.6 * ahead),
        maxC: day.maxC + rng.normal(0.8, 0.5 + 0.6 * ahead)
      }))
    }));
    const learned = learnForecasts(kept, came);
    expect(Math.abs(learned.tooWarmC - 0.8)).toBeLessThan(0.15);
    expect(
      mean([0, 2, 4, 6].map((ahead) => Math.abs(forecastError(learned, ahead) - (0.5 + 0.6 * ahead))))
    ).toBeLessThan(0.2);
    expect(learned.days).toBe(800);
  });
});

describe('places whose trees were freed in part', () => {
  // Textbook example of a fitted line, worked by hand: slope 2, residual sum of squares 0.06, 3 degrees of freedom.
  const places = [
    { share: 0, before: 1, after: 1.1 },
    { share: 0.25, before: 1, after: 1.4 },
    { share: 0.5, before: 1, after: 2.1 },
    { share: 0.75, before: 1, after: 2.4 },
    { share: 1, before: 1, after: 3.1 }
  ];

  it('are fitted by a line whose interval is Student’s: t of 1.638 for 80 % and 3 degrees of freedom (any table)', () => {
    const { effect, low, high, verdict } = gradedEffect(places, 5);
    expect(effect).toBeCloseTo(2, 10);
    const left = places.map(({ share, after }) => after - 1 - (0.02 + 2 * share));
    const squares = left.reduce((sum, each) => sum + each ** 2, 0);
    const half = 1.638 * Math.sqrt(squares / 3 / 0.625);
    expect(high - effect).toBeGreaterThan(0.99 * half);
    expect(high - effect).toBeLessThan(1.01 * half);
    expect(effect - low).toBeCloseTo(high - effect, 10);
    expect(verdict).toBe('more');
  });

  it('say nothing where there are few of them, all freed alike, or too early', () => {
    expect(gradedEffect(places.slice(0, 4), 5).verdict).toBe('tooFew');
    expect(
      gradedEffect(
        places.map((each) => ({ ...each, share: 0.4 + each.share / 20 })),
        5
      ).verdict
    ).toBe('tooFew');
    expect(gradedEffect(places, 2).verdict).toBe('tooEarly');
    expect(gradedEffect([], 5).verdict).toBe('tooFew');
  });

  it('hold the truth in 75 to 85 of 100, where there is one (simulated)', () => {
    const rng = seededRng(31);
    let held = 0;
    for (let run = 0; run < 2000; run++) {
      const told = Array.from({ length: 7 }, (_, i) => ({
        share: i / 6,
        before: rng.normal(1, 0.1),
        after: rng.normal(1 + (0.12 * i) / 6, 0.1)
      }));
      const { low, high } = gradedEffect(told, 6);
      if (low <= 0.12 && high >= 0.12) held++;
    }
    expect(held / 2000).toBeGreaterThan(0.75);
    expect(held / 2000).toBeLessThan(0.85);
  });
});

describe('plots inside fences and outside', () => {
  const plot = (fenced: boolean, waist: number) => ({
    radiusM: Math.sqrt(100 / Math.PI),
    counts: {
      maple: { knee: 5, waist, above: 0 },
      beech: { knee: 0, waist: 0, above: 0 },
      other: { knee: 0, waist: 0, above: 0 },
      invasive: { knee: 0, waist: 0, above: 0 }
    },
    browsed: null,
    fenced
  });
  it('are compared by what stands above the knee, with Welch’s interval, worked by hand', () => {
    const inside = [12, 9, 14, 9].map((n) => plot(true, n));
    const outside = [3, 1, 4, 0].map((n) => plot(false, n));
    const told = fenceEffect([...inside, ...outside], 5);
    // Means 11 and 2 on 100 m², variances 6 and 3.33, standard error 1.528, 5.56 degrees of freedom, t of 1.454.
    expect([told.inside, told.outside, told.more].map(Math.round)).toEqual([1100, 200, 900]);
    expect((told.high - told.more) / 100).toBeCloseTo(1.454 * 1.528, 1);
    expect(told.verdict).toBe('more');
    expect(fenceEffect([...inside, ...outside], 1).verdict).toBe('tooEarly');
    expect(fenceEffect([...inside.slice(0, 2), ...outside], 5).verdict).toBe('tooFew');
    expect(fenceEffect([...inside, ...inside.map((each) => ({ ...each, fenced: false }))], 5).verdict).toBe(
      'cannotTell'
    );
  });
});
