import { describe, expect, it } from 'vitest';

import { mean, seededRng } from '../src/math/index.ts';
import { dayAfter, forecastError, learnForecasts, type KeptForecast, type WeatherDay } from '../src/season/index.ts';
import { thinningEffect, type BeforeAndAfter } from '../src/thinning/index.ts';

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
