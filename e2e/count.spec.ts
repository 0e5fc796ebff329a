import { expect, test } from '@playwright/test';

import { allSaved, bushIdOf, expectAccessible, expectFits, recordsOf, signIn, treesOf, walk } from './support.ts';

test('a tree is looked up at, the suggestion follows with its reason, and an override keeps its own', async ({
  page
}) => {
  await signIn(page);
  const bushId = bushIdOf(page);
  const tree = (await treesOf(page, bushId)).find(
    (t) =>
      t.species === 'sugarMaple' &&
      t.verdict === 'settled' &&
      t.lastTappedSeason !== null &&
      t.decidedTaps === null &&
      t.questions === 0 &&
      t.dbhMm! > 480 &&
      t.ringMm > 1.5
  )!;
  await page.goto(`/bush/${bushId}/count/${tree.id}`);
  const suggestion = page.getByTestId('suggestion');
  await expect(page.getByText('looking …')).toBeHidden();
  const again = page.getByRole('button', { name: 'Look up again' });
  const form = page.getByTestId('condition');
  // Until one of the two stands there, nothing is known of the tree yet.
  await again.or(form).first().waitFor();
  if (await again.isVisible()) await again.click();
  await form.getByRole('button', { name: /^healthy/ }).click();
  await form.getByRole('button', { name: /^moderate/ }).click();
  await expect(form.getByTestId('effects')).toContainText('Rest.');
  await form.getByRole('button', { name: 'a dead top' }).click();
  await expect(form).toContainText('Nothing here says that a tree is safe');
  await form.getByRole('button', { name: 'A defect' }).click();
  await form.getByLabel('Side, degrees').fill('400');
  await expect(form.getByRole('alert')).toContainText('0 to 360');
  await form.getByLabel('Side, degrees').fill('90');
  await form.getByLabel('Height').fill('110 cm');
  await form.getByRole('button', { name: 'Write this down' }).click();
  await expect(suggestion).toContainText('Rest');
  await expect(suggestion).toContainText('40 % of the crown has died back');
  await expect(page.getByText('nobody works under it before somebody trained')).toBeVisible();
  await allSaved(page);
  const records = await recordsOf(page, bushId, tree.id);
  expect(records.find((r) => r.kind === 'assessment' && r.diebackPct === 40)).toMatchObject({
    hazards: ['deadTop'],
    defects: [{ kind: 'wound', bearingDeg: 90, heightMm: 1100 }]
  });

  await page.getByRole('group', { name: 'Taps this season' }).getByRole('button', { name: '1', exact: true }).click();
  await page.getByTestId('reason').fill('the council wants it');
  await page.getByRole('button', { name: 'Decide' }).click();
  await expect(page.getByText('Because: the council wants it')).toBeVisible();

  // The balance, tried with other habits: nothing is changed by it.
  const balance = page.getByTestId('balance');
  const carries = async () =>
    Number(/carries ([\d.]+) holes/.exec((await balance.textContent())!.replace(/\s+/g, ' '))![1]);
  const before = await carries();
  await balance.getByLabel(/Try other habits/).check();
  await balance.getByRole('combobox').selectOption({ label: '7/16 in' });
  // A column grows with the square of the bit: (5/16)^2 / (7/16)^2 = 0.51.
  await expect.poll(carries).toBeCloseTo(before * 0.51, 0);
  await balance.getByText('How that is worked out').click();
  await expect(balance).toContainText('1 − e');
  await expectAccessible(page);
});

test('the whole bush on one sheet: room looked for, keys, totals that add up, the rest accepted, units', async ({
  page
}) => {
  await signIn(page);
  const bushId = bushIdOf(page);
  await page.goto(`/bush/${bushId}/count/all`);
  const totals = page.getByTestId('totals');
  const total = async (name: string) =>
    Number(
      await totals
        .getByRole('row', { name: new RegExp(`^${name}`) })
        .getByRole('cell')
        .textContent()
    );
  // Taps on a tree that nobody has settled as a maple are named beside the total.
  const decided = async () =>
    (await treesOf(page, bushId))
      .filter(({ verdict }) => verdict === 'settled' || verdict === 'mapleOpen')
      .reduce((sum, t) => sum + (t.decidedTaps ?? 0), 0);
  await expect.poll(() => total('Decided')).toBe(await decided());
  await expectAccessible(page);
  await expectFits(page);

  await page.getByRole('button', { name: 'Look for clear wood on every trunk' }).click();
  await expect(page.getByRole('progressbar', { name: 'Looking for clear wood' })).toBeVisible();
  await page.getByRole('button', { name: 'Hold up' }).click();
  await page.getByRole('button', { name: 'Go on' }).click();
  await page.getByRole('button', { name: 'Stop' }).click();

  // By key: the first open tree gets more than is suggested, which wants its reason; fewer need none.
  await page.getByLabel('Decided or not').selectOption('open');
  const first = page.locator('[role="group"][data-index="0"]');
  const label = (await first.getAttribute('aria-label'))!;
  const tag = /^Tree (\S+):/.exec(label)![1]!;
  await first.focus();
  await page.keyboard.press('4');
  const asking = page.getByTestId('asking');
  await asking.getByRole('textbox').fill('a big crown');
  await asking.getByRole('button', { name: 'Decide' }).click();
  await expect(page.getByText(new RegExp(`Tree ${tag}: four taps`))).toBeVisible();
  // Both are taken back: others walk through this bush.
  const back = new RegExp(`^Tree ${tag}: `);
  await page.getByRole('button', { name: 'Undo' }).first().click();
  await expect(page.locator('[role="group"][data-index="0"]')).toHaveAttribute('aria-label', back);
  await page.locator('[role="group"][data-index="0"]').focus();
  await page.keyboard.press('0');
  await expect(page.getByText(`Tree ${tag}: rest`)).toBeVisible();
  await expect(asking).toBeHidden();
  await page.getByRole('button', { name: 'Undo' }).first().click();
  await expect(page.locator('[role="group"][data-index="0"]')).toHaveAttribute('aria-label', back);
  await allSaved(page);

  // Only those where size binds, all at once; and back again.
  await page.getByLabel('What binds').selectOption('size');
  const accept = page.getByRole('button', { name: /^Accept \d+ suggestions/ });
  // Trees that nobody has looked up at are left out unless they are asked for.
  const seen = Number(/\d+/.exec((await accept.textContent())!)![0]);
  await page.getByLabel(/nobody has looked up at lately/).check();
  const many = Number(/\d+/.exec((await accept.textContent())!)![0]);
  expect(many).toBeGreaterThan(Math.max(20, seen));
  await accept.click();
  // Asked once, with the numbers.
  const sure = page.getByRole('dialog', { name: `Decide ${many} trees as suggested?` });
  await expect(sure).toContainText(/\d+ trees?: (rest|one tap)/);
  await expectAccessible(page);
  await sure.getByRole('button', { name: 'Look again' }).click();
  await expect(sure).toBeHidden();
  await accept.click();
  await sure.getByRole('button', { name: 'Decide them' }).click();
  await expect(page.getByText(`${many} trees decided as suggested`)).toBeVisible();
  await expect(page.getByText('No tree is like that.')).toBeVisible();
  await allSaved(page);
  await expect.poll(() => total('Decided')).toBe(await decided());
  // Taken back long after the message is gone.
  await page.getByRole('button', { name: 'Last things done' }).click();
  const done = page.getByRole('dialog', { name: 'Last things done here' });
  await done.getByRole('button', { name: new RegExp(`^Take back: ${many} trees decided`) }).click();
  await page.keyboard.press('Escape');
  await expect(accept).toBeVisible();
  await allSaved(page);
  await expect.poll(() => total('Decided')).toBe(await decided());

  // Every figure of length follows the switch.
  await expect(page.locator('[role="group"][data-index="0"]')).toContainText(' cm');
  await page.getByRole('group', { name: 'Units' }).getByRole('button', { name: 'in' }).click();
  await expect(page.locator('[role="group"][data-index="0"]')).toContainText(' in');
  expect(await page.locator('main').textContent()).not.toMatch(/\d (cm|mm)\b/);
});

walk('forty years under two habits, and the habits themselves', async ({ page }) => {
  await signIn(page);
  const bushId = bushIdOf(page);
  await page.goto(`/bush/${bushId}/count/decades`);
  await page.getByLabel('the ladder were').selectOption({ label: 'Handbook ladder' });
  await page.getByLabel('the bit were').selectOption({ label: '7/16 in' });
  await page.getByRole('button', { name: 'Look forty years ahead' }).click();
  const table = page.getByTestId('decades-table');
  await expect(table).toBeVisible();
  const row = async (i: number) =>
    (await table.getByRole('row').nth(i).getByRole('cell').allTextContents()).map((t) =>
      Number(t.replace(/[^\d.]/g, ''))
    );
  const [stainedNow, stainedThen] = [await row(3), await row(8)];
  expect(stainedThen.at(-1)!).toBeGreaterThan(2 * stainedNow.at(-1)!);
  await expectAccessible(page);
  await expectFits(page);

  await page.goto(`/bush/${bushId}/count/habits`);
  const form = page.getByTestId('habits');
  await form.getByLabel('Ladder').selectOption('own');
  await expect(form.getByRole('alert')).toContainText('needs a step');
  await form.getByRole('button', { name: 'A step more' }).click();
  await form.getByRole('button', { name: 'A step more' }).click();
  await form.getByRole('group', { name: 'Step 2' }).getByLabel('Diameter').fill('20 cm');
  await expect(form.getByRole('alert')).toContainText('more taps than the one before');
  await form.getByRole('group', { name: 'Step 2' }).getByLabel('Diameter').fill('52 cm');
  // What is shown is rounded and follows the units; what nobody typed stays to the hair.
  await form.getByLabel('Snow at tapping').fill('knee-deep');
  await expect(form.getByRole('alert')).toContainText('I cannot read');
  await form.getByLabel('Snow at tapping').fill('0');
  await page.getByRole('button', { name: 'in', exact: true }).click();
  await expect(form.getByLabel('Depth in wood')).toHaveValue('1 1/2 in');
  await expect(form.getByRole('group', { name: 'Step 2' }).getByLabel('Diameter')).toHaveValue('20.5 in');
  await page.getByRole('button', { name: 'cm', exact: true }).click();
  await form.getByRole('button', { name: 'These are our habits' }).click();
  await expect(page.getByText('These are the bush’s habits from now on')).toBeVisible();
  const { bush } = (await (await page.request.get(`/api/v1/bushes/${bushId}`)).json()) as {
    bush: { version: number; settings: { tapGuideline: string; ownGuideline: { diameterMm: number }[] } };
  };
  expect(bush.settings).toMatchObject({ tapGuideline: 'own', depthMm: 38.1, sapwoodMm: 75, snowMm: 0 });
  expect(bush.settings.ownGuideline[1]!.diameterMm).toBe(520);
  expect(bush.settings.ownGuideline).toHaveLength(2);
  // Others use this bush after this test.
  await page.request.patch(`/api/v1/bushes/${bushId}/settings`, {
    data: { version: bush.version, settings: { tapGuideline: 'twelveEighteen', ownGuideline: [] } }
  });
});

test('a birch is counted, drilled and collected from by itself, and none of it counts as maple', async ({ page }) => {
  await signIn(page);
  const bushId = bushIdOf(page);
  const birch = (await treesOf(page, bushId)).find(
    (t) => t.species === 'yellowBirch' && t.tagged && !t.cut && t.dbhMm! > 300
  )!;
  const maple = (await treesOf(page, bushId)).find((t) => t.species === 'sugarMaple' && t.tagged)!;
  await page.goto(`/bush/${bushId}/count/${birch.id}`);
  await expect(page.getByText('this bush does not tap its birches')).toBeVisible();
  await page.getByRole('link', { name: 'Birch and walnut' }).click();
  const birches = page.getByTestId('birch');
  await expect(birches.getByTestId('rises')).toContainText(/Sap rises from about \d+ \w+/);
  await expect(birches).toContainText('97 litres make one');
  await expectAccessible(page);
  await birches.getByLabel('this bush taps its birches').check();
  await birches.getByRole('link', { name: birch.tag, exact: true }).click();
  await expect(page.getByTestId('suggestion')).toContainText('One tap');
  await expect(page.getByTestId('other-sap')).toContainText('never put together');
  await page.getByRole('group', { name: 'Taps this season' }).getByRole('button', { name: '1', exact: true }).click();
  await allSaved(page);
  await page.goto(`/bush/${bushId}/place/${birch.id}`);
  await page.getByRole('button', { name: 'Drilled here' }).click();
  await allSaved(page);
  const records = await recordsOf(page, bushId, birch.id);
  expect(records.map(({ kind }) => kind)).toEqual(expect.arrayContaining(['decision', 'taphole']));
  // The maples' season, its rounds and what is still to drill know nothing of it.
  await page.goto(`/bush/${bushId}/season/rounds`);
  await expect(page.getByText(`${birch.tag},`)).toBeHidden();
  await page.goto(`/bush/${bushId}/season/others`);
  await expect(birches).toContainText('1 decided, 1 drilled');
  await birches.getByRole('button', { name: 'A collecting place' }).click();
  const form = page.getByRole('dialog');
  await form.getByLabel('Name').fill('Brook birches');
  await form.getByLabel(/^Trees/).fill(`${birch.tag}, ${maple.tag}`);
  await expect(form.getByRole('alert')).toContainText('is no birch: sap of two kinds is never put together');
  await form.getByLabel(/^Trees/).fill(birch.tag);
  await form.getByRole('button', { name: 'Keep it' }).click();
  await expect(birches).toContainText('Brook birches');
  await page.setViewportSize({ width: 390, height: 844 });
  await expectFits(page);
});
