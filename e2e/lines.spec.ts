import { expect, test } from '@playwright/test';

import { allSaved, bushIdOf, expectAccessible, expectFits, mapOf, signIn } from './support.ts';

/* Lines of pipe: drawn, levelled, and mended where they do not fall. */

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
  expect((await download).suggestedFilename()).toBe('lines.geojson');
  await page.getByRole('button', { name: 'Take it away' }).click();
  await expect(page.getByTestId('all-lines')).not.toContainText('New spur');
  await undo('New spur is taken away');
  await expect(page.getByTestId('all-lines')).toContainText('New spur');
  await allSaved(page);
});
