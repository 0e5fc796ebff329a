import { describe, expect, it } from 'vitest';
import { choicesHeld, groupOutlook, roundDays, type SeasonGroup, seasonGroups, weatherOf } from '../src/bush/index.ts';
import { type BushRecord, bushRecordSchema, DEFAULT_BUSH_SETTINGS } from '../src/records/index.ts';
import { another, id, knownOn, SEASON, STANDS, told, tree, type Told, YEARS } from './seasonBush.ts';

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
const HABIT = { days: 5, lifeDays: 36, litresAtFull: 5 };
const outlook = (today: string, signs: Parameters<typeof groupOutlook>[0]['signs'] = []) =>
  groupOutlook({ weather: knownOn(today), group: GROUP, season: SEASON, today, habit: HABIT, signs });

describe('the season of a group', () => {
  it('has a best day over all known years before it has begun, and no advice for today', () => {
    const autumn = groupOutlook({
      weather: knownOn('2026-11-20'),
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
        id: another(),
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
    const [held] = choicesHeld([choice, other], knownOn('2027-03-10'), HABIT);
    expect(held!.choice.beginOn).toBe('2026-01-12');
    expect(held!.came!.best).toBeGreaterThan(held!.came!.litres);
    const unknown = choicesHeld(
      [told({ ...choice, kind: 'drillingChoice', on: '2010-02-03', season: 2010 } as Told)],
      knownOn('2027-03-10'),
      HABIT
    );
    expect(unknown[0]!.came).toBeNull();
  });
});
