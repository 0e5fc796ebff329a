import { describe, expect, it } from 'vitest';

import {
  diameterFromGirth,
  estimateGrowth,
  expectedRings,
  METHOD_SD_MM,
  RING_PRIOR,
  ringFromWidths,
  ringPrior,
  USUAL_RINGS,
  type CountedRings,
  type DatedDiameter,
  type MeasuredTree
} from '../src/measure/index.ts';
import { seededRng, type Rng } from '../src/math/index.ts';
import { readTable } from './data/read.ts';
import { foretold, type HeldBack } from './foretold.ts';

const taped = (year: number, dbhMm: number): DatedDiameter => ({ year, dbhMm, method: 'diameterTape' });
const codominant = (ringMm: number, seMm: number): MeasuredTree => ({ crownClass: 'codominant', ringMm, seMm });

const TAPE_MM = METHOD_SD_MM.diameterTape;

/** Three readings with a tape of a trunk that lays so much. */
function lived(ringMm: number, rng: Rng): DatedDiameter[] {
  const first = 200 + 200 * rng.uniform();
  return [2012, 2017, 2026].map((year) => taped(year, first + 2 * ringMm * (year - 2012) + rng.normal(0, TAPE_MM)));
}

describe('what a bush lays', () => {
  it('in a bush that grows slowly an unmeasured tree is expected to grow slowly too', () => {
    const slow = Array.from({ length: 40 }, (_, i) => codominant(0.7 + 0.01 * (i % 5), 0.2));
    const { classes } = expectedRings(slow);
    const unmeasured = estimateGrowth([], { crownClass: 'codominant' }, expectedRings(slow));
    expect(unmeasured.ringMm).toBeGreaterThan(0.7);
    expect(unmeasured.ringMm).toBeLessThan(0.8);
    // Other classes know nothing of it but how like each other trees are here, and a handful moves little.
    expect(classes.dominant.meanMm).toBeCloseTo(RING_PRIOR.dominant.meanMm, 9);
    expect(classes.dominant.sdMm).toBeLessThan(RING_PRIOR.dominant.sdMm);
    const one = expectedRings(slow.slice(0, 1)).classes.codominant;
    expect(one.sdMm).toBeGreaterThan(0.4);
    expect(one.meanMm).toBeGreaterThan(1);
    expect(expectedRings([])).toEqual(USUAL_RINGS);
  });

  it('finds the mean of many simulated trees, whatever the tapes, and leaves a rough tape little say', () => {
    const rng = seededRng(4);
    const trees = (seMm: number) =>
      Array.from({ length: 300 }, () => ({
        crownClass: 'dominant' as const,
        ringMm: rng.normal(rng.normal(2.3, 0.6), seMm),
        seMm
      }));
    const fine = expectedRings(trees(0.1)).classes.dominant.meanMm;
    expect(fine).toBeGreaterThan(2.2);
    expect(fine).toBeLessThan(2.4);
    const rough = expectedRings([{ crownClass: 'dominant', ringMm: 6, seMm: 3 }]).classes.dominant.meanMm;
    expect(rough - RING_PRIOR.dominant.meanMm).toBeLessThan(0.2);
  });

  describe('learns how far single trees stray', () => {
    it.each([
      ['hardly at all, in a slow plantation', 0.8, 0.08],
      ['as usual', 1.4, 0.4],
      ['far, in woods of all ages', 2.4, 0.6]
    ])('%s (self-consistency)', (_, ringMm, logSd) => {
      // Log-normal and not as the prior has it.
      const rng = seededRng(21);
      const found = foretold(
        Array.from({ length: 226 }, () => ({
          tree: { crownClass: null },
          readings: lived(ringMm * Math.exp(rng.normal(-(logSd ** 2) / 2, logSd)), rng)
        }))
      );
      expect(found.learned).toBeLessThan(1.01 * Math.min(found.usual, found.own));
      // Of trees that are all alike their plain mean is the best there is.
      expect(found.learned).toBeLessThan((logSd < 0.1 ? 1.08 : 1) * found.plain);
      // Three standard errors of a share of 226 about what is asked for.
      expect(found.held).toBeGreaterThan(0.72);
      expect(found.held).toBeLessThan(0.88);
    });

    it('a little from a few trees, and more from many', () => {
      const usual = RING_PRIOR.codominant;
      const alike = (many: number) =>
        expectedRings(Array.from({ length: many }, () => codominant(usual.meanMm, 0.02))).classes.codominant.sdMm /
        usual.sdMm;
      expect(alike(1)).toBeGreaterThan(0.7);
      expect(alike(1)).toBeLessThan(1);
      expect(alike(10)).toBeLessThan(0.6);
      expect(alike(100)).toBeLessThan(0.3);
    });
  });

  describe('tells stands and species apart', () => {
    /** A good stand and a poor one, and red maples that lay less; rings log-normal, some trees of a third stand. */
    const bush = (seed: number): HeldBack[] => {
      const rng = seededRng(seed);
      return Array.from({ length: 120 }, (_, i) => {
        const standId = i % 40 === 0 ? 'seldom' : i % 2 === 0 ? 'good' : 'poor';
        const species = rng.uniform() < 0.3 ? 'redMaple' : 'sugarMaple';
        const mean =
          1.4 * (standId === 'good' ? 1.35 : standId === 'poor' ? 0.7 : 1) * (species === 'redMaple' ? 0.8 : 1.1);
        return {
          tree: { crownClass: null, standId, species },
          readings: lived(mean * Math.exp(rng.normal(-0.02, 0.2)), rng)
        };
      });
    };

    it('so that held-back readings are told better than by crown class alone (self-consistency)', () => {
      const found = [1, 2, 3].map((seed) => foretold(bush(seed)));
      const meanOf = (of: (each: (typeof found)[number]) => number) =>
        found.reduce((sum, each) => sum + of(each), 0) / 3;
      expect(meanOf(({ learned }) => learned)).toBeLessThan(0.97 * meanOf(({ classesAlone }) => classesAlone));
      expect(meanOf(({ learned }) => learned)).toBeLessThan(meanOf(({ own }) => own));
      expect(meanOf(({ learned }) => learned)).toBeLessThan(meanOf(({ plain }) => plain));
      expect(meanOf(({ held }) => held)).toBeGreaterThan(0.74);
      expect(meanOf(({ held }) => held)).toBeLessThan(0.86);
    });

    it('and expects of an unmeasured tree what its stand and species lay', () => {
      const learned = expectedRings(
        bush(4).map(({ tree, readings }) => ({ ...tree, ...estimateGrowth(readings, tree).observed! }))
      );
      const of = (standId: string | null, species: string | null) =>
        ringPrior(learned, { crownClass: null, standId, species });
      expect(of('good', 'sugarMaple').meanMm / of('poor', 'sugarMaple').meanMm).toBeCloseTo(1.35 / 0.7, 0);
      expect(of('good', 'redMaple').meanMm).toBeLessThan(0.9 * of('good', 'sugarMaple').meanMm);
      // Of a stand with three measured trees nothing is told apart: it is known less well, as one never seen.
      expect(Object.keys(learned.stands).sort()).toEqual(['good', 'poor']);
      expect(of('seldom', 'sugarMaple')).toEqual(of(null, 'sugarMaple'));
      const share = (standId: string) => of(standId, 'sugarMaple').sdMm / of(standId, 'sugarMaple').meanMm;
      expect(share('seldom')).toBeGreaterThan(1.1 * Math.max(share('good'), share('poor')));
    });

    it('not where one stand alone was measured, nor where stands are alike', () => {
      const rng = seededRng(5);
      const trees = (standOf: (i: number) => string) =>
        Array.from({ length: 80 }, (_, i) => ({ ...codominant(rng.normal(1.4, 0.5), 0.2), standId: standOf(i) }));
      expect(expectedRings(trees(() => 'one')).stands).toEqual({});
      const alike = expectedRings(trees((i) => `stand ${i % 4}`));
      for (const share of Object.values(alike.stands)) expect(Math.abs(share)).toBeLessThan(0.1);
      expect(alike.standSd).toBeLessThan(0.15);
    });

    it('as a linear mixed model does (its normal equations, by hand for two stands)', () => {
      const trees = [1.0, 1.1, 1.2, 1.1, 1.0, 1.9, 2.0, 1.8, 2.1, 2.0].map((ringMm, i) => ({
        ...codominant(ringMm, 0.1),
        standId: i < 5 ? 'a' : 'b'
      }));
      const { classes, stands, standSd } = expectedRings(trees);
      const usual = RING_PRIOR.codominant.meanMm;
      const shift = classes.codominant.meanMm - usual;
      const rest = (stand: 'a' | 'b') =>
        trees
          .filter(({ standId }) => standId === stand)
          .reduce((sum, { ringMm }) => sum + ringMm - usual - shift - usual * stands[stand]!, 0) /
        ((classes.codominant.sdMm * (1 + stands[stand]!)) ** 2 + 0.01);
      // How far the trees of a stand stray is known before its effect is, in turns: hence not to the last digit.
      expect(Math.abs((rest('a') + rest('b')) * 0.25 - shift)).toBeLessThan(0.01);
      for (const stand of ['a', 'b'] as const)
        expect(Math.abs(usual * rest(stand) * standSd ** 2 - stands[stand]!)).toBeLessThan(0.01);
    });
  });

  it('tells held-back orange trees better than each tree alone, the plain mean and the default', () => {
    // R datasets::Orange: five trees, the girths of three autumns; the last from the two before it.
    const autumns = [664, 1004, 1372];
    const rows = readTable('orange.csv').filter((row) => autumns.includes(row.age_d!));
    const found = foretold(
      [1, 2, 3, 4, 5].map((tree) => ({
        tree: { crownClass: null },
        readings: rows
          .filter((row) => row.tree === tree)
          .map((row) => taped(row.age_d! / 365, diameterFromGirth(row.circumference_mm!)))
      }))
    );
    expect(found.learned).toBeLessThan(Math.min(found.own, found.plain, found.usual));
    expect(found.held).toBeGreaterThanOrEqual(0.8);
  });
});

describe('counted rings', () => {
  const core = (widths: Partial<CountedRings>): CountedRings => ({
    source: 'core',
    last5Mm: null,
    last10Mm: null,
    last20Mm: null,
    ...widths
  });

  it('tell the ring with an error of their own, the ten last ones best', () => {
    expect(ringFromWidths(core({}))).toBeNull();
    const five = ringFromWidths(core({ last5Mm: 7 }))!;
    const all = ringFromWidths(core({ last5Mm: 7, last10Mm: 15, last20Mm: 34 }))!;
    expect(five.ringMm).toBeCloseTo(1.4, 9);
    expect(all.ringMm).toBeCloseTo(1.5, 9);
    expect(all.seMm).toBeLessThan(five.seMm);
    // A stump shows the whole round, a core one radius of it.
    expect(ringFromWidths({ ...core({ last10Mm: 15 }), source: 'stump' })!.seMm).toBeLessThan(all.seMm);
  });

  it('say of a tree that was never measured before what years of readings would', () => {
    const counted = [core({ last10Mm: 6 })];
    const growth = estimateGrowth([taped(2026, 300)], { crownClass: 'codominant', counted });
    expect(growth.ringMm).toBeLessThan(0.85);
    expect(growth.ringMm).toBeGreaterThan(0.6);
    expect(growth.weightOfReadings).toBeGreaterThan(0.8);
    // Beside long readings they count by their errors.
    const readings = [taped(2006, 300), taped(2026, 356)];
    const both = estimateGrowth(readings, { crownClass: 'codominant', counted }).observed!;
    const [tape, rings] = [estimateGrowth(readings, { crownClass: null }).observed!, ringFromWidths(counted[0]!)!];
    expect(both.ringMm).toBeGreaterThan(rings.ringMm);
    expect(both.ringMm).toBeLessThan(tape.ringMm);
    expect(both.seMm).toBeLessThan(Math.min(tape.seMm, rings.seMm));
  });
});
