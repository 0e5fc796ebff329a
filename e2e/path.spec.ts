import { expect, test } from '@playwright/test';

import { crownSides } from '../core/src/stand/index.ts';
import { shortOrLong } from '../testing/long.ts';
import {
  allSaved,
  bushIdOf,
  crowdedMaple,
  expectAccessible,
  expectFits,
  look,
  recordsOf,
  signIn,
  treesOf
} from './support.ts';

test('one tree from bark to hole to saw, and everything is there after a reload', async ({ page }) => {
  await signIn(page);
  const bushId = bushIdOf(page);
  await expect(page.getByRole('heading', { name: 'Corran Hill Common' })).toBeVisible();
  await expect(page.getByText('The next best job')).toBeVisible();
  await expectAccessible(page);
  await expectFits(page);

  const trees = await treesOf(page, bushId);
  const tree = trees.find((t) => t.verdict === null && t.dbhMm! > 330 && Number(t.tag) < 232)!;
  const before = trees.filter((t) => t.verdict === null || t.verdict === 'lookAgain').length;

  // Identify: by key to the station, by tag to the tree.
  await page.keyboard.press('1');
  await expect(page).toHaveURL(/identify/);
  await expect(page.getByRole('link', { name: /Identify/ })).toContainText(`${before} trees unsettled`);
  await page.keyboard.press('/');
  await page.getByRole('textbox', { name: 'Tag' }).fill(tree.tag);
  await page.keyboard.press('Enter');
  await expect(page.getByRole('heading', { name: `Tree ${tree.tag}` })).toBeVisible();
  await look(page, 'Branching', 'Opposite');
  await expect(page.getByTestId('verdict')).toContainText('Look again');
  await look(page, 'Bud shape', 'Sharp, many scales');
  await look(page, 'Bud colour', 'Brown');
  await look(page, 'Bark of a grown tree', 'Plates lift at one edge');
  await look(page, 'Rub test', 'It holds');
  await expect(page.getByTestId('verdict')).toContainText('Settled: sugar maple');
  await expectAccessible(page);
  await expectFits(page);
  await page.getByRole('button', { name: 'Save this determination' }).click();
  await expect(page.getByRole('link', { name: /Identify/ })).toContainText(`${before - 1} trees unsettled`);

  // Measure: the girth written down as diameter is questioned, and set right with one click.
  await page.keyboard.press('2');
  const girthCm = Math.round((tree.dbhMm! * Math.PI) / 10);
  await page.getByRole('button', { name: 'Diameter, across' }).click();
  await page.getByTestId('reading').fill(`${girthCm} cm`);
  await expect(page.getByTestId('question')).toContainText('this looks like the girth');
  await expect(page.getByRole('button', { name: 'Save the reading' })).toBeDisabled();
  await page.getByRole('button', { name: /^Make it/ }).click();
  await expect(page.getByTestId('question')).toBeHidden();
  await expect(page.getByTestId('conversion')).toContainText(/girth \d+\.\d cm, diameter \d+\.\d cm/);
  await page.getByRole('button', { name: 'in', exact: true }).click();
  await expect(page.getByTestId('conversion')).toContainText(/girth \d+\.\d in, diameter \d+\.\d in/);
  await page.keyboard.press('Tab');
  await page.getByRole('button', { name: 'cm', exact: true }).click();
  await expectAccessible(page);
  await expectFits(page);
  await page.getByRole('button', { name: 'Save the reading' }).click();
  await expect(page.getByRole('table')).toContainText('2026-11-23');

  // Count: the condition changes the suggestion; the decision is the steward's.
  await page.keyboard.press('3');
  const suggestion = page.getByTestId('suggestion');
  await expect(suggestion).toContainText(/tap|Rest/);
  await expect(page.getByText('looking …')).toBeHidden();
  const lookAgain = page.getByRole('button', { name: 'Look up again' });
  if (await lookAgain.isVisible()) await lookAgain.click();
  await page.getByLabel(/drought, ice or root damage last summer/).selectOption({ label: 'yes' });
  await page.getByRole('button', { name: 'Write this down' }).click();
  await expect(suggestion).toContainText('Rest');
  await expect(suggestion).toContainText(/stress/i);
  await lookAgain.click();
  // It begins empty: nothing of the last look is told as seen today.
  await page.getByLabel(/drought, ice or root damage last summer/).selectOption({ label: 'no' });
  await page.getByRole('slider').fill('5');
  await page.getByLabel('Oldest hole still open').selectOption({ label: 'all have closed' });
  await page.getByRole('button', { name: 'Write this down' }).click();
  await expect(suggestion).toContainText('One tap');
  await expectAccessible(page);
  await expectFits(page);
  const count = page.getByRole('group', { name: 'Taps this season' });
  await count.getByRole('button', { name: '2' }).click();
  await page.getByTestId('reason').fill('a second hole to try the north side');
  await page.getByRole('button', { name: 'Decide' }).click();
  await expect(page.getByRole('heading', { name: 'Decided: two taps' })).toBeVisible();
  await count.getByRole('button', { name: '1' }).click();
  await expect(page.getByRole('heading', { name: 'Decided: one tap' })).toBeVisible();

  // Place: words, the asked spot, the drilled hole, the shavings.
  await page.keyboard.press('4');
  await expect(page.getByTestId('words')).toContainText(/mark|side/);
  await expect(page.getByTestId('outlook')).toContainText('almost certain');
  const words = await page.getByTestId('words').textContent();
  const sheet = page.getByTestId('bark-sheet');
  await sheet.click({ position: { x: 120, y: 200 } });
  await expect(page.getByTestId('words')).not.toHaveText(words!);
  await sheet.press('ArrowUp');
  await expectAccessible(page);
  await expectFits(page);
  await page.getByRole('group', { name: 'Best holes' }).getByRole('button').first().click();
  await page.getByRole('button', { name: 'Drilled here' }).click();
  await expect(page.getByTestId('drilled')).toBeVisible();
  await page.getByRole('button', { name: /^Partly brown/ }).click();
  await page.getByLabel('Brown share').selectOption('0.25');
  await expect(page.getByText('All drilled for 2027')).toBeVisible();

  // Thin: a neighbour marked and unmarked, with the share of basal area.
  const crowded = crowdedMaple(trees, (maple, others) => {
    const { blocked, freeSides } = crownSides(maple, others, new Set());
    // Beside the footpath, and with no more than one neighbour to a side.
    return maple.northM < 110 && freeSides < 4 && Object.values(blocked).every((list) => list.length < 2);
  });
  await page.goto(`/bush/${bushId}/thin/${crowded.id}`);
  const free = page.getByTestId('free-sides');
  await expect(free).toContainText('of 4 sides free');
  const freeBefore = Number((await free.textContent())!.trim()[0]);
  const removalBefore = await page.getByTestId('removal').textContent();
  const take = page.getByRole('button', { name: /^Take tree/ }).first();
  const rival = /Take tree (\S+)/.exec((await take.getAttribute('aria-label'))!)![1]!;
  await take.click();
  await expect(free).toContainText(`${freeBefore + 1} of 4`);
  await expect(page.getByTestId('removal')).not.toHaveText(removalBefore!);
  await expect(page.getByText('Felling kills')).toBeVisible();
  await expect(page.getByTestId('within-reach')).toContainText('For trained fallers');
  await expect(page.getByTestId('within-reach')).toContainText('Footpath to the ledge');
  await expectAccessible(page);
  await expectFits(page);
  await allSaved(page);

  // Everything stands after a reload, on the server, and in the tree's life.
  await page.reload();
  await expect(free).toContainText(`${freeBefore + 1} of 4`);
  const after = await treesOf(page, bushId);
  expect(after.find((t) => t.tag === rival)!.mark).toBe('take');
  expect(after.find((t) => t.id === tree.id)).toMatchObject({
    verdict: 'settled',
    species: 'sugarMaple',
    decidedTaps: 1,
    drilled: 1
  });
  const records = await recordsOf(page, bushId, tree.id);
  expect(records.filter((r) => r.kind === 'shavings').map((r) => [r.seen, r.brownShare])).toEqual(
    expect.arrayContaining([['partly', 0.25]])
  );
  expect(records.find((r) => r.kind === 'decision' && r.taps === 2)).toMatchObject({
    reason: 'a second hole to try the north side'
  });

  await page.goto(`/bush/${bushId}/life/${tree.id}`);
  await expect(page.getByText('Settled as sugar maple')).toBeVisible();
  await expect(page.getByText(/^Drilled for 2027/)).toBeVisible();
  await expectAccessible(page);
  await expectFits(page);
  await page.getByRole('link', { name: 'Tree card' }).click();
  await expect(page.getByTestId('card')).toContainText(`Tree ${tree.tag}`);
  await expectAccessible(page);
});

for (const [what, theme, width, height, rules] of [
  ['the dark theme', 'night', 1280, 800, ['color-contrast']],
  ['the phone', 'snow', 390, 844, undefined]
] as const)
  test(`${what} is as readable`, async ({ page }) => {
    await signIn(page);
    const bushId = bushIdOf(page);
    const tree = (await treesOf(page, bushId)).find((t) => t.decidedTaps && !t.drilled)!;
    await page.setViewportSize({ width, height });
    await page.evaluate(
      (t) => localStorage.setItem('baumkin-preferences', JSON.stringify({ theme: t, units: 'inch' })),
      theme
    );
    const stations = [
      '',
      'identify/',
      'measure/',
      'count/',
      'place/',
      'thin/',
      'thin/plan',
      'thin/years',
      'thin/list',
      'thin/young',
      'life/',
      'exchange',
      'map',
      'map/ground'
    ];
    for (const station of shortOrLong(['', 'measure/', 'place/', 'thin/plan', 'map'], stations)) {
      await page.goto(`/bush/${bushId}/${station}${station.endsWith('/') ? tree.id : ''}`);
      await expect(page.locator('main h1, main h2').first()).toBeAttached();
      await expect(page.getByText('Working out …')).toBeHidden();
      await expect(page.locator('html')).toHaveAttribute('data-theme', theme);
      await allSaved(page);
      await expectAccessible(page, rules && [...rules]);
      await expectFits(page);
    }
  });

test('doors are shut: signed out, other people’s bushes, other sites, viewers, too much', async ({ page, request }) => {
  expect((await request.get('/api/v1/bushes/x')).status()).toBe(401);
  const away = await request.get('/bush/anything', { maxRedirects: 0 });
  expect([away.status(), away.headers().location]).toEqual([303, '/sign-in?to=%2Fbush%2Fanything']);
  expect(
    (
      await request.post('/sign-in?to=//elsewhere.example', {
        form: { name: 'hedda', password: 'no' },
        headers: { origin: 'https://elsewhere.example' }
      })
    ).status()
  ).toBe(403);

  await signIn(page);
  const bushId = bushIdOf(page);
  const records = `/api/v1/bushes/${bushId}/records`;
  expect(
    (
      await page.request.post(records, { data: { records: [{}] }, headers: { origin: 'https://elsewhere.example' } })
    ).status()
  ).toBe(403);
  expect((await page.request.post(records, { data: { records: [] } })).status()).toBe(400);
  expect((await page.request.post(records, { data: { records: ['x'.repeat(2_100_000)] } })).status()).toBe(413);
  const tooMuch = await page.request.post(`/api/v1/bushes/${bushId}/import`, {
    data: { text: 'x'.repeat(20_000_000), defaultUnit: 'cm' }
  });
  expect(tooMuch.status()).toBe(413);
  const table = await page.request.get(`/api/v1/bushes/${bushId}/files/trees.csv`);
  expect((await table.text()).split('\n')[0]).toBe(
    'tag,stand,species,diameter_cm,measured_on,method,east_m,north_m,position_quality,holes'
  );
  const headers = (await page.request.get('/sign-in')).headers();
  expect(headers['content-security-policy']).toContain("object-src 'none'");

  await page.getByRole('button', { name: /sign out/ }).click();
  await page.waitForURL(/sign-in/);
  await signIn(page, { name: 'visitor', password: 'pale-shavings' });
  await page.goto(`/bush/${bushId}/measure`);
  await expect(page.getByText('Viewers look; they do not write.')).toBeVisible();
  expect(
    (
      await page.request.post(`/api/v1/bushes/${bushId}/import`, { data: { text: 'tag\n1', defaultUnit: 'cm' } })
    ).status()
  ).toBe(403);
  expect((await page.request.get('/api/v1/bushes/00000000-0000-4000-8000-000000000000')).status()).toBe(404);
});

test('what is typed before the page’s script has come stays typed', async ({ page }) => {
  await page.route('**/_app/**/*.js', async (route) => {
    await new Promise((resolve) => setTimeout(resolve, 1500));
    await route.continue();
  });
  for (const [address, field] of [
    ['/sign-up', 'Your name'],
    ['/sign-in', 'Sign-in name']
  ] as const) {
    await page.goto(address, { waitUntil: 'commit' });
    await page.getByLabel(field).fill('Early Bird');
    await page.waitForLoadState('networkidle');
    await expect(page.getByLabel(field)).toHaveValue('Early Bird');
  }
});
