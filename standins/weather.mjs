import { createServer } from 'node:http';

import { dayInBush, foretold, later } from './climate.mjs';

/** Days that the service foretells, the day on which it is asked included. */
const FORETOLD = 10;

/** What the two can be told to do, for whoever wants to see how the bush bears it. */
const MOODS = ['well', 'silent', 'failing', 'nonsense', 'page', 'stale'];

/**
 * Days of weather over HTTP: `GET /days?from=2027-03-01&until=2027-03-10` gives
 * `{ place, madeAt, unit, days: [{ date, tmin, tmax }] }`. `POST /be { "mood": "silent" }` makes it silent, failing, full of nonsense, send
 * a web page, or tell yesterday's again.
 * @param {{ port: number, place: string, today: () => string, days: (from: string, until: string, madeOn: string) => { on: string, minC: number, maxC: number }[], unit?: 'c' | 'f' }} options
 */
async function startDays({ port, place, today, days, unit = 'c' }) {
  let mood = 'well';
  const server = createServer(async (request, response) => {
    const url = new URL(request.url ?? '/', 'http://localhost');
    if (request.method === 'POST' && url.pathname === '/be') {
      let text = '';
      for await (const chunk of request) text += chunk;
      const wished = text === '' ? undefined : JSON.parse(text).mood;
      if (MOODS.includes(wished)) mood = wished;
      response.writeHead(MOODS.includes(wished) ? 204 : 400).end();
      return;
    }
    if (url.pathname !== '/days') {
      response.writeHead(200, { 'content-type': 'text/html; charset=utf-8' }).end(pageOf(place, mood));
      return;
    }
    if (mood === 'silent') return;
    if (mood === 'failing') return void response.writeHead(503).end('down for repairs');
    if (mood === 'page') return void response.writeHead(200, { 'content-type': 'text/html' }).end(pageOf(place, mood));
    const madeOn = mood === 'stale' ? later(today(), -4) : today();
    const told = days(url.searchParams.get('from') ?? madeOn, url.searchParams.get('until') ?? madeOn, madeOn);
    const inUnit = (/** @type {number} */ c) => (unit === 'f' ? Number((c * 1.8 + 32).toFixed(1)) : c);
    response.writeHead(200, { 'content-type': 'application/json' }).end(
      JSON.stringify({
        place,
        madeAt: `${madeOn}T05:00:00Z`,
        unit,
        days: told.map(({ on, minC, maxC }) =>
          mood === 'nonsense'
            ? { date: on, tmin: 900, tmax: -900 }
            : { date: on, tmin: inUnit(minC), tmax: inUnit(maxC) }
        )
      })
    );
  });
  await new Promise((resolve, reject) => {
    server.once('error', reject);
    server.listen(port, '127.0.0.1', () => resolve(undefined));
  });
  const { port: taken } = /** @type {import('node:net').AddressInfo} */ (server.address());
  return {
    url: `http://127.0.0.1:${taken}`,
    /** @param {string} wished one of `MOODS` */
    be: (wished) => void (mood = wished),
    async stop() {
      server.closeAllConnections();
      await new Promise((resolve) => server.close(resolve));
    }
  };
}

/**
 * A simulated weather service: ten days ahead, the less right the farther.
 * @param {number} port @param {() => string} today ISO date
 */
export function startWeatherService(port, today) {
  return startDays({
    port,
    place: 'Lower Corran, simulated service',
    today,
    unit: 'f',
    days: (_from, _until, madeOn) => Array.from({ length: FORETOLD }, (_, ahead) => foretold(madeOn, ahead))
  });
}

/**
 * A simulated thermometer in the bush that keeps the lowest and highest of each day until yesterday.
 * @param {number} port @param {() => string} today ISO date
 */
export function startThermometer(port, today) {
  return startDays({
    port,
    place: 'thermometer at the sugarhouse, simulated',
    today,
    days: (from, until, madeOn) => {
      const last = until < madeOn ? until : later(madeOn, -1);
      const told = [];
      for (let on = from; on <= last && told.length < 366; on = later(on, 1)) told.push(dayInBush(on));
      return told;
    }
  });
}

const pageOf = (
  /** @type {string} */ place,
  /** @type {string} */ mood
) => `<!doctype html><html lang="en"><meta charset="utf-8"><title>${place}</title>
<style>body{font:1.1rem sans-serif;max-width:34rem;margin:3rem auto}button{font:inherit;padding:.5rem;margin:.2rem}</style>
<h1>${place}</h1><p>Stands in for what tells a bush of its weather. It is ${mood} now; it can be</p>
${MOODS.map((each) => `<button data-mood="${each}">${each}</button>`).join('')}
<script>for (const button of document.querySelectorAll('button')) button.onclick = async () => {
await fetch('/be', { method: 'POST', body: JSON.stringify({ mood: button.dataset.mood }) }); location.reload(); };</script>`;
