import { describe, expect, it } from 'vitest';

import { afterStorm, lineRound } from '../src/bush/index.ts';
import { crossingsAlong, partOfCourse, pointAlong, shareOfDirections, type Point } from '../src/geometry/index.ts';
import { seededRng } from '../src/math/index.ts';
import type { BushRecord, SiteFeature } from '../src/records/index.ts';
import { defaultHeight } from '../src/stand/index.ts';
import { drops, id, pipe, SEASON, told, tree, type Told } from './seasonBush.ts';

describe('a course on the ground', () => {
  const course: Point[] = [
    [0, 0],
    [30, 0],
    [30, 40]
  ];

  it('is crossed where it is, at a bend once, and not by what ends before it', () => {
    const at = (...other: Point[]) => crossingsAlong(course, other, false);
    expect(at([10, -5], [10, 5])).toEqual([10]);
    expect(at([20, 10], [40, 10])).toEqual([40]);
    expect(at([20, -10], [40, 10])).toHaveLength(1);
    expect(at([10, 1], [10, 5])).toEqual([]);
    expect(at([0, 5], [30, 5])).toEqual([]);
    // Into a house and out of it.
    const house: Point[] = [
      [5, -5],
      [15, -5],
      [15, 5],
      [5, 5]
    ];
    expect(crossingsAlong(course, house, true)).toEqual([5, 15]);
  });

  it('has places and parts by the metres along it', () => {
    expect(pointAlong(course, 35)).toEqual([30, 5]);
    expect([pointAlong(course, -1), pointAlong(course, 999)]).toEqual([course[0], course[2]]);
    expect(partOfCourse(course, 10, 50)).toEqual([
      [10, 0],
      [30, 0],
      [30, 20]
    ]);
  });

  it('is reached from a place in such a share of all directions', () => {
    const long: Point[] = [
      [-1000, 10],
      [1000, 10]
    ];
    // 10 m off, 14.1 m long: between the two corners of a square.
    expect(shareOfDirections([0, 0], Math.hypot(10, 10), long)).toBeCloseTo(0.25, 2);
    expect(shareOfDirections([0, 0], 9.9, long)).toBe(0);
    // Against trees that fall anywhere: how near the fallen stem comes to the course, step by step.
    const rng = seededRng(7);
    const [place, reach]: [Point, number] = [[22, 12], 25];
    let hits = 0;
    for (let k = 0; k < 4000; k++) {
      const turn = 2 * Math.PI * rng.uniform();
      const stem = Array.from({ length: 251 }, (_, i): Point => [
        place[0] + (i / 10) * Math.cos(turn),
        place[1] + (i / 10) * Math.sin(turn)
      ]);
      const near = ([x, y]: Point) =>
        (Math.abs(y) < 0.06 && x >= 0 && x <= 30) || (Math.abs(x - 30) < 0.06 && y >= 0 && y <= 40);
      if (stem.some(near)) hits += 1;
    }
    expect(Math.abs(shareOfDirections(place, reach, course) - hits / 4000)).toBeLessThan(0.03);
  });
});

describe('a round along the lines', () => {
  const main = pipe('Main', {
    use: 'main',
    points: [
      [0, 0],
      [120, 0]
    ]
  });
  const far = pipe('Far', {
    intoId: main.id,
    drops: drops(1, 2),
    points: [
      [20, 30],
      [20, 0]
    ]
  });
  const near = pipe('Near', {
    intoId: main.id,
    drops: drops(3),
    points: [
      [100, 30],
      [100, 0]
    ]
  });
  const air = pipe('Air', {
    use: 'air',
    points: [
      [0, 1],
      [120, 1]
    ]
  });
  const at = (n: number, place: readonly [number, number], more: object = {}) => tree(n, { at: place, ...more }).row;
  const rows = [at(1, [20, 28], { drilledOn: '2027-02-20' }), at(2, [20, 20]), at(3, [100, 28])];
  const round = (records: readonly BushRecord[] = [], features: readonly SiteFeature[] = [], more = rows) =>
    lineRound({ records: [main, far, near, air, ...records], rows: more, features, season: SEASON });

  it('goes from the foot of each line upwards, and along what joins it there', () => {
    expect(round().map(({ line, fromM, toM }) => [line.name, fromM, toM])).toEqual([
      ['Main', 60, 120],
      ['Near', 0, 30],
      ['Main', 0, 60],
      ['Far', 0, 30]
    ]);
    expect(round().map(({ taps }) => taps)).toEqual([3, 1, 2, 2]);
    // In a circle nobody walks for ever.
    const [a, b] = [pipe('A', {}), pipe('B', {})];
    const circle = [
      { ...a, intoId: b.id },
      { ...b, intoId: a.id }
    ];
    expect(lineRound({ records: circle, rows, features: [], season: SEASON })).toHaveLength(2);
  });

  it('ends where a line does, to the hair, however many pieces it is walked in', () => {
    // A length of which three thirds are not the whole.
    const lengths = Array.from({ length: 200 }, (_, i) => 121 + i / 7);
    for (const lengthM of lengths) {
      const line = pipe('Long', {
        use: 'main',
        points: [
          [0, 0],
          [lengthM, 0]
        ],
        drops: drops(1)
      });
      const stops = lineRound({ records: [line], rows, features: [], season: SEASON });
      expect(stops[0]!.toM).toBe(lengthM);
      expect(stops[0]!.taps).toBe(1);
    }
  });

  it('says what is crossed, marked, not reported set, found and not mended, and when somebody looked', () => {
    const path: SiteFeature = {
      id: id(800),
      kind: 'path',
      name: 'Track',
      points: [
        [70, -9],
        [70, 9]
      ]
    };
    const edge: SiteFeature = {
      id: id(801),
      kind: 'boundary',
      name: 'Edge',
      points: [
        [80, -9],
        [80, 9]
      ]
    };
    const look = (on: string, more: object) =>
      told({ kind: 'lineLook', on, lineId: main.id, found: 'bite', alongM: 90, ...more } as Told);
    const marked = { ...at(4, [70, 5]), mark: 'take' as const };
    const [first, , second, last] = round(
      [look('2027-03-02', {}), look('2026-03-09', { alongM: 10 })],
      [path, edge],
      [...rows, marked]
    );
    expect(first!.crossings).toMatchObject([{ feature: { name: 'Track' }, alongM: 70 }]);
    expect(first!.marked.map(({ tag }) => tag)).toEqual(['4']);
    expect(first!.open).toMatchObject([{ found: 'bite', alongM: 90 }]);
    expect([first!.lookedOn, second!.lookedOn]).toEqual(['2027-03-02', null]);
    expect(last!.notSet.map(({ tag }) => tag)).toEqual(['1']);
    const openAfter = (more: object) =>
      round([look('2027-03-02', {}), look('2027-03-03', more)])[0]!.open.map(({ alongM }) => alongM);
    // Mended a day later, there or nearby; found in order by whoever walked the piece; another place is another matter.
    expect(openAfter({ mended: true })).toEqual([]);
    expect(openAfter({ mended: true, alongM: 93 })).toEqual([]);
    expect(openAfter({ found: 'nothing', alongM: 75 })).toEqual([]);
    expect(openAfter({ mended: true, alongM: 115 })).toEqual([90]);
    expect(openAfter({ found: 'nothing', alongM: 30 })).toEqual([90]);
  });

  it('after a storm begins where most taps are likely to give nothing', () => {
    const dead = { ...at(5, [22, 24]), diebackPct: 100 };
    const weak = { ...at(6, [20, 12]), hazards: ['hangingLimb' as const] };
    const stops = round([], [], [...rows, dead, weak]);
    const order = afterStorm(stops);
    expect(order[0]!.line.name).toBe('Far');
    expect(order[0]!.threats.map(({ row, dead: isDead }) => [row.tag, isDead])).toEqual([
      ['5', true],
      ['6', false]
    ]);
    const worth = order.map(({ harm, taps }) => harm * taps);
    expect(worth).toEqual([...worth].sort((a, b) => b - a));
    // By hand: 2 m beside it, 6 m below its upper end, 23.2 m high: 71.6 and 85.1 degrees of 360; and under its crown.
    expect(order[0]!.threats[0]!.chance).toBeCloseTo(1 - 0.85 * (1 - 0.1 * (156.6 / 360)), 3);
    // One that lies already does not fall, and one that stands farther away than it is high does no harm.
    const heightM = defaultHeight(rows[0]!.dbhMm!);
    const away = { ...at(7, [20, 31 + heightM]), diebackPct: 100 };
    expect(round([], [], [...rows, away])).toEqual(round());
  });
});
