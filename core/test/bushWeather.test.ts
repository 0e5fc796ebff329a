import { describe, expect, it } from 'vitest';
import { daysOf, runsAhead, stripOf, toldBy, usualRuns, weatherOf, yearsKnown } from '../src/bush/index.ts';
import { bushRecordSchema } from '../src/records/index.ts';
import { daysBetween, runIndex } from '../src/season/index.ts';
import { days, id, SEASON, spring, weather } from './seasonBush.ts';

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
