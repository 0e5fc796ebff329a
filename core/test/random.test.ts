import { describe, expect, it } from 'vitest';

import { normalCdf, seededRng, seedFrom } from '../src/math/index.ts';

describe('random numbers', () => {
  it('normal distribution function against printed tables (Abramowitz & Stegun 1964, table 26.1)', () => {
    for (const [z, p] of [
      [0, 0.5],
      [0.5, 0.6914625],
      [1, 0.8413447],
      [1.5, 0.9331928],
      [1.96, 0.9750021],
      [2.5, 0.9937903],
      [3, 0.9986501]
    ] as const) {
      expect(normalCdf(z)).toBeCloseTo(p, 6);
      expect(normalCdf(-z)).toBeCloseTo(1 - p, 6);
    }
  });

  it('have the moments they are asked for', () => {
    const rng = seededRng(11);
    const n = 100_000;
    const normal = Array.from({ length: n }, () => rng.normal(5, 2));
    expect(mean(normal)).toBeCloseTo(5, 1);
    expect(Math.sqrt(mean(normal.map((x) => (x - 5) ** 2)))).toBeCloseTo(2, 1);
    // Log-normal: median as given, mean median * exp(sigma^2 / 2).
    const ratio = Array.from({ length: n }, () => rng.logNormal(75, 0.55));
    expect([...ratio].sort((a, b) => a - b)[n / 2]! / 75).toBeCloseTo(1, 1);
    expect(mean(ratio) / (75 * Math.exp(0.55 ** 2 / 2))).toBeCloseTo(1, 1);
    // "20 to 200 times the hole" (common practice) holds 95 % of the column model's volumes.
    expect(ratio.filter((r) => r > 20 && r < 200).length / n).toBeGreaterThan(0.95);
    const uniform = Array.from({ length: n }, () => rng.uniform());
    expect(Math.min(...uniform.slice(0, 1000))).toBeGreaterThanOrEqual(0);
    expect(Math.max(...uniform.slice(0, 1000))).toBeLessThan(1);
    expect(mean(uniform)).toBeCloseTo(0.5, 2);
  });

  it('are the same for the same seed and differ between seeds', () => {
    const draw = (seed: number) => {
      const rng = seededRng(seed);
      return Array.from({ length: 5 }, () => rng.normal(0, 1));
    };
    expect(draw(3)).toEqual(draw(3));
    expect(draw(3)).not.toEqual(draw(4));
    // Neighbouring seeds know nothing of each other: their first numbers have the moments of any others.
    const first = Array.from({ length: 4000 }, (_, k) => draw(5 + 7919 * k)[0]!);
    expect(Math.abs(mean(first))).toBeLessThan(0.06);
    expect(Math.abs(mean(first.map((x) => x * x)) - 1)).toBeLessThan(0.1);
    expect(seedFrom('tree 1')).toBe(seedFrom('tree 1'));
    expect(seedFrom('tree 1')).not.toBe(seedFrom('tree 2'));
  });
});

function mean(values: readonly number[]): number {
  return values.reduce((sum, value) => sum + value, 0) / values.length;
}
