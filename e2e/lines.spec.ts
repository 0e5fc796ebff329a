import { readFileSync } from 'node:fs';

import { expect, test } from '@playwright/test';

import { allSaved, bushIdOf, expectAccessible, expectFits, mapOf, signIn, treesOf } from './support.ts';

/* Lines of pipe: drawn, levelled, and mended where they do not fall; and what hangs on them. */

test('a line is drawn, levelled, found to rise, lifted, and levelled afresh', async ({ page }) => {
  await signIn(page);
  const bushId = bushIdOf(page);
  await page.goto(`/bush/${bushId}/season/lines`);
  await expect(page.getByTestId('all-lines')).toContainText('Lower line');
  // The demo's own dip, and its stretch of one in a hundred.
  const line = page.getByTestId('line');
  const findings = page.getByTestId('line-findings');
  await page.getByRole('button', { name: /^Lower line \d/ }).click();
  await expect(findings).toContainText(/Sure: between \d+ m and \d+ m it rises 14 cm: sap stands there/);
  await expect(findings).toContainText(/Sure: between \d+ m and \d+ m it falls 1\.0 %: under 2\.0 %/);
  await expect(page.getByTestId('line-mends')).toContainText(/Lift it by .+: then it falls 2\.0 % everywhere/);
  await expectAccessible(page);
  await expectFits(page);

  const at = await mapOf(page);
  await page.getByRole('button', { name: 'Draw a line' }).click();
  await page.mouse.click(...at(0.2, 0.2));
  await page.mouse.click(...at(0.3, 0.4));
  await page.mouse.dblclick(...at(0.3, 0.8));
  const form = page.getByRole('dialog', { name: 'A line' });
  await expect(form).toContainText('drawn from its upper end');
  await form.getByLabel('Name').fill('New spur');
  await form.getByLabel('What it is').selectOption('spur');
  await form.getByLabel('It runs into').selectOption({ label: 'Lower line' });
  await expectAccessible(page);
  await form.getByRole('button', { name: 'Keep it' }).click();
  await expect(line).toContainText('New spur');
  await expect(findings).toContainText('Nobody levelled it');

  const level = async (heights: readonly string[], afresh: boolean) => {
    await page.getByRole('button', { name: 'Level it' }).click();
    const dialog = page.getByRole('dialog', { name: 'Level New spur' });
    for (const [i, height] of heights.entries()) await dialog.getByLabel(`Height, ${i + 1}`).fill(height);
    if (afresh) await dialog.getByLabel(/it was moved since/).check();
    await dialog.getByRole('button', { name: 'Write it down' }).click();
    await expect(dialog).toBeHidden();
  };
  await page.getByRole('button', { name: 'Level it' }).click();
  const dialog = page.getByRole('dialog', { name: 'Level New spur' });
  await expect(dialog.getByLabel('Along it, 3')).toHaveValue(/^\d+(\.\d)?$/);
  await dialog.getByLabel('Height, 1').fill('high');
  await expect(dialog.getByRole('alert')).toContainText('high');
  await expect(dialog.getByRole('button', { name: 'Write it down' })).toBeDisabled();
  // Out of a file: one that is none, and one that was walked somewhere else.
  const file = (name: string, text: string) => ({ name, mimeType: 'text/xml', buffer: Buffer.from(text) });
  await dialog.locator('input[type=file]').setInputFiles(file('notes.txt', 'high, higher'));
  await expect(dialog.getByText('notes.txt: This is neither GPX nor GeoJSON.')).toBeVisible();
  const elsewhere = '<gpx version="1.1"><trk><trkseg><trkpt lat="0" lon="0"><ele>3</ele></trkpt></trkseg></trk></gpx>';
  await dialog.locator('input[type=file]').setInputFiles(file('walk.gpx', elsewhere));
  await expect(dialog.getByText(/walk\.gpx: .+ left out: 1 point too far from the line/)).toBeVisible();
  await page.keyboard.press('Escape');
  await level(['20', '14', '14.6'], false);
  await expect(findings).toContainText(/Sure: between .+ it rises 60 cm/);
  // The lower post is let down, and read again.
  await level(['20', '14', '8'], true);
  await expect(findings).toContainText('It falls everywhere');

  const undo = (said: string) =>
    page.getByRole('listitem').filter({ hasText: said }).getByRole('button', { name: 'Undo' }).click();
  // Renamed, it is the same line; and that can be taken back.
  await page.getByRole('button', { name: 'Change', exact: true }).click();
  const change = page.getByRole('dialog', { name: 'Change New spur' });
  await change.getByLabel('Name').fill('Steep spur');
  await change.getByRole('button', { name: 'Keep it' }).click();
  await expect(line).toContainText('Steep spur');
  await expect(findings).toContainText('It falls everywhere');
  await undo('Steep spur: ');
  await expect(page.getByTestId('all-lines')).toContainText('New spur');
  await page.getByRole('button', { name: /^New spur/ }).click();
  await expect(findings).toContainText('It falls everywhere');
  const download = page.waitForEvent('download');
  await page.getByRole('button', { name: 'Save as GeoJSON' }).click();
  const savedLines = await download;
  expect(savedLines.suggestedFilename()).toBe('lines.geojson');
  await page.getByRole('button', { name: 'Take it away' }).click();
  await expect(page.getByTestId('all-lines')).not.toContainText('New spur');
  await undo('New spur is taken away');
  await expect(page.getByTestId('all-lines')).toContainText('New spur');
  await allSaved(page);

  // What was written out is brought in again, drawn anew where there is one of that name; and a file that is none is refused.
  const geojson = JSON.parse(readFileSync(await savedLines.path(), 'utf8')) as {
    features: { properties: { name: string; into: string | null; trees: string[] } }[];
  };
  const spur = geojson.features.find(({ properties }) => properties.name === 'New spur')!;
  expect(spur.properties.into).toBe('Lower line');
  spur.properties.name = 'Spur from elsewhere';
  spur.properties.trees = ['1', 'nobody'];
  const linesIn = (name: string, text: string) => page.getByLabel('Bring lines in').setInputFiles(file(name, text));
  await linesIn('notes.txt', 'high, higher');
  const bring = page.getByRole('dialog', { name: 'Lines out of a file' });
  await expect(bring.getByRole('alert')).toContainText('This is not GeoJSON.');
  await page.keyboard.press('Escape');
  await linesIn('mine.geojson', JSON.stringify({ type: 'FeatureCollection', features: [spur] }));
  await expect(bring.getByTestId('lines-in')).toContainText(/Spur from elsewhere\s+spur, .+into Lower line; 2 trees/s);
  await expect(bring.getByRole('alert')).toContainText('No tree here has the tag nobody');
  await expectAccessible(page);
  await bring.getByRole('button', { name: 'Bring in 1 line' }).click();
  await expect(line).toContainText('Spur from elsewhere');
  // As many as other tests decided for tree 1.
  await expect(line).toContainText(/[1-9] taps? runs? through it/);
  await linesIn('mine.geojson', JSON.stringify(geojson));
  await expect(bring.getByTestId('lines-in')).toContainText('drawn anew: there is one of that name');
  await page.keyboard.press('Escape');
  await undo('1 line brought in');
  await expect(page.getByTestId('all-lines')).not.toContainText('Spur from elsewhere');
  await allSaved(page);
});

test('a longer drop reaches round the trunk, and Place goes by it', async ({ page }) => {
  await signIn(page);
  const bushId = bushIdOf(page);
  await page.goto(`/bush/${bushId}/season/lines`);
  await page.getByRole('button', { name: /^Lower line, right 2/ }).click();
  const mends = page.getByTestId('line-mends');
  await expect(mends).toContainText(/Longer drops would reach all round until they are made new: \d+ cm at /);
  const change = async (says: (drop: string) => string) => {
    await page.getByRole('button', { name: 'Change', exact: true }).click();
    const dialog = page.getByRole('dialog', { name: 'Change Lower line, right 2' });
    const drop = dialog.getByLabel('Each drop is');
    await drop.fill(says(await drop.inputValue()));
    const tags = await dialog.getByLabel(/Trees whose drops/).inputValue();
    await dialog.getByRole('button', { name: 'Keep it' }).click();
    await expect(dialog).toBeHidden();
    return tags.split(', ');
  };
  const [tag] = await change((drop) => drop);
  const tree = (await treesOf(page, bushId)).find((each) => each.tag === tag)!;
  await page.goto(`/bush/${bushId}/place/${tree.id}`);
  const hangs = page.getByTestId('hangs-on');
  await expect(hangs).toContainText(
    'Hangs on Lower line, right 2 by 75 cm of tube: holes are named where that reaches.'
  );
  const reach = page.getByTestId('reach');
  await expect(reach.first()).toBeAttached();
  const before = await reach.first().getAttribute('cx');
  await hangs.getByRole('link', { name: 'Lines' }).click();
  await page.getByRole('button', { name: /^Lower line, right 2/ }).click();
  await change(() => '130 cm');
  await expect(mends).not.toContainText('Longer drops');
  await page.goto(`/bush/${bushId}/place/${tree.id}`);
  await expect(hangs).toContainText('by 130 cm of tube');
  // Where the sheet is drawn anew, more of it is within reach.
  await expect(reach.first()).not.toHaveAttribute('cx', before!);
});

test('a round goes past all lines, and after a storm first where most is likely to be broken', async ({ page }) => {
  await signIn(page);
  const bushId = bushIdOf(page);
  await page.goto(`/bush/${bushId}/season/lines`);
  // How a line gets across the track is decided where it is judged; the round and the parts go by it.
  await page.getByRole('button', { name: /^Upper line \d/ }).click();
  const crossings = page.getByTestId('line-crossings');
  await expect(crossings).toContainText(/Crosses Hauling track at \d+ m: over it or through a culvert is not decided/);
  await crossings.getByRole('combobox').selectOption({ label: 'through a culvert' });
  await expect(crossings).toContainText('Whether it falls enough in the culvert cannot be told');
  await expect(page.getByTestId('line-parts')).toContainText('culvert pipe');
  await expectAccessible(page);
  await page.getByRole('button', { name: 'Round', exact: true }).click();
  const round = page
    .getByTestId('round')
    .getByRole('listitem')
    .filter({ has: page.getByRole('button') });
  await expect(page.getByTestId('round-says')).toContainText(/\d+ pieces and .+ of pipe, from the foot of each line/);
  await expect(round.first()).toContainText(/^1 ?Lower line, .+ from its upper end/);
  await expect(round.filter({ hasText: 'It rises from' }).first()).toContainText('ice stands there first');
  await expect(round.filter({ hasText: 'through a culvert, wrapped' })).toHaveCount(1);
  const pieces = await round.count();
  await expectAccessible(page);
  await expectFits(page);
  await page.getByRole('button', { name: 'After a storm' }).click();
  await expect(round).toHaveCount(10);
  expect(pieces).toBeGreaterThan(10);
  await expect(round.first()).toContainText(/\d+ in 100 that something lies on it/);
  // What was found on the first piece is told of it until it is mended.
  const name = (await round.first().getByRole('button').getAttribute('aria-label'))!;
  const found = async (mended: boolean) => {
    await page.getByRole('button', { name, exact: true }).click();
    const dialog = page.getByRole('dialog', { name });
    await dialog.getByLabel('a limb on it').check();
    await dialog.getByLabel('it is mended').setChecked(mended);
    await dialog.getByRole('button', { name: 'Write it down' }).click();
    await expect(dialog).toBeHidden();
  };
  await found(false);
  await expect(round.first()).toContainText(/A limb on it.*, found on .+ and not mended/);
  await found(true);
  await expect(round.first()).not.toContainText('not mended');
  await expect(round.first()).toContainText('looked at on');
  await page.emulateMedia({ media: 'print' });
  await expect(page.getByText('Round along the lines after a storm')).toBeVisible();
  await page.emulateMedia({ media: 'screen' });
  await allSaved(page);
});

test('a first route is found from the heights of the ground, drawn, and taken back', async ({ page }) => {
  await signIn(page);
  const bushId = bushIdOf(page);
  await page.goto(`/bush/${bushId}/season/lines`);
  await page.getByRole('button', { name: 'Propose a route' }).click();
  const dialog = page.getByRole('dialog', { name: 'A first route' });
  await dialog.locator('select').first().selectOption({ label: 'of Upper Bush, east buckets' });
  const find = dialog.getByRole('button', { name: /^Find a route/ });
  await expect(find).toBeDisabled();
  const heights = dialog.getByLabel(/Heights of the ground/);
  await heights.setInputFiles({ name: 'notes.txt', mimeType: 'text/plain', buffer: Buffer.from('steep') });
  await expect(dialog.getByText('notes.txt: This is neither GPX nor GeoJSON.')).toBeVisible();
  // Made ground that falls to the south, and to the north.
  const { bush } = (await (await page.request.get(`/api/v1/bushes/${bushId}`)).json()) as {
    bush: { origin: { lat: number; lon: number } };
  };
  const ground = (fall: number) => {
    const features = Array.from({ length: 400 }, (_, i) => {
      const [east, north] = [20 * (i % 20) - 40, 20 * Math.floor(i / 20) - 40];
      const lon = bush.origin.lon + east / (111_320 * Math.cos((bush.origin.lat * Math.PI) / 180));
      const lat = bush.origin.lat + north / 111_320;
      return { type: 'Feature', geometry: { type: 'Point', coordinates: [lon, lat, 300 + fall * north] } };
    });
    const buffer = Buffer.from(JSON.stringify({ type: 'FeatureCollection', features }));
    return { name: 'ground.geojson', mimeType: 'application/json', buffer };
  };
  const says = dialog.getByTestId('route-says');
  await heights.setInputFiles(ground(-0.1));
  await find.click();
  await expect(says).toContainText('No tree lies high enough above the tank');
  await heights.setInputFiles(ground(0.1));
  await find.click();
  await expect(says).toContainText(/\d+ lines: .+ of wide pipe and .+ of laterals/);
  await expectAccessible(page);
  await dialog.getByRole('button', { name: /^Draw these \d+ lines/ }).click();
  await expect(page.getByTestId('line')).toContainText('Route 1, 1');
  await expect(page.getByTestId('line')).toContainText('Nobody levelled it');
  await allSaved(page);
  await page.getByRole('button', { name: 'Last things done' }).click();
  await page.getByRole('button', { name: /^Take back: \d+ lines drawn/ }).click();
  await page.keyboard.press('Escape');
  await expect(page.getByTestId('all-lines')).not.toContainText('Route 1');
  await allSaved(page);
});
