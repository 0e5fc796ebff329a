import { mkdirSync } from 'node:fs';
import { join } from 'node:path';
import { chromium } from '@playwright/test';

import { ensureBuild } from './lib/build.mjs';
import { startDatabase } from './lib/database.mjs';
import { freePort } from './lib/exec.mjs';
import { root } from './lib/paths.mjs';
import { run, say } from './lib/say.mjs';
import { prepareDemo, startServer } from './lib/server.mjs';
import { ensureNodeModules, ensurePrograms, program } from './lib/setup.mjs';
import { signIn } from './lib/signIn.mjs';
import { wholeBook } from './lib/deviceStore.mjs';

/** One picture of each main view, or of those that are named after the command, from a fresh demo bush on a fixed day, into docs/screenshots. */
const TODAY = '2026-11-23';
/** The season is seen at work. */
const IN_SEASON = '2027-03-10';
const BENCH = { width: 1280, height: 800 };
const WALK = { width: 390, height: 844 };

/** @param {Row} row */
const unsettled = (row) => row.verdict === 'lookAgain';
/** @param {Row} row */
const tapped = (row) => row.decidedTaps !== null && row.lastTappedSeason === 2026 && row.questions === 0;
/** @typedef {{ tag: string, verdict: string | null, questions: number, decidedTaps: number | null, lastTappedSeason: number | null, species: string | null, mark: string | null, crownRadiiM: number[] | null }} Row */
/** @type {{ name: string, path: string, of?: (row: Row) => boolean, size?: typeof BENCH, theme?: string, day?: string, click?: (string | RegExp)[], until?: string }[]} */
const VIEWS = [
  { name: 'home', path: '' },
  { name: 'map', path: 'map' },
  { name: 'identify', path: 'identify', of: unsettled },
  { name: 'measure', path: 'measure', of: (row) => row.questions > 0 },
  { name: 'count', path: 'count', of: tapped },
  { name: 'count-all', path: 'count/all' },
  { name: 'place', path: 'place', of: tapped, until: 'rotation' },
  { name: 'round', path: 'place/round', click: [/^Place the holes/], until: 'round' },
  { name: 'placings', path: 'place/habits', click: ['Live through fifty seasons'], until: 'verdict' },
  {
    name: 'thin',
    path: 'thin',
    of: (row) => row.species === 'sugarMaple' && row.mark === null && row.crownRadiiM !== null
  },
  { name: 'thin-plan', path: 'thin/plan', click: ['Make the plan'], until: 'proven' },
  {
    name: 'thin-years',
    path: 'thin/plan',
    theme: 'night',
    click: ['Make the plan', 'Thirty years', 'Look thirty years ahead'],
    until: 'years-table'
  },
  { name: 'marking-list', path: 'thin/list', until: 'trained' },
  { name: 'life', path: 'life', of: tapped },
  { name: 'walk-place', path: 'walk', size: WALK, click: ['Start'], until: 'walk-words' },
  { name: 'season', path: 'season/now', day: IN_SEASON, until: 'what-next' },
  { name: 'season-drilling', path: 'season/drilling', day: IN_SEASON, until: 'choices' },
  { name: 'season-lines', path: 'season/lines', day: IN_SEASON, until: 'missing' },
  { name: 'season-rounds', path: 'season/rounds', day: IN_SEASON, size: WALK, until: 'learned' }
];

await run(async () => {
  await ensurePrograms(['chromium']);
  await ensureNodeModules();
  await ensureBuild();
  const asked = process.argv.slice(2);
  const views = VIEWS.filter(({ name }) => asked.length === 0 || asked.includes(name));
  const database = await startDatabase('test-db');
  const browser = await chromium.launch({
    executablePath: program('chromium'),
    args: ['--no-sandbox', '--disable-gpu']
  });
  try {
    for (const day of [TODAY, IN_SEASON]) {
      const ofDay = views.filter((view) => (view.day ?? TODAY) === day);
      if (ofDay.length > 0) await picturesOf(day, ofDay, { browser, database });
    }
  } finally {
    await browser.close();
    await database.stop();
  }
});

/**
 * Pictures of views as they are on a day, with the simulated weather of that day.
 * @param {string} day ISO date
 * @param {typeof VIEWS} views
 * @param {{ browser: import('@playwright/test').Browser, database: Awaited<ReturnType<typeof startDatabase>> }} tools
 */
async function picturesOf(day, views, { browser, database }) {
  process.env.BAUMKIN_TODAY = day;
  const { startStandins } = await import('../standins/index.mjs');
  const standins = await startStandins(freePort);
  await database.reset();
  await prepareDemo(database.url);
  const { weather } = standins;
  const server = await startServer({
    databaseUrl: database.url,
    port: await freePort(4790),
    demo: true,
    today: day,
    weather
  });
  try {
    const out = join(root, 'docs/screenshots');
    mkdirSync(out, { recursive: true });
    const page = await browser.newPage({ baseURL: server.origin, viewport: BENCH, reducedMotion: 'reduce' });
    await signIn(page);
    const bushId = new URL(page.url()).pathname.split('/')[2];
    const overview = await (await page.request.get(`/api/v1/bushes/${bushId}`)).json();
    // The head of the page tells of trees that come: no picture of a view is one of its first minute.
    await wholeBook(page, /** @type {string} */ (bushId));
    for (const { name, path, of, size = BENCH, theme = 'snow', click, until } of views) {
      const tree = of && overview.trees.find(of);
      await page.setViewportSize(size);
      await page.evaluate(
        (t) => localStorage.setItem('baumkin-preferences', JSON.stringify({ theme: t, units: 'metric' })),
        theme
      );
      await page.goto(`/bush/${bushId}/${path}${tree ? `/${tree.id}` : ''}`);
      await page.getByTestId('saved').getByText('All saved').waitFor();
      for (const said of click ?? []) {
        await page.getByTestId('solving').waitFor({ state: 'hidden', timeout: 120_000 });
        await page
          .getByRole('button', { name: said })
          .or(page.getByRole('link', { name: said }))
          .click();
      }
      if (until) await page.getByTestId(until).waitFor({ state: 'attached', timeout: 120_000 });
      await page.getByRole('progressbar').first().waitFor({ state: 'hidden', timeout: 120_000 });
      // Charts are drawn once what draws them is there.
      await page.waitForTimeout(1500);
      await page.screenshot({ path: join(out, `${name}.png`) });
      say(`docs/screenshots/${name}.png`);
    }
    await page.close();
  } finally {
    await server.stop();
    await standins.stop();
  }
}
