import { expect, test, type Page } from '@playwright/test';

import {
  allSaved,
  bringIn,
  bushIdOf,
  expectAccessible,
  expectFits,
  postRecord,
  recordsOf,
  signIn,
  signUpWithBush,
  treesOf
} from './support.ts';

/** A crowded hectare: maples that are worth freeing, beech and small stems between them. Made up for this test. */
function crowded(): string {
  const rows = Array.from({ length: 150 }, (_, i) => {
    const maple = i % 3 !== 0;
    const east = (i % 13) * 4.6 + (i % 4) * 0.7 + 3;
    const north = Math.floor(i / 13) * 5 + (i % 5) * 0.6 + 3;
    return `${i + 1},Home,${maple ? 'sugar maple' : i % 2 ? 'beech' : 'yellow birch'},${maple ? 26 + (i % 17) : 15 + (i % 14)} cm,2026-10-0${1 + (i % 9)},${east.toFixed(1)},${north.toFixed(1)}`;
  });
  return ['tag,stand,species,diameter,measured_on,east_m,north_m', ...rows].join('\n');
}

async function crowdedBush(page: Page): Promise<string> {
  const bushId = await signUpWithBush(page, 'Crowded Bush');
  await page
    .getByLabel('File', { exact: true })
    .setInputFiles({ name: 'trees.csv', mimeType: 'text/csv', buffer: Buffer.from(crowded()) });
  await bringIn(page);
  await expect(page.getByTestId('preview')).toContainText('150 trees are here already');
  return bushId;
}

test('crop trees, a plan, its limits, the marks, the list and a cut', async ({ page }) => {
  test.slow();
  const bushId = await crowdedBush(page);
  // How large the stand is is not known yet: no plan without it.
  await page.goto(`/bush/${bushId}/thin/plan`);
  await expect(page.getByTestId('refused')).toContainText('How large this stand is is not known');
  const overview = (await (await page.request.get(`/api/v1/bushes/${bushId}`)).json()) as {
    bush: { version: number };
    stands: { id: string }[];
  };
  const outline = [
    [0, 0],
    [66, 0],
    [66, 66],
    [0, 66]
  ];
  await page.evaluate(
    ([bush, version, stand]) =>
      fetch(`/api/v1/bushes/${bush}/stands/${stand.id}`, {
        method: 'PUT',
        headers: { 'content-type': 'application/json' },
        body: JSON.stringify({ version, stand })
      }),
    [bushId, overview.bush.version, { ...overview.stands[0]!, areaHa: 0.4356, outline }] as const
  );

  // Crop trees are proposed at once; another spacing, another number; a wish for taps finds its spacing.
  await page.goto(`/bush/${bushId}/thin/plan`);
  const short = page.getByTestId('in-short');
  await expect(short).toContainText(/\d+ crop trees; \d+ of them free to grow now/);
  const crops = async () => Number(/^\s*(\d+) crop/.exec((await short.textContent())!)![1]);
  await expect.poll(crops).toBeGreaterThan(5);
  const wide = await crops();
  await page.getByRole('slider', { name: 'Spacing of crop trees' }).fill('5');
  await expect.poll(crops).toBeGreaterThan(wide);
  await page.getByLabel('Taps wished for').fill('12');
  await page.getByRole('button', { name: 'Find the spacing' }).click();
  await expect(page.getByText('the widest spacing that gives as many')).toBeVisible();

  // The plan can be stopped, and made again.
  await page.getByRole('button', { name: 'Make the plan' }).click();
  await page.getByTestId('solving').getByRole('button', { name: 'Stop' }).click();
  await expect(page.getByTestId('solving')).toBeHidden();
  await page.getByRole('button', { name: /^Make the plan/ }).click();
  await expect(page.getByTestId('proven')).toContainText(/Nothing better exists|Proven to within/);
  const choices = page.getByTestId('choices');
  await expect(choices.getByRole('button', { name: 'The plan' })).toHaveAttribute('aria-pressed', 'true');

  // Limits that contradict are named; a tight one says that it binds.
  await page.getByRole('slider', { name: 'Basal area left at least' }).fill('30');
  await page.getByRole('button', { name: 'Make the plan again' }).click();
  await expect(page.getByTestId('clash')).toContainText('how much is to stay standing');
  await page.getByRole('slider', { name: 'Basal area left at least' }).fill('0');
  await page.getByRole('slider', { name: 'Share of the basal area taken at most' }).fill('0.06');
  await page.getByRole('button', { name: 'Make the plan again' }).click();
  await expect(page.getByTestId('binds-share')).toContainText('binds');
  await page.getByRole('button', { name: 'A lighter and a stronger one' }).click();
  await expect(choices.getByRole('button', { name: 'Stronger' })).toBeVisible();
  const keepLimits = page.getByRole('button', { name: 'Keep these limits for the bush' });
  await keepLimits.click();
  await expect(keepLimits).toBeHidden();
  await expect(page.locator('[data-sonner-toast]')).toHaveCount(0);
  await expectAccessible(page);
  await expectFits(page);

  // Accepted as a whole; the marks are the plan now.
  const mark = page.getByRole('button', { name: /^Mark all \d+ of “The plan” to take$/ });
  const many = Number(/\d+/.exec((await mark.textContent())!)![0]);
  await mark.click();
  await expect(mark).toBeHidden();
  await allSaved(page);
  expect((await treesOf(page, bushId)).filter((tree) => tree.mark === 'take')).toHaveLength(many);

  // Thirty years with and without.
  await page.getByRole('link', { name: 'Thirty years' }).click();
  await page.getByRole('button', { name: 'Look thirty years ahead' }).click();
  await expect(page.getByTestId('years-verdict')).toContainText('crop trees are');
  await expect(page.getByTestId('years-table')).toContainText('Syrup a season');
  await expectAccessible(page);
  await expectFits(page);

  // The list is not printed before local rules were asked.
  await page.getByRole('link', { name: 'Marking list' }).click();
  const print = page.getByRole('button', { name: 'Print the list' });
  await expect(print).toBeDisabled();
  await page.getByLabel(/I have asked what local rules say/).check();
  await expect(print).toBeDisabled();
  // Nor before it says who fells, who is with them, and who is kept away.
  const day = page.getByTestId('felling-day');
  await day.getByLabel('who fells').fill('Odo');
  await day.getByLabel('who is with them').fill('Tomke');
  for (const who of ['visitors and children', 'dogs', 'horses and livestock']) await day.getByLabel(who).check();
  await expect(print).toBeEnabled();
  await expect(page.locator('main')).toContainText('Felling kills');
  await expect(page.getByRole('row')).toHaveCount(many + 1);
  await expect(page.getByTestId('clean-up')).toContainText('of stacked firewood');
  await expect(page.locator('[data-sonner-toast]')).toHaveCount(0);
  await expectAccessible(page);
  await expectFits(page);
  await page.emulateMedia({ media: 'print' });
  expect((await page.pdf({ format: 'A4' })).byteLength).toBeGreaterThan(10_000);
  await page.emulateMedia({ media: null });

  // Bats are found in one that is marked: it is on no faller's list before somebody decides.
  const lived = (await treesOf(page, bushId)).find((tree) => tree.mark === 'take')!;
  const said = await postRecord(page, bushId, lived.id, {
    kind: 'assessment',
    diebackPct: null,
    crownClass: null,
    oldestOpenHoleYears: null,
    stressed: null,
    wildlife: ['batRoost']
  });
  expect(said).toBe('stored');
  await page.reload();
  const held = page.getByTestId('held');
  await expect(held).toContainText(`${lived.tag}: it is marked to come down, but bats roost in it.`);
  await expect(page.getByRole('row')).toHaveCount(many);
  await expectAccessible(page);
  await page.goto(`/bush/${bushId}/thin/${lived.id}`);
  await expect(held).toContainText('It is marked to come down, but bats roost in it.');
  await held.getByRole('button', { name: 'Take it all the same' }).click();
  await expect(held).toBeHidden();
  await page.goto(`/bush/${bushId}/thin/list`);
  await expect(page.getByRole('row')).toHaveCount(many + 1);

  // One comes down and hurts a kept tree; the stand has one stem less.
  const kept = (await treesOf(page, bushId)).find((tree) => tree.mark === null)!;
  await page
    .getByRole('button', { name: /^Log tree / })
    .first()
    .click();
  const form = page.getByTestId('cut-form');
  await form.getByLabel('by', { exact: true }).fill('Odo');
  await form.getByLabel('Kept trees hurt, by tag').fill('999');
  await form.getByRole('button', { name: 'Write it down' }).click();
  await expect(form.getByRole('alert')).toContainText('No tree stands here under 999');
  await form.getByLabel('Kept trees hurt, by tag').fill(kept.tag);
  await form.getByRole('button', { name: 'Write it down' }).click();
  await expect(page.getByTestId('log')).toContainText(`felled by Odo; hurt ${kept.tag}`);
  await expect(page.getByRole('row')).toHaveCount(many);
  await page.getByRole('link', { name: 'The plan' }).click();
  await expect(choices.getByRole('row', { name: /^Trees taken/ })).toContainText(String(many - 1));
  await page.goto(`/bush/${bushId}/thin/${kept.id}`);
  await expect(page.getByText(/^\s*Hurt when/)).toBeVisible();

  // The kept limits are there the next time; a stand below the floor is no stand to thin without a word.
  const { bush } = (await (await page.request.get(`/api/v1/bushes/${bushId}`)).json()) as {
    bush: { version: number; settings: { removalShare: number } };
  };
  expect(bush.settings.removalShare).toBeCloseTo(0.06);
  await page.request.patch(`/api/v1/bushes/${bushId}/settings`, {
    data: { version: bush.version, settings: { residualM2PerHa: 40 } }
  });
  await page.goto(`/bush/${bushId}/thin/plan`);
  await expect(page.getByTestId('not-yet')).toContainText('Count a few plots');
});

test('without a map: the crown card gives marks, freed sides and the list', async ({ page }) => {
  await signIn(page);
  const bushId = bushIdOf(page);
  // A maple of the ledge whose place only a phone knows.
  const tree = (await treesOf(page, bushId)).find(
    (t) => t.positionQuality === 'phone' && t.species === 'sugarMaple' && t.dbhMm !== null
  )!;
  await page.goto(`/bush/${bushId}/thin/${tree.id}`);
  await expect(page.getByText('The positions are too rough')).toBeVisible();
  await page.getByRole('button', { name: 'Fill its crown card from below' }).click();
  const card = page.getByTestId('crown-card');
  await card.getByRole('group', { name: 'East side' }).getByRole('button', { name: 'free' }).click();
  await card.getByRole('group', { name: 'North side' }).getByRole('button', { name: 'blocked' }).click();
  await card.getByLabel('Species').selectOption({ label: 'American beech' });
  await card.getByLabel('About how thick').fill('a lot');
  await card.getByRole('button', { name: 'Add' }).click();
  await expect(card.getByRole('alert')).toBeVisible();
  await card.getByLabel('About how thick').fill('18');
  await card.getByRole('button', { name: 'Add' }).click();
  await card.getByLabel('take it').check();
  await expectAccessible(page);
  await card.getByRole('button', { name: 'Keep the card' }).click();
  await expect(page.getByTestId('free-sides')).toContainText('2 of 4 sides free');
  await allSaved(page);
  const [kept] = (await recordsOf(page, bushId, tree.id)).filter((r) => r.kind === 'crownCard');
  expect(kept).toMatchObject({ east: 'free', north: 'blocked', west: null });
  await page.getByRole('link', { name: 'Marking list' }).click();
  const untagged = page
    .getByTestId('untagged')
    .getByRole('listitem')
    .filter({ hasText: `side of ${tree.tag}:` });
  await expect(untagged).toContainText('American beech, about 18.0 cm');
  await untagged.getByRole('button', { name: 'It is down' }).click();
  await expect(untagged).toBeHidden();

  // A mark with a day to look again, and seedlings counted on a plot.
  await page.goto(`/bush/${bushId}/thin/${tree.id}`);
  const form = page.getByTestId('mark-form');
  await form.getByLabel('Mark it to').selectOption('watch');
  await form.getByLabel('because').fill('a seam that may open');
  await form.getByLabel('look again by').fill('2028-09-01');
  await form.getByRole('button', { name: 'Mark it', exact: true }).click();
  await expect(page.getByTestId('mark')).toContainText(
    'Marked to watch: a seam that may open; look again by 2028-09-01'
  );
  await page.getByRole('link', { name: 'Next generation' }).click();
  await expect(page.getByTestId('advice')).toContainText('Deer bite off');
  const plot = page.getByTestId('seedling-form');
  await plot.getByLabel('Name').fill('S99');
  await plot.getByLabel(/^maples up to the waist/).fill('7');
  await plot.getByRole('button', { name: 'Keep the plot' }).click();
  await expect(page.getByText('What was counted on 10 plots')).toBeVisible();
  await page.getByRole('button', { name: 'Take plot S99 back' }).click();
  await expect(page.getByText('What was counted on 9 plots')).toBeVisible();
  await expect(page.locator('[data-sonner-toast]')).toHaveCount(0);
  await expectAccessible(page);
  await expectFits(page);
});

test('a practice crown is judged side by side, and its dieback within two steps of five', async ({ page }) => {
  await signIn(page, { name: 'visitor', password: 'pale-shavings' });
  await page.goto(`/bush/${bushIdOf(page)}/thin/practice`);
  await page.getByRole('button', { name: 'North: free' }).click();
  await expect(page.getByRole('button', { name: 'North: blocked' })).toHaveAttribute('aria-pressed', 'true');
  await page.getByLabel('Dieback, per cent').fill('20');
  await expect(page.getByTestId('said-dieback')).toHaveText('20 %');
  await expectAccessible(page);
  await page.getByRole('button', { name: 'That is what I see' }).click();
  await expect(page.getByTestId('crown-judged')).toContainText(/sides? (is|are) free/);
  await expect(page.getByTestId('crown-judged')).toContainText(/are dead; you said 20/);
  await expectAccessible(page);
  await page.getByRole('button', { name: 'Next crown' }).click();
  await expect(page.getByTestId('crown-score')).toContainText('of 4 sides right');
});
