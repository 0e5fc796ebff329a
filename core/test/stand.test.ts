import fc from 'fast-check';
import { describe, expect, it } from 'vitest';

import {
  basalArea,
  crownSides,
  openGrownCrownWidth,
  quadraticMeanDiameter,
  radiusOf,
  reachToward,
  removal,
  standDensityIndex,
  totalBasalArea,
  withinReach,
  type StandTree
} from '../src/stand/index.ts';
import { MM_PER_FOOT, MM_PER_INCH } from '../src/units/index.ts';
import { readTable } from './data/read.ts';

describe('stand figures', () => {
  it('basal area factors (Avery & Burkhart, Forest Measurements)', () => {
    expect(basalArea(10)).toBeCloseTo(0.00007853982, 11);
    expect(basalArea(MM_PER_INCH) / 0.09290304).toBeCloseTo(0.005454154, 9);
  });

  it('31 black cherry trees (R datasets::trees; Ryan, Joiner & Ryan 1976)', () => {
    const dbhs = readTable('black_cherry_trees.csv').map((row) => row.dbh_in! * MM_PER_INCH);
    expect(totalBasalArea(dbhs) / 0.09290304).toBeCloseTo(31.28803, 5);
    expect(quadraticMeanDiameter(dbhs) / MM_PER_INCH).toBeCloseTo(13.60331, 5);
  });

  it.each([
    // Reference values made with R 4 and spatstat.data 3.0.
    ['longleaf.csv', 'dbh_cm', 10, 4, 12.10938, 32.49673, 216.819],
    ['spruces.csv', 'dbh_m', 1000, (56 * 38) / 10_000, 32.0858, 25.47094, 632.5242]
  ])('%s', (file, column, toMm, areaHa, basalPerHa, qmdCm, sdi) => {
    const dbhs = readTable(file).map((row) => row[column]! * toMm);
    expect(totalBasalArea(dbhs) / areaHa).toBeCloseTo(basalPerHa, 4);
    expect(quadraticMeanDiameter(dbhs) / 10).toBeCloseTo(qmdCm, 4);
    expect(standDensityIndex(dbhs.length / areaHa, quadraticMeanDiameter(dbhs))).toBeCloseTo(sdi, 2);
  });

  it.each([
    // Ek 1974, Wisconsin (from memory): open-grown sugar maple.
    [10, 24.3],
    [20, 40.3]
  ])('the crown of an open-grown %d in sugar maple is %d ft wide', (inches, feet) => {
    expect(openGrownCrownWidth(inches * MM_PER_INCH) / MM_PER_FOOT).toBeCloseTo(feet, 1);
  });
});

const at = (id: string, eastM: number, northM: number, more: Partial<StandTree> = {}): StandTree => ({
  id,
  tag: id,
  species: 'sugarMaple',
  dbhMm: 400,
  eastM,
  northM,
  positionQuality: 'surveyed',
  ...more
});

const round = (radiusM: number) => [radiusM, radiusM, radiusM, radiusM] as const;

describe('crown sides (crown-touching method, Perkey, Wilkins & Smith 1993, NA-TP-19-93)', () => {
  const crop = at('crop', 0, 0, { crownRadiiM: round(4), heightM: 20 });
  const neighbour = (id: string, eastM: number, northM: number, more: Partial<StandTree> = {}) =>
    at(id, eastM, northM, { crownRadiiM: round(4), heightM: 20, ...more });

  it('a touching crown blocks its side; a clearly shorter or distant one does not', () => {
    const sides = crownSides(
      crop,
      [neighbour('n', 0, 9), neighbour('e', 9.6, 0), neighbour('s', 0, -6, { heightM: 15.9 }), neighbour('w', -7, 1)],
      new Set()
    );
    expect(sides.blocked.north.map((c) => c.tree.id)).toEqual(['n']);
    expect(sides.blocked.east).toEqual([]);
    expect(sides.blocked.south).toEqual([]);
    expect(sides.blocked.west.map((c) => c.tree.id)).toEqual(['w']);
    expect(sides.freeSides).toBe(2);
  });

  it('a side is free when every one of its competitors is marked', () => {
    const others = [neighbour('a', 1, 8), neighbour('b', -1, 8)];
    expect(crownSides(crop, others, new Set(['a'])).freeSides).toBe(3);
    expect(crownSides(crop, others, new Set(['a', 'b'])).freeSides).toBe(4);
  });

  it('marking more never blocks a side', () => {
    const tree = fc.record({
      e: fc.integer({ min: -12, max: 12 }),
      n: fc.integer({ min: -12, max: 12 }),
      marked: fc.boolean()
    });
    fc.assert(
      fc.property(fc.array(tree, { maxLength: 12 }), (drawn) => {
        const others = drawn.map((d, i) => neighbour(String(i), d.e, d.n));
        const marked = new Set(drawn.flatMap((d, i) => (d.marked ? [String(i)] : [])));
        expect(crownSides(crop, others, marked).freeSides).toBeGreaterThanOrEqual(
          crownSides(crop, others, new Set()).freeSides
        );
      })
    );
  });

  it('a phone’s position says nothing about touching crowns', () => {
    expect(crownSides(crop, [neighbour('n', 0, 8, { positionQuality: 'phone' })], new Set()).known).toBe(false);
    expect(crownSides(crop, [neighbour('n', 0, 40, { positionQuality: 'phone' })], new Set()).known).toBe(true);
  });
});

describe('what marks take out', () => {
  it('is a share of basal area, not of stems', () => {
    const stand = [at('a', 0, 0, { dbhMm: 300 }), at('b', 0, 0, { dbhMm: 400 }), at('c', 0, 0, { dbhMm: 500 })];
    const out = removal(stand, new Set(['a']));
    expect(out.share).toBeCloseTo(9 / 50, 9);
    expect(out.overLimit).toBe(false);
    expect(removal(stand, new Set(['c'])).overLimit).toBe(true);
    expect(removal([], new Set()).share).toBe(0);
  });
});

describe('measured crowns', () => {
  it('reach in their own directions, with quarters of ellipses between', () => {
    const tree = at('a', 0, 0, { crownRadiiM: [2, 6, 2, 1] });
    expect([0, 90, 180, 270].map((b) => reachToward(tree, b))).toEqual([2, 6, 2, 1].map((r) => expect.closeTo(r, 9)));
    // On an ellipse with half-axes 2 and 6, where it lies 45 degrees off: 1 / sqrt(1/8 + 1/72).
    expect(reachToward(tree, 45)).toBeCloseTo(1 / Math.sqrt(1 / 8 + 1 / 72), 9);
    expect(radiusOf(tree)).toBeCloseTo(2.75, 9);
  });

  it('of one radius all round are circles', () => {
    fc.assert(
      fc.property(fc.double({ min: 1, max: 9, noNaN: true }), fc.double({ min: 0, max: 359, noNaN: true }), (r, b) => {
        expect(reachToward(at('a', 0, 0, { crownRadiiM: [r, r, r, r] }), b)).toBeCloseTo(r, 9);
      })
    );
  });

  it('that grew to one side are crowded there alone', () => {
    const subject = at('s', 0, 0, { crownRadiiM: [2, 6, 2, 2] });
    const others = [at('e', 9, 0, { crownRadiiM: round(2.5) }), at('w', -9, 0, { crownRadiiM: round(2.5) })];
    expect(crownSides(subject, others, new Set()).competitors.map((c) => c.tree.id)).toEqual(['e']);
    const turned = { ...subject, crownRadiiM: [2, 2, 2, 6] as const };
    expect(crownSides(turned, others, new Set()).competitors.map((c) => c.tree.id)).toEqual(['w']);
  });
});

describe('what a falling tree could reach: two tree lengths, 29 CFR 1910.266(d)(6)(ii)', () => {
  const ground = (eastM: number, northM: number) => ({ eastM, northM });
  const feature = (kind: 'building' | 'path' | 'line' | 'water', ...points: [number, number][]) => ({ kind, points });
  const shed = feature('building', [0, 0], [8, 0], [8, 5], [0, 5]);

  it('measures to the nearest wall, and to nothing inside', () => {
    expect(withinReach(ground(4, 25), 12, [shed])).toMatchObject([{ distanceM: 20, withinOneLength: false }]);
    expect(withinReach(ground(-3, -4), 12, [shed])).toMatchObject([{ distanceM: 5, withinOneLength: true }]);
    expect(withinReach(ground(7, 1), 12, [shed])).toMatchObject([{ distanceM: 0 }]);
    // The wall between the last corner and the first counts as well.
    expect(withinReach(ground(-6, 2.5), 12, [shed])).toMatchObject([{ distanceM: 6 }]);
    expect(withinReach(ground(4, 29.1), 12, [shed])).toEqual([]);
    // A phone's place is five metres off as a rule: the tree is taken to stand nearer.
    expect(withinReach(ground(4, 29.1), 12, [shed], 5)).toMatchObject([{ distanceM: expect.closeTo(14.1, 9) }]);
  });

  it('follows a path between its points and beyond none of its ends', () => {
    const path = feature('path', [0, 0], [100, 0]);
    expect(withinReach(ground(50, 30), 20, [path])).toMatchObject([{ distanceM: 30 }]);
    expect(withinReach(ground(130, 40), 20, [path])).toEqual([]);
  });

  it('leaves water out and puts the nearest first', () => {
    const path = feature('path', [0, 10], [100, 10]);
    const line = feature('line', [0, -3], [100, -3]);
    expect(
      withinReach(ground(50, 0), 20, [feature('water', [0, 1], [100, 1]), path, line]).map((r) => r.feature)
    ).toEqual([line, path]);
  });
});
