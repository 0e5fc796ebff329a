import { expect, test, type Page } from '@playwright/test';

import {
  allSaved,
  bushIdOf,
  DEMO,
  expectAccessible,
  expectFits,
  postRecord,
  recordsOf,
  signIn,
  treesOf,
  walk
} from './support.ts';

/** A tapped tree with a long past, whose count is not decided and that no other test needs. */
async function tappedTree(page: Page, nth: number) {
  const trees = await treesOf(page, bushIdOf(page));
  const tapped = trees.filter(
    (t) =>
      t.verdict === 'settled' &&
      t.lastTappedSeason === 2026 &&
      t.decidedTaps === null &&
      t.questions === 0 &&
      t.dbhMm! > 330 &&
      t.dbhMm! < 440
  );
  return tapped.at(-1 - nth)!;
}

test('a trunk is asked by click and by keyboard, what stands on it keeps holes away, and the plan looks ahead', async ({
  page
}) => {
  await signIn(page);
  const bushId = bushIdOf(page);
  const tree = await tappedTree(page, 0);
  await page.goto(`/bush/${bushId}/place/${tree.id}`);
  const sheet = page.getByTestId('bark-sheet');
  const words = page.getByTestId('words');
  await expect(page.getByRole('group', { name: 'Best holes' }).getByText('planned')).toBeVisible();
  await expect(page.getByTestId('taught')).toContainText('were looked at');
  await expect(page.getByTestId('meets')).toContainText('clear wood');

  // By click, then by keyboard: another place, another answer, both sections follow.
  const planned = await words.textContent();
  const box = (await sheet.boundingBox())!;
  await sheet.click({ position: { x: box.width / 2, y: box.height / 2 } });
  await expect(words).not.toHaveText(planned!);
  const clicked = await words.textContent();
  for (let i = 0; i < 4; i++) await sheet.press('Shift+ArrowUp');
  await expect(words).not.toHaveText(clicked!);
  await expect(page.getByRole('img', { name: /^Cross-section at/ })).toBeVisible();
  await sheet.press('+');
  await expect(page.getByRole('region', { name: /larger than its window/ })).toBeVisible();
  await sheet.press('-');

  // What stands there speaks against the spot, and is taken back with one click.
  await page.getByText(/^On this trunk \(/).click();
  await page.getByLabel('What is there').selectOption('seam');
  await page.getByRole('button', { name: 'Note it' }).click();
  await expect(page.getByTestId('against')).toContainText('too near to a seam');
  await page.getByRole('button', { name: 'Undo' }).first().click();
  await expect(page.getByTestId('against')).toBeHidden();

  // Old holes that nobody wrote down darken the sheet; the plan is still there.
  await page.getByRole('button', { name: 'Note them' }).click();
  await expect(page.getByText('about 8 old holes, S side, 1990 to 2009')).toBeVisible();
  await page.getByText(/^The coming seasons as a list/).click();
  const rotation = page.getByTestId('rotation');
  await expect(rotation.getByRole('row')).toHaveCount(26);
  await page.getByRole('slider', { name: /Coming seasons/ }).fill('6');
  await expect(page.getByText('to 2033')).toBeVisible();
  await allSaved(page);
  await expect(page.locator('[data-sonner-toast]')).toHaveCount(0);
  await expectAccessible(page);
  await expectFits(page);
});

test('nobody is sent to drill a tree that was forbidden after its count was decided', async ({ page }) => {
  await signIn(page);
  const bushId = bushIdOf(page);
  const { id } = await tappedTree(page, 4);
  const card = page.getByTestId('card');
  await page.goto(`/bush/${bushId}/card/${id}`);
  await expect(card).toContainText('not decided: count first');
  await expect(card).not.toContainText('Bit');

  const decision = { kind: 'decision', season: 2027, taps: 2, suggested: 2, binding: 'size', reason: '' };
  expect(await postRecord(page, bushId, id, decision)).toBe('stored');
  await page.reload();
  await expect(card.getByRole('listitem')).toHaveCount(2);

  // A crown seen worse since asks for another count.
  const look = { diebackPct: 60, crownClass: null, oldestOpenHoleYears: null, stressed: null };
  expect(await postRecord(page, bushId, id, { kind: 'assessment', ...look })).toBe('stored');
  await page.reload();
  await expect(card).toContainText('2; seen worse since, count anew');
  await expect(card.getByRole('listitem')).toHaveCount(0);
  await page.goto(`/bush/${bushId}/place/${id}`);
  await expect(page.getByTestId('fewer')).toContainText('60 % of the crown has died back');
  await expect(page.getByTestId('words')).toHaveCount(0);

  await page.goto(`/bush/${bushId}/card/${id}`);
  expect(await postRecord(page, bushId, id, { kind: 'tapBan', reasons: ['septic'] })).toBe('stored');
  await page.reload();
  await expect(card.getByTestId('forbidden')).toContainText('septic field');
  await expect(card.getByRole('listitem')).toHaveCount(0);
  await page.goto(`/bush/${bushId}/place/${id}`);
  await expect(page.getByTestId('forbidden')).toContainText('septic field');
  await expect(page.getByTestId('words')).toHaveCount(0);
  await expect(page.getByText('still to drill')).toBeHidden();
});

test('brown shavings move the next proposal', async ({ page }) => {
  await signIn(page);
  const bushId = bushIdOf(page);
  const tree = await tappedTree(page, 1);
  await page.goto(`/bush/${bushId}/place/${tree.id}`);
  const best = page.getByRole('group', { name: 'Best holes' });
  await expect(best.getByText('planned')).toBeVisible();
  await page.getByRole('button', { name: 'Drilled here' }).click();
  await expect(page.getByTestId('drilled')).toBeVisible();
  const planned = () => expect(page.getByText('Planning the seasons')).toBeHidden();
  await planned();
  await page.getByText(/^The coming seasons as a list/).click();
  const rows = page.getByTestId('rotation').getByRole('row');
  await expect(rows).not.toHaveCount(0);
  const plan = async () => (await rows.allTextContents()).slice(1, 6).join('|');
  const before = await plan();
  await page.getByRole('button', { name: /^All brown/ }).click();
  // While it is planned anew there is no list: only the new one counts, and only then does the sheet lie still.
  await expect.poll(async () => ['', before].includes(await plan())).toBe(false);
  await planned();
  // Whoever points at a hole of this season is asked whether it is that one; and beyond the count, whether it is one more.
  const drill = page.getByRole('button', { name: 'Drilled here' });
  const pointAt = async (below: number) => {
    const hole = page.locator('svg g:has(> title:text("Hole of 2027")) circle').first();
    await hole.scrollIntoViewIfNeeded();
    const at = (await hole.boundingBox())!;
    await page.mouse.click(at.x + at.width / 2, at.y + at.height / 2 + below);
    await drill.click();
  };
  await pointAt(0);
  await expect(page.getByRole('dialog', { name: 'The same hole?' })).toContainText('by yourself');
  await page.getByRole('button', { name: 'It is that hole' }).click();
  await allSaved(page);
  const decision = { kind: 'decision', season: 2027, taps: 1, suggested: 1, binding: 'size', reason: '' };
  expect(await postRecord(page, bushId, tree.id, decision)).toBe('stored');
  await page.reload();
  await expect(page.getByText('All drilled for 2027')).toBeVisible();
  await pointAt(60);
  await expect(page.getByRole('dialog', { name: 'Drilled all the same?' })).toContainText('decided for 1 hole');
  await page.getByRole('button', { name: 'It was not drilled' }).click();
  await expect(page.getByTestId('drilled')).toHaveCount(1);
  await page.getByRole('button', { name: /^Partly brown/ }).click();
  await page.getByLabel('Brown from').selectOption({ index: 2 });
  await allSaved(page);
});

test('what a trunk teaches: a core and its hollow, a wound with its year, a hole that stays dry', async ({ page }) => {
  await signIn(page);
  const bushId = bushIdOf(page);
  const { id, tag } = await tappedTree(page, 11);
  await page.goto(`/bush/${bushId}/measure/${id}`);
  await page.getByText('Write down a core or a stump').click();
  await page.getByLabel('Width of the outermost 5 rings').fill('40');
  await page.getByLabel('Width of the outermost 10 rings').fill('14');
  await expect(page.getByRole('alert')).toContainText('More rings are wider than fewer');
  await page.getByLabel('Width of the outermost 5 rings').fill('');
  await expect(page.getByTestId('ring-told')).toContainText('1.4 mm a year');
  await page.getByLabel('Hollow from').fill('3');
  await expectAccessible(page);
  await page.getByRole('button', { name: 'Write it down' }).click();
  await expect(page.getByTestId('ring-count')).toContainText('hollow from 3 cm under the bark');

  // Nobody drills into a hollow, and a hollow is a sign of decline.
  const decision = { kind: 'decision', season: 2027, taps: 1, suggested: 1, binding: 'condition', reason: '' };
  await allSaved(page);
  expect(await postRecord(page, bushId, id, decision)).toBe('stored');
  await page.goto(`/bush/${bushId}/count/${id}`);
  await expect(page.getByTestId('hollow')).toContainText('met a hollow 3 cm under the bark');
  await page.goto(`/bush/${bushId}/place/${id}`);
  await expect(page.getByTestId('shallow')).toContainText('30 mm of wood and no deeper');
  await page.goto(`/bush/${bushId}/card/${id}`);
  await expect(page.getByTestId('card')).toContainText('hollow behind it');

  await page.goto(`/bush/${bushId}/place/${id}`);
  await page.getByText(/^On this trunk/).click();
  await page.getByLabel('What is there').selectOption('wound');
  await page.getByLabel('since').fill('1700');
  await expect(page.getByRole('alert')).toContainText('A year from 1900');
  await page.getByLabel('since').fill('2015');
  await page.getByRole('button', { name: 'Note it' }).click();
  await expect(page.getByText(/^a wound of 2015/)).toBeVisible();

  await expect(page.getByText('Planning the seasons')).toBeHidden();
  await page.getByRole('button', { name: 'Drilled here' }).click();
  await page.getByRole('button', { name: /^Stays dry/ }).click();
  await page.getByRole('button', { name: 'Not at all' }).click();
  await expect(page.getByText('it teaches nothing of the wood')).toBeVisible();
  await allSaved(page);
  const records = await recordsOf(page, bushId, id);
  expect(records).toContainEqual(expect.objectContaining({ kind: 'taphole', season: 2027, depthMm: 30 }));
  expect(records).toContainEqual(expect.objectContaining({ kind: 'shavings', seen: 'dry', othersRan: 'none' }));
  await page.goto(`/bush/${bushId}/life/${id}`);
  await expect(page.getByRole('heading', { name: `Tree ${tag}` })).toBeVisible();
  await expect(page.getByText('the others did not run either')).toBeVisible();
});

test('a log tells how wide, how long and how lean its columns are, and no hole is offered in it', async ({ page }) => {
  await signIn(page);
  const bushId = bushIdOf(page);
  await page.goto(`/bush/${bushId}/thin/list`);
  const log = page.getByTestId('log').getByRole('link', { name: 'what its log tells' }).first();
  await log.click();
  await expect(page.getByRole('heading', { name: 'What its log tells' })).toBeVisible();
  await expect(page.getByRole('button', { name: 'Drilled here' })).toHaveCount(0);
  const known = page.getByTestId('sawn-columns').getByRole('listitem');
  const before = await known.count();
  expect(before).toBeGreaterThan(3);
  await page.getByLabel('Stain wide').fill('16');
  await page.getByLabel('and long').fill('9 m');
  await expect(page.getByRole('alert')).toContainText('look at the unit');
  await page.getByLabel('and long').fill('36');
  await page.getByLabel('Leaning', { exact: true }).fill('3°');
  await page.getByLabel('Leaning to the').selectOption('right');
  await expectAccessible(page);
  await expectFits(page);
  await page.getByRole('button', { name: 'Write it down' }).click();
  await expect(known).toHaveCount(before + 1);
  await expect(page.getByText('16 mm wide, 36 cm long, leaning 3° to the right')).toBeVisible();
  await allSaved(page);
});

test('the whole round is placed in one go and printed as cards and as a list', async ({ page }) => {
  await signIn(page);
  const bushId = bushIdOf(page);
  await page.goto(`/bush/${bushId}/place/round`);
  await page.getByRole('button', { name: /^Place the holes of \d+ tree/ }).click();
  const working = page.getByRole('progressbar', { name: 'Placing the holes' });
  await expect(working).toBeVisible();
  await expect(working).toBeHidden({ timeout: 120_000 });
  const round = page.getByTestId('round');
  await expect(round).toContainText(/From the hole at the (newest|\d{4}) \w+ mark/);
  await expect(round).not.toContainText('not placed yet');
  await expectAccessible(page);
  await expectFits(page);

  await page.evaluate(() => (window.print = () => undefined));
  await page.getByRole('button', { name: 'Cards, four a page' }).click();
  const cards = page.getByTestId('cards').locator('article');
  const many = await cards.count();
  expect(many).toBeGreaterThan(4);
  const pdf = (await page.pdf({ format: 'A4' })).toString('latin1');
  expect(pdf.match(/\/Type\s*\/Page\b/g)).toHaveLength(Math.ceil(many / 4));
  await page.getByRole('button', { name: 'List, a row a page' }).click();
  await expect(page.getByTestId('cards')).toHaveCount(0);
  const rows = page.getByTestId('rows').locator('table');
  await expect(rows.first()).toContainText(/Row 1 of \d+: trees? \w+/);
  const list = (await page.pdf({ format: 'A4' })).toString('latin1');
  expect(list.match(/\/Type\s*\/Page\b/g)).toHaveLength(await rows.count());

  // What was planned is still there after a reload.
  await page.reload();
  await expect(round).toContainText(/From the hole at the (newest|\d{4}) \w+ mark/);
});

test('a stack of cards is typed in the evening, in its order, by keys alone', async ({ page }) => {
  await signIn(page);
  const bushId = bushIdOf(page);
  await page.goto(`/bush/${bushId}/place/cards`);
  const card = page.getByTestId('card');
  const tag = () => card.getByRole('heading').innerText();
  const field = page.getByLabel('What the card says');
  await expect(field).toBeFocused();
  await expectAccessible(page);
  await expectFits(page);

  const first = await tag();
  const holes = await card.getByRole('listitem').count();
  await page.keyboard.type('p'.repeat(holes));
  await expect(page.getByRole('status').filter({ hasText: 'Enter writes down' })).toContainText('as planned, pale');
  await page.keyboard.press('Enter');
  await expect(card.getByRole('heading')).not.toHaveText(first);
  await expect(field).toBeFocused();
  // A card without a word on it is laid aside; one that cannot be read is asked about and nothing is written.
  const second = await tag();
  await page.keyboard.press('Enter');
  await expect(card.getByRole('heading')).not.toHaveText(second);
  const third = await tag();
  await page.keyboard.type('q');
  await expect(page.getByText('“q” is none of')).toBeVisible();
  await page.keyboard.press('Enter');
  await expect(card.getByRole('heading')).toHaveText(third);
  await page.keyboard.press('Backspace');
  // The card that was laid aside is found by its tag; its hole was drilled elsewhere.
  await page.keyboard.type(`${second} e205/118b`);
  await expect(card.getByRole('heading')).toHaveText(second);
  await page.keyboard.press('Enter');
  await expect(field).toHaveValue('');
  await allSaved(page);
  const rows = await treesOf(page, bushId);
  const drilledIn = async (of: string) => {
    const records = await recordsOf(page, bushId, rows.find((row) => row.tag === of)!.id);
    const seen = new Map(records.flatMap((r) => (r.kind === 'shavings' ? [[r.tapholeId, r.seen]] : [])));
    return records
      .filter((r) => r.kind === 'taphole' && r.season === 2027)
      .map((r) => [r.strategy, r.bearingDeg, seen.get(r.id)]);
  };
  expect(await drilledIn(first)).toEqual(Array.from({ length: holes }, () => ['rotation', expect.any(Number), 'pale']));
  expect(await drilledIn(second)).toEqual([[null, 205, 'brown']]);
  // All of a card is taken back at once.
  await page.getByRole('button', { name: 'Undo' }).first().click();
  await expect(card.getByRole('heading')).toHaveText(second);
});

test('sheet, round, card, print and another device name the same hole, and it changes for a reason that is said', async ({
  page,
  browser
}) => {
  await signIn(page);
  const bushId = bushIdOf(page);
  const { id, tag } = await tappedTree(page, 3);
  const decision = { kind: 'decision', season: 2027, taps: 1, suggested: 1, binding: 'size', reason: '' };
  expect(await postRecord(page, bushId, id, decision)).toBe('stored');
  await page.goto(`/bush/${bushId}/place/${id}`);
  await expect(page.getByTestId('plan-said')).toHaveText(/^Planned on \d{4}-\d\d-\d\d\.$/);
  await allSaved(page);
  const words = (await page.getByTestId('words').textContent())!;
  const chance = (await page.getByTestId('meets').textContent())!;

  await page.reload();
  await expect(page.getByTestId('plan-said')).toBeVisible();
  await expect(page.getByTestId('words')).toHaveText(words);
  await page.goto(`/bush/${bushId}/card/${id}`);
  await expect(page.getByTestId('card').getByRole('listitem')).toContainText(words);
  await page.goto(`/bush/${bushId}/place/round`);
  await page.evaluate(() => (window.print = () => undefined));
  await page.getByRole('combobox', { name: 'Which trees' }).selectOption('left');
  await page.getByRole('button', { name: 'List, a row a page' }).click();
  const printed = page.getByTestId('rows').getByRole('row', { includeHidden: true }).filter({ hasText: words });
  await expect(printed.filter({ hasText: tag })).toHaveCount(1);

  // A helper's phone is named the same, and writes no plan of its own.
  const phone = await browser.newContext({ viewport: { width: 390, height: 844 } });
  const helper = await phone.newPage();
  await signIn(helper, { ...DEMO, name: 'tomke' });
  await helper.goto(`/bush/${bushId}/place/${id}`);
  // A device that has nothing yet brings the bush along while it works this out.
  await expect(helper.getByTestId('plan-said')).toBeVisible();
  await expect(helper.getByTestId('words')).toHaveText(words);
  await expect(helper.getByTestId('meets')).toHaveText(chance);
  await expectFits(helper);
  const plans = async () => {
    const { records } = (await (await page.request.get(`/api/v1/bushes/${bushId}/trees/${id}`)).json()) as {
      records: { kind: string; verdict: string; holes: { bearingDeg: number; heightMm: number }[] }[];
    };
    return records.filter(({ kind }) => kind === 'rotation');
  };
  const [first, ...others] = await plans();
  expect(others).toEqual([]);
  await phone.close();

  // Something stands where the hole was to be drilled.
  const [{ bearingDeg, heightMm }] = first!.holes as [{ bearingDeg: number; heightMm: number }];
  const wound = { kind: 'trunkFeature', what: 'wound', bearingDeg, heightMm, note: '' };
  expect(await postRecord(page, bushId, id, wound)).toBe('stored');
  await page.goto(`/bush/${bushId}/place/${id}`);
  await expect(page.getByTestId('plan-said')).toContainText('because something was noted on the trunk');
  await expect(page.getByTestId('words')).not.toHaveText(words);
  await allSaved(page);
  expect((await plans()).map(({ verdict }) => verdict).sort()).toEqual(['changed', 'first']);

  // What is drilled is not offered again.
  await page.getByRole('button', { name: 'Drilled here' }).click();
  await expect(page.getByText('All drilled for 2027.')).toBeVisible();
  await expect(page.getByRole('group', { name: 'Best holes' }).getByRole('button')).toHaveCount(0);
  await allSaved(page);
  expect(await plans()).toHaveLength(2);
});

walk(
  'brown wood of the bush is held against what the sheets expected; names only by their own choice',
  async ({ page, browser }) => {
    await signIn(page);
    const bushId = bushIdOf(page);
    await page.goto(`/bush/${bushId}/place/brown`);
    await expect(page.getByTestId('rate')).toContainText(/\d+ met brown wood/);
    await page.getByRole('button', { name: 'Hold them against each other' }).click();
    await expect(page.getByTestId('calibrated')).toBeVisible({ timeout: 120_000 });
    await page.getByRole('combobox', { name: 'Group by' }).selectOption('stand');
    await expect(page.getByTestId('brown-table')).toContainText('Upper Bush');
    // The demo's truth is 62 %, by eight buckets of single trees.
    const stain = page.getByTestId('stain-costs');
    await expect(stain).toContainText(/[56]\d % less \(8 in 10: [45]\d % to [67]\d %\)/);
    await expect(page.getByTestId('haste-costs')).toContainText(/An hour saved so costs about \d+ l/);
    await expectAccessible(page);
    await expectFits(page);
    const lost = await page.getByTestId('rate').innerText();
    await stain.getByRole('button', { name: /^Reckon with/ }).click();
    await expect(stain).toContainText(/Reckoned with: [56]\d %/);
    await expect(page.getByTestId('rate')).not.toHaveText(lost);
    await page.getByRole('listitem').filter({ hasText: 'reckoned to lose' }).getByRole('button').click();
    await expect(stain).toContainText('Reckoned with: 100 %');

    await page.getByRole('combobox', { name: 'Group by' }).selectOption('person');
    await expect(page.getByTestId('brown-table')).toContainText('Hedda');
    await expect(page.getByTestId('brown-table')).toContainText('all others');
    await expect(page.getByTestId('brown-table')).not.toContainText('Tomke');
    const tomke = await (await browser.newContext()).newPage();
    await signIn(tomke, { ...DEMO, name: 'tomke' });
    await tomke.goto(`/bush/${bushId}/place/brown`);
    await tomke.getByRole('combobox', { name: 'Group by' }).selectOption('person');
    await expect(tomke.getByTestId('brown-table')).toContainText('Tomke Brookpail: only you see this line');
    await tomke.getByLabel('The others may see my holes').check();
    await expect(tomke.getByTestId('brown-table')).not.toContainText('only you');
    await page.reload();
    await page.getByRole('combobox', { name: 'Group by' }).selectOption('person');
    await expect(page.getByTestId('brown-table')).toContainText('Tomke');
  }
);

walk('ways of placing are lived through side by side, and the bush chooses one', async ({ page }) => {
  await signIn(page);
  const bushId = bushIdOf(page);
  await page.goto(`/bush/${bushId}/place/habits`);
  await page.getByRole('button', { name: 'Live through fifty seasons' }).click();
  await expect(page.getByTestId('verdict')).toContainText('The sunny side', { timeout: 120_000 });
  await expect(page.getByTestId('placings').getByRole('row')).toHaveCount(9);
  await expectAccessible(page);
  await expectFits(page);
  // The same on a tree of the bush, with the past that it has.
  const tree = await tappedTree(page, 2);
  await page.goto(`/bush/${bushId}/place/habits?tree=${tree.id}`);
  await expect(page.getByText(`On tree ${tree.tag}`)).toBeVisible();
  await page.getByRole('button', { name: 'Live through fifty seasons' }).click();
  await expect(page.getByTestId('verdict')).toContainText(`On tree ${tree.tag}`, { timeout: 120_000 });
  const schools = page.getByTestId('schools');
  await schools.getByRole('radio', { name: /^A hand span off/ }).check();
  await schools.getByRole('button', { name: 'Place by this' }).click();
  await expect(page.getByText(/Holes are placed by “A hand span off”/)).toBeVisible();
  await schools.getByRole('radio', { name: /planned ahead/ }).check();
  await schools.getByRole('button', { name: 'Place by this' }).click();
  await expect(page.getByText(/Holes are placed by “Best clear wood/)).toBeVisible();
});

test('a practice trunk is drilled for ten seasons, by pointer and by keyboard, and told at the end', async ({
  page
}) => {
  await signIn(page, { name: 'visitor', password: 'pale-shavings' });
  const bushId = bushIdOf(page);
  await page.goto(`/bush/${bushId}/place/practice`);
  const bark = page.getByTestId('practice-bark');
  await bark.click({ position: { x: 100, y: 200 } });
  await page.getByRole('button', { name: 'Drill here' }).click();
  await expect(page.getByTestId('practice-log').getByRole('row')).toHaveCount(2);
  await expectAccessible(page);
  for (let season = 2; season <= 10; season++) {
    await expect(page.getByRole('heading', { name: `Season ${season} of 10` })).toBeVisible();
    for (let i = 0; i < season; i++) await bark.press('Shift+ArrowLeft');
    await bark.press('Enter');
  }
  await expect(page.getByTestId('practice-end')).toContainText(/You lost \d+ %/);
  await expect(page.getByTestId('practice-end')).toContainText('of syrup. ');
  await expect(page.getByRole('rowheader', { name: 'On the sunny side' })).toBeVisible();
  await expectFits(page);
  await page.getByRole('button', { name: 'Another trunk' }).click();
  await expect(page.getByRole('heading', { name: 'Season 1 of 10' })).toBeVisible();
});
