import { describe, expect, it } from 'vitest';
import { dayAt, expectedSyrup, fireAdvice, panRate, reckonings, storedSap, weatherOf } from '../src/bush/index.ts';
import { writeBatches, writeSapLog } from '../src/exchange/index.ts';
import { sapToSyrup } from '../src/sap/index.ts';
import { formatDegrees, formatSmallVolume, fromScale } from '../src/units/index.ts';
import { days, SEASON, told, type Told, weather } from './seasonBush.ts';

describe('sap that waits, and what became of it', () => {
  const emptied = (on: string, litres: number, fields: object = {}) =>
    told({
      kind: 'collection',
      on,
      placeId: null,
      hour: 16,
      litres,
      taps: 50,
      drilledOn: '2027-02-20',
      brix: 2,
      ...fields
    } as Told);
  const batch = (fields: object = {}) =>
    told({ kind: 'batch', on: '2027-03-09', season: SEASON, sapLitres: 300, sapBrix: 2, ...fields } as Told);
  const at = { season: SEASON, today: '2027-03-10', hour: 9 };
  const mild = weatherOf(
    [
      ...weather('thermometer', days('2027-02-20', 18, 4, 14)),
      ...weather('forecast', days('2027-03-10', 5, 4, 14), '2027-03-10')
    ],
    '2027-03-10'
  );
  it('is what was kept less what went onto the fire, the oldest first', () => {
    const records = [
      emptied('2027-03-05', 200),
      emptied('2027-03-08', 250, { brix: 3 }),
      emptied('2027-03-08', 90, { went: 'pouredAway' })
    ];
    expect(storedSap([...records, batch()], mild, at)).toMatchObject({
      since: { on: '2027-03-08', hour: 16 },
      brixAssumed: false
    });
    expect(storedSap([...records, batch()], mild, at)!.litres).toBeCloseTo(150, 0);
    expect(storedSap([...records, batch({ sapLitres: 450 })], mild, at)).toBeNull();
    // Birch sap is none of it.
    expect(storedSap([...records, batch({ of: 'birch' })], mild, at)!.litres).toBeCloseTo(450, 0);
  });
  it('turns by the warmth that it stood in, and is boiled before it has', () => {
    const warm = storedSap([emptied('2027-03-08', 250)], mild, at)!;
    expect(warm.turned).toBeGreaterThan(0.9);
    expect(fireAdvice(warm, 2, 1000)).toBe('spoilsSoon');
    const icy = weatherOf(
      [
        ...weather('thermometer', days('2027-02-20', 18, -6, 2)),
        ...weather('forecast', days('2027-03-10', 6, -6, 2), '2027-03-10')
      ],
      '2027-03-10'
    );
    const cold = storedSap([emptied('2027-03-09', 250)], icy, at)!;
    expect(cold.turned).toBeLessThan(0.2);
    expect(fireAdvice(cold, 2, 1000)).toBe('wait');
    expect(fireAdvice(cold, 6, 1000)).toBe('fullDay');
    expect(fireAdvice(cold, 2, 10)).toBe('runEnds');
    expect(fireAdvice(null, null, 0)).toBe('nothing');
  });
  it('has the sugar that the bush usually has where nobody read it, and says so', () => {
    const store = storedSap(
      [emptied('2027-03-08', 100, { brix: null }), emptied('2027-03-08', 100, { brix: 3 })],
      mild,
      at
    )!;
    expect(store.brixAssumed).toBe(true);
    expect(store.brix).toBeCloseTo(3, 1);
  });
  it('makes as much syrup as its sugar allows: within 4 % of 86 divided by Brix (Jones 1946)', () => {
    for (const brix of [1.5, 2, 3]) {
      const { litres } = expectedSyrup({ sapLitres: 1000, sapBrix: brix, iceLitres: 0, syrupBrix: 66 })!;
      expect(1000 / litres / sapToSyrup(brix)).toBeGreaterThan(0.96);
      expect(1000 / litres / sapToSyrup(brix)).toBeLessThan(1.04);
    }
    expect(expectedSyrup({ sapLitres: 10, sapBrix: 2, iceLitres: 20, syrupBrix: 66 })).toBeNull();
    expect(expectedSyrup({ sapLitres: 10, sapBrix: 2, iceLitres: 0, syrupBrix: null })).toBeNull();
  });
  it('boils at the pace of its own pan, by area until two batches tell it', () => {
    const done = (hours: number) => batch({ syrupLitres: 8, syrupBrix: 66, hours, woodM3: 0.3 });
    expect(panRate([], null).litresAnHour).toBeNull();
    expect(panRate([done(5)], 2)).toMatchObject({ batches: 0, litresAnHour: 60 });
    const own = panRate([done(5), done(5.5)], 2);
    expect(own.batches).toBe(2);
    expect(own.litresAnHour).toBeCloseTo(56, -1);
    expect(own.woodM3AKg).toBeCloseTo(0.3 / 292, 3);
  });
  it('is added up by season', () => {
    const records = [
      emptied('2027-03-05', 200),
      emptied('2027-03-08', 100, { look: 'ropy', went: 'pouredAway' }),
      batch({
        sapLitres: 200,
        syrupLitres: 5,
        syrupBrix: 66,
        hours: 4,
        woodM3: 0.2,
        bottles: [{ litres: 0.5, many: 8, went: 'given' }]
      }),
      batch({ of: 'birch', sapLitres: 100, sapBrix: 0.9, syrupLitres: 1, syrupBrix: 66 }),
      told({ kind: 'workHours', on: '2027-03-05', work: 'collecting', people: 2, hours: 1.5 }),
      emptied('2026-03-05', 90)
    ];
    const [now, before] = reckonings(records);
    expect(now).toMatchObject({
      season: 2027,
      taps: 50,
      sapLitres: 200,
      pouredLitres: 100,
      syrupLitres: 5,
      hours: 3,
      fireHours: 4
    });
    expect(now!.bottled.given).toBe(4);
    expect(before).toMatchObject({ season: 2026, sapLitres: 90, syrupLitres: 0 });
  });
});

describe('the log as files', () => {
  it('has a line for each emptying and batch, and runs no formula in a spreadsheet', () => {
    const place = told({
      kind: 'collectingPlace',
      on: '2027-02-20',
      name: '=west',
      vessel: 'tank',
      litres: 500,
      carrier: 'vehicle',
      treeIds: []
    });
    const log = writeSapLog([
      place,
      told({
        kind: 'collection',
        on: '2027-03-02',
        placeId: place.id,
        hour: 16.5,
        litres: 120,
        taps: 40,
        brix: 2.1,
        ranOver: true
      })
    ]);
    expect(log.split('\r\n')[1]).toBe(`2027-03-02,16.50,'=west,maple,120,40,,2.1,clear,,yes,kept,`);
    const batches = writeBatches([
      told({
        kind: 'batch',
        on: '2027-03-04',
        season: SEASON,
        sapLitres: 300,
        sapBrix: 2,
        syrupLitres: 6.5,
        syrupBrix: 66,
        note: 'a, b'
      })
    ]);
    expect(batches.split('\r\n')[1]).toBe('2027-03-04,2027,maple,300,2,0,syrup,6.5,66,,,,"a, b"');
  });
});

describe('temperatures and few litres for people', () => {
  it.each([
    [0, 'metric', '0 °C'],
    [-0.3, 'metric', '0 °C'],
    [-4, 'metric', '−4 °C'],
    [100, 'inch', '212 °F'],
    [-40, 'inch', '−40 °F']
  ] as const)('%d °C reads %s: %s', (c, system, words) => {
    expect(formatDegrees(c, system)).toBe(words);
  });
  it('go back as they were typed', () => {
    expect(fromScale(219.1, 'inch')).toBeCloseTo(103.94, 2);
    expect(formatSmallVolume(3.44, 'metric')).toBe('3.4 l');
    expect(formatSmallVolume(38, 'inch')).toBe('10 gal');
    expect(dayAt(2027, 59)).toBe('2027-03-01');
  });
});
