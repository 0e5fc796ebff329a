import { expect, test } from '@playwright/test';

import { crownSides, type StandTree } from '../core/src/stand/index.ts';
import {
  allSaved,
  bushIdOf,
  crowdedMaple,
  expectAccessible,
  expectFits,
  signIn,
  signUpWithBush,
  treesOf
} from './support.ts';

test('a cruise: plots counted, left and taken up again, and what they say with how far to trust it', async ({
  page
}) => {
  const bushId = await signUpWithBush(page, 'Cruise');
  await page.goto(`/bush/${bushId}/measure/plots`);
  await expect(page.getByText('Nothing is counted here yet')).toBeVisible();
  const count = async (written: string) => {
    await page.getByTestId('plot-tree').fill(written);
    await page.getByRole('button', { name: 'Count this tree' }).click();
    await expect(page.getByTestId('plot-tree')).toHaveValue('');
  };
  await page.getByRole('button', { name: 'Count a plot' }).click();
  await page.getByTestId('plot-tree').fill('a lot');
  await expect(page.getByRole('alert')).toContainText('I cannot read');
  await count('40 cm');
  await page.getByLabel('What was measured').selectOption('girth');
  await count('94.2 cm');
  await page.getByLabel('Species').selectOption('beech');
  await count('diameter 20');

  // Away in the middle of it, once it says so: the count waits.
  await expect(page.getByTestId('plot-kept')).toContainText('keeps what is counted');
  await page.goto(`/bush/${bushId}/measure/gauges`);
  await expect(page.getByRole('heading', { name: 'Biltmore stick' })).toBeVisible();
  await expectAccessible(page);
  await expectFits(page);
  await page.goto(`/bush/${bushId}/measure/plots`);
  await expect(page.getByRole('heading', { name: 'Plot 1: 3 counted' })).toBeVisible();
  await page.getByRole('button', { name: 'Save the plot' }).click();

  // 200 m2: each tree stands for 50 to the hectare. 50 x (0.12566 + 0.07062 + 0.03142) = 11.4 m2/ha.
  const figures = page.getByTestId('plot-figures');
  await expect(figures).toContainText('11.4 m²/ha');
  await expect(figures).toContainText('150 stems per ha');
  await expect(figures).toContainText('86 % of the basal area is maple');
  await expect(figures).toContainText('a second one tells how far to trust it');

  // An angle gauge without a single diameter, and without a network.
  await allSaved(page);
  await page.context().setOffline(true);
  await page.getByRole('button', { name: 'Count a plot' }).click();
  await page.getByRole('button', { name: 'Angle gauge' }).click();
  for (let i = 1; i <= 9; i++) {
    await page.getByRole('button', { name: 'Count without a diameter' }).click();
    await expect(page.getByRole('heading', { name: `Plot 2: ${i} counted` })).toBeVisible();
  }
  await page.getByTestId('plot-tree').fill('30 cm');
  await expect(page.getByText('no farther than 10.6 m')).toBeVisible();
  await page.getByTestId('plot-tree').fill('');
  await page.getByRole('button', { name: 'Save the plot' }).click();
  await expect(page.getByTestId('saved')).toContainText('1 kept on this device');
  await expect(figures).toContainText('±');
  await expect(page.getByTestId('needed')).toContainText(/count \d+ more plots/);
  await page.context().setOffline(false);
  await page.evaluate(() => window.dispatchEvent(new Event('online')));
  await allSaved(page);
  await page.reload();
  await expect(figures).toContainText('14.7 m²/ha ±');
  await expect(figures).toContainText('Stems are not known');
  await expectAccessible(page);
  await expectFits(page);
  await page.getByRole('button', { name: 'Take back plot 2' }).click();
  await expect(figures).toContainText('11.4 m²/ha');
  await page.getByRole('button', { name: 'Take back plot 1' }).click();
  await expect(page.getByText('Nothing is counted here yet')).toBeVisible();
  await allSaved(page);
});

test('the growth of the whole bush: who falls behind, and which tree to measure next', async ({ page }) => {
  await signIn(page);
  const bushId = bushIdOf(page);
  await page.goto(`/bush/${bushId}/measure/growth`);
  await expect(page.getByTestId('growth-words')).toContainText(/\d+ surely lay more wood/);
  await expectAccessible(page);
  await expectFits(page);
  const trees = await treesOf(page, bushId);
  await page.getByRole('button', { name: /^Fall behind/ }).click();
  const slow = page.getByRole('region', { name: 'Trees' }).locator('li a').first();
  const tag = (await slow.textContent())!;
  const ring = (t: string) => trees.find((tree) => tree.tag === t)!.ringMm;
  await page.getByRole('button', { name: /^Keep up/ }).click();
  await expect(slow).not.toHaveText(tag);
  expect(ring((await slow.textContent())!)).toBeGreaterThan(3 * ring(tag));
  // What is in question comes before what is merely uncertain.
  await page.getByRole('button', { name: /^Measure next/ }).click();
  await expect(page.getByText('answer first').first()).toBeVisible();
  await page.getByRole('region', { name: 'Trees' }).locator('li a').first().click();
  await expect(page.getByTestId('old-question').first()).toBeVisible();
});

test('height, crown and a reading above a swelling: measured, and used where crowns meet', async ({ page }) => {
  await signIn(page);
  const bushId = bushIdOf(page);
  const tree = crowdedMaple(await treesOf(page, bushId), (maple, others) => {
    const free = (radii: StandTree['crownRadiiM']) =>
      crownSides({ ...maple, crownRadiiM: radii }, others, new Set()).freeSides;
    return free(null) < free([1, 1, 1, 1]);
  });
  await page.goto(`/bush/${bushId}/thin/${tree.id}`);
  await expect(page.getByTestId('free-sides')).toBeVisible();
  const before = Number((await page.getByTestId('free-sides').textContent())!.trim()[0]);
  await page.keyboard.press('2');
  await expect(page.getByText(/Its crown is taken to reach/)).toBeVisible();
  await page.getByText('Write down what was measured').click();
  await page.getByLabel('north', { exact: true }).fill('1 m');
  await expect(page.getByRole('alert')).toContainText('measure all of them');
  for (const side of ['east', 'south', 'west']) await page.getByLabel(side, { exact: true }).fill('1 m');
  await page.getByLabel('Height', { exact: true }).fill('18.5');
  await expectAccessible(page);
  await page.getByRole('button', { name: 'Write it down' }).click();
  await expect(page.getByText('18.5 m tall, measured.')).toBeVisible();
  await expect(page.getByText(/Its crown reaches 1.0 m north/)).toBeVisible();

  // A crown drawn in like that touches fewer neighbours.
  await allSaved(page);
  await page.keyboard.press('5');
  await expect(page.getByTestId('free-sides')).not.toContainText(`${before} of 4`);
  await page.keyboard.press('2');

  await page.getByLabel('Where').selectOption('a swelling');
  await page.getByTestId('reading').fill(`girth ${((tree.dbhMm! * Math.PI) / 10).toFixed(0)} cm`);
  await expect(page.getByRole('button', { name: 'Save the reading' })).toBeDisabled();
  await page.getByPlaceholder('160 cm').fill('165');
  await page.getByRole('button', { name: 'Save the reading' }).click();
  await expect(page.getByRole('table')).toContainText('165 cm up because of a swelling');
  await allSaved(page);
});

test('two readings under each other’s tags are found and put back with one click', async ({ page }) => {
  await signIn(page);
  const bushId = bushIdOf(page);
  const questioned = (await treesOf(page, bushId)).filter((t) => t.questions > 0);
  let found = false;
  for (const tree of questioned) {
    await page.goto(`/bush/${bushId}/measure/${tree.id}`);
    const question = page.getByTestId('old-question').first();
    await expect(question).toBeVisible();
    const swap = question.getByRole('button', { name: /^Swap it with tree/ });
    // What its neighbours were read as has to come first, where the bush is not on this device yet.
    const isSwap = await swap.waitFor({ timeout: 6000 }).then(
      () => true,
      () => false
    );
    if (!isSwap) continue;
    found = true;
    await expect(question).toContainText('the tags were mixed up');
    const other = /tree (\S+?):/.exec((await swap.textContent())!)![1]!;
    await swap.click();
    await expect(page.getByTestId('old-question')).toHaveCount(0);
    await allSaved(page);
    const after = await treesOf(page, bushId);
    for (const tag of [tree.tag, other]) expect(after.find((t) => t.tag === tag)!.questions).toBe(0);
    break;
  }
  expect(found).toBe(true);
});

test('a tape is laid round a practice trunk by keyboard and finger, and each mistake has its price', async ({
  page
}) => {
  await signIn(page, { name: 'visitor', password: 'pale-shavings' });
  await page.goto(`/bush/${bushIdOf(page)}/measure/practice`);
  const laid = page.getByTestId('laid');
  await expect(laid).toContainText('100 cm above the ground, and level');
  await expectAccessible(page);
  for (let i = 0; i < 5; i++) await page.getByTestId('measure-trunk').press('ArrowUp');
  await expect(laid).toContainText('110 cm');
  await page.getByRole('button', { name: 'Turn right' }).click();
  await expect(laid).toContainText('2° off level');
  await page.getByLabel('I write down').fill('many');
  await page.getByRole('button', { name: 'Write it down' }).click();
  await expect(page.getByRole('alert')).toBeVisible();
  await page.getByLabel('I write down').fill('700 cm');
  await page.getByRole('button', { name: 'Write it down' }).click();
  await expect(page.getByTestId('measured')).toContainText(/The tape lay too low.*It shows something else/);
  await expect(page.getByTestId('measured')).toContainText(/too thick: what it grows in about \d+ years/);
  await expectAccessible(page);
  await page.getByRole('button', { name: 'Next trunk' }).click();
  await expect(page.getByRole('button', { name: 'I stand uphill' })).toBeVisible();
  await expect(page.getByTestId('measure-score')).toContainText('0 of 1 trunk');
});

test('a stick held across is put right for what lies behind it', async ({ page }) => {
  await signIn(page);
  const bush = bushIdOf(page);
  const [first] = await treesOf(page, bush);
  await page.goto(`/bush/${bush}/measure/${first!.id}`);
  await page.getByRole('button', { name: 'Diameter, across' }).click();
  await page.getByLabel('Measured with').selectOption({ label: 'any stick held across, ± 15 mm' });
  await page.getByTestId('reading').fill('31.5 cm');
  // 315 mm seen from 650: (315² + 315·√(315² + 4·650²)) / 1300 = 400.4 mm.
  await expect(page.getByTestId('conversion')).toContainText('diameter 40.0 cm');
  await page.getByLabel('Your eye was off the stick by').fill('60 cm');
  await expect(page.getByTestId('conversion')).toContainText('diameter 40.8 cm');
});
