import { describe, expect, it } from 'vitest';
import {
  besideWalk,
  carryingProblem,
  collectionsToLearn,
  gearFor,
  hangingDue,
  hangingOf,
  hoursAhead,
  learnedFrom,
  type PlaceNow,
  placeReckonings,
  placesNow,
  placesToPlan,
  roundCosts,
  roundTime,
  settingsAt,
  standReckonings,
  standsIn,
  weatherOf,
  withinMinutes
} from '../src/bush/index.ts';
import { seededRng } from '../src/math/index.ts';
import { type BushRecord, DEFAULT_BUSH_SETTINGS } from '../src/records/index.ts';
import { ageing, daysBetween, planRounds, runIndex } from '../src/season/index.ts';
import { days, id, SEASON, spring, told, tree, type Told, weather } from './seasonBush.ts';

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
  it('are put together by the stands of their trees, shared out where they take sap of several', () => {
    const [one, both] = [place({ treeIds: [id(1), id(2)] }), place({ treeIds: [id(3), id(4)] })];
    const told = (placeId: string | null, taps: number, litres: number, expected: number | null) => ({
      placeId,
      name: '',
      taps,
      litres,
      expected,
      emptied: 3
    });
    const standOf = (treeId: string) => (treeId === id(4) ? 'east' : 'west');
    const places = [told(one.id, 4, 100, 80), told(both.id, 4, 60, 120), told(null, 1, 5, null)];
    expect(standReckonings(places, [one, both], standOf)).toEqual([
      { standId: 'west', taps: 6, litres: 130, expected: 140, shared: true },
      { standId: 'east', taps: 2, litres: 30, expected: 60, shared: true },
      { standId: null, taps: 1, litres: 5, expected: null, shared: false }
    ]);
  });
  it('are reached by wheels on ground that bears, and by a sled on snow (common practice)', () => {
    const today = (minC: number, maxC: number) => ({ past: [], ahead: days('2027-03-10', 1, minC, maxC) as never });
    const by = (carrier: 'vehicle' | 'sled' | 'yoke') => nowOf(place({ carrier }));
    expect(carryingProblem(by('vehicle'), today(1, 9), 500)).toBe('mud');
    expect(carryingProblem(by('vehicle'), today(-6, 9), 500)).toBe('frozenMornings');
    expect(carryingProblem(by('vehicle'), today(-6, -1), 500)).toBeNull();
    expect(carryingProblem(by('yoke'), today(1, 9), 500)).toBeNull();
    expect(carryingProblem(by('sled'), today(1, 9), 500)).toBeNull();
    expect(carryingProblem(by('sled'), today(1, 9), 0)).toBe('bareGround');
    // Half a metre of old snow holds 150 mm of water: it takes about 43 degree-days, a week of 6 °C.
    const since = (many: number) => ({
      past: days('2027-02-25', many, 3, 9) as never,
      ahead: days('2027-03-10', 1, 1, 9) as never
    });
    expect(carryingProblem(by('sled'), since(6), 500)).toBeNull();
    expect(carryingProblem(by('sled'), since(8), 500)).toBe('bareGround');
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
  it('learn from a season while it goes on, and are held against it', () => {
    const all = weatherOf(weather('thermometer', spring(SEASON)), '2027-03-21');
    const here = place();
    const log = ['2027-03-16', '2027-03-20'].map((on) => told(emptied(on, 18, 40, { placeId: here.id })));
    expect(all.past.at(-1)!.on).toBe('2027-03-20');
    expect(collectionsToLearn([here, ...log], all, DEFAULT_BUSH_SETTINGS)).toHaveLength(2);
    const of = { season: SEASON, settings: DEFAULT_BUSH_SETTINGS };
    expect(placeReckonings([here, ...log], all, of)[0]!.expected).toBeGreaterThan(0);
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
    const limits = hangingOf([place]);
    expect([...limits]).toEqual([[id(1), { highestMm: 840, dropMm: null }]]);
    expect(settingsAt(DEFAULT_BUSH_SETTINGS, limits.get(id(1))).highestMm).toBe(840);
    expect(settingsAt(DEFAULT_BUSH_SETTINGS, limits.get(id(2)))).toBe(DEFAULT_BUSH_SETTINGS);
    expect(settingsAt(DEFAULT_BUSH_SETTINGS, { highestMm: 300, dropMm: null }).highestMm).toBe(
      DEFAULT_BUSH_SETTINGS.lowestMm + 100
    );
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
