import { expect, test } from '@playwright/test';

import {
  allSaved,
  bringIn,
  bushIdOf,
  expectAccessible,
  recordsOf,
  signIn,
  signUpWithBush,
  treesOf
} from './support.ts';

test('the frame by keyboard: stations, steps, search, help, units, what waits', async ({ page }) => {
  await signIn(page);
  const bushId = bushIdOf(page);
  const byTag = new Map((await treesOf(page, bushId)).map((tree) => [tree.tag, tree]));
  const title = page.getByRole('heading', { level: 1 });
  await page.goto(`/bush/${bushId}/measure/${byTag.get('41')!.id}`);
  await expect(title).toHaveText('Tree 41');
  await page.keyboard.press(']');
  await expect(title).toHaveText('Tree 42');
  await page.keyboard.press('[');
  await page.keyboard.press('[');
  await expect(title).toHaveText('Tree 40');
  for (const [key, station] of [
    ['1', 'identify'],
    ['3', 'count'],
    ['4', 'place'],
    ['5', 'thin'],
    ['2', 'measure']
  ] as const) {
    await page.keyboard.press(key);
    await expect(page).toHaveURL(new RegExp(`/${station}/${byTag.get('40')!.id}`));
  }
  await page.keyboard.press('l');
  await expect(page).toHaveURL(/\/life\//);

  await page.keyboard.press('?');
  const help = page.getByRole('dialog', { name: 'Help' });
  await expect(help).toContainText('go to a station with this tree');
  await expectAccessible(page);
  await help.getByRole('button', { name: 'Words' }).click();
  await expect(help).toContainText('stained wood');
  await expectAccessible(page);
  await page.keyboard.press('Escape');
  await expect(page.getByRole('dialog')).toBeHidden();

  await page.keyboard.press('/');
  await page.getByRole('textbox', { name: 'Tag' }).fill('nothing like it');
  await expect(page.getByRole('dialog')).toContainText('No tree has a tag that starts like that');
  await page.getByRole('textbox', { name: 'Tag' }).fill('230');
  await page.keyboard.press('Enter');
  await expect(title).toHaveText('Tree 230');

  await expect(page.locator('main')).toContainText(' cm');
  await page.keyboard.press('u');
  await expect(page.locator('main')).not.toContainText(/\d cm thick/);
  await page.keyboard.press('u');

  // n goes on to a tree that waits at the station; a bead is chosen by a click.
  await page.keyboard.press('1');
  await page.keyboard.press('n');
  await expect(page.getByText('species unsettled')).toBeVisible();
  const bead = page.getByRole('group', { name: 'Trees in walking order' }).getByRole('button').nth(4);
  const tag = /^Tree (\S+?),/.exec((await bead.getAttribute('aria-label'))!)![1]!;
  await bead.click();
  await expect(title).toHaveText(`Tree ${tag}`);

  // Typing in a field is typing, not steering.
  await page.keyboard.press('2');
  await page.getByTestId('reading').fill('');
  await page.getByTestId('reading').pressSequentially('1n[/');
  await expect(title).toHaveText(`Tree ${tag}`);
  await expect(page.getByRole('alert')).toContainText('I cannot read');
});

test('a wrong old reading is found, set right with one click, and can be taken back', async ({ page }) => {
  await signIn(page);
  const bushId = bushIdOf(page);
  const tree = (await treesOf(page, bushId)).find((t) => t.tag === '40')!;
  await page.goto(`/bush/${bushId}/measure/${tree.id}`);
  const question = page.getByTestId('old-question');
  await expect(question).toContainText('this looks like the girth');
  const before = (await recordsOf(page, bushId, tree.id)).length;
  await question.getByRole('button', { name: /^Make it/ }).click();
  await expect(question).toBeHidden();
  await allSaved(page);
  const records = await recordsOf(page, bushId, tree.id);
  expect(records).toHaveLength(before + 1);
  const correction = records.find((r) => r.correctsId)!;
  const wrong = records.find((r) => r.id === correction.correctsId)!;
  expect(Number(wrong.valueMm) / Number(correction.valueMm)).toBeCloseTo(Math.PI, 2);
  await page.keyboard.press('l');
  await expect(page.getByText('(corrected or taken back)')).toHaveCount(1);

  // A new reading, undone at once: it stays in the life, struck out.
  await page.keyboard.press('2');
  await page.getByRole('button', { name: 'Diameter, across' }).click();
  await page.getByTestId('reading').fill(`${(tree.dbhMm! / 10).toFixed(1)} cm`);
  await page.getByRole('button', { name: 'Save the reading' }).click();
  await page.getByRole('button', { name: 'Undo' }).click();
  await allSaved(page);
  await page.keyboard.press('l');
  await expect(page.getByText('(corrected or taken back)')).toHaveCount(2);
  await expect(page.getByText('(takes back an entry)')).toHaveCount(1);
});

test('two people correct the same entry: the second is told, and loses nothing unread', async ({ page, browser }) => {
  await signIn(page);
  const bushId = bushIdOf(page);
  const trees = await treesOf(page, bushId);
  let tree = trees[0]!;
  let questioned: { id: string } | undefined;
  // A girth written down as diameter.
  for (const candidate of trees.filter((t) => t.tag !== '40' && t.questions > 0)) {
    tree = candidate;
    questioned = (await recordsOf(page, bushId, tree.id)).find(
      (r) => r.kind === 'reading' && String(r.on).startsWith('2024') && Number(r.valueMm) > 2.5 * tree.dbhMm!
    );
    if (questioned) break;
  }
  expect(questioned).toBeDefined();
  await page.goto(`/bush/${bushId}/measure/${tree.id}`);
  await expect(page.getByTestId('old-question')).toBeVisible();
  const other = await browser.newContext({ baseURL: new URL(page.url()).origin });
  const crew = await other.newPage();
  await signIn(crew, { name: 'tomke', password: 'pale-shavings' });
  await crew.goto(`/bush/${bushId}/measure/${tree.id}`);
  await expect(crew.getByTestId('old-question')).toBeVisible();
  await page.context().setOffline(true);
  await page.getByTestId('old-question').getByRole('button', { name: 'It is right as it stands' }).click();
  await expect(page.getByTestId('saved')).toContainText('1 kept on this device');
  await crew
    .getByTestId('old-question')
    .getByRole('button', { name: /^Make it/ })
    .click();
  await expect(crew.getByTestId('old-question')).toBeHidden();
  await allSaved(crew);
  await page.context().setOffline(false);
  await page.evaluate(() => window.dispatchEvent(new Event('online')));
  const told = page.getByRole('alert').filter({ hasText: 'was not stored' });
  await expect(told).toContainText('corrected this record already');
  await page.reload();
  await expect(told).toBeVisible();
  // It is refused again as long as what stands in its way does; taking it off the device asks first.
  await told.getByRole('button', { name: 'Send it again' }).click();
  await expect(told).toContainText('corrected this record already');
  await told.getByRole('button', { name: 'Take it off this device' }).click();
  await told.getByRole('button', { name: 'Keep it' }).click();
  await told.getByRole('button', { name: 'Take it off this device' }).click();
  await told.getByRole('button', { name: 'Take it off', exact: true }).click();
  await expect(told).toBeHidden();
  await allSaved(page);

  // The crew records work; the count is the steward's.
  const maple = trees.find((t) => t.species === 'sugarMaple' && t.verdict === 'settled' && t.dbhMm !== null)!;
  await crew.goto(`/bush/${bushId}/count/${maple.id}`);
  await expect(crew.getByTestId('balance')).toBeVisible();
  await expect(crew.getByRole('group', { name: 'Taps this season' })).toHaveCount(0);
  await other.close();
});

test('dead ends say what to do', async ({ page }) => {
  await signIn(page);
  const bushId = bushIdOf(page);
  await page.goto(`/bush/${bushId}/measure/00000000-0000-4000-8000-000000000000`);
  await expect(page.getByRole('heading', { name: 'No such tree' })).toBeVisible();
  await page.goto('/nowhere');
  await expect(page.getByRole('heading', { name: 'There is no such page' })).toBeVisible();

  await page.getByRole('link', { name: 'Back to the bush' }).click();
  await page.getByRole('button', { name: /sign out/ }).click();
  await page.waitForURL(/sign-in/);

  const own = await signUpWithBush(page, 'Phone Bush');
  await page.goto(`/bush/${own}`);
  await expect(page.getByRole('heading', { name: 'What do you have?' })).toBeVisible();
  await expectAccessible(page);
  await page.goto(`/bush/${own}/exchange`);
  const file =
    'tag,species,girth,lat,lon,date\n1,sugar maple,45 in,44.5,-73.2,2026-10-04\n2,sugar maple,"4\' 2"" ",44.50003,-73.20002,2026-10-04\n3,sugar maple,,,,\n4,beech,90 cm,,,2026-10-04';
  await page
    .getByLabel('File', { exact: true })
    .setInputFiles({ name: 'phone.csv', mimeType: 'text/csv', buffer: Buffer.from(file) });
  await bringIn(page);
  await expect(page.getByTestId('preview')).toContainText('nothing new');
  const [one, , three, four] = await treesOf(page, own);
  expect(one!.dbhMm).toBeCloseTo((45 * 25.4) / Math.PI, 0);
  await page.goto(`/bush/${own}/thin/${one!.id}`);
  await expect(page.getByText('The positions are too rough')).toBeVisible();
  await page.goto(`/bush/${own}/place/${three!.id}`);
  await expect(page.getByRole('link', { name: 'Measure this tree first' })).toBeVisible();
  await page.goto(`/bush/${own}/count/${four!.id}`);
  await expect(page.getByText('This is not a maple: it is left untapped.')).toBeVisible();
  await page.goto(`/bush/${own}/thin/${three!.id}`);
  await expect(page.getByRole('link', { name: 'Measure this tree first' })).toBeVisible();
});
