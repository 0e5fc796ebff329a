import { writeFileSync } from 'node:fs';

import { expect, test } from '@playwright/test';

import { allSaved, bringIn, expectAccessible, expectFits, postRecords, signUpWithBush, treesOf } from './support.ts';

/* Lines that run: gauges are read, a leak is found, and what was found teaches. A server of its own, whose day is what a file says. */
test.use({ baseURL: process.env.BAUMKIN_SEASON_URL });

const TREES = [
  'tag,stand,species,girth_cm,measured_on,east_m,north_m,holes',
  ...Array.from(
    { length: 10 },
    (_, i) => `${i + 1},Home,sugar maple,140,2026-10-01,${i < 5 ? 20 : 50},${4 * (i % 5) + 4},`
  )
].join('\n');

test('two gauges are read, the leak is looked for where they say, and mended', async ({ page }) => {
  writeFileSync(process.env.BAUMKIN_CLOCK!, '2027-03-09');
  const bushId = await signUpWithBush(page, 'Line Bush');
  await page
    .getByLabel('File', { exact: true })
    .setInputFiles({ name: 'trees.csv', mimeType: 'text/csv', buffer: Buffer.from(TREES) });
  await bringIn(page);
  await expect(page.getByTestId('preview')).toContainText('nothing new');
  const trees = [...(await treesOf(page, bushId))].sort((a, b) => Number(a.tag) - Number(b.tag));
  const [placeId, mainId] = [crypto.randomUUID(), crypto.randomUUID()];
  const laid = { kind: 'pipeLine', on: '2027-02-10', held: 'wire', spanM: 4 };
  await postRecords(page, bushId, [
    {
      id: placeId,
      kind: 'collectingPlace',
      on: '2027-02-10',
      name: 'Releaser',
      vessel: 'tank',
      vacuum: true,
      litres: 400,
      vessels: 1,
      carrier: 'vehicle',
      treeIds: trees.map(({ id }) => id)
    },
    {
      ...laid,
      id: mainId,
      name: 'Main line',
      use: 'main',
      boreMm: 19.1,
      points: [
        [0, 0],
        [80, 0]
      ],
      placeId,
      drops: []
    },
    ...[0, 1].map((k) => ({
      ...laid,
      name: `Lateral ${k + 1}`,
      use: 'lateral',
      boreMm: 7.9,
      points: [
        [20 + 30 * k, 22],
        [20 + 30 * k, 0]
      ],
      intoId: mainId,
      drops: trees.slice(5 * k, 5 * k + 5).map(({ id }) => ({ treeId: id, dropMm: 800 }))
    })),
    ...trees.map(({ id }) => ({
      kind: 'taphole',
      treeId: id,
      on: '2027-02-20',
      season: 2027,
      bearingDeg: 90,
      heightMm: 1000,
      bitMm: 7.9,
      depthMm: 38
    })),
    // All spouts were reported set, but the one of tree 3.
    ...trees
      .filter(({ tag }) => tag !== '3')
      .map(({ id }) => ({ kind: 'hanging', treeId: id, on: '2027-02-21', season: 2027 }))
  ]);
  await page.goto(`/bush/${bushId}/season/lines`);
  await page.getByRole('button', { name: 'What is missing' }).click();
  await expect(page.getByText('Nothing was read yet')).toBeVisible();

  await page.getByRole('button', { name: 'Read a line' }).click();
  const form = page.getByRole('dialog', { name: 'Read a line' });
  await form.getByLabel('Line').selectOption('Main line');
  await form.getByLabel('Gauge 1: where').fill('80');
  await form.getByLabel('Gauge 1: shows').fill('700');
  await expect(form.getByRole('alert')).toContainText('No gauge shows more than 101');
  await expect(form.getByRole('button', { name: 'Write it down' })).toBeDisabled();
  await form.getByLabel('Gauge 1: shows').fill('70');
  await form.getByLabel('Gauge 2: where').fill('0');
  await form.getByLabel('Gauge 2: shows').fill('59');
  await expectAccessible(page);
  await form.getByRole('button', { name: 'Write it down' }).click();

  // Air gets in along the main line, and one spout was never reported set.
  const looks = page.getByTestId('looks');
  await expect(looks).toContainText(/Main line, .+ in 100 that it leaks/);
  await expect(looks).toContainText(/Tree 3\s*\d+ in 100 that its spout was never set.*drilled, and not reported set/);
  await expectAccessible(page);
  await expectFits(page);

  // On paper stands the round, with room to write, and no button.
  await page.emulateMedia({ media: 'print' });
  await expect(page.getByText('Round along the lines')).toBeVisible();
  await expect(looks.getByText('Tree 3', { exact: true })).toBeVisible();
  await expect(page.getByRole('button', { name: 'Read a line' })).toBeHidden();
  await page.emulateMedia({ media: null });

  // Somebody walks the suspected piece, and finds the marks of teeth.
  const suspected = 'Main line, 0 m to 40 m from its upper end';
  await page.getByRole('button', { name: `Looked at ${suspected}` }).click();
  const look = page.getByRole('dialog', { name: `Looked at ${suspected}` });
  await look.getByRole('radio', { name: 'the bite of a squirrel' }).check();
  await look.getByLabel(/^Where along it/).fill('900');
  await expect(look.getByRole('alert')).toContainText('not so long');
  await look.getByLabel(/^Where along it/).fill('10');
  await expectAccessible(page);
  await look.getByRole('button', { name: 'Write it down' }).click();
  await expect(page.getByText(/the bite of a squirrel, mended/).filter({ visible: true })).toBeVisible();
  await expect(looks).not.toContainText(suspected);

  await page.getByRole('button', { name: 'Looked at Tree 3' }).click();
  const tap = page.getByRole('dialog', { name: 'Looked at Tree 3' });
  await tap.getByRole('radio', { name: /a spout that was not set/ }).check();
  await tap.getByRole('button', { name: 'Write it down' }).click();
  await expect(page.getByText('Tree 3', { exact: true })).toBeHidden();
  // It was another tree: what was written down is taken back, and the doubt is there again.
  await page.getByText('What was found').click();
  await page.getByRole('button', { name: /^Take back: .+ tree 3: a spout/ }).click();
  await expect(looks).toContainText('Tree 3');
  await allSaved(page);

  await page.setViewportSize({ width: 390, height: 844 });
  await expectFits(page);
});
