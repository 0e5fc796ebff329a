import fc from 'fast-check';
import { describe, expect, it } from 'vitest';

import { tries } from '../../testing/long.ts';
import { compassPoint, normaliseBearing, wrapDegrees } from '../src/math/index.ts';
import { bearingTo } from '../src/geometry/index.ts';
import { isMaple, REGIONAL_PRIOR, SPECIES, standPrior, type SpeciesId } from '../src/identify/index.ts';
import { paintClash, paintOf, PAINTS, recordSchema } from '../src/records/index.ts';
import { crownRadius, defaultHeight, sideOf, type StandTree } from '../src/stand/index.ts';
import { placeHoles } from '../src/rotation/index.ts';
import { tapGuidelineById, TAP_GUIDELINES, guidelineTaps, nextStep } from '../src/taps/index.ts';
import { DEFAULT_PRACTICE, DEFAULT_COLUMNS, bodyHeight, trunkToday } from '../src/trunk/index.ts';

describe('trunks as they come', () => {
  const hole = fc.record({
    season: fc.integer({ min: 1990, max: 2026 }),
    bearingDeg: fc.double({ min: 0, max: 359.9, noNaN: true }),
    heightMm: fc.integer({ min: 300, max: 1800 }),
    bitMm: fc.constantFrom(7.9375, 9.525, 11.1125),
    depthMm: fc.integer({ min: 25, max: 75 })
  });
  const trunk = fc.record({
    dbhMm: fc.integer({ min: 120, max: 900 }),
    ringMm: fc.double({ min: 0.1, max: 4, noNaN: true }),
    holes: fc.array(hole, { maxLength: 40 }),
    depthMm: fc.integer({ min: 20, max: 90 })
  });

  it('chances stay chances, proposals stay in the band, whatever the past', () => {
    fc.assert(
      fc.property(trunk, ({ dbhMm, ringMm, holes, depthMm }) => {
        const practice = { ...DEFAULT_PRACTICE, depthMm };
        const { map, proposals } = placeHoles({
          trunk: trunkToday(dbhMm, ringMm, 2027, holes),
          practice,
          model: DEFAULT_COLUMNS,
          seed: 5,
          draws: 25,
          cellMm: 50,
          ringMm: 1,
          ringCv: 0.3,
          wanted: 3,
          taps: 0
        });
        for (const value of [...map.pClear, ...map.stained]) {
          expect(value).toBeGreaterThanOrEqual(-1e-6);
          expect(value).toBeLessThanOrEqual(1 + 1e-6);
        }
        for (const { bearingDeg, heightMm, outlook } of proposals) {
          expect(bearingDeg).toBeGreaterThanOrEqual(0);
          expect(bearingDeg).toBeLessThan(360);
          expect(heightMm).toBeGreaterThan(practice.lowestMm);
          expect(heightMm).toBeLessThan(practice.highestMm);
          expect(outlook.flow).toBeCloseTo(1 - outlook.stained, 9);
          expect(outlook.clearDepthMm).toBeLessThanOrEqual(depthMm + 1e-9);
          for (const way of outlook.inTheWay) expect(way.hole).toBeLessThan(holes.length);
        }
      }),
      tries(40)
    );
  });

  it('no proposal is clearly worse than another place that it could have had', () => {
    fc.assert(
      fc.property(trunk, ({ dbhMm, ringMm, holes }) => {
        const { map, proposals } = placeHoles({
          trunk: trunkToday(dbhMm, ringMm, 2027, holes),
          practice: DEFAULT_PRACTICE,
          model: DEFAULT_COLUMNS,
          seed: 5,
          draws: 40,
          cellMm: 40,
          ringMm: 1,
          ringCv: 0,
          wanted: 1,
          taps: 0
        });
        expect(proposals).toHaveLength(1);
        expect(proposals[0]!.outlook.pClear).toBeGreaterThanOrEqual(Math.max(...map.pClear) - 0.0201);
      }),
      tries(40)
    );
  });

  it('holes of later seasons than the one being planned do not count', () => {
    const later = trunkToday(400, 1.5, 2020, [{ season: 2024, bearingDeg: 10, heightMm: 1000, bitMm: 8, depthMm: 38 }]);
    expect(later.holes).toEqual([]);
  });
});

describe('angles', () => {
  it('come back into their range and keep their direction', () => {
    fc.assert(
      fc.property(fc.double({ min: -2000, max: 2000, noNaN: true }), (degrees) => {
        expect(wrapDegrees(degrees)).toBeGreaterThan(-180 - 1e-9);
        expect(wrapDegrees(degrees)).toBeLessThanOrEqual(180);
        expect(normaliseBearing(degrees)).toBeGreaterThanOrEqual(0);
        expect(Math.cos((wrapDegrees(degrees) * Math.PI) / 180)).toBeCloseTo(Math.cos((degrees * Math.PI) / 180), 6);
        expect(Math.sin((normaliseBearing(degrees) * Math.PI) / 180)).toBeCloseTo(
          Math.sin((degrees * Math.PI) / 180),
          6
        );
      })
    );
  });

  it('have names', () => {
    expect([0, 44, 90, 181, 225, 338, 359, -90].map(compassPoint)).toEqual(['N', 'NE', 'E', 'S', 'SW', 'N', 'N', 'W']);
    expect([500, 700, 1000, 1200, 1400, 1600, 1900].map(bodyHeight)).toEqual([
      'knee',
      'thigh',
      'hip',
      'belly',
      'chest',
      'shoulder',
      'above'
    ]);
  });

  it('from tree to tree run clockwise from north', () => {
    const at = (eastM: number, northM: number) => ({ eastM, northM }) as StandTree;
    const bearings = (
      [
        [0, 5],
        [5, 5],
        [5, 0],
        [0, -5],
        [-5, 0]
      ] as const
    ).map(([e, n]) => bearingTo(at(0, 0), at(e, n)));
    bearings.forEach((b, i) => expect(b).toBeCloseTo([0, 45, 90, 180, 270][i]!, 9));
    expect([10, 80, 170, 269, 350].map(sideOf)).toEqual(['north', 'east', 'south', 'west', 'north']);
  });
});

describe('sizes', () => {
  it('a thicker tree never has fewer taps by any school, a narrower crown, or less height', () => {
    fc.assert(
      fc.property(fc.integer({ min: 50, max: 1500 }), fc.integer({ min: 0, max: 500 }), (dbh, more) => {
        for (const guideline of TAP_GUIDELINES)
          expect(guidelineTaps(guideline, dbh + more)).toBeGreaterThanOrEqual(guidelineTaps(guideline, dbh));
        expect(crownRadius(dbh + more, 'sugarMaple')).toBeGreaterThanOrEqual(crownRadius(dbh, 'sugarMaple'));
        expect(defaultHeight(dbh + more)).toBeGreaterThanOrEqual(defaultHeight(dbh));
      })
    );
  });

  it('the next step of a guideline is the first that gives more', () => {
    expect(nextStep(tapGuidelineById('twelveEighteen'), 200)).toMatchObject({ taps: 1 });
    expect(nextStep(tapGuidelineById('twelveEighteen'), 400)).toMatchObject({ taps: 2, above: true });
    expect(nextStep(tapGuidelineById('twelveEighteen'), 600)).toBeNull();
  });
});

describe('what is known of a stand', () => {
  it('its prior is a distribution, leans to what was settled, and rules nothing out', () => {
    const counts = fc.dictionary(fc.constantFrom(...SPECIES.map((s) => s.id)), fc.integer({ min: 0, max: 500 }));
    fc.assert(
      fc.property(counts, (settled) => {
        const prior = standPrior(settled as Partial<Record<SpeciesId, number>>);
        expect(SPECIES.reduce((sum, s) => sum + prior[s.id]!, 0)).toBeCloseTo(1, 9);
        for (const s of SPECIES) expect(prior[s.id]!).toBeGreaterThan(0);
      })
    );
    const none = standPrior({});
    const regional = SPECIES.reduce((sum, s) => sum + REGIONAL_PRIOR[s.id]!, 0);
    expect(none.redMaple).toBeCloseTo(REGIONAL_PRIOR.redMaple! / regional, 9);
    expect(standPrior({ redMaple: 50 }).redMaple!).toBeGreaterThan(none.redMaple!);
  });

  it('its maples are those that botany calls so', () => {
    for (const s of SPECIES) expect(isMaple(s.id)).toBe(s.latin.startsWith('Acer'));
  });
});

describe('records', () => {
  it('neighbouring seasons never share a paint colour, and nobody is told of paint that is not there', () => {
    const habit = { paints: [...PAINTS], paintSince: null, paintLasts: null };
    for (let season = 1990; season < 2100; season++) {
      const recent = Array.from({ length: PAINTS.length }, (_, i) => paintOf(season + i, habit, 2027));
      expect(new Set(recent).size).toBe(PAINTS.length);
      expect(paintOf(season, { ...habit, paints: [] }, 2027)).toBeNull();
    }
    const three = { paints: ['blue', 'white', 'violet'] as const, paintSince: 2012, paintLasts: 5 };
    expect([2011, 2012, 2013, 2014, 2015].map((s) => paintOf(s, { ...three, paintLasts: null }, 2027))).toEqual([
      null,
      'blue',
      'white',
      'violet',
      'blue'
    ]);
    expect([2022, 2023].map((s) => paintOf(s, three, 2027))).toEqual([null, 'violet']);
    expect(paintClash(['blue', 'white'], 'a White ring, a dot at the foot')).toEqual(['white']);
    expect(paintClash(['blue'], 'blueish')).toEqual([]);
  });

  it('with a clue that its character does not have are refused', () => {
    const determination = {
      kind: 'determination',
      id: '00000000-0000-4000-8000-000000000001',
      treeId: '00000000-0000-4000-8000-000000000002',
      on: '2026-11-23',
      recordedAt: '2026-11-23T10:00:00Z',
      verdict: 'settled',
      species: 'sugarMaple',
      probability: 0.97,
      age: 'grown',
      evidence: { arrangement: 'opposite' }
    };
    expect(recordSchema.safeParse(determination).success).toBe(true);
    for (const evidence of [{ arrangement: 'sideways' }, { colour: 'red' }])
      expect(recordSchema.safeParse({ ...determination, evidence }).success).toBe(false);
    for (const change of [
      { on: '2026-02-30' },
      { id: 'x' },
      { probability: 1.2 },
      { species: 'oak' },
      { recordedAt: 'yesterday' }
    ])
      expect(recordSchema.safeParse({ ...determination, ...change }).success).toBe(false);
  });
});
