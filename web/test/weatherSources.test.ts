import { createServer, type Server } from 'node:http';
import type { AddressInfo } from 'node:net';

import { afterAll, afterEach, beforeAll, describe, expect, it, vi } from 'vitest';

import { dayAtStation, dayInBush, foretold, later } from '../../standins/climate.mjs';
import { startThermometer, startWeatherService } from '../../standins/weather.mjs';
import { fileSource } from '../src/lib/server/weather/fileSource.ts';
import { httpSource } from '../src/lib/server/weather/httpSource.ts';
import { askWeather, weatherSources } from '../src/lib/server/weather/index.ts';
import type { WeatherSource } from '../src/lib/server/weather/source.ts';

const TODAY = '2027-03-10';
const ask = { from: '2027-03-01', until: '2027-03-25', today: TODAY, origin: { lat: 46.5, lon: -40 } };
const quick = (options: { kind: 'thermometer' | 'forecast'; url: string }) =>
  httpSource({ name: 'a source', withinMs: 300, ...options });

type Standin = Awaited<ReturnType<typeof startThermometer>>;
let [service, thermometer]: (Standin | undefined)[] = [];
beforeAll(async () => {
  service = await startWeatherService(0, () => TODAY);
  thermometer = await startThermometer(0, () => TODAY);
});
afterAll(async () => {
  await service?.stop();
  await thermometer?.stop();
});

const CSV = ['DATE,TMIN,TMAX', ...Array.from({ length: 12 }, (_, i) => dayAtStation(later('2027-02-25', i)))]
  .map((row) => (typeof row === 'string' ? row : `${row.on},${row.minC},${row.maxC}`))
  .join('\n');

/** Every source has to keep this, whatever it reads. */
const sources: readonly [string, () => WeatherSource][] = [
  ['a file', () => fileSource('valley.csv', CSV)],
  ['the simulated service', () => quick({ kind: 'forecast', url: service!.url })],
  ['the simulated thermometer', () => quick({ kind: 'thermometer', url: thermometer!.url })]
];

describe.each(sources)('as a source of weather, %s', (_name, source) => {
  it('tells days in order, each once, within what was asked for, measured ones over and foretold ones from today on', async () => {
    const answer = await source().days(ask);
    if (!answer.ok) throw new Error(answer.why);
    const days = answer.days.map(({ on }) => on);
    expect(days.length).toBeGreaterThan(3);
    expect(days).toEqual([...new Set(days)].sort());
    expect(days.every((on) => on >= ask.from && on <= ask.until)).toBe(true);
    expect(days.every((on) => (source().kind === 'forecast' ? on >= TODAY : on < TODAY))).toBe(true);
    expect(answer.days.every(({ minC, maxC }) => minC <= maxC && minC > -60 && maxC < 50)).toBe(true);
    expect(answer.place).not.toBe('');
  });
  it('says the same again when it is asked again', async () => {
    expect(await source().days(ask)).toEqual(await source().days(ask));
  });
});

describe('a service', () => {
  it('may speak Fahrenheit: what comes is Celsius', async () => {
    const answer = await quick({ kind: 'forecast', url: service!.url }).days(ask);
    const first = answer.ok ? answer.days[0]! : null;
    expect(first!.maxC).toBeCloseTo(foretold(TODAY, 0).maxC, 0.6);
  });
  it.each([
    ['silent', 'silent'],
    ['failing', 'failing'],
    ['page', 'unreadable'],
    ['nonsense', 'nonsense'],
    ['stale', 'stale']
  ])('that is %s is told as such, and holds no other up', async (mood, why) => {
    service!.be(mood);
    const answers = await askWeather(ask, [
      quick({ kind: 'forecast', url: service!.url }),
      quick({ kind: 'thermometer', url: thermometer!.url })
    ]);
    service!.be('well');
    expect(answers[0]!.answer).toEqual({ ok: false, why });
    expect(answers[1]!.answer.ok).toBe(true);
  });
  it('that is not there is told as out of reach', async () => {
    const gone = await startThermometer(0, () => TODAY);
    await gone.stop();
    expect(await quick({ kind: 'thermometer', url: gone.url }).days(ask)).toEqual({ ok: false, why: 'unreachable' });
  });
});

describe('what a source sends', () => {
  let server: Server;
  let body = '';
  let asked: string[] = [];
  beforeAll(async () => {
    server = createServer((request, response) => {
      asked.push(request.url ?? '');
      if (body === 'away') return void response.writeHead(302, { location: 'http://127.0.0.1:1/' }).end();
      if (body === 'hiccup' && asked.length === 1) return void response.writeHead(500).end();
      response.writeHead(200, { 'content-type': 'application/json' });
      response.end(body === 'hiccup' ? good : body);
    });
    await new Promise<void>((resolve) => server.listen(0, '127.0.0.1', resolve));
  });
  afterAll(() => void server.close());
  const days = [
    { date: '2027-03-08', tmin: -4, tmax: 6 },
    { date: '2027-03-09', tmin: -2, tmax: 7 }
  ];
  const told = (more: object) =>
    JSON.stringify({ place: 'hill', madeAt: '2027-03-10T05:00:00Z', unit: 'c', days, ...more });
  const good = told({});
  const answerTo = (sent: string) => {
    [body, asked] = [sent, []];
    const { port } = server.address() as AddressInfo;
    return quick({ kind: 'thermometer', url: `http://127.0.0.1:${port}` }).days(ask);
  };

  it('is tried once more where it failed', async () => {
    expect((await answerTo('hiccup')).ok).toBe(true);
    expect(asked).toHaveLength(2);
  });
  it('is asked for the place of the bush and the days that are wanted', async () => {
    await answerTo(good);
    expect(asked[0]).toBe('/days?from=2027-03-01&until=2027-03-25&lat=46.5&lon=-40');
  });
  it.each([
    ['no JSON', '{"place":'],
    ['another shape', JSON.stringify({ days })],
    ['words for numbers', told({ days: [{ date: '2027-03-08', tmin: 'cold', tmax: 6 }] })],
    ['more than anybody sends', told({ place: 'x'.repeat(1_100_000) })]
  ])('is refused where it is %s', async (_what, sent) => {
    expect(await answerTo(sent)).toEqual({ ok: false, why: 'unreadable' });
  });
  it('is followed nowhere else', async () => {
    expect(await answerTo('away')).toEqual({ ok: false, why: 'unreachable' });
  });
  it('keeps the days that can be, and names the others', async () => {
    const answer = await answerTo(
      told({
        days: [
          ...days,
          { date: '2027-03-07', tmin: 12, tmax: 3 },
          { date: '2027-03-09', tmin: -9, tmax: 7 },
          { date: '2027-03-12', tmin: -1, tmax: 7 },
          { date: '2026-01-01', tmin: -1, tmax: 7 }
        ]
      })
    );
    if (!answer.ok) throw new Error(answer.why);
    expect(answer.days.map(({ on }) => on)).toEqual(['2027-03-08', '2027-03-09']);
    expect(answer.refused.map(({ on, reason }) => [on, reason.slice(0, 20)])).toEqual([
      ['2027-03-07', 'The lowest, 12 °C, i'],
      ['2027-03-09', 'It is told twice, wi'],
      ['2027-03-12', 'It is not over yet: ']
    ]);
  });
});

describe('the invented climate', () => {
  it('gives every day the same, in whatever order it is asked', () => {
    const forward = Array.from({ length: 40 }, (_, i) => dayInBush(later('2026-02-10', i)));
    expect(
      forward
        .toReversed()
        .map(({ on }) => dayInBush(on))
        .toReversed()
    ).toEqual(forward);
  });
});

describe('which bush a source tells of', () => {
  afterEach(() => vi.unstubAllEnvs());
  const [hers, another] = ['3f0e4b8a-9d47-4a0f-8e6b-9c317c1d6a52', '7f0e4b8a-9d47-4a0f-8e6b-9c317c1d6a53'];
  const heard = (id: string, playUntil: Date | null = null) =>
    weatherSources({ id, playUntil }).map(({ name }) => name);

  it('is the one that it was named for, and copies of that to play in; all where none was named', () => {
    const url = 'http://127.0.0.1:1';
    vi.stubEnv(
      'BAUMKIN_WEATHER',
      JSON.stringify([
        { kind: 'forecast', name: 'valley', url },
        { kind: 'thermometer', name: 'sugarhouse', url, bush: hers }
      ])
    );
    expect(heard(hers)).toEqual(['valley', 'sugarhouse']);
    expect(heard(another)).toEqual(['valley']);
    expect(heard(another, new Date())).toEqual(['valley']);
    vi.stubEnv('BAUMKIN_EXAMPLE', hers);
    expect(heard(another, new Date())).toEqual(['valley', 'sugarhouse']);
    expect(heard(another)).toEqual(['valley']);
  });
});
