import { describe, expect, it } from 'vitest';

import { looksToMake, missingSap, PipeNet, tapsOnLines, weatherOf, type LineLookWorth } from '../src/bush/index.ts';
import { placeAlong } from '../src/geometry/index.ts';
import { bushRecordSchema, DEFAULT_BUSH_SETTINGS, type BushRecord } from '../src/records/index.ts';
import { drops, id, pipe, SEASON, spring, told, tree, weather, type Told } from './seasonBush.ts';

/* A main line of 100 m due east; a lateral joins it at 30 m, another at 80 m. Lengths and ways are told by hand. */
const tank = told({
  kind: 'collectingPlace',
  on: '2027-02-01',
  name: 'Tank',
  vessel: 'tank',
  litres: 500,
  vessels: 1,
  carrier: 'vehicle',
  treeIds: [1, 2, 3, 4, 5].map(id)
} as Told);
const buckets = told({
  kind: 'collectingPlace',
  on: '2027-02-01',
  name: 'Buckets',
  vessel: 'bucket',
  litres: 13,
  carrier: 'hand',
  treeIds: [id(9)]
} as Told);
const main = pipe('Main', {
  use: 'main',
  boreMm: 19.1,
  held: 'wire',
  placeId: tank.id,
  drops: drops(5),
  points: [
    [0, 0],
    [100, 0]
  ]
});
const upper = pipe('Upper lateral', {
  intoId: main.id,
  drops: drops(1, 2),
  points: [
    [30, 20],
    [30, 0]
  ]
});
const lower = pipe('Lower lateral', {
  intoId: main.id,
  drops: drops(3, 4),
  points: [
    [80, 25],
    [80, 0]
  ]
});
const set = { kind: 'hanging', season: SEASON, on: '2027-02-26' };
const rows = [
  tree(1, { drilledOn: '2027-02-25', at: [30, 20], more: [set] }).row,
  tree(2, { drilledOn: '2027-02-25', at: [30, 10], more: [set] }).row,
  tree(3, { drilledOn: '2027-02-25', at: [80, 25], more: [set] }).row,
  tree(4, { drilledOn: '2027-02-25', at: [80, 10], taps: 2 }).row,
  tree(5, { drilledOn: '2027-02-25', at: [60, 2], more: [set] }).row,
  tree(9, { drilledOn: '2027-02-25', at: [0, 60], taps: 2, more: [set] }).row
];
const past = weatherOf(weather('thermometer', spring(SEASON)), '2027-06-01').past;
const asked = (records: readonly BushRecord[], today = '2027-03-20') =>
  missingSap({
    records: [tank, buckets, main, upper, lower, ...records],
    rows,
    weather: { past },
    settings: DEFAULT_BUSH_SETTINGS,
    season: SEASON,
    today
  });
const reading = (on: string, fields: object) =>
  told({ kind: 'lineReading', on, hour: 14.2, lineId: main.id, ...fields } as Told);
const look = (on: string, fields: object) => told({ kind: 'lineLook', on, lineId: main.id, ...fields } as Told);

describe('how lines run into each other', () => {
  const net = new PipeNet([main, upper, lower]);
  it('is told by where their feet lie on the next', () => {
    expect(placeAlong([30, 20], main.points)).toEqual({ alongM: 30, awayM: 20 });
    expect(net.way(upper.id, 5)).toEqual([
      { lineId: upper.id, fromM: 5 },
      { lineId: main.id, fromM: 30 }
    ]);
    // By hand: the lower has 20 m of the main in common with the upper, which has 15 m of its own and 70 m of the main.
    expect(net.sharedM(net.way(upper.id, 5), net.way(lower.id, 0))).toBe(20);
    expect(net.sharedM(net.way(upper.id, 5), net.way(upper.id, 5))).toBe(85);
    expect(net.foot(upper.id)).toBe(main);
    expect(net.above(main.id).map(({ name }) => name)).toEqual(['Main', 'Upper lateral', 'Lower lateral']);
  });
  it('shares the taps of a tree out among its drops', () => {
    const twice = { ...lower, drops: drops(4, 1) };
    const on = tapsOnLines([main, upper, twice], (treeId) => (treeId === id(1) ? 3 : 1));
    expect(on.get(upper.id)!.map(({ taps }) => taps)).toEqual([2, 1]);
    expect(on.get(twice.id)!.map(({ taps }) => taps)).toEqual([1, 1]);
  });
  it('ends where it comes round', () => {
    const [a, b] = [upper, { ...lower, intoId: upper.id }];
    const round = new PipeNet([{ ...a, intoId: b.id }, b]);
    expect(round.way(a.id, 0).map(({ lineId }) => lineId)).toEqual([a.id, b.id]);
    expect(round.above(a.id)).toHaveLength(2);
  });
});

describe('what may be missing behind lines', () => {
  it('is asked of every tap, through the pieces that its sap passes', () => {
    const { task, taps, pieces } = asked([])!;
    expect(taps.map(({ row }) => row.tag).sort()).toEqual(['1', '2', '3', '4', '4', '5']);
    // The main is told apart in two halves.
    expect(pieces.map(({ line: { name }, fromM, toM }) => [name, fromM, toM])).toEqual([
      ['Lower lateral', 0, 25],
      ['Main', 0, 50],
      ['Main', 50, 100],
      ['Upper lateral', 0, 20]
    ]);
    const passes = (tag: string) =>
      pieces
        .filter((_, i) => {
          const tap = taps.findIndex(({ row }) => row.tag === tag);
          return pieces[i]!.sites.some((site) => task.taps[tap]!.path.includes(site));
        })
        .map(({ line: { name }, fromM }) => `${name} ${fromM}`);
    // The middle of the main's upper half, at 25 m, lies above where the upper lateral joins it.
    expect(passes('1')).toEqual(['Main 50', 'Upper lateral 0']);
    expect(passes('3')).toEqual(['Lower lateral 0']);
    expect(passes('5')).toEqual(['Main 50']);
  });

  it('doubts spouts that were not reported set where the others were', () => {
    const { task, taps } = asked([])!;
    const notSet = taps.map(({ row }, i) => [row.tag, task.taps[i]!.chances.notSet] as const);
    for (const [tag, chance] of notSet)
      if (tag === '4') expect(chance).toBeGreaterThan(0.1);
      else expect(chance).toBeLessThan(0.01);
  });

  it('cuts a main line where gauges stand on it, and knows what way air has in common', () => {
    const { task, pieces } = asked([
      reading('2027-03-05', {
        gauges: [
          { alongM: 100, kPa: 70 },
          { alongM: 40, kPa: 62 }
        ]
      })
    ])!;
    expect(pieces.flatMap(({ line: { name }, fromM, toM }) => (name === 'Main' ? [[fromM, toM]] : []))).toEqual([
      [0, 40],
      [40, 100]
    ]);
    const [foot, far] = task.gauges;
    expect([foot!.distanceM, far!.distanceM]).toEqual([0, 60]);
    const shared = (name: string, fromM: number) =>
      far!.sharedM[pieces.find((piece) => piece.line.name === name && piece.fromM === fromM)!.sites[0]!];
    expect([shared('Main', 0), shared('Main', 40), shared('Lower lateral', 0), shared('Upper lateral', 0)]).toEqual([
      60, 30, 20, 60
    ]);
  });

  it('holds what a place gave against former seasons, and knows what else ran into it', () => {
    const emptied = (placeId: string, taps: number, litres: number) =>
      told({ kind: 'collection', on: '2027-03-15', hour: 17, placeId, taps, drilledOn: '2027-02-25', litres } as Told);
    const { task, told: read } = asked([emptied(tank.id, 8, 20), emptied(buckets.id, 2, 9)])!;
    expect(task.came.map(({ taps, besides }) => [taps.length, besides])).toEqual([
      [6, 2],
      [0, 2]
    ]);
    expect(read).toBe(1);
    // Both share the season and the day, and each has a place of its own.
    const [a, b] = task.came.map((each) => each.with);
    expect(a!.filter((each) => b!.includes(each))).toHaveLength(2);
  });

  it('expects nothing of taps that were drilled later, or whose spouts are out', () => {
    const emptied = told({
      kind: 'collection',
      on: '2027-03-15',
      hour: 17,
      placeId: tank.id,
      taps: 5,
      drilledOn: '2027-02-25',
      litres: 20
    } as Told);
    const late = [
      ...rows.filter(({ tag }) => tag !== '3'),
      tree(3, { drilledOn: '2027-03-18', at: [80, 25] }).row,
      tree(1, { drilledOn: '2027-02-25', at: [30, 20], pulled: 1 }).row
    ].filter((row, i, all) => !all.slice(i + 1).some(({ id: same }) => same === row.id));
    const { task, taps } = missingSap({
      records: [tank, main, upper, lower, emptied],
      rows: late,
      weather: { past },
      settings: DEFAULT_BUSH_SETTINGS,
      season: SEASON,
      today: '2027-03-20'
    })!;
    expect(taps.map(({ row }) => row.tag).sort()).toEqual(['2', '3', '4', '4', '5']);
    expect(task.came[0]!.taps.map((tap) => taps[tap]!.row.tag).sort()).toEqual(['2', '4', '4', '5']);
  });

  it('knows what was found: until it was mended it leaked, and a spout gave nothing', () => {
    const { task, taps, pieces } = asked([
      look('2027-03-10', { alongM: 70, found: 'bite', mended: true }),
      look('2027-03-12', { ofTreeId: id(4), lineId: lower.id, found: 'notSet', mended: true })
    ])!;
    const bitten = pieces.find(({ line: { name }, fromM }) => name === 'Main' && fromM === 50)!;
    const sites = bitten.sites.map((site) => task.sites[site]!);
    // Within the tenth of March, the sixty-ninth day.
    expect(Math.floor(sites[0]!.until)).toBe(68);
    expect(sites[0]!.chance).toBeGreaterThan(0.9);
    expect(sites[1]).toMatchObject({ from: sites[0]!.until, until: Infinity });
    const four = task.taps[taps.findIndex(({ row }) => row.tag === '4')]!;
    expect(four.mended!.fault).toBe('notSet');
    expect(Math.floor(four.mended!.day)).toBe(70);
    // Since then it is set.
    expect(four.chances.notSet).toBeLessThan(0.01);
  });

  it('was read before it was mended, on the same day', () => {
    const gauge = reading('2027-03-10', { gauges: [{ alongM: 0, kPa: 62 }] });
    const mended = {
      ...look('2027-03-10', { alongM: 90, found: 'bite', mended: true }),
      recordedAt: '2027-03-10T16:00:00.000Z'
    };
    const { task, pieces } = asked([mended, gauge])!;
    const site = task.sites[pieces.find(({ line: { name }, fromM }) => name === 'Main' && fromM === 50)!.sites[0]!]!;
    expect(task.gauges[0]!.day).toBeLessThan(site.until);
    expect(site.until).toBeLessThan(task.today);
  });

  it('lies where it was found: the way of its air is from there', () => {
    const bite = look('2027-03-10', { alongM: 90, found: 'bite', mended: true });
    const gauge = reading('2027-03-05', { gauges: [{ alongM: 0, kPa: 62 }] });
    const { task, pieces } = asked([bite, gauge])!;
    const [found, since] = pieces.find(({ line: { name }, fromM }) => name === 'Main' && fromM === 50)!.sites;
    expect([task.gauges[0]!.sharedM[found!], task.gauges[0]!.sharedM[since!]]).toEqual([10, 25]);
  });

  it('is likelier wrong where a look found it so and left it, less so where it found nothing', () => {
    const chance = (fields: object) => {
      const { task, taps } = asked([look('2027-03-12', { ofTreeId: id(4), lineId: lower.id, ...fields })])!;
      return task.taps[taps.findIndex(({ row }) => row.tag === '4')]!.chances;
    };
    expect(chance({ found: 'dry', mended: false }).dry).toBeGreaterThan(0.9);
    expect(chance({ found: 'nothing' }).notSet).toBeLessThan(0.05);
  });

  it('is not asked where nothing runs', () => {
    expect(
      missingSap({
        records: [main],
        rows,
        weather: { past },
        settings: DEFAULT_BUSH_SETTINGS,
        season: SEASON,
        today: '2027-03-20'
      })
    ).toBeNull();
  });
});

describe('readings and looks that say nothing', () => {
  const refused = (fields: object) =>
    bushRecordSchema.safeParse({
      id: id(77),
      recordedAt: '2027-03-01T10:00:00.000Z',
      on: '2027-03-01',
      kind: 'lineReading',
      lineId: main.id,
      hour: 9,
      ...fields
    }).error?.issues[0]?.message;
  it('are refused', () => {
    expect(refused({})).toContain('says nothing');
    expect(refused({ litres: 3 })).toContain('belong together');
    expect(refused({ litres: 3, minutes: 2 })).toBeUndefined();
  });
});

describe('the walk past what is worth a look', () => {
  const at = (name: string, east: number, litres: number, chance = 0.5): LineLookWorth => ({
    what: { row: { id: name, tag: name } as never, lineId: 'any' },
    chance,
    faults: { dry: 0, notSet: chance },
    litres,
    minutes: 2,
    at: [east, 0],
    leak: null
  });
  it('goes the short way, to what is worth the time', () => {
    // Forty-five metres in a minute: by hand, 2 + 2 + 2 minutes there, and 135 m of way.
    const { looks, minutes, litres } = looksToMake(
      [at('a', 0, 20), at('c', 90, 20), at('b', 45, 20), at('far', 9000, 30)],
      { from: [-45, 0], litresAnHour: 60 }
    );
    expect(looks.map(({ what }) => ('row' in what ? what.row.tag : ''))).toEqual(['a', 'b', 'c']);
    expect(minutes).toBeCloseTo(9, 6);
    expect(litres).toBe(60);
  });
  it('leaves what is unlikely, and is empty where nothing is worth it', () => {
    expect(looksToMake([at('a', 0, 20, 0.01), at('b', 0, 0.5)], { from: [0, 0], litresAnHour: 60 }).looks).toEqual([]);
  });
});
