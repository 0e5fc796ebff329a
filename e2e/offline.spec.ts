import { expect, test } from '@playwright/test';

import { allSaved, bushIdOf, recordsOf, signIn, treesOf } from './support.ts';

test('in the woods without a network: measured, placed, logged, and all of it arrives once', async ({
  page,
  context
}) => {
  await page.setViewportSize({ width: 390, height: 844 });
  await signIn(page);
  const bushId = bushIdOf(page);
  const all = await treesOf(page, bushId);
  const tree = all.filter((t) => t.decidedTaps === 1 && t.drilled === 0).at(-1)!;
  const before = await recordsOf(page, bushId, tree.id);

  // While there is a network the program, and the bush, come onto the device.
  await page.goto(`/bush/${bushId}/measure/${tree.id}`);
  await expect(page.getByTestId('reading')).toBeVisible();
  await page.evaluate(async () => void (await navigator.serviceWorker.ready));
  await page.reload();
  await expect(page.getByTestId('reading')).toBeVisible();
  await expect
    .poll(() =>
      page.evaluate(
        () =>
          new Promise<number>((done) => {
            const open = indexedDB.open('baumkin');
            open.onsuccess = () => {
              const count = open.result.transaction('lives').objectStore('lives').count();
              count.onsuccess = () => done(count.result);
            };
          })
      )
    )
    .toBeGreaterThan(350);

  await context.setOffline(true);
  await page.reload();
  await page.getByRole('button', { name: 'Diameter, across' }).click();
  await page.getByTestId('reading').fill(`${(tree.dbhMm! / 10).toFixed(1)} cm`);
  await page.getByRole('button', { name: 'Save the reading' }).click();
  await expect(page.getByTestId('saved')).toContainText('No network: 1 kept on this device');

  await page.getByRole('link', { name: 'Place' }).click();
  await page.getByRole('button', { name: 'Drilled here' }).click();
  await page.getByRole('button', { name: /^Pale cream/ }).click();
  await expect(page.getByTestId('saved')).toContainText('3 kept');

  // The phone is put away and taken out again, still without a network; nothing is lost.
  await page.reload();
  await expect(page.getByTestId('drilled')).toBeVisible();
  await expect(page.getByRole('button', { name: /^Pale cream/ })).toHaveAttribute('aria-pressed', 'true');
  await expect(page.getByTestId('saved')).toContainText('3 kept');

  // The network comes back, but the first answer is lost on its way: what was stored is sent again.
  let lost = 0;
  await page.route('**/records', async (route) => {
    if (lost > 0) return route.continue();
    lost += 1;
    await route.fetch();
    await route.abort();
  });
  await context.setOffline(false);
  await expect.poll(() => lost).toBe(1);
  await page.evaluate(() => window.dispatchEvent(new Event('online')));
  await allSaved(page);

  const after = await recordsOf(page, bushId, tree.id);
  const added = after.filter((r) => !before.some((b) => b.id === r.id));
  expect(added.map((r) => r.kind).sort()).toEqual(['reading', 'shavings', 'taphole']);
  await page.reload();
  await expect(page.getByTestId('drilled')).toHaveCount(1);
});
