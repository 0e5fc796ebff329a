import { writeFileSync } from 'node:fs';

import { expect, test } from '@playwright/test';

import { dayAtStation, later } from '../standins/climate.mjs';
import {
  allSaved,
  bringIn,
  bushIdOf,
  expectAccessible,
  expectFits,
  postRecords,
  signUpWithBush,
  treesOf
} from './support.ts';

/* A whole season in one test: a server of its own, whose day is what a file says. */
test.use({ baseURL: process.env.BAUMKIN_SEASON_URL });

const isDay = (on: string) => writeFileSync(process.env.BAUMKIN_CLOCK!, on);

/** Eight maples; two of them have holes of 2025 and 2026. */
const TREES = [
  'tag,stand,species,girth_cm,measured_on,east_m,north_m,holes',
  ...Array.from(
    { length: 8 },
    (_, i) =>
      `${i + 1},Home,sugar maple,${130 + i},2026-10-0${i + 1},${8 * i},0,${i < 2 ? `2025:${40 + i}:90;2026:${150 + i}:120` : ''}`
  )
].join('\n');

/** Five springs of the station in the valley, with a day that is written twice, one that is none, and one without a figure. */
function stationFile(): string {
  const rows: string[] = [];
  for (let on = '2022-01-01'; on < '2027-01-01'; on = later(on, 1)) {
    const { minC, maxC } = dayAtStation(on);
    rows.push(`${on},${minC},${maxC}`);
  }
  return ['DATE,TMIN,TMAX', ...rows, '2026-03-02,-30,-29', '2026-13-45,1,2', '2026-12-31,,4'].join('\n');
}

test('a season from the first frost-and-thaw day to the closed hole', async ({ page, context }) => {
  isDay('2027-02-10');
  const bushId = await signUpWithBush(page, 'Home Bush');
  await page
    .getByLabel('File', { exact: true })
    .setInputFiles({ name: 'trees.csv', mimeType: 'text/csv', buffer: Buffer.from(TREES) });
  await bringIn(page);
  await expect(page.getByTestId('preview')).toContainText('nothing new');
  const trees = await treesOf(page, bushId);
  await postRecords(
    page,
    bushId,
    trees.map(({ id }) => ({
      kind: 'decision',
      treeId: id,
      on: '2027-02-10',
      season: 2027,
      taps: 1,
      suggested: 1,
      binding: 'size'
    }))
  );
  const at = (slug: string) => page.goto(`/bush/${bushId}/season/${slug}`);

  // Weather: nothing is known, then a file is brought in, and what cannot be is asked about.
  await at('weather');
  const file = page.locator('input[type=file]');
  await file.setInputFiles({ name: 'page.csv', mimeType: 'text/csv', buffer: Buffer.from('<html>not found</html>') });
  await expect(page.getByRole('alert')).toContainText('web page');
  await file.setInputFiles({ name: 'valley.csv', mimeType: 'text/csv', buffer: Buffer.from(stationFile()) });
  await expect(page.getByTestId('weather-file')).toContainText(
    '1826 days, 2022-01-01 to 2026-12-31, in degrees Celsius'
  );
  await page.getByText('2 rows left out').click();
  await expect(page.getByText(/with other temperatures/)).toBeVisible();
  await expectAccessible(page);
  await page.getByRole('button', { name: 'Bring these days in' }).click();
  await expect(page.getByTestId('weather-sources')).toContainText('valley.csv');
  await page.getByLabel('Lowest, night').fill('5');
  await page.getByLabel('Highest, day').fill('-3');
  await expect(page.getByRole('alert')).toContainText('Are the two columns exchanged?');
  await expect(page.getByRole('button', { name: 'Write it down' })).toBeDisabled();

  // The stand-ins answered by themselves: the strip has days that came, and days to come.
  await at('now');
  await expect(page.getByTestId('how-it-runs')).toContainText(/Today/);
  await expect(page.getByText('simulated service; paler means foretold')).toBeVisible();
  const strip = page.getByTestId('strip');
  await strip.getByRole('img').focus();
  await expect(strip.locator('figcaption')).toContainText('Wed 10 Feb');
  await page.keyboard.press('ArrowRight');
  await expect(strip.locator('figcaption')).toContainText('Thu 11 Feb');
  await expect(strip.locator('figcaption')).toContainText('foretold');
  await expectAccessible(page);
  await expectFits(page);

  // A service that falls silent holds nothing up.
  await page.request.post(`${process.env.BAUMKIN_SERVICE}/be`, { data: { mood: 'page' } });
  await page.getByRole('button', { name: 'Ask again' }).click();
  await expect(page.getByText(/sent something that is no weather\. What was known before stands/)).toBeVisible();
  await page.request.post(`${process.env.BAUMKIN_SERVICE}/be`, { data: { mood: 'well' } });

  // When to drill: a day is chosen and kept.
  await at('drilling');
  await expect(page.getByTestId('best-day')).toContainText(/Begin (on|today)/);
  await expect(page.getByTestId('fresh-hole')).toContainText('still brings');
  await page.getByLabel('It begins on').fill('2027-02-24');
  await page.getByRole('button', { name: 'Keep this day' }).click();
  await expect(page.getByText('Kept: Wed 24 Feb')).toBeVisible();
  await expect(page.getByTestId('choices')).toContainText('not over');
  await expect(page.getByTestId('mix')).toHaveText(/^103 ml/);
  await page.getByLabel('How its label counts').selectOption('weight');
  // 29 % by weight weighs about 1.11 kg a litre: 93 ml.
  await expect(page.getByTestId('mix')).toHaveText(/^93 ml/);
  await expectAccessible(page);
  await at('now');
  await expect(page.getByTestId('dated')).toContainText('Drill: late maples');
  const calendar = page.waitForEvent('download');
  await page.getByRole('button', { name: 'Take as a calendar' }).click();
  expect((await calendar).suggestedFilename()).toBe('season.ics');

  // The round is drilled; a place is made; a tank is logged in the wood, without a network, in three touches.
  isDay('2027-02-26');
  await postRecords(
    page,
    bushId,
    trees.map(({ id }, i) => ({
      kind: 'taphole',
      treeId: id,
      on: '2027-02-24',
      season: 2027,
      bearingDeg: 200 + i,
      heightMm: 1100,
      bitMm: 7.9375,
      depthMm: 38.1
    }))
  );
  // The bush waits a day before it hangs the buckets: a round follows.
  await at('gear');
  await expect(page.getByTestId('gear')).toContainText('spouts');
  await page.getByLabel('Vessels are hung').selectOption('a day later');
  await page.getByRole('button', { name: 'Keep it so' }).click();
  await expect(page.getByText('The season is reckoned by this')).toBeVisible();
  await expectAccessible(page);
  await page.goto(`/bush/${bushId}/walk/hang`);
  await expect(page.getByText('vessels to hang at 8 trees')).toBeVisible();
  await page.getByRole('button', { name: 'Start' }).click();
  await page.getByRole('button', { name: /^All hang/ }).click();
  await allSaved(page);
  const hung = (await treesOf(page, bushId)).filter(
    (tree) => (tree as { hungSeason?: number | null }).hungSeason === 2027
  );
  expect(hung).toHaveLength(1);

  isDay('2027-03-10');
  await at('rounds');
  await page.getByRole('button', { name: 'One place for each stand' }).click();
  await expect(page.getByTestId('places')).toContainText('8 taps, buckets at the spouts');
  await expect(page.getByTestId('rounds')).toContainText(/Next round|No round/);
  await expectAccessible(page);
  await allSaved(page);
  await context.setOffline(true);
  await page.getByRole('button', { name: 'Log', exact: true }).click();
  const dialog = page.getByRole('dialog', { name: 'Home is emptied' });
  const vessel = (await dialog.getByTestId('vessel').boundingBox())!;
  await page.mouse.click(vessel.x + vessel.width / 2, vessel.y + 0.7 * vessel.height);
  await dialog.getByRole('button', { name: 'Write it down' }).click();
  await expect(page.getByTestId('places')).toContainText(/emptied 10 Mar/);
  await context.setOffline(false);
  await allSaved(page);

  // What cannot be is asked about, and nothing is lost.
  await page.getByRole('button', { name: 'Log', exact: true }).click();
  for (const digit of ['9', '9', '9']) await dialog.getByRole('button', { name: digit, exact: true }).click();
  await expect(dialog).toContainText('came out of it?');
  await dialog.getByText('Sugar, hour, how it looks').click();
  await dialog.getByLabel('Sugar').fill('12');
  await expect(dialog).toContainText('more sugar than sap has');
  await expect(dialog.getByRole('button', { name: 'Write it down' })).toBeDisabled();
  await dialog.getByRole('button', { name: 'Close' }).click();

  // What was logged can be taken back where it stands, and the place keeps what was emptied of it under another name.
  const undo = (said: string) =>
    page.getByRole('listitem').filter({ hasText: said }).getByRole('button', { name: 'Undo' }).click();
  await page.getByText('What was emptied this season').click();
  await page.getByRole('button', { name: /^Take back: 10 Mar, Home/ }).click();
  await expect(page.getByTestId('places')).toContainText('not emptied yet this season');
  await undo('Taken back: Home');
  await expect(page.getByTestId('places')).toContainText(/emptied 10 Mar/);
  await page.getByRole('button', { name: 'Change Home' }).click();
  const place = page.getByRole('dialog', { name: 'Change Home' });
  await place.getByLabel('Name').fill('Home buckets');
  await place.getByRole('button', { name: 'Keep it' }).click();
  await expect(page.getByTestId('places')).toContainText(/Home buckets.*emptied 10 Mar/s);
  await page.getByRole('button', { name: 'Change Home buckets' }).click();
  await page.getByRole('button', { name: 'Give this place up' }).click();
  await expect(page.getByTestId('places')).toHaveCount(0);
  await undo('Home buckets is given up');
  await expect(page.getByTestId('places')).toContainText(/Home buckets.*emptied 10 Mar/s);
  await allSaved(page);

  // A batch, from sap to bottle.
  await at('sap');
  await expect(page.getByTestId('store')).toContainText(/make\s.*\sof syrup/s);
  await page.getByRole('button', { name: 'A batch' }).click();
  const batch = page.getByRole('dialog', { name: 'A batch' });
  await expect(batch.getByTestId('possible')).toContainText('are possible');
  await batch.getByRole('spinbutton', { name: 'Syrup l' }).fill('9');
  await expect(batch).toContainText('More syrup came than there was sugar for');
  await batch.getByRole('spinbutton', { name: 'Syrup l' }).fill('0.7');
  await batch.getByLabel('At the fire, hours').fill('1');
  await batch.getByRole('button', { name: 'Another size' }).click();
  await batch.getByLabel('What each holds').fill('0.25');
  await expectAccessible(page);
  await batch.getByRole('button', { name: 'Write it down' }).click();
  await expect(page.getByTestId('batches')).toContainText('10 Mar');
  await page.getByLabel('Boiling water').fill('99');
  await expect(page.getByTestId('finish')).toHaveText('102.9 °C');

  // The end: a sign, the call, and the pulling round; one spout stays in.
  isDay('2027-04-20');
  await at('end');
  // The day that the device kept shows until the server has said which one it is.
  await expect(page.getByRole('heading', { name: 'Seen today, 20 Apr' })).toBeVisible();
  await page.getByRole('button', { name: 'Buds swell' }).click();
  await expect(page.getByTestId('signs')).toContainText('buds swell');
  await expect(page.getByTestId('end-groups')).toContainText('over');
  await page.getByRole('button', { name: 'Call it over' }).click();
  await expect(page.getByTestId('end-groups')).toContainText('called over on Tue 20 Apr');
  await page.getByRole('button', { name: 'It goes on after all' }).click();
  await page.getByRole('button', { name: 'Call it over' }).click();
  await expect(page.getByTestId('end-groups')).toContainText('called over on Tue 20 Apr');
  await expect(page.getByTestId('missing')).toContainText('1, 2, 3, 4, 5, 6, 7, 8');
  await expectAccessible(page);
  await allSaved(page);
  await postRecords(
    page,
    bushId,
    trees
      .slice(0, 7)
      .map(({ id }) => ({ kind: 'pulling', treeId: id, on: '2027-04-20', season: 2027, spouts: 1, note: '' }))
  );
  await expect(page.getByTestId('spouts')).toContainText('8 spouts went in, 7 came out, 1 is still in');
  await expect(page.getByTestId('missing')).toHaveText('Still in: 8');

  // A summer later: the holes are looked at, one of 2025 is still open, and Count lets the tree rest.
  isDay('2027-08-25');
  await at('closing');
  await expect(page.getByTestId('sample')).toContainText('8 trees of a sample of 8 to look at');
  await page.goto(`/bush/${bushId}/season/${trees[0]!.id}`);
  const looks = page.getByTestId('closing-form');
  await looks.getByLabel('The hole of 2025').selectOption('open');
  await looks.getByLabel('still').fill('4');
  await looks.getByRole('button', { name: 'Write it down' }).click();
  await expect(looks).toContainText('Last looked at on 2027-08-25');
  await expectAccessible(page);
  await page.goto(`/bush/${bushId}/season/${trees[1]!.id}`);
  await page.getByTestId('closing-form').getByRole('button', { name: 'All closed' }).click();
  await expect(page.getByTestId('closing-form')).toContainText('Last looked at on 2027-08-25');
  await at('closing');
  await expect(page.getByTestId('sample')).toContainText('6 trees of a sample of 8 to look at, 2 done');
  await expect(page.getByTestId('closed-after')).toContainText('3 summers');
  await page.goto(`/bush/${bushId}/count/${trees[0]!.id}`);
  await expect(page.getByText(/open after 3 years|rest/i).first()).toBeVisible();
  await at('year');
  await expect(page.getByTestId('year-sums')).toContainText('8 taps gave');
  await expectAccessible(page);
  expect(bushIdOf(page)).toBe(bushId);
});
