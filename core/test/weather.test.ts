import { readFileSync } from 'node:fs';

import { describe, expect, it } from 'vitest';

import { readWeather, UnreadableFile } from '../src/exchange/index.ts';
import {
  dayAfter,
  inTheBush,
  isRunDay,
  longestRun,
  offsetOf,
  runIndex,
  runReason,
  seriesOf,
  warmthAbove,
  type SourcedDay,
  type WeatherDay
} from '../src/season/index.ts';
import { seededRng } from '../src/math/index.ts';

/* Weather as it is measured. Days of New York and Seattle: NOAA daily, by vega-datasets 3.2. */

const FILE = readFileSync(new URL('data/weather_daily_ny_seattle.csv', import.meta.url), 'utf8');
const TODAY = '2026-11-29';
const of = (station: string) => readWeather(FILE, { today: TODAY, station }).days;
const [newYork, seattle] = [of('New York'), of('Seattle')];
const inYear = (days: readonly WeatherDay[], year: number) => days.filter(({ on }) => on.startsWith(String(year)));
const inSeason = (days: readonly WeatherDay[], year: number) =>
  inYear(days, year).filter(({ on }) => on >= `${year}-02-01` && on <= `${year}-04-30`);
const YEARS = [2012, 2013, 2014, 2015];

describe('run days', () => {
  const count = (days: readonly WeatherDay[]) => days.filter(isRunDay).length;

  it('of four measured years are as counted with R: a night strictly below freezing, a day strictly above', () => {
    expect(YEARS.map((year) => count(inYear(newYork, year)))).toEqual([38, 60, 56, 47]);
    expect(YEARS.map((year) => count(inSeason(newYork, year)))).toEqual([16, 26, 29, 30]);
    expect(YEARS.map((year) => count(inYear(seattle, year)))).toEqual([16, 25, 16, 10]);
  });

  it('come in a row at the most five times in New York from February to April 2014', () =>
    expect(longestRun(inSeason(newYork, 2014))).toBe(5));

  it('are none at freezing itself', () => {
    expect(isRunDay({ minC: 0, maxC: 5 })).toBe(false);
    expect(isRunDay({ minC: -5, maxC: 0 })).toBe(false);
  });
});

describe('the run index', () => {
  // Common practice: best from -4 to -1 °C by night and from +4 to +10 °C by day; a wider swing gives more.
  it('is high where practice says that sap runs best, and low where it says that it does not', () => {
    for (const [minC, maxC] of [
      [-4, 6],
      [-4, 10],
      [-3, 8]
    ] as const)
      expect(runIndex({ minC, maxC })).toBeGreaterThan(0.5);
    for (const [minC, maxC] of [
      [2, 12],
      [-8, -1],
      [-10, 0.5],
      [5, 20]
    ] as const)
      expect(runIndex({ minC, maxC })).toBeLessThan(0.05);
    expect(runIndex({ minC: -6, maxC: 9 })).toBeGreaterThan(runIndex({ minC: -1, maxC: 4 }));
  });

  it('stays within 0 and 1 and goes on without a step', () => {
    for (let minC = -30; minC <= 20; minC += 0.5)
      for (let maxC = minC; maxC <= 35; maxC += 0.5) {
        const index = runIndex({ minC, maxC });
        expect(index).toBeGreaterThanOrEqual(0);
        expect(index).toBeLessThan(1);
        expect(Math.abs(runIndex({ minC, maxC: maxC + 0.1 }) - index)).toBeLessThan(0.04);
        expect(Math.abs(runIndex({ minC: minC - 0.1, maxC }) - index)).toBeLessThan(0.04);
      }
  });

  it('does not call a day a degree above freezing in full sun impossible', () =>
    expect(runIndex({ minC: 0.5, maxC: 12 })).toBeGreaterThan(0.05));

  it('orders the measured days as the count does: days that run have more of it', () => {
    const mean = (days: readonly WeatherDay[]) => days.reduce((sum, day) => sum + runIndex(day), 0) / days.length;
    const spring = YEARS.flatMap((year) => inSeason(newYork, year));
    expect(mean(spring.filter(isRunDay))).toBeGreaterThan(4 * mean(spring.filter((day) => !isRunDay(day))));
  });

  it('has a reason for a dry day', () => {
    expect(runReason({ minC: 3, maxC: 12 })).toBe('noFrost');
    expect(runReason({ minC: -9, maxC: -2 })).toBe('noThaw');
    expect(runReason({ minC: -20, maxC: 1.5 })).toBe('hardFrost');
    expect(runReason({ minC: -1, maxC: 24 })).toBe('tooWarm');
    expect(runReason({ minC: -5, maxC: 9 })).toBe('runs');
    expect(runReason({ minC: -1, maxC: 4 })).toBe('runsWeakly');
  });
});

describe('degree-days', () => {
  it('are those of a sine, counted out hour by hour', () => {
    const byHours = (base: number, { minC, maxC }: { minC: number; maxC: number }) => {
      const many = 100_000;
      let sum = 0;
      for (let i = 0; i < many; i++)
        sum += Math.max(0, (minC + maxC) / 2 - ((maxC - minC) / 2) * Math.cos((2 * Math.PI * (i + 0.5)) / many) - base);
      return sum / many;
    };
    for (const day of [
      { minC: -4, maxC: 8 },
      { minC: 2, maxC: 14 },
      { minC: -3, maxC: 5.5 },
      { minC: 6, maxC: 9 },
      { minC: -9, maxC: -1 }
    ])
      expect(warmthAbove(5, day)).toBeCloseTo(byHours(5, day), 6);
    expect(warmthAbove(5, { minC: 8, maxC: 8 })).toBe(3);
  });
});

describe('a file of weather', () => {
  const winter = inSeason(newYork, 2014);
  const written = (figure: (celsius: number) => string, heading = 'DATE,TMIN,TMAX') =>
    [heading, ...winter.map(({ on, minC, maxC }) => `${on},${figure(minC)},${figure(maxC)}`)].join('\n');
  const read = (text: string, more: object = {}) => readWeather(text, { today: TODAY, ...more });
  const near = (days: readonly WeatherDay[]) =>
    days.every(({ minC, maxC }, i) => Math.abs(minC - winter[i]!.minC) < 0.3 && Math.abs(maxC - winter[i]!.maxC) < 0.3);

  it('is read in degrees Celsius, Fahrenheit or tenths, told by its figures', () => {
    const cases = [
      [(c: number) => c.toFixed(1), 'c'],
      [(c: number) => String(Math.round(c * 1.8 + 32)), 'f'],
      [(c: number) => String(Math.round(c * 10)), 'tenthsC']
    ] as const;
    for (const [figure, unit] of cases) {
      const file = read(written(figure));
      expect([file.unit, file.unitFrom, file.doubt, file.bad]).toEqual([unit, 'figures', null, []]);
      expect(file.days).toHaveLength(winter.length);
      expect(near(file.days)).toBe(true);
    }
  });

  it('takes the unit from its heading, and doubts it where the figures say another', () => {
    const fahrenheit = (c: number) => String(Math.round(c * 1.8 + 32));
    expect(read(written(fahrenheit, 'date,tmin (F),tmax (F)'))).toMatchObject({
      unit: 'f',
      unitFrom: 'heading',
      doubt: null
    });
    const mixedUp = read(written((c) => String(Math.round(Math.min(c, 9) * 1.8 + 32)), 'date,tmin_c,tmax_c'));
    expect(mixedUp.unit).toBe('c');
    expect(mixedUp.doubt).toContain('read like degrees Fahrenheit');
    expect(read(written(fahrenheit), { unit: 'f' }).unitFrom).toBe('said');
  });

  it('asks where nobody can tell the unit', () => {
    expect(() => read('DATE,TMIN,TMAX\n2024-03-10,8,20\n2024-03-11,9,21')).toThrow('Celsius or Fahrenheit');
    expect(read('DATE,TMIN,TMAX\n2024-03-10,8,20\n2024-03-11,9,21', { unit: 'f' }).days[0]).toEqual({
      on: '2024-03-10',
      minC: -13.33,
      maxC: -6.67
    });
  });

  it('names each bad row and keeps its cells; a day twice, exchanged columns, the future, no number', () => {
    const { bad, days, without } = read(
      [
        'DATE;TMIN;TMAX',
        '2024-03-01;-4,5;6,0',
        '20240302;-3;7',
        '2024-03-02;-3;8',
        '2024-03-02;-3;7',
        '2024-03-03;9;-2',
        '2027-03-04;-2;3',
        '2024-03-05;cold;3',
        '2024-13-05;-1;3',
        '2024-03-06;M;3',
        '2024-03-07;-9999;-9999'
      ].join('\n'),
      { unit: 'c' }
    );
    expect(days.map(({ on }) => on)).toEqual(['2024-03-01', '2024-03-02']);
    expect(days[0]).toEqual({ on: '2024-03-01', minC: -4.5, maxC: 6 });
    expect(without).toBe(2);
    expect(bad.map(({ line, reason }) => [line, reason.slice(0, 34)])).toEqual([
      [4, '2024-03-02 stands in line 3 alread'],
      [6, 'The lowest, 9 °C, is above the hig'],
      [7, '2027-03-04 lies in the future: nob'],
      [8, '"cold" is not a temperature.'],
      [9, '"2024-13-05" is not a date. Write ']
    ]);
    expect(bad[0]!.cells).toEqual(['2024-03-02', '-3', '8']);
  });

  it('that is none says so', () => {
    expect(() => read('<!doctype html><html>')).toThrow('a web page');
    expect(() => read('when,cold,warm\n1,2,3')).toThrow('DATE, TMIN and TMAX');
    expect(() => read(FILE)).toThrow('2 stations: Seattle, New York');
    expect(() => read('a\u0000b')).toThrow(UnreadableFile);
    expect(read('DATE,TMIN,TMAX').days).toEqual([]);
  });
});

describe('the series of a bush', () => {
  const day = (on: string, minC: number, maxC: number, from: SourcedDay['from'] = 'station'): SourcedDay => ({
    on,
    minC,
    maxC,
    from
  });
  const none = { minC: 0, maxC: 0 };

  it('takes what is trusted most: typed, its own thermometer, a station, a forecast; the later of two of one kind', () => {
    const days = [
      day('2027-03-01', -1, 1),
      day('2027-03-01', -9, 9, 'typed'),
      day('2027-03-01', -2, 2, 'thermometer'),
      day('2027-03-02', -5, 5, 'forecast'),
      day('2027-03-02', -3, 3),
      day('2027-03-02', -4, 4)
    ];
    expect(seriesOf(days, none).map(({ minC, from }) => [minC, from])).toEqual([
      [-9, 'typed'],
      [-4, 'station']
    ]);
  });

  it('fills a day or two between days that agree, and says so; nothing else', () => {
    const filled = seriesOf([day('2027-03-01', -3, 5), day('2027-03-04', -6, 8)], none);
    expect(filled.map(({ on, minC, from }) => [on, minC, from])).toEqual([
      ['2027-03-01', -3, 'station'],
      ['2027-03-02', -4, 'filled'],
      ['2027-03-03', -5, 'filled'],
      ['2027-03-04', -6, 'station']
    ]);
    expect(seriesOf([day('2027-03-01', -3, 5), day('2027-03-03', 4, 12)], none)).toHaveLength(2);
    expect(seriesOf([day('2027-03-01', -3, 5), day('2027-03-05', -3, 5)], none)).toHaveLength(2);
    expect(seriesOf([day('2027-03-01', -3, 5), day('2027-03-03', -3, 5, 'forecast')], none)).toHaveLength(2);
  });

  it('brings what a station says into the bush, and leaves what was read there', () => {
    const [own, there] = seriesOf([day('2027-03-01', -1, 6, 'typed'), day('2027-03-02', -1, 6)], {
      minC: -2.5,
      maxC: 0.5
    });
    expect([own!.minC, there!.minC, there!.maxC]).toEqual([-1, -3.5, 6.5]);
    expect(inTheBush({ on: '2027-03-01', minC: 1, maxC: 2 }, { minC: 3, maxC: 0 })).toMatchObject({ minC: 2, maxC: 4 });
  });

  it('learns how the bush lies against its station: within its error of the truth', () => {
    const rng = seededRng(11);
    let inside = 0;
    const tries = 300;
    for (let i = 0; i < tries; i++) {
      const truth = { min: rng.normal(0, 2), max: rng.normal(0, 2) };
      const many = 1 + Math.floor(rng.uniform() * 30);
      const station = Array.from({ length: many }, (_, k) => ({ on: dayAfter('2027-02-01', k), minC: -4, maxC: 6 }));
      const own = station.map(({ on, minC, maxC }) => ({
        on,
        minC: minC + truth.min + rng.normal(0, 1.2),
        maxC: maxC + truth.max + rng.normal(0, 1.2)
      }));
      const { minC, minSeC } = offsetOf(own, station);
      if (Math.abs(minC - truth.min) <= 1.2816 * minSeC) inside += 1;
    }
    // Self-consistency: an 80 % interval holds the truth in about 80 of 100.
    expect(inside / tries).toBeGreaterThan(0.75);
    expect(inside / tries).toBeLessThan(0.86);
    expect(offsetOf([], [])).toMatchObject({ minC: 0, maxC: 0, days: 0 });
  });
});
