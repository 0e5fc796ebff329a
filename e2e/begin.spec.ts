import { expect, test } from '@playwright/test';

import { allSaved, bringIn, expectAccessible, expectFits, recordsOf, signUpWithBush, treesOf } from './support.ts';

/* The first hour of somebody with a tree in the yard: from an empty bush to the first hole with its shavings. */

test('from an empty bush to the first hole takes twelve touches and one field', async ({ page }) => {
  const bushId = await signUpWithBush(page, 'Yard');
  await page.goto(`/bush/${bushId}`);
  const wish = page.getByTestId('wish');
  await wish.getByLabel('Syrup in a year, l').fill('none');
  await wish.getByLabel('Syrup in a year, l').press('Tab');
  await expect(wish.getByRole('alert')).toContainText('a number above nought');
  await wish.getByLabel('Syrup in a year, l').fill('4');
  await wish.getByLabel('Syrup in a year, l').press('Tab');
  await expect(wish).toContainText('About 5 taps, 3 to 8 in eight years of ten');
  await expectAccessible(page);
  await expectFits(page);
  // Nothing is done where there is nothing yet.
  await expect(page.getByRole('navigation', { name: 'Stations' })).not.toContainText(/all|nothing/);

  let touches = 0;
  const touch = async (name: RegExp | string, role: 'button' | 'link' = 'button') => {
    await page.getByRole(role, { name, exact: true }).click();
    touches += 1;
  };
  await touch('1');
  const steps = page.getByRole('navigation', { name: 'Steps' });
  await expect(steps).toContainText(/1\s*Is it a maple\?/);
  await expect(page.getByText('no tree beside it is settled')).toBeVisible();
  await expect(page.getByRole('navigation', { name: 'Stations' })).toContainText(/Count\s*waits for Identify/);
  await touch(/^Opposite/);
  await touch(/^Sharp, many scales/);
  await touch(/^Plates lift at one edge/);
  await touch(/^Save this determination/);
  await touch('Next: How thick is it?', 'link');
  await page.getByLabel(/^Girth at breast height/).fill('150 cm');
  await touch('Save the reading');
  await touch('Next: How many holes?', 'link');
  await expect(page.getByText('looking …')).toBeHidden();
  await expectAccessible(page);
  await page.getByRole('group', { name: 'Taps this season' }).getByRole('button', { name: '1' }).click();
  touches += 1;
  await touch('Next: Where to drill?', 'link');
  await touch('Drilled here');
  await touch(/^Pale cream/);
  await expect(steps).toContainText('All trees are done for now');
  expect(touches).toBeLessThanOrEqual(12);
  await allSaved(page);
  const [tree] = await treesOf(page, bushId);
  const kinds = (await recordsOf(page, bushId, tree!.id)).map(({ kind }) => kind);
  expect(kinds).toEqual(
    expect.arrayContaining(['entry', 'determination', 'reading', 'decision', 'taphole', 'shavings'])
  );

  // One tap is no four litres: said before somebody drills more.
  await page.goto(`/bush/${bushId}`);
  await expect(page.getByTestId('wish-held')).toContainText('Not from these trees without harm');
  await expectAccessible(page);
  await expectFits(page);
});

test('a trunk is asked for its past, a scar is pointed at, and the hole is found from it', async ({ page }) => {
  const bushId = await signUpWithBush(page, 'Old Yard');
  const chooser = page.getByLabel('File', { exact: true });
  const file = 'tag,species,girth,date\n1,sugar maple,150 cm,2026-10-04';
  await chooser.setInputFiles({ name: 'one.csv', mimeType: 'text/csv', buffer: Buffer.from(file) });
  await bringIn(page);
  const [tree] = await treesOf(page, bushId);
  await page.goto(`/bush/${bushId}/place/${tree!.id}`);
  await expect(page.getByTestId('uncounted')).toContainText('Nobody has decided how many holes it bears');

  const past = page.getByTestId('tapped-before');
  await expect(past).toContainText('Was it tapped before?');
  await expectAccessible(page);
  await past.getByRole('button', { name: 'Yes', exact: true }).click();
  const pointing = page.getByTestId('pointing');
  await expect(pointing).toContainText('Touch the sheet where one is');
  const sheet = page.getByTestId('bark-sheet');
  const box = (await sheet.boundingBox())!;
  await sheet.click({ position: { x: 0.3 * box.width, y: 0.45 * box.height } });
  await expect(pointing).toContainText('What does the scar there look like?');
  await expectAccessible(page);
  await pointing.getByRole('button', { name: /^Closed, and round/ }).click();
  await expect(pointing).toContainText('1 scar is noted');
  await pointing.getByRole('button', { name: 'These are all that I see' }).click();
  await expect(page.getByTestId('past-said')).toContainText('others may have closed out of sight');
  // A scar near the hole is what the tape is laid from; on the far side of the trunk it is compass and height.
  await expect(page.getByTestId('words')).toContainText(/From the old scar: |side/);
  await expectFits(page);
  await allSaved(page);
  const kinds = (await recordsOf(page, bushId, tree!.id)).map(({ kind }) => kind);
  expect(kinds).toEqual(expect.arrayContaining(['tappedBefore', 'scars']));
  await page.goto(`/bush/${bushId}/life/${tree!.id}`);
  await expect(page.getByText('Tapped before this book')).toBeVisible();
});
