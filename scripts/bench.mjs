import { chromium } from '@playwright/test';

import { benchBigBush } from './lib/bigBench.mjs';
import { benchRotation } from './lib/rotationBench.mjs';
import { ensureBuild } from './lib/build.mjs';
import { startDatabase } from './lib/database.mjs';
import { exec, freePort } from './lib/exec.mjs';
import { run, say, Trouble } from './lib/say.mjs';
import { prepareDemo, startServer } from './lib/server.mjs';
import { ensureNodeModules, ensurePrograms, program } from './lib/setup.mjs';
import { signIn } from './lib/signIn.mjs';

/**
 * Speed of the core, of the database's side, of the map and of a big bush: ratios within one run and seconds, not limits. Names
 * of these parts after the command leave the others out; the soak, which takes a quarter of an hour, is run where it is named.
 */
const MANY = 20_000;
const PARTS = ['core', 'rotation', 'web', 'map', 'big'];
const SOAKED = '10000';

await run(async () => {
  const asked = process.argv.slice(2);
  const unknown = asked.filter((part) => ![...PARTS, 'soak'].includes(part));
  if (unknown.length > 0)
    throw new Trouble(`There is no bench of ${unknown.join(', ')}; there are ${PARTS.join(', ')} and soak.`);
  const wanted = (/** @type {string} */ part) => asked.length === 0 || asked.includes(part);
  await ensurePrograms(['mariadbd', 'mariadb-install-db', 'mariadb-admin', 'chromium']);
  await ensureNodeModules();
  if (asked.includes('soak')) await soakInFull();
  if (wanted('core')) await bench('core', {});
  if (wanted('rotation')) {
    await exec('npm', ['run', '--silent', 'build', '-w', 'core']);
    await benchRotation();
  }
  if (!['web', 'map', 'big'].some(wanted)) return;
  const database = await startDatabase('test-db');
  /** @type {Awaited<ReturnType<typeof startServer>> | undefined} */
  let server;
  try {
    if (wanted('web')) await bench('web', { DATABASE_URL: database.url });
    if (!wanted('map') && !wanted('big')) return;
    await ensureBuild();
    await database.reset();
    await prepareDemo(database.url);
    server = await startServer({ databaseUrl: database.url, port: await freePort(4790), demo: true });
    const { origin, pid } = server;
    if (wanted('map')) await benchMap(origin);
    if (wanted('big')) await benchBigBush({ databaseUrl: database.url, origin, pid: /** @type {number} */ (pid) });
  } finally {
    await server?.stop();
    await database.stop();
  }
});

/** Five devices that write, are cut off and killed, and hold the same in the end. */
async function soakInFull() {
  await ensureBuild();
  const { code } = await exec('npx', ['vitest', 'run', '--root', 'scripts', 'test/soak.test.mjs'], {
    env: { BAUMKIN_RECORDS: SOAKED }
  });
  if (code !== 0) throw new Trouble('The devices and the server do not hold the same.');
}

/** @param {string} root @param {Record<string, string>} env */
async function bench(root, env) {
  const { code } = await exec('npx', ['vitest', 'bench', '--run', '--root', root], { env });
  if (code !== 0) throw new Trouble(`The bench of ${root} did not come to its end.`);
}

/** The map of the demo bush and of one fifty times as large, in one browser. @param {string} origin */
async function benchMap(origin) {
  const browser = await chromium.launch({
    executablePath: program('chromium'),
    args: ['--no-sandbox', '--disable-gpu']
  });
  try {
    const page = await browser.newPage({ baseURL: origin, viewport: { width: 1280, height: 800 } });
    await signIn(page);
    const bush = new URL(page.url()).pathname.split('/')[2];
    const few = await mapTimes(page, `/bush/${bush}/map`);
    const rows = Array.from(
      { length: MANY },
      (_, i) => `N${i},sugar maple,${60 + ((i * 7) % 130)},${(i % 160) * 4},${300 + Math.floor(i / 160) * 4}`
    );
    const text = `tag,species,girth_cm,east_m,north_m\n${rows.join('\n')}`;
    const begun = Date.now();
    const answer = await page.request.post(`/api/v1/bushes/${bush}/import`, {
      data: { text, told: { undatedOn: '2026-11-23' } },
      timeout: 120_000
    });
    if (!answer.ok()) throw new Trouble(`The trees for the map were not stored: ${await answer.text()}`);
    say(`\nAn import of ${MANY} trees over the wire: ${Date.now() - begun} ms`);
    const many = await mapTimes(page, `/bush/${bush}/map`);
    say(`\nThe map                    412 trees   ${MANY + 412} trees`);
    for (const key of /** @type {const} */ (['firstMs', 'drawMs', 'worstFrameMs']))
      say(
        `${{ firstMs: 'first picture, all in', drawMs: 'drawn anew', worstFrameMs: 'worst frame of a drag' }[key].padEnd(24)} ${few[key].toFixed(0).padStart(8)} ms ${many[key].toFixed(0).padStart(10)} ms`
      );
  } finally {
    await browser.close();
  }
}

/** @param {import('@playwright/test').Page} page @param {string} path */
async function mapTimes(page, path) {
  await page.goto(path);
  await page.waitForSelector('[data-testid="map"][data-ready="true"]');
  await page.getByTestId('saved').getByText('All saved').waitFor();
  // The second time everything is at hand: what is measured is the work, not the loading of the program.
  await page.reload();
  await page.waitForSelector('[data-testid="map"][data-ready="true"]');
  const firstMs = await page.evaluate(() => performance.now());
  await page.getByTestId('saved').getByText('All saved').waitFor();
  // The device is still putting the records of all trees aside.
  await page.waitForTimeout(6000);
  const drawMs = await page.evaluate(async () => {
    const begun = performance.now();
    for (let i = 0; i < 5; i++) {
      window.dispatchEvent(new Event('resize'));
      /** @type {HTMLElement} */ (document.querySelector('.leaflet-control-zoom-in')).click();
      await new Promise((resolve) => requestAnimationFrame(() => resolve(undefined)));
      /** @type {HTMLElement} */ (document.querySelector('.leaflet-control-zoom-out')).click();
      await new Promise((resolve) => requestAnimationFrame(() => resolve(undefined)));
    }
    return (performance.now() - begun) / 10;
  });
  const box = /** @type {{ x: number, y: number, width: number, height: number }} */ (
    await page.getByTestId('map').boundingBox()
  );
  const frames = page.evaluate(
    () =>
      new Promise((resolve) => {
        const times = /** @type {number[]} */ ([]);
        const end = performance.now() + 2500;
        const tick = (/** @type {number} */ now) => {
          times.push(now);
          if (now < end) requestAnimationFrame(tick);
          else resolve(Math.max(...times.slice(1).map((t, i) => t - /** @type {number} */ (times[i]))));
        };
        requestAnimationFrame(tick);
      })
  );
  await page.mouse.move(box.x + box.width / 2, box.y + box.height / 2);
  await page.mouse.down();
  for (let i = 0; i < 40; i++)
    await page.mouse.move(box.x + box.width / 2 + 6 * (i % 20), box.y + box.height / 2 + 3 * i);
  await page.mouse.up();
  return { firstMs, drawMs, worstFrameMs: /** @type {number} */ (await frames) };
}
