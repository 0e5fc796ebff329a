import { describe, expect, it } from 'vitest';

import { holdsLevels, judgeLines, partsOfLines, pipeLinesIn, workOfLines } from '../src/bush/index.ts';
import { alongCourse } from '../src/geometry/index.ts';
import { bushRecordSchema, effectiveRecords, type BushRecord } from '../src/records/index.ts';
import { drops, levelled, pipe, told, tree, type Told } from './seasonBush.ts';

describe('the lines of a bush', () => {
  const rows = [1, 2, 3, 4, 5, 6, 7, 8, 9].map((n) => tree(n, { taps: 1, at: [10 * n, 30] }).row);
  const tank = told({
    kind: 'collectingPlace',
    on: '2027-02-01',
    name: 'Tank',
    vessel: 'tank',
    litres: 500,
    carrier: 'vehicle',
    treeIds: []
  } as Told);
  const main = pipe('Main', {
    use: 'main',
    boreMm: 19.1,
    held: 'wire',
    placeId: tank.id,
    points: [
      [0, 0],
      [30, 0],
      [30, 40],
      [60, 40]
    ]
  });
  const judged = (...records: BushRecord[]) =>
    new Map(judgeLines([tank, ...records], rows).map((each) => [each.line.name, each]));

  it('are as long as they are drawn, and stand by name', () => {
    expect(
      alongCourse([
        [0, 0],
        [3, 4],
        [3, 10]
      ])
    ).toEqual([0, 5, 11]);
    const names = ['Lateral 10', 'Lateral 2', 'Main'].map((name) => pipe(name, {}));
    expect(pipeLinesIn(names).map(({ name }) => name)).toEqual(['Lateral 2', 'Lateral 10', 'Main']);
  });

  it('carry their own taps and those of all that runs into them, and no circle for ever', () => {
    const spur = pipe('Spur', { use: 'spur', intoId: main.id, drops: drops(1) });
    const lateral = pipe('Lateral', { intoId: spur.id, drops: drops(2, 3, 4) });
    const found = judged(main, spur, lateral);
    expect([found.get('Main')!.tapsAbove, found.get('Spur')!.tapsAbove, found.get('Lateral')!.taps]).toEqual([4, 4, 3]);
    const [a, b] = [pipe('A', { drops: drops(1) }), pipe('B', { drops: drops(2, 3) })];
    const round = [
      { ...a, intoId: b.id },
      { ...b, intoId: a.id }
    ] as BushRecord[];
    expect(judged(...round).get('A')!.tapsAbove).toBe(3);
  });

  it('are named where they rise, fall too little, have too many taps, are too long or too narrow', () => {
    const many = pipe('Nine', {
      intoId: main.id,
      drops: drops(1, 2, 3, 4, 5, 6, 7, 8, 9),
      points: [
        [0, 30],
        [45, 30]
      ]
    });
    const dip = levelled(main.id, [
      [0, 105],
      [30, 103.9],
      [50, 104.2],
      [70, 103.7],
      [100, 103.4]
    ]);
    const found = judged(main, many, dip);
    const of = found.get('Main')!;
    expect(of.profile.atM).toEqual([0, 30, 50, 70, 100]);
    expect(of.findings.map(({ fault, surety, from, to }) => [fault, surety, from, to])).toEqual([
      ['dip', 'sure', 1, 2],
      ['flat', 'sure', 3, 4]
    ]);
    // From the foot up: 0.3 m more at 70 m, as much at 50 m less what falls too much there, 1.0 m at 30 m.
    expect(of.lifting!.liftsM.map((each) => Number(each.toFixed(2)))).toEqual([0.4, 0.9, 0.2, 0.3, 0]);
    expect(found.get('Nine')!.faults).toEqual(['manyTaps', 'long']);
    expect(found.get('Nine')!.levelled).toBe(false);
    expect(found.get('Nine')!.findings.every(({ surety }) => surety === 'cannotBeTold')).toBe(true);
    const thin = judged(
      pipe('Thin main', { use: 'main', boreMm: 4, drops: drops(...Array.from({ length: 40 }, (_, i) => 100 + i)) })
    ).get('Thin main')!;
    expect([thin.faults, thin.wantsBoreMm]).toEqual([['narrow'], 7.9]);
  });

  it('are levelled anew from several occasions together, and a line for air may rise', () => {
    const one = levelled(main.id, [
      [0, 10],
      [30, 9]
    ]);
    const other = levelled(main.id, [
      [30, 80],
      [70, 78.4],
      [100, 77]
    ]);
    const of = judged(main, one, other).get('Main')!;
    expect(of.profile.fall(0, 3).mean).toBeCloseTo(1 + 1.6 + 1.4, 1);
    expect(of.findings).toEqual([]);
    expect(of.lifting).toBeNull();
    // Lifted, and levelled afresh: what was read before is of another line.
    const lifted = {
      ...levelled(main.id, [
        [0, 10],
        [30, 9.9],
        [100, 7]
      ]),
      afresh: true
    } as BushRecord;
    expect(judged(main, one, other, lifted).get('Main')!.profile.fall(0, 1).mean).toBeCloseTo(0.1, 1);
    const air = pipe('Air', { use: 'air' });
    expect(
      judged(
        air,
        levelled(air.id, [
          [0, 1],
          [20, 3]
        ])
      ).get('Air')!.findings
    ).toEqual([]);
  });

  it('are judged by what was levelled where they run now', () => {
    const heights: [number, number][] = [
      [0, 10],
      [100, 7]
    ];
    const before = { ...main, runsSince: '2027-02-01T12:00:00.000Z' };
    expect(judged(before, levelled(main.id, heights)).get('Main')!.levelled).toBe(true);
    const bent = { ...main, runsSince: '2027-02-03T12:00:00.000Z' };
    expect(judged(bent, levelled(main.id, heights)).get('Main')!.levelled).toBe(false);
    // A hand that strays by a metre draws the same course; a bend, another end or another length is another.
    const course = main.points;
    const moved = (i: number, by: number) =>
      course.map(([east, north], k): [number, number] => (k === i ? [east, north + by] : [east, north]));
    expect(holdsLevels(course, moved(1, 0.6))).toBe(true);
    expect(holdsLevels(course, moved(1, 4))).toBe(false);
    expect(holdsLevels(course, course.slice(0, -1))).toBe(false);
    expect(
      holdsLevels(
        [
          [0, 0],
          [50, 0],
          [100, 0]
        ],
        [
          [0, 0],
          [100, 0]
        ]
      )
    ).toBe(true);
  });

  it('are put together from parts', () => {
    const parts = partsOfLines([...judged(main, pipe('Lateral', { intoId: main.id, drops: drops(1, 2) })).values()]);
    expect(parts.find(({ what, boreMm }) => what === 'pipe' && boreMm === 19.1)!.needed).toBe(100);
    expect(parts.find(({ what }) => what === 'spouts')!.needed).toBe(2);
  });

  it('cost work, by hand: to put them up, to take down and up what comes down, to mend what stays', () => {
    const lateral = pipe('Lateral', { intoId: main.id, drops: drops(2, 3, 4), staysUp: false });
    const judgedBoth = judgeLines([tank, { ...main, staysUp: true }, lateral], rows);
    // 100 m on a wire; 20 m by hand, joined, three drops.
    const [staying, coming] = [100 * 0.05, 20 * 0.02 + 0.5 + 0.3];
    const work = workOfLines(judgedBoth);
    expect(work.build).toBeCloseTo(staying + coming, 9);
    expect([work.down, work.up, work.mend]).toEqual(
      [0.3 * coming, 0.5 * coming, 0.15 * staying].map((each) => expect.closeTo(each, 9))
    );
    expect(work.ifAll.comesDown).toBeCloseTo(0.8 * work.build, 9);
    expect(workOfLines([])).toMatchObject({ build: 0, mend: 0 });
  });

  it('keep what was levelled of them, and what runs into them, when they are corrected', () => {
    const lateral = pipe('Lateral', { intoId: main.id, drops: drops(1) });
    const level = levelled(main.id, [
      [0, 10],
      [100, 7]
    ]);
    const { id: _, ...said } = main;
    const renamed = told({ ...said, name: 'Long main', correctsId: main.id } as Told);
    const found = judged(...effectiveRecords([main, lateral, level, renamed]));
    expect([found.has('Main'), found.get('Long main')!.levelled, found.get('Long main')!.tapsAbove]).toEqual([
      false,
      true,
      1
    ]);
    // What nobody can write: two that correct each other. It ends.
    const circle = { ...main, correctsId: renamed.id };
    expect(effectiveRecords([circle, renamed, level] as BushRecord[])).toHaveLength(1);
  });

  it('are drawn by two points at least, and their readings are of heights or falls', () => {
    expect(bushRecordSchema.safeParse({ ...main, points: [[0, 0]] }).success).toBe(false);
    expect(bushRecordSchema.safeParse({ ...main, boreMm: 0 }).success).toBe(false);
    const onePlace = [
      [5, 5],
      [5, 5.1],
      [5, 5]
    ];
    expect(bushRecordSchema.safeParse({ ...main, points: onePlace }).success).toBe(false);
    // A double click leaves its last point twice.
    const twice = {
      ...main,
      points: [
        [0, 0],
        [30, 0],
        [30, 0]
      ]
    } as BushRecord;
    expect(judged(twice).get('Main')!.profile.atM).toEqual([0, 30]);
  });
});
