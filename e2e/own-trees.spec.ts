import { expect, test } from '@playwright/test';

import { allSaved, bringIn, expectAccessible, expectFits, recordsOf, signUpWithBush, treesOf } from './support.ts';

/** 200 rows, 7 of them broken in seven ways. */
function treesFile(): string {
  const broken = new Map([
    [13, '"",Home,sugar maple,92,2026-10-02,,,'],
    [40, '12,Home,sugar maple,92,2026-10-02,99,99,'],
    [77, 'B77,Home,Acre rubrum,92,2026-10-02,,,'],
    [101, 'B101,Home,sugar maple,about so thick,2026-10-02,,,'],
    [133, 'B133,Home,sugar maple,92,2027-05-01,,,'],
    [160, 'B160,Home,sugar maple,92,2026-10-02,4.5,,'],
    [188, 'B188,Home,sugar maple,92,2026-10-02,,,2024-180-95']
  ]);
  const rows = Array.from({ length: 200 }, (_, i) => {
    const line = broken.get(i);
    if (line) return line;
    const holes = i % 3 === 0 ? `2024:${(i * 7) % 360}:95;2025:${(i * 7 + 30) % 360}:118` : '';
    return `${i},Home,${i % 4 ? 'sugar maple' : 'red maple'},${95 + (i % 60)},2026-10-0${1 + (i % 9)},${(i % 20) * 5},${Math.floor(i / 20) * 5},${holes}`;
  });
  return ['tag,stand,species,girth_cm,measured_on,east_m,north_m,holes', ...rows].join('\n');
}

test('a steward brings in her own trees and takes one to a placed hole', async ({ page }) => {
  await page.goto('/sign-up');
  await page.getByLabel('Your name').fill('Own Trees');
  await page.getByLabel('Sign-in name').fill('hedda');
  await page.getByLabel(/^Password/).fill('a long enough password');
  await expectAccessible(page);
  await page.getByRole('button', { name: 'Make the account' }).click();
  await expect(page.getByRole('alert')).toContainText('taken');
  await expect(page.getByLabel('Your name')).toHaveValue('Own Trees');
  const bushId = await signUpWithBush(page, 'Home Bush');

  // A file that is no table is answered plainly.
  const chooser = page.getByLabel('File', { exact: true });
  await chooser.setInputFiles({ name: 'photo.csv', mimeType: 'text/csv', buffer: Buffer.from('PK\u0000\u0001binary') });
  await expect(page.getByRole('alert')).toContainText('not a text file');

  await chooser.setInputFiles({ name: 'trees.csv', mimeType: 'text/csv', buffer: Buffer.from(treesFile()) });
  const preview = page.getByTestId('preview');
  await expect(preview).toContainText(/193 new trees, 193 readings.*7 rows left out/s);
  for (const reason of [
    'has no tag',
    'stands in line',
    'acre rubrum',
    'cannot read',
    'in the future',
    'without the other',
    'not season:bearing:height'
  ])
    await expect(preview).toContainText(reason);
  await expectAccessible(page);
  await expectFits(page);
  const saved = page.waitForEvent('download');
  await page.getByRole('button', { name: 'Take these rows as a file' }).click();
  expect((await saved).suggestedFilename()).toBe('rows-left-out.csv');
  await bringIn(page);
  await expect(preview).toContainText(/nothing new\. 193 trees are here already.*7 rows left out/s);
  const trees = await treesOf(page, bushId);
  expect(trees).toHaveLength(193);
  const table = await (await page.request.get(`/api/v1/bushes/${bushId}/files/trees.csv`)).text();
  expect(table.trim().split('\n')).toHaveLength(194);

  // One of them, with past holes, to a placed hole.
  const tree = trees.find((t) => t.lastTappedSeason === 2025 && t.dbhMm! > 400)!;
  await page.goto(`/bush/${bushId}/count/${tree.id}`);
  await expect(page.getByText('looking …')).toBeHidden();
  await page.getByRole('group', { name: 'Taps this season' }).getByRole('button', { name: '1' }).click();
  const reason = page.getByTestId('reason');
  if (await reason.isVisible()) {
    await reason.fill('a first try');
    await page.getByRole('button', { name: 'Decide' }).click();
  }
  await expect(page.getByRole('heading', { name: 'Decided: one tap' })).toBeVisible();
  await page.keyboard.press('4');
  await expect(page.getByText('1 of 1')).toBeVisible();
  await expect(page.getByTestId('words')).toContainText(/From the (newest hole|hole of 20\d\d):/);
  await page.getByRole('button', { name: 'Drilled here' }).click();
  const pale = page.getByRole('button', { name: /^Pale cream/ });
  await pale.click();
  await expect(pale).toHaveAttribute('aria-pressed', 'true');
  await allSaved(page);
  const records = await recordsOf(page, bushId, tree.id);
  expect(records.filter((r) => r.kind === 'taphole' && r.season === 2027)).toHaveLength(1);
  expect(records.filter((r) => r.kind === 'shavings')).toHaveLength(1);

  // The rows of the file make a long walk: to and fro is shorter, and can be taken back.
  await page.goto(`/bush/${bushId}`);
  const walk = page.getByTestId('walk');
  const length = async () => {
    const [, value, unit] = /is ([\d.]+) (k?m) long/.exec((await walk.textContent())!)!;
    return Number(value) * (unit === 'km' ? 1000 : 1);
  };
  const before = await length();
  await walk.getByRole('button', { name: 'Look for a shorter one' }).click();
  await expect(walk).toContainText('it could be');
  await walk.getByRole('button', { name: 'Walk it like that' }).click();
  await expect(page.getByText('along the shorter walk')).toBeVisible();
  await expect.poll(length).toBeLessThan(0.8 * before);
  await page.getByRole('button', { name: 'Undo' }).click();
  await expect.poll(length).toBe(before);
});
