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
const BENCH = { width: 1280, height: 800 };
const WALK = { width: 390, height: 844 };

/** @param {Row} row */
const unsettled = (row) => row.verdict === 'lookAgain';
/** @param {Row} row */
const tapped = (row) => row.decidedTaps !== null && row.lastTappedSeason === 2026 && row.questions === 0;
/** @typedef {{ tag: string, verdict: string | null, questions: number, decidedTaps: number | null, lastTappedSeason: number | null, species: string | null, mark: string | null, crownRadiiM: number[] | null }} Row */
/** @type {{ name: string, path: string, of?: (row: Row) => boolean, size?: typeof BENCH, theme?: string, click?: (string | RegExp)[], until?: string }[]} */
const VIEWS = [
  { name: 'home', path: '' },
  { name: 'map', path: 'map' },
  { name: 'identify', path: 'identify', of: unsettled },
  { name: 'measure', path: 'measure', of: (row) => row.questions > 0 },
  { name: 'growth', path: 'measure/growth' },
  { name: 'count', path: 'count', of: tapped },
  { name: 'count-all', path: 'count/all' },
  { name: 'decades', path: 'count/decades', click: ['Look forty years ahead'], until: 'decades-table' },
  { name: 'place', path: 'place', of: tapped, until: 'rotation' },
  { name: 'round', path: 'place/round', click: [/^Place the holes/], until: 'round' },
  { name: 'placings', path: 'place/habits', click: ['Live through fifty seasons'], until: 'verdict' },
  { name: 'brown-wood', path: 'place/brown', click: ['Hold them against each other'], until: 'calibrated' },
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
  { name: 'walk-identify', path: 'walk/identify', size: WALK, click: ['Start'], until: 'asks' },
  { name: 'walk-place', path: 'walk', size: WALK, click: ['Start'], until: 'walk-words' }
];

await run(async () => {
  await ensurePrograms(['chromium']);
  await ensureNodeModules();
  await ensureBuild();
  const database = await startDatabase('test-db');
  /** @type {Awaited<ReturnType<typeof startServer>> | undefined} */
  let server;
  const browser = await chromium.launch({
    executablePath: program('chromium'),
    args: ['--no-sandbox', '--disable-gpu']
  });
  try {
    await database.reset();
    await prepareDemo(database.url);
    server = await startServer({ databaseUrl: database.url, port: await freePort(4790), demo: true, today: TODAY });
    const out = join(root, 'docs/screenshots');
    mkdirSync(out, { recursive: true });
    const page = await browser.newPage({ baseURL: server.origin, viewport: BENCH, reducedMotion: 'reduce' });
    await signIn(page);
    const bushId = new URL(page.url()).pathname.split('/')[2];
    const overview = await (await page.request.get(`/api/v1/bushes/${bushId}`)).json();
    // The head of the page tells of trees that come: no picture of a view is one of its first minute.
    await wholeBook(page, /** @type {string} */ (bushId));
    const asked = process.argv.slice(2);
    const views = VIEWS.filter(({ name }) => asked.length === 0 || asked.includes(name));
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
  } finally {
    await browser.close();
    await server?.stop();
    await database.stop();
  }
});
