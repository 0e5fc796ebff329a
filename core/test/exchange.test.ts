import fc from 'fast-check';
import { describe, expect, it } from 'vitest';

import { fromLocalMetres, toLocalMetres } from '../src/geometry/index.ts';
import { readTable, speciesByName, UnreadableFile, TABLES, writeBadRows, writeTable } from '../src/exchange/index.ts';
import { SPECIES } from '../src/identify/index.ts';
import {
  deriveTree,
  isOutstanding,
  seasonOf,
  effectiveRecords,
  swappedReadings,
  treeRow,
  type Reading,
  type Tree,
  type WorkRecord
} from '../src/records/index.ts';

const options = { today: '2026-11-23', defaultUnit: 'cm' as const, told: { undatedOn: '2026-11-23' } };
const readCsv = (text: string) => readTable(text, options);

describe('a file of trees', () => {
  it('takes no season of a hole that is not yet, or was before anybody wrote of it', () => {
    const bad = (cell: string) => readCsv(`tag,holes\n1,${cell}`).bad.map(({ reason }) => reason);
    expect(bad('2027:180:95')).toEqual([]);
    expect(bad('2028:180:95')).toEqual([expect.stringMatching(/no season from 1900 to 2027/)]);
    expect(bad('1899:180:95')).toHaveLength(1);
    const row = (season: string) => readCsv(`tag,season,bearing_deg,height_cm\n1,${season},180,95`).bad.length;
    expect([row('2027'), row('2199'), row('1850')]).toEqual([0, 1, 1]);
  });

  it('reads what a steward would write', () => {
    const file = readCsv(
      'Tag;Species;Girth (cm);measured_on;x_m;y_m;holes;colour\n' +
        '1;sugar maple;115,5;2024-09-30;3,5;-12;2024:180:95;2025:200:110.5;red\n'
          .replace('2024:180:95;', '"2024:180:95;')
          .replace('110.5;', '110.5";') +
        '2;Acer rubrum;1\' 2";;;;;\n' +
        'A-3;maple;;;;;;\n'
    );
    expect(file.bad).toEqual([]);
    expect(file.ignoredColumns).toEqual(['colour']);
    expect(file.statements[0]).toMatchObject({
      tag: '1',
      species: 'sugarMaple',
      reading: { quantity: 'girth', valueMm: 1155, on: '2024-09-30', method: 'girthTape' },
      position: { eastM: 3.5, northM: -12, quality: 'paced' },
      holes: [
        { season: 2024, bearingDeg: 180, heightMm: 950, bitMm: null },
        { season: 2025, bearingDeg: 200, heightMm: 1105, bitMm: null }
      ]
    });
    expect(file.statements[1]!.reading!.valueMm).toBeCloseTo(14 * 25.4, 9);
    expect(file.statements[2]).toMatchObject({ mapleOpen: true, species: null, reading: null });
  });

  it.each([
    ['tag,diameter\n,30', 'tag', /no tag/],
    ['tag,diameter\n1,30\n1,31', 'tag', /line 2 already/],
    ['tag,diameter\n1,stout', 'diameter', /cannot read/],
    ['tag,diameter_in\n1,140', 'diameter', /355.6 cm thick/],
    ['tag,diameter,girth\n1,30,94', 'girth', /both/],
    ['tag,diameter\n1,girth 94 cm', 'diameter', /Which is it/],
    ['tag,species\n1,Acre rubrum', 'species', /do not know/],
    ['tag,diameter,date\n1,30,2026-02-30', 'measured_on', /not a date/],
    ['tag,diameter,date\n1,30,2027-01-01', 'measured_on', /future/],
    ['tag,east_m,north_m\n1,4,', 'north', /without the other/],
    ['tag,east_m,north_m\n1,NaN,3', 'east', /not a number/],
    ['tag,lat,lon\n1,99,3', 'lat', /no place/],
    ['tag,holes\n1,2024-180-95', 'holes', /not season:bearing:height/],
    ['tag,holes\n1,2024:400:95', 'holes', /0 to 360/],
    ['tag,diameter\n1,36,5 cm', null, /comma/],
    [
      'tag,east_m,north_m,diameter,date\n1,4,5,30,2020-01-01\n1,40,50,31,2021-01-01',
      'tag',
      /line 2 already, as another tree/
    ],
    ['tag,season,bearing_deg,height_cm\n1,2024,400,90', 'bearing_deg', /0 to 360/],
    ['tag,season,bearing_deg,height_cm,bit_mm\n1,2024,40,90,80', 'bit', /out of range/]
  ])('%j is named', (text, column, reason) => {
    const { bad } = readCsv(text);
    expect(bad).toHaveLength(1);
    expect(bad[0]!.column).toBe(column);
    expect(bad[0]!.reason).toMatch(reason);
  });

  it('refuses what is no table of trees', () => {
    expect(() => readCsv('PK\u0003\u0004\u0000\u0000')).toThrow(UnreadableFile);
    expect(() => readCsv('name,size\na,3')).toThrow(/"tag"/);
    expect(() => readCsv(Array.from({ length: 10_000 }, (_, i) => `c${i}`).join(','))).toThrow(/10000 columns/);
  });

  it('keeps bad rows whole, and they can be mended and read again', () => {
    const file = readCsv('tag,species,diameter\n7,"=cmd, or so",30\n8,beech,40');
    const mended = writeBadRows(file).replace(/"?'=cmd, or so"?/, 'sugar maple');
    expect(readCsv(mended).statements).toMatchObject([{ tag: '7', species: 'sugarMaple' }]);
  });
});

describe('round trip', () => {
  const uuid = (n: number) => `00000000-0000-4000-8000-${String(n).padStart(12, '0')}`;
  const tree = fc.record({
    tag: fc
      .stringMatching(/^[A-Za-z0-9=+@-][A-Za-z0-9 -]{0,8}$/)
      .map((t) => t.trim())
      .filter((t) => t !== ''),
    species: fc.constantFrom(...SPECIES.map((s) => s.id)),
    dbhMm: fc.integer({ min: 150, max: 1500 }),
    east: fc.integer({ min: -90_000, max: 90_000 }),
    north: fc.integer({ min: -90_000, max: 90_000 }),
    holes: fc.array(
      fc.record({
        season: fc.integer({ min: 1998, max: 2026 }),
        bearing: fc.integer({ min: 0, max: 359 }),
        height: fc.integer({ min: 30, max: 200 })
      }),
      { maxLength: 3 }
    )
  });

  it('what is written reads back the same', () => {
    fc.assert(
      fc.property(fc.uniqueArray(tree, { selector: (t) => t.tag.toLowerCase(), maxLength: 8 }), (drawn) => {
        const written = drawn.map((d, i) => {
          const base = {
            id: uuid(i),
            treeId: uuid(i),
            on: '2025-10-01',
            recordedAt: '2025-10-01T10:00:00Z',
            correctsId: null,
            withdrawn: false,
            note: ''
          };
          const records: WorkRecord[] = [
            {
              ...base,
              kind: 'reading',
              quantity: 'diameter',
              valueMm: d.dbhMm,
              asWritten: '',
              method: 'calipers',
              heightMm: 1300,
              confirmed: false
            },
            {
              ...base,
              id: uuid(100 + i),
              kind: 'determination',
              verdict: SPECIES.find((s) => s.id === d.species)!.sap === 'none' ? 'notMaple' : 'settled',
              species: d.species,
              probability: 1,
              age: 'grown',
              basis: 'declared',
              lookSeason: null,
              evidence: {}
            },
            ...d.holes.map((h, n): WorkRecord => ({
              ...base,
              id: uuid(1000 + 10 * i + n),
              kind: 'taphole',
              season: h.season,
              bearingDeg: h.bearing,
              heightMm: h.height * 10,
              bitMm: 8,
              depthMm: 38,
              predictedClear: null,
              strategy: null
            }))
          ];
          const row: Tree = {
            id: uuid(i),
            tag: d.tag,
            standId: null,
            walkOrder: i,
            eastM: d.east / 100,
            northM: d.north / 100,
            positionQuality: 'paced',
            positionAccuracyM: null,
            tagged: true,
            stemOf: null
          };
          return { tree: row, stand: null, state: deriveTree(records, { season: 2027, today: '2026-11-23' }) };
        });
        const file = readCsv(writeTable(TABLES[0]!, written));
        expect(file.bad).toEqual([]);
        expect(
          file.statements.map((t) => [
            t.tag,
            t.species,
            t.reading?.valueMm,
            t.reading?.method,
            t.position,
            t.holes.length
          ])
        ).toEqual(
          drawn.map((d) => [
            d.tag,
            d.species,
            expect.closeTo(d.dbhMm, 6),
            'calipers',
            { eastM: d.east / 100, northM: d.north / 100, quality: 'paced' },
            d.holes.length
          ])
        );
      })
    );
  });
});

describe('positions', () => {
  it('in metres turn back into the degrees that they came from, to a tenth of a millimetre', () => {
    const km = fc.double({ min: -5000, max: 5000, noNaN: true });
    fc.assert(
      fc.property(km, km, fc.double({ min: -70, max: 70, noNaN: true }), (eastM, northM, lat) => {
        const origin = { lat, lon: 11 };
        const back = toLocalMetres(origin, fromLocalMetres(origin, { eastM, northM }));
        expect(Math.hypot(back.eastM - eastM, back.northM - northM)).toBeLessThan(1e-4);
      })
    );
  });

  it('two points near 44.5 N, 73.2 W lie 136.649 m apart (GeodSolve)', () => {
    const { eastM, northM } = toLocalMetres({ lat: 44.5, lon: -73.2 }, { lat: 44.501, lon: -73.199 });
    expect(Math.hypot(eastM, northM)).toBeCloseTo(136.649, 2);
  });

  it('knows species by their common, Latin and everyday names', () => {
    expect(
      ['Sugar Maple', 'hard maple', 'ACER RUBRUM', 'ironwood', 'Ash', 'White  Birch', 'Acre'].map(speciesByName)
    ).toEqual(['sugarMaple', 'sugarMaple', 'redMaple', 'hophornbeam', 'whiteAsh', 'paperBirch', null]);
  });
});

describe('records', () => {
  const reading = (id: string, on: string, more: Partial<Reading> = {}): Reading => ({
    id,
    treeId: 't',
    on,
    recordedAt: `${on}T10:00:00Z`,
    correctsId: null,
    withdrawn: false,
    kind: 'reading',
    quantity: 'diameter',
    valueMm: 300,
    asWritten: '30',
    method: 'diameterTape',
    heightMm: 1300,
    confirmed: false,
    note: '',
    ...more
  });

  it('a correction stands for what it corrects; a withdrawal leaves nothing; order of arrival does not matter', () => {
    const list = [
      reading('a', '2020-10-01'),
      reading('b', '2025-10-01', { valueMm: 1000 }),
      reading('c', '2025-10-01', { valueMm: 318, correctsId: 'b' }),
      reading('d', '2025-10-02', { valueMm: 999 }),
      reading('e', '2025-10-02', { correctsId: 'd', withdrawn: true })
    ];
    expect(effectiveRecords(list).map((r) => r.id)).toEqual(['a', 'c']);
    expect(effectiveRecords([...list].reverse()).map((r) => r.id)).toEqual(['a', 'c']);
    expect(deriveTree(list, { season: 2027, today: '2025-10-03' }).lastReading?.valueMm).toBe(318);
  });

  it('a reading that the guard asks about is left aside until somebody answers for it', () => {
    const list = [
      reading('a', '2015-10-01'),
      reading('b', '2020-10-01', { valueMm: 318 }),
      reading('c', '2025-10-01', { valueMm: 1056 })
    ];
    const asked = deriveTree(list, { season: 2027, today: '2025-10-01' });
    expect([...asked.questioned.keys()]).toEqual(['c']);
    expect(asked.questioned.get('c')!.cause).toBe('girthAsDiameter');
    expect(asked.dbhMm).toBeLessThan(345);
    const confirmed = [...list, reading('d', '2025-10-01', { valueMm: 1056, correctsId: 'c', confirmed: true })];
    expect(deriveTree(confirmed, { season: 2027, today: '2025-10-01' }).questioned.size).toBe(0);
  });

  describe('tags that were mixed up', () => {
    const state = (values: [string, number][]) =>
      deriveTree(
        values.map(([on, valueMm]) => reading(`${on}/${valueMm}`, on, { valueMm })),
        { season: 2027, today: '2026-11-23' }
      );
    const thin = (last: number, on = '2024-10-10') =>
      state([
        ['2014-10-10', 280],
        ['2019-10-10', 295],
        [on, last]
      ]);
    const thick = (last: number) =>
      state([
        ['2014-10-10', 500],
        ['2019-10-10', 515],
        ['2024-10-12', last]
      ]);

    it('are found where both readings fit the other tree', () => {
      const found = swappedReadings(thin(531), thick(310))!;
      expect([found.own.valueMm, found.other.valueMm]).toEqual([531, 310]);
    });

    it('are not suspected where one of the two fits its own tree, or fits neither, or was read another year', () => {
      expect(swappedReadings(thin(310), thick(531))).toBeNull();
      expect(swappedReadings(thin(531), thick(530))).toBeNull();
      expect(swappedReadings(thin(900), thick(310))).toBeNull();
      expect(swappedReadings(thin(531, '2022-06-01'), thick(310))).toBeNull();
    });
  });

  it('sends nobody to measure a beech or to tap what is open', () => {
    const tree: Tree = {
      id: 't',
      tag: '1',
      standId: null,
      walkOrder: 0,
      eastM: null,
      northM: null,
      positionQuality: null,
      positionAccuracyM: null,
      tagged: true,
      stemOf: null
    };
    const row = treeRow(tree, deriveTree([], { season: 2027, today: '2026-11-23' }));
    const outstanding = (change: Partial<typeof row>) =>
      (['identify', 'measure', 'count', 'place'] as const).filter((s) =>
        isOutstanding(s, { ...row, ...change }, '2026-11-23')
      );
    expect(outstanding({})).toEqual(['identify', 'measure']);
    expect(outstanding({ verdict: 'notMaple', species: 'beech' })).toEqual([]);
    expect(outstanding({ verdict: 'settled', species: 'sugarMaple', dbhMm: 400, lastReadingOn: '2025-10-01' })).toEqual(
      ['count']
    );
    expect(
      outstanding({
        verdict: 'settled',
        species: 'sugarMaple',
        dbhMm: 400,
        lastReadingOn: '2019-10-01',
        decidedTaps: 2,
        drilled: 1
      })
    ).toEqual(['measure', 'place']);
  });

  it('a season is named by the year its sap runs in', () => {
    expect(['2026-06-30', '2026-07-01', '2026-11-23', '2027-02-20'].map(seasonOf)).toEqual([2026, 2027, 2027, 2027]);
  });
});
