import { describe, expect, it } from 'vitest';

import { seededRng } from '../src/math/index.ts';
import { insideBark } from '../src/measure/index.ts';
import { growthBalance, longRunStainedShare } from '../src/taps/index.ts';
import { columnHalfLength, DEFAULT_COLUMNS } from '../src/trunk/index.ts';

/**
 * The growth balance gives the long-run stained share as 1 - exp(-phi). Here it is found by drilling: holes at random on
 * the idealised band of the formula (it wraps round both ways and keeps its girth), columns drawn from the model, rings
 * laid every year, and the stained share of the drill path measured at random spots once the band is in balance.
 */
function drilledShare(
  { dibMm, ringMm, bandMm, taps: tapsPerYear = 1 }: { dibMm: number; ringMm: number; bandMm: number; taps?: number },
  seed: number,
  trunk: 'ideal' | 'real' = 'ideal'
): number {
  const rng = seededRng(seed);
  const [bit, depth] = [7.9375, 38.1];
  // A real trunk grows: it has the asked diameter in the last of the years that are looked at.
  const years = trunk === 'ideal' ? 300 : 30;
  const lasting = Math.ceil(depth / ringMm);
  type Column = { turn: number; z: number; halfWidth: number; halfLength: number; year: number };
  let columns: Column[] = [];
  const shares: number[] = [];
  for (let year = 0; year < lasting + years; year++) {
    const round = Math.PI * (trunk === 'ideal' ? dibMm : dibMm - 2 * ringMm * (lasting + years - 1 - year));
    columns = columns.filter((c) => year - c.year < lasting);
    for (let tap = 0; tap < tapsPerYear; tap++) {
      const ratio = rng.logNormal(DEFAULT_COLUMNS.volumeRatioMedian, DEFAULT_COLUMNS.volumeRatioSigma);
      const halfWidth = bit / 2 + rng.logNormal(DEFAULT_COLUMNS.sideMarginMedianMm, DEFAULT_COLUMNS.sideMarginSigma);
      columns.push({
        turn: rng.uniform(),
        z: rng.uniform() * bandMm,
        halfWidth,
        halfLength: columnHalfLength(ratio, bit, halfWidth),
        year
      });
    }
    if (year < lasting) continue;
    for (let spot = 0; spot < 40; spot++) {
      const [turn, z] = [rng.uniform(), rng.uniform() * bandMm];
      let stained = 0;
      for (const c of columns) {
        const dz = Math.abs(z - c.z);
        // On a real band a column that runs over its edge is lost there; on the ideal one it comes in again.
        const part = (trunk === 'ideal' ? Math.min(dz, bandMm - dz) : dz) / c.halfLength;
        const dx = Math.abs(turn - c.turn) * round;
        if (part < 1 && Math.min(dx, round - dx) < c.halfWidth * (1 - part * part))
          // Columns reach from their burial inward, so of several the youngest takes the most of the path.
          stained = Math.max(stained, 1 - ((year + 0.5 - c.year) * ringMm) / depth);
      }
      shares.push(Math.max(0, stained));
    }
  }
  return shares.reduce((a, b) => a + b, 0) / shares.length;
}

describe('the long-run stained share (self-consistency: the formula against drilling by the same columns)', () => {
  // Large bands, so that columns are small against them.
  it.each([
    [600, 1.5, 2000, 6],
    [600, 1.0, 2000, 6],
    [900, 2.0, 1500, 12]
  ])(
    'DIB %d mm, ring %d mm, band %d mm, %d holes a year: drilling finds what the formula says',
    (dib, ring, band, taps) => {
      const balance = growthBalance({
        dbhMm: dib / insideBark(1),
        ringMm: ring,
        ringSeMm: 0,
        bitMm: 7.9375,
        depthMm: 38.1,
        bandMm: band
      });
      const said = longRunStainedShare(balance, taps);
      const found =
        [1, 2, 3]
          .map((seed) => drilledShare({ dibMm: dib, ringMm: ring, bandMm: band, taps }, seed))
          .reduce((a, b) => a + b, 0) / 3;
      expect(Math.abs(found / said - 1)).toBeLessThan(0.05);
    }
  );

  // What the formula leaves out: columns that run over the edge of the band, and a girth that was smaller when they were made.
  it.each([
    [380, 1.4, 900, 0.95],
    [305, 1.5, 610, 0.93],
    [600, 1.5, 2000, 0.98]
  ])('on a real trunk, DIB %d mm, ring %d mm, band %d mm, it is about %d of that', (dib, ring, band, share) => {
    const balance = growthBalance({
      dbhMm: dib / insideBark(1),
      ringMm: ring,
      ringSeMm: 0,
      bitMm: 7.9375,
      depthMm: 38.1,
      bandMm: band
    });
    const said = longRunStainedShare(balance, 1);
    const seeds = Array.from({ length: 200 }, (_, i) => i + 1);
    const found =
      seeds
        .map((seed) => drilledShare({ dibMm: dib, ringMm: ring, bandMm: band }, seed, 'real'))
        .reduce((a, b) => a + b, 0) / 200;
    expect(found / said).toBeGreaterThan(share - 0.05);
    expect(found / said).toBeLessThan(share + 0.05);
  });
});
