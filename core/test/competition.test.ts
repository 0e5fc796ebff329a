import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { openGrownCrownWidth, radiusOf, type StandTree } from '../src/stand/index.ts';
import {
  crownCover,
  edgeCorrection,
  freeSides,
  gapsIn,
  growingSpace,
  hegyi,
  neighbours,
  reachesInto,
  sideStates,
  standMetrics
} from '../src/thinning/index.ts';
import { MM_PER_FOOT } from '../src/units/index.ts';

describe('competition', () => {
  it('Hegyi worked by hand: 20 cm, with 30 cm at 3 m and 10 cm at 5 m: 0.6', () => {
    const stems = [
      { dbhMm: 200, eastM: 0, northM: 0 },
      { dbhMm: 300, eastM: 3, northM: 0 },
      { dbhMm: 100, eastM: 0, northM: 5 }
    ];
    expect(hegyi([200, 300, 100], neighbours(stems, 8), 0)[0]).toBeCloseTo(0.6, 12);
  });

  it('finds the neighbours that looking at all pairs finds, however the stems stand', () => {
    const place = fc.double({ min: -100_000, max: 100_000, noNaN: true });
    const close = fc.double({ min: 0, max: 30, noNaN: true });
    const stem = (at: fc.Arbitrary<number>) => fc.record({ eastM: at, northM: at });
    const row = fc.record({ eastM: place, northM: fc.constant(3) });
    fc.assert(
      fc.property(
        fc.oneof(
          fc.array(stem(close), { maxLength: 40 }),
          fc.array(stem(place), { maxLength: 12 }),
          fc.array(row, { maxLength: 12 })
        ),
        fc.double({ min: 0, max: 15, noNaN: true }),
        (stems, radiusM) => {
          const { from, of, distanceM } = neighbours(stems, radiusM);
          for (const [i, a] of stems.entries()) {
            const found = [...of.slice(from[i]!, from[i + 1]!)].sort((one, other) => one - other);
            const wanted = stems.flatMap((b, j) =>
              j !== i && (b.eastM - a.eastM) ** 2 + (b.northM - a.northM) ** 2 <= radiusM ** 2 ? [j] : []
            );
            expect(found).toEqual(wanted);
            for (let k = from[i]!; k < from[i + 1]!; k++)
              expect(distanceM[k]).toBeCloseTo(
                Math.hypot(stems[of[k]!]!.eastM - a.eastM, stems[of[k]!]!.northM - a.northM),
                6
              );
          }
        }
      )
    );
  });

  it('a tree on the spot of another breaks nothing', () => {
    const stems = [
      { dbhMm: 200, eastM: 5, northM: 5 },
      { dbhMm: 300, eastM: 5, northM: 5 },
      { dbhMm: 300, eastM: 9, northM: 5 }
    ];
    expect([...hegyi([200, 300, 300], neighbours(stems))].every(Number.isFinite)).toBe(true);
    const space = growingSpace(stems, [0, 0, 10, 10]);
    expect(space.reduce((a, b) => a + b, 0)).toBeCloseTo(100, 6);
  });

  it('at the middle of a straight edge half of the circle is seen; far inside all of it', () => {
    const outline = [
      [0, 0],
      [100, 0],
      [100, 100],
      [0, 100]
    ] as const;
    const stems = [
      { dbhMm: 200, eastM: 50, northM: 0 },
      { dbhMm: 200, eastM: 50, northM: 50 },
      { dbhMm: 200, eastM: 0, northM: 0 }
    ];
    const raised = edgeCorrection(stems, [outline]);
    expect(raised[0]).toBeCloseTo(2, 0);
    expect(raised[1]).toBe(1);
    expect(raised[2]).toBe(3);
  });

  it.each([0.1, 0.3, 0.5, 0.7, 0.9])(
    '%d of a radius from a straight edge, what is seen is all but a segment of a circle',
    (share) => {
      // Area of a segment: r2 acos(d/r) - d sqrt(r2 - d2), any handbook of geometry.
      const field = [
        [0, 0],
        [200, 0],
        [200, 200],
        [0, 200]
      ] as const;
      const radius = 12;
      const d = share * radius;
      const segment = radius ** 2 * Math.acos(share) - d * Math.sqrt(radius ** 2 - d ** 2);
      const [raised] = edgeCorrection([{ eastM: 100, northM: d }], [field], radius);
      expect(Math.abs(raised! * (1 - segment / (Math.PI * radius ** 2)) - 1)).toBeLessThan(0.03);
    }
  );
});

describe('crowns', () => {
  const tree = (id: string, eastM: number, northM: number, dbhMm: number): StandTree => ({
    id,
    tag: id,
    species: 'sugarMaple',
    dbhMm,
    eastM,
    northM,
    positionQuality: 'surveyed'
  });
  const square = [
    [0, 0],
    [40, 0],
    [40, 40],
    [0, 40]
  ] as const;

  it('open-grown crown width of sugar maple: 24.3 ft at 10 in, 40.3 ft at 20 in (Ek 1974; from memory)', () => {
    expect(openGrownCrownWidth(254) / MM_PER_FOOT).toBeCloseTo(24.3, 1);
    expect(openGrownCrownWidth(508) / MM_PER_FOOT).toBeCloseTo(40.3, 1);
  });

  it('cover is the union: two crowns that overlap by a known lens', () => {
    const one = tree('a', 15, 20, 300);
    const r = radiusOf(one);
    const two = tree('b', 15 + r, 20, 300);
    // Lens of two equal circles whose middles are a radius apart: r2 * (2 pi / 3 - sqrt(3) / 2).
    const union = 2 * Math.PI * r * r - r * r * ((2 * Math.PI) / 3 - Math.sqrt(3) / 2);
    expect(crownCover([one], square)).toBeCloseTo((Math.PI * r * r) / 1600, 3);
    expect(crownCover([one, two], square)).toBeCloseTo(union / 1600, 3);
  });

  it('a crown measured in four directions covers quarters of ellipses', () => {
    const lopsided = { ...tree('a', 20, 20, 300), crownRadiiM: [2, 4, 6, 3] as const };
    const area = (Math.PI / 4) * (2 * 4 + 4 * 6 + 6 * 3 + 3 * 2);
    expect(crownCover([lopsided], square)).toBeCloseTo(area / 1600, 3);
  });

  it('what somebody saw from below goes before the map; an unnamed neighbour cannot be taken', () => {
    const crop = tree('crop', 20, 20, 300);
    const east = tree('east', 24, 20, 300);
    const card = {
      north: 'blocked',
      east: 'free',
      south: null,
      west: 'blocked',
      blockers: [
        { side: 'north', treeId: null, species: 'beech', dbhMm: 150, fate: 'take' },
        { side: 'west', treeId: null, species: null, dbhMm: null, fate: 'stands' }
      ]
    } as const;
    const mapped = sideStates(crop, [east], null);
    expect(freeSides(mapped, new Set())).toBe(3);
    expect(freeSides(mapped, new Set(['east']))).toBe(4);
    const seen = sideStates(crop, [east], card);
    expect(seen.map(({ seenBy }) => seenBy)).toEqual(['card', 'card', 'map', 'card']);
    // North is freed by the card's own mark, west stays blocked, whatever is taken.
    expect(freeSides(seen, new Set())).toBe(3);
    expect(sideStates(null, [east], null).every(({ known }) => !known)).toBe(true);
  });

  it('gaps are free of crowns, do not lie over each other, and are found where there are any', () => {
    const trees = [tree('a', 8, 8, 300), tree('b', 30, 12, 350), tree('c', 14, 32, 400)];
    const gaps = gapsIn(trees, square, 10);
    expect(gaps.length).toBeGreaterThan(0);
    gaps.forEach((gap, i) => {
      for (const each of trees) expect(reachesInto(each, gap)).toBe(false);
      for (const other of gaps.slice(i + 1))
        expect(Math.hypot(gap.eastM - other.eastM, gap.northM - other.northM)).toBeGreaterThanOrEqual(10);
    });
    expect(gapsIn([tree('wide', 20, 20, 900)], square, 40)).toEqual([]);
  });

  it('figures of a stand count what is left', () => {
    const trees = [tree('a', 5, 5, 200), tree('b', 20, 20, 400)];
    const figures = standMetrics(trees, { areaHa: 0.16, outline: square }, new Set(['a']));
    expect(figures.stemsPerHa).toBeCloseTo(6.25);
    expect(figures.quadraticMeanMm).toBe(400);
    expect(figures.basalAreaPerHa).toBeCloseTo((Math.PI / 4) * 0.16 * 6.25);
  });
});
