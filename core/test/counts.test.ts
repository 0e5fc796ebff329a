import fc from 'fast-check';
import { describe, expect, it } from 'vitest';

import { usualSugarPct } from '../src/identify/index.ts';
import { insideBark } from '../src/measure/index.ts';
import {
  timeToSize,
  conditionCap,
  conditionEffects,
  costOfTooEarly,
  gearFor,
  growthBalance,
  tapGuidelineById,
  tapGuidelineOf,
  guidelineTaps,
  TAP_GUIDELINES,
  longRunStainedShare,
  projectBush,
  stainedShareIn,
  tapsUnder,
  type DrilledTaps,
  type TapPolicy,
  type TapTree
} from '../src/taps/index.ts';
import { columnsOf, DEFAULT_COLUMNS, meanVolumeRatio } from '../src/trunk/index.ts';

const policy: TapPolicy = {
  guideline: tapGuidelineById('twelveEighteen'),
  bitMm: 7.9375,
  depthMm: 38.1,
  bandMm: 610,
  acceptedShare: 0.1,
  model: DEFAULT_COLUMNS,
  leastDbhMm: 0,
  minds: 'growth',
  restsWeak: true,
  stainLoss: 1
};
const tree = (change: Partial<TapTree> = {}): TapTree => ({
  dbhMm: 420,
  ringMm: 1.5,
  ringSeMm: 0.2,
  holes: [],
  conditionTaps: 4,
  sugarPct: 2.2,
  species: null,
  ...change
});

describe('stained wood in the long run', () => {
  it('comes to the closed formula of the growth balance: 1 - exp(-phi), whatever the tree', () => {
    fc.assert(
      fc.property(
        fc.double({ min: 200, max: 800, noNaN: true }),
        fc.double({ min: 0.4, max: 3, noNaN: true }),
        fc.constantFrom(7.9375, 9.525, 11.1125),
        (dbhMm, ringMm, bitMm) => {
          // One hole a year for longer than any of them stays in the way.
          const holes: DrilledTaps[] = Array.from({ length: 200 }, (_, i) => ({
            season: 2000 - i,
            bitMm,
            depthMm: 38.1
          }));
          const now = stainedShareIn(2001, { dbhMm, ringMm, holes }, policy);
          const balance = growthBalance({ dbhMm, ringMm, ringSeMm: 0, ...policy, bitMm });
          // A sum over years against an integral over them: they differ by half a year's share.
          const phi = -Math.log(1 - now);
          const halfYear = (balance.phiAtOneTap * ringMm) / 38.1;
          expect(Math.abs(phi - balance.phiAtOneTap)).toBeLessThanOrEqual(1.05 * halfYear);
          expect(longRunStainedShare(balance, 1)).toBeCloseTo(1 - Math.exp(-balance.phiAtOneTap), 12);
        }
      )
    );
  });

  it('a hole that is buried deeper than the new one goes is out of the way', () => {
    const holes = [{ season: 2000, bitMm: 8, depthMm: 38.1 }];
    expect(stainedShareIn(2030, { dbhMm: 400, ringMm: 1.5, holes }, policy)).toBe(0);
    expect(stainedShareIn(2010, { dbhMm: 400, ringMm: 1.5, holes }, policy)).toBeGreaterThan(0);
    expect(stainedShareIn(2000, { dbhMm: 400, ringMm: 1.5, holes }, policy)).toBe(0);
    // Half of an old hole twice as deep still lies across the whole of the new one.
    const deep = [{ season: 2000, bitMm: 8, depthMm: 76.2 }];
    const share = stainedShareIn(2001, { dbhMm: 400, ringMm: 1, holes: deep }, policy);
    const area = -Math.log(1 - share) * Math.PI * insideBark(400) * 610;
    expect(area).toBeCloseTo(((87.2 * Math.PI) / 4) * 64 * (37.1 / 38.1), -2);
  });
});

describe('a bush over the decades', () => {
  const options = { season: 2027, years: 40, draws: 20, seed: 5 };
  const wood = Array.from({ length: 12 }, (_, i) => tree({ dbhMm: 260 + 25 * i, ringMm: 0.7 + (i % 5) * 0.3 }));

  it('is the same for the same seed, and ends when it is told to', () => {
    expect(projectBush(wood, policy, options)).toEqual(projectBush(wood, policy, options));
    expect(projectBush(wood, policy, { ...options, onProgress: (done) => done < 3 })).toBeNull();
  });

  it('what growth carries stays under the accepted share, and size alone does not', () => {
    const careful = projectBush(wood, policy, options)!;
    const greedy = projectBush(wood, { ...policy, minds: 'size', guideline: tapGuidelineById('handbook') }, options)!;
    expect(careful.at(-1)!.stained.mean).toBeLessThan(0.1);
    expect(greedy.at(-1)!.stained.mean).toBeGreaterThan(careful.at(-1)!.stained.mean);
    for (const year of careful) {
      expect(year.taps.low).toBeLessThanOrEqual(year.taps.mean + 1e-9);
      expect(year.taps.mean).toBeLessThanOrEqual(year.taps.high + 1e-9);
      expect(year.taps.mean).toBeLessThanOrEqual(year.carried.mean + 1e-9);
    }
  });

  it('a smaller bit and a longer band never stain more', () => {
    const last = (change: Partial<TapPolicy>) =>
      projectBush(wood, { ...policy, minds: 'size', ...change }, options)!.at(-1)!.stained.mean;
    expect(last({ bitMm: 7.9375 })).toBeLessThan(last({ bitMm: 11.1125 }));
    expect(last({ bandMm: 1200 })).toBeLessThan(last({ bandMm: 610 }));
  });

  it('never taps a thin, weak or foreign tree more than each limit allows', () => {
    fc.assert(
      fc.property(
        fc.double({ min: 50, max: 900, noNaN: true }),
        fc.double({ min: 0, max: 3, noNaN: true }),
        fc.integer({ min: 0, max: 4 }),
        fc.constantFrom(...TAP_GUIDELINES),
        (dbhMm, ringMm, conditionTaps, guideline) => {
          const one = tree({ dbhMm, ringMm, conditionTaps });
          const taps = tapsUnder({ ...policy, guideline }, one);
          expect(taps).toBeLessThanOrEqual(guidelineTaps(guideline, dbhMm));
          expect(taps).toBeLessThanOrEqual(conditionTaps);
          expect(tapsUnder({ ...policy, guideline, leastDbhMm: dbhMm + 1 }, one)).toBe(0);
        }
      )
    );
  });
});

describe('sugar', () => {
  it('is each species’ own: a bush of red maples makes less syrup of as much sap', () => {
    const [sugar, red] = [usualSugarPct('sugarMaple'), usualSugarPct('redMaple')];
    expect(sugar).toBeGreaterThan(red);
    const mixed = projectBush([tree({ sugarPct: sugar }), tree({ sugarPct: red })], policy, {
      season: 2027,
      years: 3,
      draws: 2,
      seed: 1
    })!;
    expect(mixed[0]!.sugarPct).toBeGreaterThan(red);
    expect(mixed[0]!.sugarPct).toBeLessThan(sugar);
  });
});

describe('condition', () => {
  it('that is worse never allows more: dieback, an open hole, stress', () => {
    const seen = fc.record({
      diebackPct: fc.integer({ min: 0, max: 100 }),
      oldestOpenHoleYears: fc.option(fc.integer({ min: 0, max: 10 }), { nil: null }),
      stressed: fc.boolean(),
      on: fc.constant('2026-08-01'),
      peeledPct: fc.constant(null),
      peelFresh: fc.constant(false)
    });
    const today = '2026-11-23';
    fc.assert(
      fc.property(seen, fc.integer({ min: 0, max: 60 }), (now, more) => {
        const cap = conditionCap(now, today).taps;
        expect(
          conditionCap({ ...now, diebackPct: Math.min(100, now.diebackPct + more) }, today).taps
        ).toBeLessThanOrEqual(cap);
        expect(conditionCap({ ...now, oldestOpenHoleYears: 3 + more }, today).taps).toBe(0);
        expect(conditionCap({ ...now, stressed: true }, today).taps).toBe(0);
        // What is said in all is the least of what is said one by one.
        expect(cap).toBe(Math.min(...conditionEffects(now, today).map((effect) => effect.taps)));
      })
    );
  });
});

describe('a guideline of one’s own', () => {
  it('counts by its steps, and without any falls back to the default', () => {
    const own = tapGuidelineOf({
      tapGuideline: 'own',
      ownGuideline: [
        { diameterMm: 300, taps: 1 },
        { diameterMm: 500, taps: 3 }
      ]
    });
    expect([299, 300, 499, 500, 900].map((d) => guidelineTaps(own, d))).toEqual([0, 1, 1, 3, 3]);
    expect(tapGuidelineOf({ tapGuideline: 'own', ownGuideline: [] }).id).toBe('twelveEighteen');
    expect(tapGuidelineOf({ tapGuideline: 'metric', ownGuideline: [] }).id).toBe('metric');
  });
});

describe('trees that come to size', () => {
  it('by their own growth: 20 mm to go at rings of 1 mm are ten years', () => {
    const coming = timeToSize({ dbhMm: 304.8 - 20, ringMm: 1, ringSeMm: 0.2 }, policy.guideline)!;
    expect(coming).toMatchObject({ taps: 1, atDbhMm: expect.closeTo(304.8, 9) });
    expect(coming.years).toBeCloseTo(10, 9);
    expect(coming.earliest).toBeLessThan(10);
    expect(coming.latest!).toBeGreaterThan(10);
    expect(timeToSize({ dbhMm: 900, ringMm: 1, ringSeMm: 0 }, policy.guideline)).toBeNull();
    expect(timeToSize({ dbhMm: 280, ringMm: 0.2, ringSeMm: 0.3 }, policy.guideline)!.latest).toBeNull();
  });

  it('tapped too early they carry more stain than later', () => {
    const cost = costOfTooEarly({ dbhMm: 250, ringMm: 1.5, ringSeMm: 0, ...policy }, 304.8);
    expect(cost.now).toBeGreaterThan(cost.then);
    // DIB 250 * 0.95 against the check value of 305 mm inside bark: phi goes with 1 / DIB.
    expect(-Math.log(1 - cost.now)).toBeCloseTo((0.094 * 305) / (250 * 0.95), 2);
  });
});

describe('gear', () => {
  it('comes with spares, and with none for no taps', () => {
    const lines = gearFor(100, 'buckets');
    expect(lines.find((line) => line.what === 'spouts')!.count).toBe(105);
    expect(gearFor(0, 'tubing')).toEqual([]);
    expect(gearFor(12, 'tubing').find((line) => line.what === 'lateralLines')!.count).toBe(3);
  });
});

it('a red maple carries fewer taps than a sugar maple of the same growth: its columns are larger', () => {
  const carried = (species: TapTree['species']) =>
    tapsUnder(policy, tree({ species, dbhMm: 400, ringMm: 0.3, ringSeMm: 0 }));
  expect(carried('redMaple')).toBeLessThan(carried('sugarMaple'));
  expect(meanVolumeRatio(columnsOf('redMaple'))).toBeGreaterThan(meanVolumeRatio(columnsOf('sugarMaple')));
  expect(columnsOf('blackMaple')).toEqual(DEFAULT_COLUMNS);
  expect(columnsOf(null)).toEqual(DEFAULT_COLUMNS);
});
