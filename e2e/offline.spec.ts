import { expect, test } from '@playwright/test';

import { storedRows, wholeBook } from '../scripts/lib/deviceStore.mjs';
import { allSaved, bushIdOf, recordsOf, signIn, signUpWithBush, treesOf } from './support.ts';

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
  await wholeBook(page, bushId);

  await context.setOffline(true);
  // Trees that were never opened here: all of the bush is on the device.
  const never = all.filter((t) => t.id !== tree.id && t.dbhMm !== null).at(-2)!;
  for (const station of ['life', 'count', 'place']) {
    await page.goto(`/bush/${bushId}/${station}/${never.id}`);
    await expect(page.getByRole('heading', { name: `Tree ${never.tag}`, exact: true }).first()).toBeVisible();
  }
  // At any depth of address, after a hard reload too, and from where the installed app begins.
  for (const address of ['', '/place/round', `/card/${never.id}`, '/map/ground', '/thin/plan']) {
    await page.goto(`/bush/${bushId}${address}`);
    await page.reload();
    await expect(page.locator('main').locator('h1, h2, article').first()).toBeAttached();
  }
  for (const start of ['/', '/bushes']) {
    await page.goto(start);
    await expect(page).toHaveURL(`/bush/${bushId}`);
  }
  await page.goto(`/bush/${bushId}/life/${never.id}`);
  await expect(page.getByText(/^Settled as|^Measured|entry in the book/).first()).toBeVisible();
  await page.goto(`/bush/${bushId}/measure/${tree.id}`);
  await page.getByRole('button', { name: 'Diameter, across' }).click();
  await page.getByTestId('reading').fill(`${(tree.dbhMm! / 10).toFixed(1)} cm`);
  await page.getByRole('button', { name: 'Save the reading' }).click();
  await expect(page.getByTestId('saved')).toContainText('No network: 1 kept on this device');

  await page.getByRole('link', { name: 'Place' }).click();
  await page.getByRole('button', { name: 'Drilled here' }).click();
  await page.getByRole('button', { name: /^Pale cream/ }).click();
  // The plan of the trunk among them: it was looked at again after the reading.
  await expect(page.getByTestId('saved')).toContainText('4 kept');

  // The phone is put away and taken out again, still without a network; nothing is lost.
  await page.reload();
  await expect(page.getByTestId('drilled')).toBeVisible();
  await expect(page.getByRole('button', { name: /^Pale cream/ })).toHaveAttribute('aria-pressed', 'true');
  await expect(page.getByTestId('saved')).toContainText('4 kept');

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
  expect(added.map((r) => r.kind).sort()).toEqual(['reading', 'rotation', 'shavings', 'taphole']);
  await page.reload();
  await expect(page.getByTestId('drilled')).toHaveCount(1);
});

test('what one writes appears in the other browser without a reload', async ({ page, browser }) => {
  await signIn(page);
  const bushId = bushIdOf(page);
  const tree = (await treesOf(page, bushId)).filter((t) => t.dbhMm !== null && t.questions === 0).at(-3)!;
  const other = await (await browser.newContext()).newPage();
  await signIn(other);
  await other.goto(`/bush/${bushId}/life/${tree.id}`);
  await allSaved(other);

  const girth = Math.round(Math.PI * (tree.dbhMm! + 2)) / 10;
  await page.goto(`/bush/${bushId}/measure/${tree.id}`);
  await page.getByRole('button', { name: 'Girth, the way round' }).click();
  await page.getByTestId('reading').fill(`${girth.toFixed(1)} cm`);
  await page.getByRole('button', { name: 'Save the reading' }).click();
  await allSaved(page);
  await expect(other.getByText(`${girth.toFixed(1)} cm`).first()).toBeVisible();
  await other.close();
});

test('signing out takes the bush off the device, from wherever, and not before the server knows', async ({
  page,
  context
}) => {
  const bushId = await signUpWithBush(page, 'Left Behind');
  await allSaved(page);
  expect(await storedRows(page, 'glances')).toHaveLength(1);
  await context.setOffline(true);
  // What the service worker asks for is cut off a moment after the page.
  const answers = () =>
    fetch('/api/v1/bushes', { method: 'POST' }).then(
      () => true,
      () => false
    );
  await expect.poll(() => page.evaluate(answers)).toBe(false);
  await page.getByRole('button', { name: /sign out/ }).click();
  await expect(page.getByText('sign out once there is a network')).toBeVisible();
  expect(page.url()).toContain(bushId);
  expect(await storedRows(page, 'glances')).toHaveLength(1);

  await context.setOffline(false);
  await page.goto('/bushes');
  await page.getByRole('button', { name: 'Sign out' }).click();
  await page.waitForURL(/sign-in/);
  expect(await storedRows(page, 'glances')).toHaveLength(0);
  await page.goto(`/bush/${bushId}`);
  await page.waitForURL(/sign-in/);
});

test('signing out while the bush is still coming leaves nothing of it', async ({ page }) => {
  // A part of the bush is on its way until she is signing out.
  let leave: (() => void) | undefined;
  const leaving = new Promise<void>((resolve) => (leave = resolve));
  await page.route('**/snapshot/*/2', async (route) => {
    await leaving;
    await route.continue().catch(() => undefined);
  });
  await signIn(page);
  await expect(page.getByText(/^\d+ of \d+ trees here/)).toBeVisible();
  await page.getByRole('button', { name: /sign out/ }).click();
  leave?.();
  await expect(page).toHaveURL(/sign-in/);
  for (const table of ['glances', 'packs', 'lives', 'books'])
    await expect.poll(async () => (await storedRows(page, table)).length).toBe(0);
  expect(await page.evaluate(() => document.cookie)).not.toContain('baumkin_left');
});
