import { expect, test } from '@playwright/test';

import { allSaved, expectAccessible, expectFits, recordsOf, signUpWithBush, treesOf } from './support.ts';

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
