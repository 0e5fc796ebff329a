import { describe, expect, it } from 'vitest';

import {
  asRecords,
  besideWalk,
  choicesHeld,
  closedAfter,
  closingSample,
  closingSpeedOf,
  collectionsToLearn,
  dayAt,
  daysOf,
  endOf,
  expectedSyrup,
  fireAdvice,
  gearFor,
  groupOutlook,
  hangingDue,
  highestTaps,
  hoursAhead,
  learnedFrom,
  panRate,
  placeReckonings,
  placesNow,
  placesToPlan,
  reckonings,
  roundCosts,
  roundDays,
  roundTime,
  runsAhead,
  seasonGroups,
  settingsAt,
  spoutsStillIn,
  standsIn,
  storedSap,
  stripOf,
  thinningsDone,
  toldBy,
  usualRuns,
  weatherOf,
  withinMinutes,
  yearsKnown,
  type PlaceNow,
  type SeasonGroup
} from '../src/bush/index.ts';
import { writeBatches, writeSapLog } from '../src/exchange/index.ts';
import { seededRng } from '../src/math/index.ts';
import {
  bushRecordSchema,
  DEFAULT_BUSH_SETTINGS,
  deriveTree,
  recordSchema,
  standSchema,
  treeRow,
  type BushRecord,
  type BushRecordInput,
  type TreeRow,
  type WorkRecord
} from '../src/records/index.ts';
import { sapToSyrup } from '../src/sap/index.ts';
import { ageing, dayAfter, daysBetween, planRounds, runIndex, type WeatherDay } from '../src/season/index.ts';
import { formatDegrees, formatSmallVolume, fromScale } from '../src/units/index.ts';

/* What a bush decides about its season from its records. Where simulated weather and logs are drawn from the model itself, the test says so. */

const id = (n: number) => `00000000-0000-4000-9000-${String(n).padStart(12, '0')}`;
let made = 5000;
const SEASON = 2027;

type Told = BushRecordInput extends infer R ? (R extends unknown ? Omit<R, 'id' | 'recordedAt'> : never) : never;
function told(record: Told): BushRecord {
  return bushRecordSchema.parse({ id: id(++made), recordedAt: `${record.on}T10:00:00.000Z`, ...record });
}
const weather = (
  source: 'typed' | 'thermometer' | 'station' | 'forecast',
  days: readonly WeatherDay[],
  on = '2027-03-10'
): BushRecord[] => asRecords(days).map((part) => told({ kind: 'weather', on, source, place: `a ${source}`, ...part }));

/** A spring of no place: colder first, warmer later, with spells. */
function spring(season: number, seed = season): WeatherDay[] {
  const rng = seededRng(seed);
  let spell = 0;
  return Array.from({ length: 151 }, (_, at) => {
    spell = 0.7 * spell + rng.normal(0, 2);
    const middle = -9 + 0.19 * at + spell;
    return {
      on: dayAfter(`${season}-01-01`, at),
      minC: Number((middle - 5).toFixed(1)),
      maxC: Number((middle + 5).toFixed(1))
    };
  });
}
const days = (from: string, many: number, minC: number, maxC: number): WeatherDay[] =>
  Array.from({ length: many }, (_, i) => ({ on: dayAfter(from, i), minC, maxC }));

describe('weather as records', () => {
  it('is the same days again, gaps and turns of the year included', () => {
    const read = [...days('2026-12-29', 5, -6, 1), ...days('2027-01-05', 2, -2, 3)];
    const records = weather('station', [...read].reverse());
    expect(records).toHaveLength(2);
    const back = records.flatMap((record) => (record.kind === 'weather' ? daysOf(record) : []));
    expect(back).toEqual(read.map((day) => ({ ...day, from: 'station' })));
  });
  it.each([
    ['a lowest above the highest', [4], [-2]],
    ['another number of highest ones', [-4, -4], [3]],
    ['a night without its day', [-4], [null]],
    ['no weather of this earth', [-99], [3]]
  ])('refuses %s', (_what, minC, maxC) => {
    const draft = { kind: 'weather', source: 'typed', place: 'here', from: '2027-03-01', minC, maxC };
    const record = { id: id(1), on: '2027-03-10', recordedAt: '2027-03-10T10:00:00.000Z', ...draft };
    expect(bushRecordSchema.safeParse(record).success).toBe(false);
  });
  it('is one series: what is read by hand before the thermometer, the station moved by what both showed', () => {
    const station = days('2027-02-01', 36, -3, 5);
    const own = days('2027-02-01', 30, -5, 4);
    const records = [
      ...weather('station', station),
      ...weather('thermometer', own),
      ...weather('typed', days('2027-02-03', 1, -9, 0))
    ];
    const { past, offset } = weatherOf(records, '2027-03-10');
    expect(offset.minC).toBeCloseTo(-2.2, 0.3);
    expect(past.find(({ on }) => on === '2027-02-03')).toMatchObject({ minC: -9, from: 'typed' });
    expect(past.find(({ on }) => on === '2027-02-04')).toMatchObject({ minC: -5, from: 'thermometer' });
    const moved = past.find(({ on }) => on === '2027-03-05')!;
    expect(moved.from).toBe('station');
    expect(moved.minC).toBeCloseTo(-3 + offset.minC, 6);
  });
  it('looks ahead as far as a forecast goes without a gap, less sure day by day, and says who made it when', () => {
    const foretold = [...days('2027-03-09', 4, -4, 6), ...days('2027-03-14', 3, -4, 6)];
    const { ahead, foretold: by } = weatherOf(weather('forecast', foretold, '2027-03-09'), '2027-03-10');
    expect(ahead.map(({ on }) => on)).toEqual(['2027-03-10', '2027-03-11', '2027-03-12']);
    expect(ahead[2]!.sdC).toBeGreaterThan(ahead[0]!.sdC);
    expect(by).toEqual({ by: 'a forecast', on: '2027-03-09' });
  });
  it('does not take an old forecast for one of today, nor a coming one for known', () => {
    const old = weather('forecast', days('2027-03-01', 5, -4, 6), '2027-03-01');
    const coming = weather('forecast', days('2027-03-12', 5, -4, 6), '2027-03-12');
    const { ahead, foretold } = weatherOf([...old, ...coming], '2027-03-10');
    expect(ahead).toEqual([]);
    expect(foretold).toBeNull();
  });
  it('names its sources with their days', () => {
    const records = [
      ...weather('station', days('2027-02-01', 3, -3, 5)),
      ...weather('typed', days('2027-02-02', 1, -3, 5))
    ];
    expect(toldBy(records)).toEqual([
      { source: 'station', place: 'a station', days: 3, first: '2027-02-01', last: '2027-02-03' },
      { source: 'typed', place: 'a typed', days: 1, first: '2027-02-02', last: '2027-02-02' }
    ]);
  });
  it('knows a year by its days, and what is usual on a day by the years', () => {
    const past = [2024, 2025, 2026].flatMap((season) => spring(season)).filter(({ on }) => !on.startsWith('2025-03'));
    const years = yearsKnown(past, SEASON);
    expect(years.map(({ season }) => season)).toEqual([2024, 2026]);
    const usual = usualRuns(years);
    const at = daysBetween('2026-01-01', '2026-03-20');
    const ran = [2024, 2026].filter((season) => runIndex(spring(season)[at]!) >= 0.15);
    expect(usual[at]).toBe(ran.length / 2);
  });
});

/* Trees. */
const STANDS = [
  standSchema.parse({ id: id(901), name: 'Sun', purpose: 'syrup', areaHa: 1, sun: 'sunny' }),
  standSchema.parse({ id: id(902), name: 'Shade', purpose: 'syrup', areaHa: 1, sun: 'shady' })
];
let written = 100_000;
function tree(
  n: number,
  of: {
    species?: 'sugarMaple' | 'redMaple';
    stand?: number;
    taps?: number;
    drilledOn?: string;
    pulled?: number;
    dbhMm?: number | null;
    at?: readonly [number, number];
    more?: readonly object[];
  } = {}
): { records: WorkRecord[]; row: TreeRow } {
  const { species = 'sugarMaple', stand = 901, taps = 1, drilledOn, pulled, dbhMm = 420, at = [n, 0], more = [] } = of;
  const record = (on: string, fields: object) =>
    recordSchema.parse({ id: id(++written), treeId: id(n), on, recordedAt: `${on}T10:00:00.000Z`, ...fields });
  const records = [
    record('2020-05-01', { kind: 'entry', tag: String(n), standId: id(stand) }),
    record('2020-05-01', { kind: 'place', eastM: at[0], northM: at[1], quality: 'surveyed' }),
    record('2020-05-02', {
      kind: 'determination',
      verdict: 'settled',
      species,
      probability: 1,
      age: 'grown',
      basis: 'declared',
      lookSeason: null,
      evidence: {}
    }),
    ...(dbhMm === null
      ? []
      : [
          record('2026-10-02', {
            kind: 'reading',
            quantity: 'diameter',
            valueMm: dbhMm,
            asWritten: '42 cm',
            method: 'diameterTape',
            heightMm: 1300
          })
        ]),
    record('2026-12-02', { kind: 'decision', season: SEASON, taps, suggested: taps, binding: 'size' }),
    ...(drilledOn
      ? Array.from({ length: taps }, (_, k) =>
          record(drilledOn, {
            kind: 'taphole',
            season: SEASON,
            bearingDeg: 90 * k,
            heightMm: 1000,
            bitMm: 7.9375,
            depthMm: 38.1
          })
        )
      : []),
    ...(pulled === undefined ? [] : [record('2027-04-10', { kind: 'pulling', season: SEASON, spouts: pulled })]),
    ...more.map((fields) => record((fields as { on: string }).on, fields))
  ];
  const line = {
    id: id(n),
    tag: String(n),
    tagged: true,
    standId: id(stand),
    stemOf: null,
    walkOrder: n,
    eastM: at[0],
    northM: at[1],
    positionQuality: 'surveyed' as const,
    positionAccuracyM: null
  };
  return { records, row: treeRow(line, deriveTree(records, { season: SEASON, today: '2027-03-10' })) };
}

describe('trees that run alike', () => {
  it('are told apart by when they swell and by the sun on their trunks, the most taps first', () => {
    const rows = [
      tree(1),
      tree(2, { taps: 2, drilledOn: '2027-02-20' }),
      tree(3, { species: 'redMaple' }),
      tree(4, { stand: 902 }),
      tree(5, { taps: 0 })
    ].map(({ row }) => row);
    const groups = seasonGroups(rows, STANDS, '2027-03-10');
    expect(groups.map((group) => [group.id, group.taps, group.drilled])).toEqual([
      ['lateSunny', 3, 2],
      ['earlySunny', 1, 0],
      ['late', 1, 0]
    ]);
  });
});

const GROUP: SeasonGroup = {
  id: 'late',
  swell: 'late',
  species: 'sugarMaple',
  sunny: false,
  treeIds: [],
  standIds: [],
  taps: 100,
  drilled: 0
};
const YEARS = [2019, 2020, 2021, 2022, 2023, 2024, 2025, 2026];
const HABIT = { days: 5, lifeDays: 36, litresAtFull: 5 };
const known = (today: string) =>
  weatherOf(
    [
      ...YEARS.flatMap((season) => weather('station', spring(season), today)),
      ...weather(
        'thermometer',
        spring(SEASON).filter(({ on }) => on < today),
        today
      )
    ],
    today
  );
const outlook = (today: string, signs: Parameters<typeof groupOutlook>[0]['signs'] = []) =>
  groupOutlook({ weather: known(today), group: GROUP, season: SEASON, today, habit: HABIT, signs });

describe('the season of a group', () => {
  it('has a best day over all known years before it has begun, and no advice for today', () => {
    const autumn = groupOutlook({
      weather: known('2026-11-20'),
      group: GROUP,
      season: SEASON,
      today: '2026-11-20',
      habit: HABIT,
      signs: []
    });
    expect(autumn.years).toBe(YEARS.length - 1 + 1);
    expect(autumn.usual!.best.litres).toBeGreaterThan(20);
    expect(autumn.now).toBeNull();
    expect(autumn.fresh).toBeNull();
  });
  it('brings ever less for a hole that is made late, until the wood is worth more', () => {
    const litres = ['2027-03-01', '2027-04-01', '2027-05-01'].map((on) => outlook(on).fresh!.litres);
    expect(litres[0]).toBeGreaterThan(litres[1]!);
    expect(litres[1]).toBeGreaterThan(litres[2]!);
    expect(litres[2]).toBeLessThan(DEFAULT_BUSH_SETTINGS.leastLitres);
  });
  it('ends where buds were seen to swell, of its species and stand alone', () => {
    const sign = (more: object) =>
      bushRecordSchema.parse({
        id: id(++made),
        on: '2027-03-25',
        recordedAt: '2027-03-25T10:00:00.000Z',
        kind: 'seasonSign',
        standId: null,
        sign: 'budsSwollen',
        ...more
      }) as Extract<BushRecord, { kind: 'seasonSign' }>;
    const without = outlook('2027-03-26').fresh!.litres;
    expect(outlook('2027-03-26', [sign({})]).fresh!.litres).toBeLessThan(0.2 * without);
    expect(outlook('2027-03-26', [sign({ species: 'redMaple' })]).fresh!.litres).toBe(without);
    expect(outlook('2027-03-26', [sign({ standId: id(902) })]).fresh!.litres).toBe(without);
  });
  it('is not told without a year', () => {
    const nothing = weatherOf([], '2027-03-10');
    const told = groupOutlook({
      weather: nothing,
      group: GROUP,
      season: SEASON,
      today: '2027-03-10',
      habit: HABIT,
      signs: []
    });
    expect([told.usual, told.now, told.fresh]).toEqual([null, null, null]);
  });
  it('takes a round of so many days as its crew works', () => {
    expect(roundDays(250, { minutesAHole: 4, people: 2, hoursADay: 5 })).toBe(2);
    expect(roundDays(1, { minutesAHole: 4, people: 2, hoursADay: 5 })).toBe(1);
  });
  it('holds a day that was chosen against what came', () => {
    const choice = told({
      kind: 'drillingChoice',
      on: '2026-02-01',
      season: 2026,
      group: 'late',
      beginOn: '2026-02-20',
      days: 5,
      expectedLitres: 30,
      bestOn: '2026-02-24',
      bestLitres: 31
    });
    const other = told({ ...choice, kind: 'drillingChoice', on: '2026-02-03', beginOn: '2026-01-12' } as Told);
    const [held] = choicesHeld([choice, other], known('2027-03-10'), HABIT);
    expect(held!.choice.beginOn).toBe('2026-01-12');
    expect(held!.came!.best).toBeGreaterThan(held!.came!.litres);
    const unknown = choicesHeld(
      [told({ ...choice, kind: 'drillingChoice', on: '2010-02-03', season: 2010 } as Told)],
      known('2027-03-10'),
      HABIT
    );
    expect(unknown[0]!.came).toBeNull();
  });
});

describe('the coming days', () => {
  const ahead = (minC: number, maxC: number, sdC = 0) => ({
    past: days('2027-03-09', 1, -5, 6).map((day) => ({ ...day, from: 'thermometer' as const })),
    ahead: [{ on: '2027-03-10', minC, maxC, sdC }]
  });
  const of = { group: { sunny: false }, holeDays: 5, lifeDays: 36, litresAtFull: 5 };
  it('run between thaw and frost, with the hours of the warm part of the day', () => {
    const [run] = runsAhead(ahead(-4, 7), of);
    expect(run!.reason).toBe('runs');
    expect(run!.chance).toBe(1);
    expect(run!.hours![0]).toBeGreaterThan(7);
    expect(run!.hours![0]).toBeLessThan(13);
    expect(run!.hours![1]).toBeGreaterThan(18);
  });
  it.each([
    [2, 9, 'noFrost'],
    [-8, -1, 'noThaw'],
    [-14, 1.2, 'hardFrost']
  ] as const)('stay dry from %d to %d °C, and why', (minC, maxC, reason) => {
    const [run] = runsAhead(ahead(minC, maxC), of);
    expect(run!.reason).toBe(reason);
    expect(run!.chance).toBe(0);
  });
  it('may run in full sun where a night was a degree too warm: that is not called impossible', () => {
    expect(runsAhead(ahead(1, 6), of)[0]!.sunMayDo).toBe(true);
    expect(runsAhead(ahead(6, 12), of)[0]!.sunMayDo).toBe(false);
  });
  it('are the less sure the less the forecast is', () => {
    const [sure] = runsAhead(ahead(-1, 5, 0.3), of);
    const [rough] = runsAhead(ahead(-1, 5, 3), of);
    expect(rough!.high - rough!.low).toBeGreaterThan(sure!.high - sure!.low);
    expect(rough!.chance).toBeGreaterThan(0.3);
    expect(rough!.chance).toBeLessThan(1);
  });
  it('lie on the strip beside what came, foretold ones as such', () => {
    const strip = stripOf(ahead(-4, 7, 1), { from: '2027-03-01', until: '2027-03-31', sunny: false });
    expect(strip.map(({ on, from }) => [on, from])).toEqual([
      ['2027-03-09', 'thermometer'],
      ['2027-03-10', 'forecast']
    ]);
  });
});

describe('collecting places', () => {
  const trees = [1, 2, 3, 4].map((n) => tree(n, { taps: 2, drilledOn: '2027-02-25', at: [30 * n, 0] }));
  const place = (fields: object = {}) =>
    told({
      kind: 'collectingPlace',
      on: '2027-02-20',
      name: 'West buckets',
      vessel: 'bucket',
      litres: 13,
      carrier: 'hand',
      treeIds: trees.map(({ row }) => row.id),
      ...fields
    } as Told);
  const emptied = (on: string, hour: number, litres: number, fields: object = {}): Told =>
    ({ kind: 'collection', on, placeId: null, hour, litres, taps: 8, drilledOn: '2027-02-25', ...fields }) as Told;
  const nowOf = (...records: BushRecord[]): PlaceNow =>
    placesNow(
      records,
      trees.map(({ row }) => row),
      SEASON
    )[0]!;

  it('know their taps, what they hold, since when they run, and when they were emptied last', () => {
    const here = place();
    const now = nowOf(
      here,
      told(emptied('2027-03-02', 17, 40, { placeId: here.id })),
      told(emptied('2027-03-01', 9, 20, { placeId: here.id }))
    );
    expect([now.taps, now.holdsLitres, now.drilledOn, now.last?.on]).toEqual([8, 104, '2027-02-25', '2027-03-02']);
    expect(nowOf(place({ vessel: 'tank', litres: 500, vessels: 2 })).holdsLitres).toBe(1000);
  });
  it('learn from their log what a tap gives, drawn from the model itself (self-consistency)', () => {
    const rng = seededRng(4);
    const here = place();
    const all = spring(SEASON);
    const log = all
      .filter(({ on }) => on >= '2027-02-25' && on < '2027-04-12')
      .map((day) => {
        const litres =
          8 * 4 * runIndex(day) * ageing(daysBetween('2027-02-25', day.on), 36) * Math.exp(rng.normal(0, 0.15));
        return told(emptied(day.on, 18, Number(litres.toFixed(1)), { placeId: here.id }));
      });
    const records = [here, ...log];
    const weatherThen = weatherOf(weather('thermometer', all), '2027-06-01');
    const learned = learnedFrom(records, weatherThen, DEFAULT_BUSH_SETTINGS);
    expect(
      learned.litresAtFull * (learned.seasons.get(SEASON)?.factor ?? 1) * (learned.places.get(here.id)?.factor ?? 1)
    ).toBeCloseTo(4, 0.5);
    expect(learnedFrom([], weatherThen, DEFAULT_BUSH_SETTINGS).collections).toBe(0);
  });
  it('are held against usual taps of the bush: the one that leaks comes first', () => {
    const all = spring(SEASON);
    const [good, leaking] = [place({ name: 'Good' }), place({ name: 'Leaking' })];
    const log = [good, leaking].flatMap(({ id: placeId }) =>
      all
        .filter(({ on }) => on >= '2027-02-25' && on < '2027-04-12')
        .map((day) => {
          const litres =
            8 * 4 * runIndex(day) * ageing(daysBetween('2027-02-25', day.on), 36) * (placeId === leaking.id ? 0.6 : 1);
          return told(emptied(day.on, 18, Number(litres.toFixed(1)), { placeId }));
        })
    );
    const then = weatherOf(weather('thermometer', all), '2027-06-01');
    const places = placeReckonings([good, leaking, ...log], then, { season: SEASON, settings: DEFAULT_BUSH_SETTINGS });
    expect(places.map(({ name }) => name)).toEqual(['Leaking', 'Good']);
    const [low, high] = places.map(({ litres, expected }) => litres / expected!);
    expect(low! / high!).toBeCloseTo(0.6, 1);
  });
  it('learn nothing from what ran over, had rain in it, or nobody knows the taps of', () => {
    const all = weatherOf(weather('thermometer', spring(SEASON)), '2027-06-01');
    const of = (fields: object) =>
      collectionsToLearn([told(emptied('2027-03-20', 18, 40, fields))], all, DEFAULT_BUSH_SETTINGS).length;
    expect([of({}), of({ ranOver: true }), of({ rain: true }), of({ taps: 0 }), of({ drilledOn: null })]).toEqual([
      1, 0, 0, 0, 0
    ]);
  });

  const cold = weatherOf(
    [
      ...weather('thermometer', days('2027-02-20', 18, -6, 5)),
      ...weather('forecast', days('2027-03-10', 4, -5, 7), '2027-03-10')
    ],
    '2027-03-10'
  );
  const asked = (now: PlaceNow) => ({
    weather: cold,
    places: [now],
    season: SEASON,
    today: '2027-03-10',
    hour: 8,
    known: learnedFrom([], cold, DEFAULT_BUSH_SETTINGS),
    litresAnHour: 30
  });
  it('fill up since they were emptied, and no farther than they hold', () => {
    const here = place();
    const fresh = nowOf(here, told(emptied('2027-03-09', 19, 30, { placeId: here.id })));
    const older = nowOf(here, told(emptied('2027-03-07', 19, 30, { placeId: here.id })));
    expect(standsIn(fresh, asked(fresh)).litres).toBeLessThan(standsIn(older, asked(older)).litres);
    const full = nowOf(place({ litres: 1 }));
    expect(standsIn(full, asked(full)).litres).toBe(8);
  });
  it('are visited where something would be lost, and left alone where nothing would', () => {
    const icy = weatherOf(
      [
        ...weather('thermometer', days('2027-02-20', 18, -9, 1)),
        ...weather('forecast', days('2027-03-10', 4, -9, 1), '2027-03-10')
      ],
      '2027-03-10'
    );
    const plan = (fields: object, weatherThen = cold) => {
      const here = place(fields);
      const question = {
        ...asked(nowOf(here, told(emptied('2027-03-09', 19, 30, { placeId: here.id })))),
        weather: weatherThen
      };
      const hours = [2, 5, 8, 26, 29, 32];
      return planRounds(placesToPlan(question), hoursAhead(question), { hours, costs: roundCosts(30) });
    };
    const small = plan({ litres: 6 });
    expect(small.rounds.length).toBeGreaterThan(0);
    expect(small.lostLitres).toBeLessThan(small.lostWithout / 2);
    expect(plan({ litres: 60 }, icy).rounds).toEqual([]);
  });
  it('take loads and minutes by what carries them', () => {
    const hand = roundTime([nowOf(place())], 100, 2);
    const vehicle = roundTime([nowOf(place({ carrier: 'vehicle' }))], 100, 2);
    expect([hand.trips, vehicle.trips]).toEqual([5, 1]);
    expect(roundTime([nowOf(place())], 100, 1).minutes).toBeGreaterThan(hand.minutes);
  });
  it('say which gear is needed, with spares', () => {
    const gear = gearFor(20, [nowOf(place())], { ...DEFAULT_BUSH_SETTINGS, vessel: 'pail', vesselLitres: 19 });
    const many = Object.fromEntries(gear.map(({ what, many: n }) => [what, n]));
    expect(many).toMatchObject({ spouts: 20, bucket: 8, pail: 12, tubes: 12, lids: 20 });
    expect(gear.find(({ what }) => what === 'spouts')!.withSpares).toBe(21);
    expect(gearFor(0, [], DEFAULT_BUSH_SETTINGS)).toEqual([]);
  });
});

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

describe('the end, and the summer after', () => {
  it('names the trees whose spouts are still in', () => {
    const rows = [
      tree(1, { taps: 2, drilledOn: '2027-02-20', pulled: 2 }),
      tree(2, { taps: 2, drilledOn: '2027-02-20', pulled: 1 }),
      tree(3, { drilledOn: '2027-02-20' }),
      tree(4)
    ].map(({ row }) => row);
    const spouts = spoutsStillIn(rows, SEASON);
    expect([spouts.set, spouts.out, spouts.in]).toEqual([5, 3, 2]);
    expect(spouts.rows.map(({ tag }) => tag)).toEqual(['2', '3']);
  });
  it('is called by group, or for all at once', () => {
    const end = (group: 'all' | 'early') => told({ kind: 'seasonEnd', on: '2027-04-02', season: SEASON, group });
    expect(endOf([end('early')], SEASON, 'late')).toBeNull();
    expect(endOf([end('early')], SEASON, 'early')).not.toBeNull();
    expect(endOf([end('all')], SEASON, 'late')).not.toBeNull();
    expect(endOf([end('all')], 2026, 'late')).toBeNull();
  });

  const hole = (season: number) => ({
    kind: 'taphole',
    on: `${season}-02-20`,
    season,
    bearingDeg: 10,
    heightMm: 1000,
    bitMm: 8,
    depthMm: 38,
    id: id(700_000 + season)
  });
  const look = (on: string, state: string, season: number, gapMm: number | null) => ({
    kind: 'closing',
    on,
    holes: [{ tapholeId: id(700_000 + season), state, gapMm }]
  });
  it('tells how holes closed by the summers that had gone over them', () => {
    const { records } = tree(8, {
      more: [hole(2025), look('2025-08-20', 'open', 2025, 5), look('2026-08-20', 'closed', 2025, 0)]
    });
    expect(closedAfter([records])).toEqual([
      { summers: 1, holes: 1, closed: 0, slit: 0 },
      { summers: 2, holes: 1, closed: 1, slit: 0 }
    ]);
    expect(closingSpeedOf(records)).toEqual({ mmASummer: 3, holes: 1, atLeast: false });
  });
  it('draws the same sample for everybody, of sixty where there are more', () => {
    const rows = Array.from(
      { length: 150 },
      (_, i) => tree(1000 + i, { more: [{ ...hole(2026), id: id(800_000 + i) }] }).row
    );
    const sample = closingSample(rows, '2026-09-10');
    expect(sample.size).toBe(60);
    expect([...closingSample([...rows].reverse(), '2026-11-10')].sort()).toEqual([...sample].sort());
    expect(closingSample(rows, '2027-09-10')).not.toEqual(sample);
  });
});

describe('what a thinning did', () => {
  const reading = (on: string, mm: number) => ({
    kind: 'reading',
    on,
    quantity: 'diameter',
    valueMm: mm,
    asWritten: `${mm / 10} cm`,
    method: 'diameterTape',
    heightMm: 1300
  });
  /** Grows 2 mm a year in thickness, and those that were freed in 2016 5 mm from then on. */
  const grown = (n: number, at: readonly [number, number], freed: boolean) =>
    tree(n, {
      at,
      dbhMm: null,
      more: [
        reading('2010-10-10', 300),
        reading('2016-10-10', 312 + (n % 3)),
        reading('2024-10-10', 312 + (freed ? 40 : 16) + (n % 3))
      ]
    });
  const cut = (n: number, at: readonly [number, number]) =>
    tree(n, { at, more: [{ kind: 'cut', on: '2016-11-20', what: 'felled' }] });
  const wood = (years: boolean) => [
    ...Array.from({ length: 12 }, (_, i) => grown(2000 + i, [40 * i, 0], years)),
    ...Array.from({ length: 12 }, (_, i) => cut(2100 + i, [40 * i, 3])),
    ...Array.from({ length: 14 }, (_, i) => grown(2200 + i, [40 * i, 300], false))
  ];
  const lived = (trees: ReturnType<typeof wood>) => trees.map(({ row, records }) => ({ tree: row, records }));
  it('is told by freed trees against comparable ones', () => {
    const [done] = thinningsDone(lived(wood(true)), '2027-03-10');
    expect(done).toMatchObject({ year: 2017, taken: 12, years: 10 });
    expect(done!.ring.verdict).toBe('more');
    expect(done!.ring.effect).toBeCloseTo(1.5, 0.2);
    expect(done!.closing.verdict).toBe('tooFew');
  });
  it('is no more than it was, and too early to tell in the years after', () => {
    expect(thinningsDone(lived(wood(false)), '2027-03-10')[0]!.ring.verdict).toBe('cannotTell');
    expect(thinningsDone(lived(wood(true)), '2018-03-10')[0]!.ring.verdict).toBe('tooEarly');
    expect(thinningsDone(lived(wood(true).filter((_, i) => i < 14)), '2027-03-10')).toEqual([]);
  });
});

describe('taps beside a walk', () => {
  const path = {
    points: [
      [0, 0],
      [100, 0]
    ] as [number, number][]
  };
  const rows = [
    tree(1, { at: [10, 45] }),
    tree(2, { at: [50, 9] }),
    tree(3, { at: [60, -9], taps: 2 }),
    tree(4, { taps: 0 })
  ].map(({ row }) => row);
  it('add the way there and back and the emptying, the cheapest for each tap first', () => {
    const beside = besideWalk(path, rows, ({ decidedTaps }) => decidedTaps ?? 0);
    expect(beside.map(({ row, awayM }) => [row.tag, awayM])).toEqual([
      ['3', 9],
      ['2', 9],
      ['1', 45]
    ]);
    // 90 m at 45 m a minute, and a vessel.
    expect(beside[2]!.minutes).toBeCloseTo(2 + 1.2, 6);
    expect(withinMinutes(beside, 5).map(({ row }) => row.tag)).toEqual(['3', '2']);
    expect(withinMinutes(beside, 0)).toEqual([]);
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
    expect(log.split('\r\n')[1]).toBe(`2027-03-02,16.50,"'=west",120,40,,2.1,clear,,yes,kept,`);
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

describe('a pail on the ground', () => {
  it('sets how high the taps of its trees may be, and no others', () => {
    const place = told({
      kind: 'collectingPlace',
      on: '2027-02-20',
      name: 'Pails',
      vessel: 'pail',
      litres: 19,
      rimMm: 400,
      tubeMm: 500,
      carrier: 'hand',
      treeIds: [id(1)]
    });
    const limits = highestTaps([place]);
    expect([...limits]).toEqual([[id(1), 840]]);
    expect(settingsAt(DEFAULT_BUSH_SETTINGS, limits.get(id(1))).highestMm).toBe(840);
    expect(settingsAt(DEFAULT_BUSH_SETTINGS, limits.get(id(2)))).toBe(DEFAULT_BUSH_SETTINGS);
    expect(settingsAt(DEFAULT_BUSH_SETTINGS, 300).highestMm).toBe(DEFAULT_BUSH_SETTINGS.lowestMm + 100);
  });
});

describe('the hanging round', () => {
  const of = { season: SEASON, today: '2027-02-22', hangAfterDays: 2 };
  it('comes so many days after drilling as the bush waits, and only where it waits', () => {
    const { row } = tree(1, { drilledOn: '2027-02-20' });
    expect(hangingDue(row, of)).toBe(true);
    expect(hangingDue(row, { ...of, today: '2027-02-21' })).toBe(false);
    expect(hangingDue(row, { ...of, hangAfterDays: 0 })).toBe(false);
    expect(hangingDue(tree(2).row, of)).toBe(false);
    const hung = tree(3, { drilledOn: '2027-02-20', more: [{ kind: 'hanging', on: '2027-02-22', season: SEASON }] });
    expect(hangingDue(hung.row, of)).toBe(false);
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
