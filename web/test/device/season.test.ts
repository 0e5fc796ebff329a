import ICAL from 'ical.js';
import { describe, expect, it, vi } from 'vitest';

import type { RunAhead, SeasonReckoning, StripDay } from '@baumkin/core/bush';
import { mean } from '@baumkin/core/math';
import type { CollectingPlaceRecord } from '@baumkin/core/records';
import { runIndex, runReason } from '@baumkin/core/season';

import { device, whole } from './device.ts';
import { BUSH } from './server.ts';
const { WeatherAsker } = await import('../../src/lib/season/askWeather.svelte.ts');
const { calendarOf } = await import('../../src/lib/season/calendar.ts');
const { collectionDoubts } = await import('../../src/lib/season/collectionDoubts.ts');
const { keepClosing, holesToLookAt } = await import('../../src/lib/season/keepClosing.ts');
const { lessonsOf } = await import('../../src/lib/season/lessons.ts');
const { acrossAt, bandOf, dayAcross, ribbonOf, upAt } = await import('../../src/lib/season/ribbon.ts');
const { treesNamed } = await import('../../src/lib/season/treesNamed.ts');
const { bottledWords, closingWords, dayWords, daysInWords, hourWords } = await import('../../src/lib/labels/season.ts');

const PAPER = { width: 700, height: 200, from: '2027-03-01', until: '2027-03-07' };
const day = (on: string, minC: number, maxC: number, from: StripDay['from'] = 'thermometer', sdC = 0): StripDay => ({
  on,
  minC,
  maxC,
  from,
  sdC,
  index: runIndex({ minC, maxC }),
  reason: runReason({ minC, maxC })
});
/** The points of an outline. */
const pointsOf = (path: string) =>
  path
    .slice(1, -1)
    .split('L')
    .map((pair) => pair.split(' ').map(Number) as [number, number]);

describe('the strip', () => {
  const days = [
    day('2027-03-01', -5, 6),
    day('2027-03-02', -12, -3),
    day('2027-03-03', 3, 9),
    day('2027-03-04', -4, 7, 'forecast', 1.5)
  ];
  const stretches = ribbonOf(days, PAPER);

  it('is one ribbon: each stretch begins where the one before ended', () => {
    const ends = stretches.map(({ path }) => {
      const points = pointsOf(path);
      const half = points.length / 2;
      const middle = (a: [number, number], b: [number, number]) => [(a[0] + b[0]) / 2, (a[1] + b[1]) / 2] as const;
      return { first: middle(points[0]!, points.at(-1)!), last: middle(points[half - 1]!, points[half]!) };
    });
    for (let i = 1; i < ends.length; i++) {
      expect(ends[i]!.first[0]).toBeCloseTo(ends[i - 1]!.last[0], 0);
      expect(Math.abs(ends[i]!.first[1] - ends[i - 1]!.last[1])).toBeLessThan(1);
    }
  });
  it('swells in amber where sap runs, above the freezing line, and nowhere else', () => {
    const runs = stretches.filter(({ what }) => what === 'run');
    expect(runs.length).toBeGreaterThan(1);
    const across = runs.map(({ path }) => dayAcross(PAPER, mean(pointsOf(path).map(([x]) => x))));
    expect(new Set(across)).toEqual(new Set(['2027-03-01', '2027-03-04']));
    for (const { path } of runs) expect(Math.min(...pointsOf(path).map(([, y]) => y))).toBeLessThan(upAt(PAPER, 0));
    const wide = (what: string) =>
      Math.max(
        ...stretches
          .filter((stretch) => stretch.what === what)
          .map(({ path }) => {
            const points = pointsOf(path);
            return Math.max(
              ...points.slice(0, points.length / 2).map(([, y], i) => Math.abs(points[points.length - 1 - i]![1] - y))
            );
          })
      );
    expect(wide('run')).toBeGreaterThan(3 * 3.2);
  });
  it('breaks where nobody measured, and is never drawn over a gap', () => {
    const gap = ribbonOf([day('2027-03-01', -5, 6), day('2027-03-05', -5, 6)], PAPER);
    const xs = gap.flatMap(({ path }) => pointsOf(path).map(([x]) => x));
    expect(xs.some((x) => x > acrossAt(PAPER, '2027-03-02', 2) && x < acrossAt(PAPER, '2027-03-04', 22))).toBe(false);
  });
  it('has a band about what is foretold alone, the wider the less sure', () => {
    expect(bandOf(days.slice(0, 3), PAPER)).toBe('');
    const high = (sd: number) => {
      const ys = pointsOf(bandOf([day('2027-03-04', -4, 7, 'forecast', sd)], PAPER)).map(([, y]) => y);
      return Math.max(...ys) - Math.min(...ys);
    };
    expect(high(3)).toBeGreaterThan(high(1));
  });
  it('finds the day again that lies at a place', () => {
    for (const on of ['2027-03-01', '2027-03-04', '2027-03-07'])
      expect(dayAcross(PAPER, acrossAt(PAPER, on, 12))).toBe(on);
    expect(dayAcross(PAPER, -50)).toBe('2027-03-01');
    expect(dayAcross(PAPER, 5000)).toBe('2027-03-07');
  });
});

describe('what is said of days', () => {
  const run = (fields: Partial<RunAhead>): RunAhead => ({
    on: '2027-03-10',
    minC: -4,
    maxC: 7,
    sdC: 1,
    reason: 'runs',
    chance: 1,
    litres: 3,
    low: 2,
    high: 4,
    hours: [10, 19],
    sunMayDo: false,
    ...fields
  });
  it('is one sentence where today and tomorrow are alike, with the reason', () => {
    expect(daysInWords(run({}), run({}))).toEqual([
      'Today and tomorrow sap runs well, from about 10 to 19 o’clock: frost by night and a thaw by day.'
    ]);
    expect(daysInWords(run({}), run({ reason: 'noFrost', chance: 0 }))).toHaveLength(2);
    expect(daysInWords(undefined, run({}))).toEqual([]);
  });
  it('says what cannot be told, and does not call full sun impossible', () => {
    expect(daysInWords(run({ chance: 0.5, reason: 'runsWeakly' }), undefined)[0]).toContain(
      'may go either way (5 in 10'
    );
    expect(daysInWords(run({ reason: 'noFrost', chance: 0, sunMayDo: true }), undefined)[0]).toContain(
      'In full sun a little may come'
    );
  });
  it('names days and hours', () => {
    expect(dayWords('2027-03-10')).toBe('Wed 10 Mar');
    expect(hourWords(16.5)).toBe('16:30');
    expect(hourWords(9.999)).toBe('09:59');
  });
  it('tells closing holes and bottles', () => {
    const look = {
      holes: [
        { tapholeId: BUSH, state: 'closed' as const, gapMm: 0 },
        { tapholeId: BUSH, state: 'open' as const, gapMm: 4 }
      ],
      oozing: true,
      dyingBark: false,
      fungus: false
    };
    expect(closingWords(look as never)).toBe('Holes looked at: 1 closed; open, 4 mm; oozes');
    const few = { fewLitres: (litres: number) => `${litres} l` };
    expect(bottledWords({ kept: 3, given: 0, sold: 1 }, few)).toBe('3 l kept in bottles, 1 l sold');
    expect(bottledWords({ kept: 0, given: 0, sold: 0 }, few)).toBe('none of it in bottles');
  });
});

describe('a collection that is doubted', () => {
  const now = {
    place: { name: 'West', of: 'maple' } as CollectingPlaceRecord,
    holdsLitres: 100,
    taps: 8,
    last: { on: '2027-03-09', hour: 17 } as never
  };
  const draft = { on: '2027-03-10', hour: 16, litres: 60, brix: 2.1, look: 'clear' as const };
  it.each([
    ['nothing', {}, null],
    ['more than the vessels hold', { litres: 160 }, 'holds 100 l, and 160 l came out of it?'],
    ['an hour before it was emptied last', { on: '2027-03-09', hour: 9 }, 'was emptied later than that already'],
    ['the sugar of syrup', { brix: 15 }, 'more sugar than sap has'],
    ['ropy sap', { look: 'ropy' as const }, 'poured away']
  ])('asks about %s', (_what, fields, asks) => {
    const doubts = collectionDoubts(now, { ...draft, ...fields });
    if (asks === null) expect(doubts).toEqual([]);
    else expect(doubts.join(' ')).toContain(asks);
  });
  it('goes by what the sap of its place usually has: 3 % is maple, and no birch', () => {
    const of = (kind: 'maple' | 'birch') =>
      collectionDoubts({ ...now, place: { ...now.place, of: kind } }, { ...draft, brix: 3 });
    expect(of('maple')).toEqual([]);
    expect(of('birch').join(' ')).toContain('more sugar than birch sap has, which has 0.5 to 1.5');
  });
});

describe('trees by their tags', () => {
  const rows = ['1', '2', '3', '12a', '20'].map((tag) => ({ tag }) as never);
  it('are single ones and runs, each once; what is none is named', () => {
    const { rows: found, unknown } = treesNamed('1-3, 2, 12A; 40-50\nx', rows);
    expect(found.map(({ tag }) => tag)).toEqual(['1', '2', '3', '12a']);
    expect(unknown).toEqual(['40-50', 'x']);
  });
});

describe('what a season teaches', () => {
  const year = (fields: Partial<SeasonReckoning>) =>
    ({
      season: 2027,
      taps: 100,
      sapLitres: 4000,
      pouredLitres: 0,
      brix: 2,
      syrupLitres: 90,
      possibleLitres: 95,
      usedAsSap: 0,
      woodM3: 3,
      fireHours: 60,
      hours: 90,
      batches: 8,
      firstOn: null,
      lastOn: null,
      bottled: { kept: 0, given: 0, sold: 0 },
      ...fields
    }) satisfies SeasonReckoning;
  it('is nothing where nothing stands out', () => {
    expect(lessonsOf(year({}), [year({ season: 2026 }), year({ season: 2025 })], null)).toEqual([]);
  });
  it('is said with its figures where something was lost', () => {
    const lessons = lessonsOf(
      year({ sapLitres: 2000, pouredLitres: 400, syrupLitres: 60, hours: 0 }),
      [year({ season: 2026 }), year({ season: 2025 })],
      null
    );
    expect(lessons.join(' ')).toMatch(/A tap gave 20 l.*63 % of the syrup.*400 l were poured away.*No hours/s);
  });
});

describe('the calendar', () => {
  it('is read by another program as it was meant (ical.js, RFC 5545)', () => {
    const text = calendarOf('A bush', [
      {
        id: 'drill-2027-late',
        what: 'Drill: late maples',
        why: '8 days, 44 l',
        on: '2027-02-24',
        hour: null,
        lasts: 8
      },
      { id: 'round-1', what: 'Collect', why: 'West; a comma, and more', on: '2027-03-10', hour: 16, lasts: 2 }
    ]);
    const events = new ICAL.Component(ICAL.parse(text) as never)
      .getAllSubcomponents('vevent')
      .map((component) => new ICAL.Event(component));
    expect(events.map(({ summary, uid, description }) => [summary, uid, description])).toEqual([
      ['Drill: late maples', 'drill-2027-late@baumkin', '8 days, 44 l'],
      ['Collect', 'round-1@baumkin', 'West; a comma, and more']
    ]);
    expect(events[0]!.startDate.isDate).toBe(true);
    expect(events[0]!.startDate.toString()).toBe('2027-02-24');
    expect(events[0]!.endDate.toString()).toBe('2027-03-04');
    expect(events[1]!.startDate.toString()).toBe('2027-03-10T16:00:00');
  });
});

describe('a page that asks for weather', () => {
  const answers = (sources: readonly object[]) => {
    const { fetch } = device.server;
    const asked: string[] = [];
    vi.spyOn(device.server, 'fetch').mockImplementation(async (input) => {
      const url = new URL(input instanceof Request ? input.url : String(input));
      if (!url.pathname.endsWith('/weather')) return fetch(input);
      asked.push(url.search);
      return new Response(JSON.stringify({ sources }), { headers: { 'content-type': 'application/json' } });
    });
    return asked;
  };
  const days = [
    { on: '2026-11-22', minC: -4, maxC: 5 },
    { on: '2026-11-23', minC: -2, maxC: 6 }
  ];
  const forecast = {
    kind: 'forecast',
    name: 'a service',
    answer: { ok: true, place: 'Valley', madeOn: '2026-11-22', days, refused: [] }
  };
  const told = (bush: Awaited<ReturnType<typeof whole>>) => bush.bushRecords.filter(({ kind }) => kind === 'weather');

  it('writes down what is new, once, and asks the thermometer only from where it left off', async () => {
    const bush = await whole();
    const before = told(bush).length;
    const thermometer = {
      kind: 'thermometer',
      name: 'a thermometer',
      answer: {
        ok: true,
        place: 'Shed',
        madeOn: bush.today,
        days: [{ on: '2026-11-20', minC: -1, maxC: 4 }],
        refused: []
      }
    };
    const asked = answers([forecast, thermometer]);
    const asker = new WeatherAsker(bush);
    await asker.now(true);
    await asker.now(true);
    expect(told(bush)).toHaveLength(before + 2);
    expect(asked[1]).toBe('?from=2026-11-21');
    expect(asker.troubles).toEqual([]);
  });
  it('says of each source what is wrong, and keeps what was known', async () => {
    const bush = await whole();
    const before = told(bush).length;
    answers([
      { kind: 'forecast', name: 'a service', answer: { ok: false, why: 'silent' } },
      {
        kind: 'thermometer',
        name: 'a thermometer',
        answer: {
          ok: true,
          place: 'Shed',
          madeOn: bush.today,
          days: [],
          refused: [{ on: '2026-11-20', reason: 'It is told twice.' }]
        }
      }
    ]);
    const asker = new WeatherAsker(bush);
    await asker.now(true);
    expect(told(bush)).toHaveLength(before);
    expect(asker.troubles).toEqual([
      'A service did not answer in time. What was known before stands.',
      'A thermometer: a day was left out. 2026-11-20: It is told twice.'
    ]);
  });
  it('asks nobody where whoever looks may not write', async () => {
    device.server.role = 'viewer';
    const bush = await whole();
    const asked = answers([forecast]);
    await new WeatherAsker(bush).now(true);
    expect(asked).toEqual([]);
  });
});

describe('a look at closing holes', () => {
  it('is written hole by hole, and tells the tree’s condition how old the oldest open one is', async () => {
    const bush = await whole();
    const tapped = bush.rows[0]!;
    await bush.loadTree(tapped.id);
    for (const season of [2024, 2026])
      await bush.record(tapped.id, {
        kind: 'taphole',
        on: `${season}-02-20`,
        season,
        bearingDeg: 10,
        heightMm: 1000,
        bitMm: 7.9375,
        depthMm: 38.1
      });
    const holes = holesToLookAt(bush, tapped.id);
    expect(holes.every(({ season }) => season <= 2026 && season > 2022)).toBe(true);
    const old = holes.at(-1)!;
    await keepClosing(bush, tapped.id, {
      states: new Map([[old.id, { state: 'open', gapMm: 3 }]]),
      oozing: false,
      dyingBark: true,
      fungus: false
    });
    const state = bush.stateOf(tapped.id);
    expect(state.assessment!.oldestOpenHoleYears).toBe(2026 - old.season + 1);
    const look = state.closings.at(-1)!;
    expect(look.dyingBark).toBe(true);
    expect(look.holes.find(({ tapholeId }) => tapholeId === old.id)).toEqual({
      tapholeId: old.id,
      state: 'open',
      gapMm: 3
    });
    expect(look.holes.filter(({ state: s }) => s === 'closed')).toHaveLength(holes.length - 1);
  });
});
