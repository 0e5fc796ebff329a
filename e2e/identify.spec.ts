import { expect, test } from '@playwright/test';

import { allSaved, bushIdOf, expectAccessible, expectFits, look, recordsOf, signIn, treesOf, walk } from './support.ts';

test('a tree is told by keyboard alone, left mid-way, taken up again, saved, and taken back', async ({ page }) => {
  await signIn(page);
  const bushId = bushIdOf(page);
  const tree = (await treesOf(page, bushId)).filter((t) => t.verdict === null).at(-1)!;
  const before = await recordsOf(page, bushId, tree.id);
  await page.goto(`/bush/${bushId}/identify/${tree.id}`);
  await expect(page.getByRole('heading', { name: /How do twigs and buds sit/ })).toBeVisible();
  await page.keyboard.press('a');
  await expect(page.getByRole('button', { name: 'Branching: opposite' })).toBeVisible();
  // What cannot be told is skipped, and the next best look is asked.
  const asked = await page.locator('#look').textContent();
  await page.keyboard.press('0');
  await expect(page.locator('#look')).not.toHaveText(asked!);

  // Away and back: nothing is lost.
  await page.keyboard.press(']');
  await expect(page).not.toHaveURL(new RegExp(tree.id));
  await page.goto(`/bush/${bushId}/identify/${tree.id}`);
  await expect(page.getByText('not saved')).toBeVisible();
  await expect(page.getByRole('button', { name: 'Branching: opposite' })).toBeVisible();

  // An impossible pair is questioned, with both at hand to look at again.
  await look(page, 'Bark of a grown tree', 'Papery curls');
  await expect(page.getByTestId('conflict')).toContainText('papery curls');
  await expect(page.getByTestId('verdict')).toContainText('Look again');
  await page.getByRole('button', { name: /^Look again: bark/ }).click();
  await page.keyboard.press('b');
  await expect(page.getByTestId('conflict')).toBeHidden();
  await look(page, 'Bud shape', 'Blunt and round');
  await look(page, 'Bud colour', 'Red');
  await look(page, 'Rub test', 'Chips come off');
  await look(page, 'Smell of a broken twig', 'Nothing much');
  // Red or silver maple: no look in winter settles that, and none would change what may be done with the tree.
  await expect(page.getByTestId('verdict')).toContainText('A maple, species open');
  await expect(page.locator('#look')).toHaveText(/Nothing else that can be seen now/);
  await expect(page.getByTestId('meaning')).toContainText('1.5 to 2 % sugar');
  await expect(page.getByTestId('meaning')).toContainText('43 to 57 of sap to one of syrup');
  await page.keyboard.press('v');
  await expect(page.getByTestId('side-by-side')).toContainText('Smell of a broken twig');
  await expectAccessible(page);
  await expectFits(page);
  await page.keyboard.press('v');
  await page.keyboard.press('s');
  await expect(page.getByText('This is the determination of 2026-11-23')).toBeVisible();
  await allSaved(page);
  const after = await recordsOf(page, bushId, tree.id);
  expect(after).toHaveLength(before.length + 1);
  expect(after.find((r) => r.kind === 'determination')).toMatchObject({
    verdict: 'mapleOpen',
    species: 'redMaple',
    basis: 'clues',
    lookSeason: 'bare',
    evidence: {
      arrangement: 'opposite',
      barkGrown: 'strips',
      budShape: 'rounded',
      budColour: 'red',
      rub: 'chips',
      twigSmell: 'none'
    }
  });
  const history = page.getByRole('region', { name: 'Determinations so far' });
  await expect(history).toContainText('A maple, species open; most likely red maple');
  await expect(history).toContainText('Hedda Spilewright');
  await history.getByRole('button', { name: 'Take back' }).click();
  await expect(page.getByText('species unsettled')).toBeVisible();
});

test('branching is asked first, in summer the leaf after it, in swelling time the buds are mistrusted', async ({
  page
}) => {
  await signIn(page);
  const bushId = bushIdOf(page);
  const tree = (await treesOf(page, bushId)).filter((t) => t.verdict === null).at(-2)!;
  await page.goto(`/bush/${bushId}/identify/${tree.id}`);
  await page.getByLabel('in leaf').check();
  await expect(page.locator('#look')).toHaveText(/How do twigs and buds sit/);
  await expect(page.getByTestId('why-look')).toHaveText('Nothing is settled without it.');
  await page.getByRole('button', { name: /^Opposite/ }).click();
  await expect(page.locator('#look')).toHaveText(/leaf/i);
  await page.getByLabel('buds swelling').check();
  await expect(page.locator('#look')).toHaveText(/swelling/);
  await page.getByRole('button', { name: /^Swelling/ }).click();
  // Of a tree that may be a beech nothing is said of spouts; of a maple it is.
  await expect(page.getByTestId('season-ending')).toHaveCount(0);
  await look(page, 'Bud shape', 'Sharp, many scales');
  await page.getByLabel('grown').check();
  await look(page, 'Bud colour', 'Brown');
  await look(page, 'Bark of a grown tree', 'Plates lift at one edge');
  await look(page, 'Rub test', 'It holds');
  await look(page, 'Grouping of the buds', 'Three at the tip');
  await look(page, 'Stoutness of the twigs', 'Slim');
  await expect(page.getByTestId('season-ending')).toContainText('pull its spouts');
  await page.getByLabel('young').check();
  await page.getByLabel('bare').check();
  await expect(page.locator('#look')).not.toHaveText(/leaf/i);
});

test('with one thumb on a phone', async ({ page }) => {
  await page.setViewportSize({ width: 390, height: 844 });
  await signIn(page);
  const bushId = bushIdOf(page);
  const tree = (await treesOf(page, bushId)).filter((t) => t.verdict === null).at(-3)!;
  await page.goto(`/bush/${bushId}/identify/${tree.id}`);
  await look(page, 'Branching', 'Opposite');
  await expect(page.locator('#look')).toBeInViewport();
  // Every target of the question is large enough for a glove.
  for (const card of await page.locator('section [aria-pressed]').all()) {
    const box = (await card.boundingBox())!;
    expect(Math.min(box.width, box.height)).toBeGreaterThanOrEqual(44);
  }
  await expectAccessible(page);
  await expectFits(page);
  await page.getByRole('button', { name: 'Save', exact: true }).click();
  await expect(page.getByRole('button', { name: 'Save', exact: true })).toBeHidden();
  await allSaved(page);
  expect((await treesOf(page, bushId)).find((t) => t.id === tree.id)!.verdict).toBe('lookAgain');
});

test('all trees: those for a visit in leaf, and many settled at once and taken back', async ({ page }) => {
  await signIn(page);
  const bushId = bushIdOf(page);
  const trees = await treesOf(page, bushId);
  const visit = trees.filter((t) => t.verdict === 'mapleOpen' || t.verdict === 'lookAgain');
  await page.goto(`/bush/${bushId}/identify/all`);
  await expect(page.getByRole('button', { name: `Visit in leaf ${visit.length}` })).toBeVisible();
  await page.getByRole('button', { name: /^Visit in leaf/ }).click();
  const [first, third] = [visit[0]!, visit[2]!];
  await page.getByRole('checkbox', { name: `Choose tree ${first.tag}`, exact: true }).click();
  await page.getByRole('checkbox', { name: `Choose tree ${third.tag}`, exact: true }).click({ modifiers: ['Shift'] });
  await expect(page.getByText('3 trees', { exact: true })).toBeVisible();
  await page.getByLabel('They all are').selectOption('sugarMaple');
  await expect(page.getByRole('button', { name: 'Settle 3 trees' })).toBeDisabled();
  await page.getByLabel('How do you know?').fill('seen in leaf');
  await expectAccessible(page);
  await expectFits(page);
  await page.getByRole('button', { name: 'Settle 3 trees' }).click();
  await expect(page.getByText('3 trees settled as sugar maple.')).toBeVisible();
  await allSaved(page);
  const records = await recordsOf(page, bushId, third.id);
  expect(records.find((r) => r.kind === 'determination' && r.basis === 'declared')).toMatchObject({
    verdict: 'settled',
    species: 'sugarMaple',
    basis: 'declared',
    note: 'seen in leaf'
  });
  // Its own sheet says who declared it and on what grounds, and asks for no clue before that is doubted.
  const sheet = await page.context().newPage();
  await sheet.goto(`/bush/${bushId}/identify/${third.id}`);
  await expect(sheet.getByTestId('verdict')).toContainText(/Settled: sugar maple.*Declared as sugar maple/s);
  await expect(sheet.getByRole('region', { name: 'Determinations so far' })).toContainText('seen in leaf');
  await sheet.close();
  await page.getByRole('button', { name: 'Undo' }).click();
  await expect(page.getByRole('button', { name: `Visit in leaf ${visit.length}` })).toBeVisible();
  await allSaved(page);
  expect((await treesOf(page, bushId)).find((t) => t.id === third.id)!.verdict).toBe(third.verdict);

  // To overrule what was settled is asked about first.
  await page.getByRole('button', { name: /^Maples/ }).click();
  await page.getByRole('checkbox').first().click();
  await page.getByLabel('They all are').selectOption('beech');
  await expect(page.getByTestId('overruled')).toContainText('settled as something else');
});

walk('the clue table is adjusted for the bush by its steward, and by nobody else', async ({ page, browser }) => {
  await signIn(page);
  const bushId = bushIdOf(page);
  await page.goto(`/bush/${bushId}/identify/clues`);
  await page.getByRole('button', { name: 'Bark of a grown tree' }).click();
  await page.getByRole('button', { name: 'Change sugar maple' }).click();
  await page.getByLabel('Sugar maple: Still smooth, per cent').fill('60');
  await expect(page.getByTestId('total')).toContainText('they have to make 100');
  await expect(page.getByRole('button', { name: 'Save for this bush' })).toBeDisabled();
  await page.getByLabel('Sugar maple: Plates lift at one edge, per cent').fill('26');
  await expectAccessible(page);
  await page.getByRole('button', { name: 'Save for this bush' }).click();
  await expect(page.getByText('this bush’s own', { exact: true })).toBeVisible();
  await page.reload();
  await page.getByRole('button', { name: /^Bark of a grown tree/ }).click();
  await expect(page.getByText('this bush’s own', { exact: true })).toBeVisible();
  await page.getByRole('button', { name: 'Change sugar maple' }).click();
  await page.getByRole('button', { name: 'Back to the shipped figures' }).click();
  await expect(page.getByText('this bush’s own', { exact: true })).toBeHidden();

  const visitor = await browser.newPage();
  await signIn(visitor, { name: 'visitor', password: 'pale-shavings' });
  await visitor.goto(`/bush/${bushId}/identify/clues`);
  await expect(visitor.getByRole('rowheader', { name: 'Sugar maple' })).toBeVisible();
  await expect(visitor.getByRole('button', { name: 'Change sugar maple' })).toBeHidden();
  const refused = await visitor.request.patch(`/api/v1/bushes/${bushId}/settings`, {
    data: { version: 1, settings: { clueTable: {} } }
  });
  expect(refused.status()).toBe(403);
  await visitor.close();
});

test('a visitor practises, is told why, and finds the score again', async ({ page }) => {
  await signIn(page, { name: 'visitor', password: 'pale-shavings' });
  const bushId = bushIdOf(page);
  await page.goto(`/bush/${bushId}/identify/practice`);
  // Two at a time, the easiest first: shown side by side before they are asked.
  await expect(page.getByRole('heading', { name: 'Sugar maple, or American beech?' })).toBeVisible();
  await expect(page.getByText(/What tells them, the surest first: branching/)).toBeVisible();
  await expectAccessible(page);
  await page.getByRole('button', { name: 'Ask me' }).click();
  await page.keyboard.press('0');
  await expect(page.getByTestId('graded')).toContainText('In the woods, where other trees stand as well');
  await page.getByTestId('graded').getByRole('button', { name: 'Next tree' }).click();
  await expect(page.getByText('New', { exact: true })).toBeVisible();
  await page.getByRole('button', { name: 'Begin the score anew' }).click();

  await page.getByRole('button', { name: 'What is it?' }).click();
  await expect(page.getByRole('heading', { name: 'What is this tree?' })).toBeVisible();
  await expect(page.getByText('Say as much as the clues allow and no more')).toBeVisible();
  await expectAccessible(page);
  for (let i = 1; i <= 4; i++) {
    await page.keyboard.press(['a', '0', '8', '9'][i - 1]!);
    await expect(page.getByTestId('graded')).toContainText(/It is .* In the woods: /);
    await expect(page.getByTestId('score')).toContainText(`of ${i}`);
    if (i === 4) break;
    await page.getByTestId('graded').getByRole('button', { name: 'Next tree' }).click();
  }
  await expectAccessible(page);
  await expectFits(page);
  await page.getByRole('button', { name: 'What to look at next?' }).click();
  await page.keyboard.press('b');
  await expect(page.getByTestId('graded')).toContainText(/Well chosen|tells more/);
  await page.reload();
  await expect(page.getByTestId('score')).toContainText('of 4');
});
