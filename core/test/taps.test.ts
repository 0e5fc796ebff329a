import fc from 'fast-check';
import { describe, expect, it } from 'vitest';

import {
  conditionCap,
  growthBalance,
  tapGuidelineById,
  guidelineTaps,
  longRunStainedShare,
  meanStain,
  valueOfMeasuring,
  suggestTaps,
  vigourClass,
  type PublishedGuidelineId,
  type SuggestionInput
} from '../src/taps/index.ts';
import { insideBark } from '../src/measure/index.ts';
import { asInBush, DEFAULT_COLUMNS, USUAL_BUSH } from '../src/trunk/index.ts';
import { MM_PER_INCH } from '../src/units/index.ts';
import { MEASURED } from './fixtures.ts';

const inch = (n: number) => n * MM_PER_INCH;

describe('guidelines', () => {
  // USDA Agriculture Handbook 134 (from memory); the others are common practice, no source.
  it.each<[PublishedGuidelineId, [number, number][]]>([
    [
      'handbook',
      [
        [9.9, 0],
        [10, 1],
        [14.9, 1],
        [15, 2],
        [19.9, 2],
        [20, 3],
        [24.9, 3],
        [25, 4],
        [40, 4]
      ]
    ],
    [
      'twoAtMost',
      [
        [9.9, 0],
        [10, 1],
        [13.9, 1],
        [14, 2],
        [40, 2]
      ]
    ],
    [
      'twelveEighteen',
      [
        [11.9, 0],
        [12, 1],
        [18, 1],
        [18.1, 2],
        [30, 2]
      ]
    ],
    [
      'onePerFoot',
      [
        [9.9, 0],
        [10, 1],
        [23.9, 1],
        [24, 2],
        [36, 3],
        [48, 4],
        [70, 4]
      ]
    ],
    [
      'tubing',
      [
        [8.9, 0],
        [9, 1],
        [30, 1]
      ]
    ]
  ])('%s', (id, cases) => {
    for (const [inches, taps] of cases)
      expect([inches, guidelineTaps(tapGuidelineById(id), inch(inches))]).toEqual([inches, taps]);
  });

  it('metric', () => {
    for (const [cm, taps] of [
      [24.9, 0],
      [25, 1],
      [40, 1],
      [40.1, 2],
      [60, 2],
      [61, 3],
      [80, 3],
      [81, 4],
      [120, 4]
    ] as const)
      expect([cm, guidelineTaps(tapGuidelineById('metric'), cm * 10)]).toEqual([cm, taps]);
  });
});

// Worked by hand from the formula in docs/model.md, "Growth balance".
const balanceOf = (dib: number, ring: number, band: number, bit = inch(5 / 16)) =>
  growthBalance({ dbhMm: dib / insideBark(1), ringMm: ring, ringSeMm: 0, bitMm: bit, depthMm: 38.1, bandMm: band });

describe('growth balance', () => {
  it.each([
    [305, 1.5, 610, 5 / 16, 1.07],
    [305, 1.5, 914, 5 / 16, 1.6],
    [457, 1.5, 610, 5 / 16, 1.6],
    [457, 1.5, 610, 7 / 16, 0.82]
  ])('DIB %d mm, ring %d mm, band %d mm, bit %d in carries %d taps', (dib, ring, band, bit, taps) => {
    // The reference values are given to two digits.
    expect(Math.abs(balanceOf(dib, ring, band, inch(bit)).tapsCarried - taps)).toBeLessThan(0.0075);
  });

  it('one tap a year stains 9.4 % of that first trunk in the long run', () => {
    expect(balanceOf(305, 1.5, 610).phiAtOneTap).toBeCloseTo(0.094, 3);
    expect(longRunStainedShare(balanceOf(305, 1.5, 610), 1)).toBeCloseTo(1 - Math.exp(-0.0938), 3);
  });

  it('counts on the stain of this bush and this species, not on a figure of its own', () => {
    // The mean of a lognormal is its median times e^(sd^2/2): 75 e^(0.55^2/2) = 87.2; 5/16 in of it, worked by hand.
    expect(meanStain(inch(5 / 16)).times).toBeCloseTo(87.2, 1);
    expect(meanStain(inch(5 / 16)).areaMm2).toBeCloseTo(4317, 0);
    const doubled = asInBush(DEFAULT_COLUMNS, { ...USUAL_BUSH, sizeFactor: 2 });
    expect(meanStain(8, doubled).areaMm2).toBeCloseTo(2 * meanStain(8).areaMm2);
    const given = { dbhMm: 400, ringMm: 1.5, ringSeMm: 0, bitMm: 8, depthMm: 38, bandMm: 900 };
    expect(growthBalance({ ...given, model: doubled }).tapsCarried).toBeCloseTo(growthBalance(given).tapsCarried / 2);
  });

  it('more growth, a longer band and a smaller bit never carry less', () => {
    const size = fc.record({
      dib: fc.integer({ min: 150, max: 900 }),
      ring: fc.double({ min: 0.1, max: 4, noNaN: true }),
      band: fc.integer({ min: 200, max: 1500 }),
      more: fc.double({ min: 1, max: 2, noNaN: true })
    });
    fc.assert(
      fc.property(size, ({ dib, ring, band, more }) => {
        const base = balanceOf(dib, ring, band).tapsCarried;
        expect(balanceOf(dib, ring * more, band).tapsCarried).toBeGreaterThanOrEqual(base - 1e-12);
        expect(balanceOf(dib, ring, band * more).tapsCarried).toBeGreaterThanOrEqual(base - 1e-12);
        expect(balanceOf(dib, ring, band, inch(5 / 16) / more).tapsCarried).toBeGreaterThanOrEqual(base - 1e-12);
      })
    );
  });

  it('growth read as zero or less never breaks it', () => {
    for (const ringMm of [0, -1]) {
      const balance = growthBalance({ dbhMm: 400, ringMm, ringSeMm: 0.3, bitMm: 8, depthMm: 38, bandMm: 900 });
      expect(balance.tapsCarried).toBe(0);
      expect(balance.suggested).toBe(0);
      expect(balance.restRhythmYears).toBe(Infinity);
    }
  });
});

const TODAY = '2026-11-23';
const LOOK = {
  on: '2026-08-01',
  diebackPct: 0,
  oldestOpenHoleYears: null,
  stressed: false,
  peeledPct: null,
  peelFresh: false
} as const;

describe('condition', () => {
  it('classes dieback as the North American Maple Project does (from memory)', () => {
    expect([0, 10, 11, 25, 26, 50, 51, 99, 100].map(vigourClass)).toEqual([
      'healthy',
      'healthy',
      'light',
      'light',
      'moderate',
      'moderate',
      'severe',
      'severe',
      'dead'
    ]);
  });

  it('a hole open after three years rests the tree', () => {
    expect(conditionCap({ ...LOOK, oldestOpenHoleYears: 3 }, TODAY).taps).toBe(0);
    expect(conditionCap({ ...LOOK, oldestOpenHoleYears: 2 }, TODAY).taps).toBeGreaterThan(0);
  });
});

describe('the suggestion', () => {
  const good: SuggestionInput = {
    dbhMm: 500,
    ringMm: 2,
    ringSeMm: 0.2,
    bitMm: inch(5 / 16),
    depthMm: 38.1,
    bandMm: 900,
    guideline: tapGuidelineById('twelveEighteen'),
    condition: { ...LOOK, diebackPct: 5 },
    today: TODAY,
    forbidden: false,
    givesSap: true,
    room: 6,
    seasonsSinceTapped: 1,
    ownGrowth: 1
  };

  it('names the limit that binds', () => {
    expect(suggestTaps(good)).toMatchObject({ taps: 2, binding: 'size' });
    expect(suggestTaps({ ...good, givesSap: false })).toMatchObject({ taps: 0, binding: 'species' });
    expect(suggestTaps({ ...good, dbhMm: 280 })).toMatchObject({
      taps: 0,
      binding: 'size',
      change: { toDbhMm: inch(12) }
    });
    expect(suggestTaps({ ...good, condition: { ...good.condition!, stressed: true } })).toMatchObject({
      taps: 0,
      binding: 'condition'
    });
    expect(suggestTaps({ ...good, ringMm: 0.8 })).toMatchObject({ taps: 1, binding: 'growth' });
    expect(suggestTaps({ ...good, room: 0 })).toMatchObject({ taps: 0, binding: 'room' });
  });

  it('keeps the rest rhythm of a slow tree', () => {
    const slow = { ...good, dbhMm: 320, ringMm: 0.6, ringSeMm: 0.1 };
    expect(suggestTaps({ ...slow, seasonsSinceTapped: 1 })).toMatchObject({ taps: 0, binding: 'growth' });
    expect(suggestTaps({ ...slow, seasonsSinceTapped: 9 })).toMatchObject({ taps: 1 });
  });

  it('is never above any of its limits', () => {
    const input = fc.record({
      dbhMm: fc.integer({ min: 50, max: 1200 }),
      ringMm: fc.double({ min: -0.5, max: 4, noNaN: true }),
      ringSeMm: fc.double({ min: 0.01, max: 1, noNaN: true }),
      bandMm: fc.integer({ min: 300, max: 1500 }),
      guideline: fc.constantFrom(tapGuidelineById('handbook'), tapGuidelineById('metric'), tapGuidelineById('tubing')),
      condition: fc.option(
        fc.record({
          diebackPct: fc.option(fc.integer({ min: 0, max: 100 })),
          oldestOpenHoleYears: fc.option(fc.integer({ min: 0, max: 6 })),
          stressed: fc.option(fc.boolean()),
          peeledPct: fc.option(fc.integer({ min: 0, max: 100 })),
          peelFresh: fc.boolean(),
          on: fc.constantFrom('2026-08-01', '2021-05-05')
        })
      ),
      room: fc.option(fc.integer({ min: 0, max: 4 })),
      seasonsSinceTapped: fc.option(fc.integer({ min: 1, max: 20 }))
    });
    fc.assert(
      fc.property(input, (drawn) => {
        const { taps, limits } = suggestTaps({ ...good, ...drawn });
        for (const limit of Object.values(limits)) if (limit !== null) expect(taps).toBeLessThanOrEqual(limit);
        if ((drawn.condition?.oldestOpenHoleYears ?? 0) >= 3) expect(taps).toBe(0);
      })
    );
  });
});

describe('is it worth measuring again?', () => {
  const tree: SuggestionInput = { ...MEASURED, dbhMm: 420, ringMm: 1.4, ringSeMm: 0.5, seasonsSinceTapped: 0 };

  it('not where the count stands whatever the tree grows', () => {
    expect(valueOfMeasuring({ ...tree, givesSap: false }, 10)).toBe(0);
    expect(valueOfMeasuring({ ...tree, dbhMm: 150 }, 3)).toBe(0);
    expect(valueOfMeasuring({ ...tree, ringSeMm: 0.01 }, 0)).toBe(0);
  });

  it('most where the growth is little known and near what a tap needs', () => {
    const needed = growthBalance(tree).ringForOneMm;
    const near = valueOfMeasuring({ ...tree, ringMm: needed, ringSeMm: 0.5 }, 5);
    const far = valueOfMeasuring({ ...tree, ringMm: 3 * needed, ringSeMm: 0.3 }, 5);
    expect(near).toBeGreaterThan(0.3);
    expect(far).toBeLessThan(near);
  });
});
