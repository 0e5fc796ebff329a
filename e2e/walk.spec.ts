import { expect, test, type Page } from '@playwright/test';

import { wholeBook } from '../scripts/lib/deviceStore.mjs';
import { allSaved, bushIdOf, expectAccessible, recordsOf, signIn, treesOf } from './support.ts';

/** A target for a thumb in a glove, and type that is read at arm's length, px. */
const TARGET_PX = 48;
const TYPE_PX = 16;

/** Everything lies in sight, or in a list that scrolls by itself, every target is large enough, and nothing is set in small type. */
async function expectForGloves(page: Page): Promise<void> {
  const found = await page.evaluate(
    ([target, type]) => {
      const main = document.querySelector('main')!;
      const shown = [...main.querySelectorAll('*')].filter((e) => e.getClientRects().length > 0);
      const says = (e: Element) => `${e.tagName} ${e.textContent.trim().slice(0, 30)}`;
      const small = shown
        .filter((e) => e.matches('button, a, select, input'))
        .filter((e) => {
          // A label is touched for what it is the label of.
          const { width, height } = (e.closest('label') ?? e).getBoundingClientRect();
          return width < target! || height < target!;
        });
      const fine = shown.filter(
        (e) =>
          [...e.childNodes].some((n) => n.nodeType === Node.TEXT_NODE && n.textContent!.trim() !== '') &&
          parseFloat(getComputedStyle(e).fontSize) < type!
      );
      const { bottom } = main.getBoundingClientRect();
      const below = shown.filter(
        (e) =>
          e.matches('button, a') &&
          !e.closest('.overflow-y-auto:not(main)') &&
          e.getBoundingClientRect().bottom > bottom + 1
      );
      return {
        small: small.map(says),
        fine: fine.map(says),
        below: below.map(says),
        scrolls: main.scrollHeight > main.clientHeight + 1,
        sideways: document.documentElement.scrollWidth > window.innerWidth
      };
    },
    [TARGET_PX, TYPE_PX]
  );
  expect(found).toEqual({ small: [], fine: [], below: [], scrolls: false, sideways: false });
}

test.use({ viewport: { width: 390, height: 844 }, hasTouch: true, isMobile: true });

test('the tapping round on a phone without a network: one tree, one question, one answer', async ({
  page,
  context
}) => {
  await signIn(page);
  const bushId = bushIdOf(page);
  await page.goto(`/bush/${bushId}/walk`);
  await expect(page.getByTestId('walk-start')).toBeVisible();
  await expectForGloves(page);
  await expectAccessible(page);
  await page.evaluate(async () => void (await navigator.serviceWorker.ready));
  await page.reload();
  await wholeBook(page, bushId);
  await context.setOffline(true);

  let touches = 0;
  const touch = async (name: string | RegExp) => {
    touches += 1;
    await page.getByTestId('walk').getByRole('button', { name, exact: true }).tap();
  };
  const tag = () => page.getByTestId('walk-tag').innerText();
  const asks = page.getByTestId('asks');
  await page.getByRole('button', { name: 'Start' }).tap();
  await expect(page.getByTestId('walk-words')).toBeVisible();
  await expectForGloves(page);
  await expectAccessible(page);

  // A hole and its shavings: two touches, nothing typed. The button is gone once it is drilled: nothing is pressed twice.
  const first = await tag();
  const words = await page.getByTestId('walk-words').innerText();
  await touch('Drilled');
  await expect(asks).toBeVisible();
  await expect(page.getByRole('button', { name: 'Drilled', exact: true })).toHaveCount(0);
  await expectForGloves(page);
  await expectAccessible(page);
  // The phone goes out, and on again: the question stands where it stood.
  await page.reload();
  await expect(asks).toBeVisible();
  expect(await tag()).toBe(first);
  await touch(/^Partly brown/);
  await expect(asks).toHaveCount(0);
  expect(touches).toBeLessThanOrEqual(4);
  await expect(page.getByTestId('walk-words')).toBeVisible();
  await expect(page.getByTestId('walk').getByText('wipe the bit')).toBeVisible();
  await expectForGloves(page);

  // Out of reach now: it comes again after the others; and what was done last is taken back where it was done.
  const second = await tag();
  await touch('Come back later');
  await expect(page.getByTestId('walk-tag')).not.toHaveText(second);
  await touch('Undo');
  await expect(asks).toBeVisible();
  expect(await tag()).toBe(first);
  await touch(/^Pale cream/);
  await expect(asks).toHaveCount(0);
  await touch('Undo');
  await touch('Undo');
  await expect(page.getByTestId('walk-words')).toHaveText(words);
  await touch('Drilled');
  await touch('Did not look');

  // Elsewhere than planned: the spot is slid, and what it is worth is said before it is drilled.
  await expect(page.getByTestId('walk-words')).toBeVisible();
  const moved = await tag();
  const trunk = (await page.getByTestId('trunk-view').boundingBox())!;
  await page.touchscreen.tap(trunk.x + trunk.width / 2, trunk.y + trunk.height * 0.6);
  await expect(page.getByTestId('walk').getByText(/^Moved by hand: clear wood a/)).toBeVisible();
  await touch('Drilled');
  await touch(/^All brown/);
  // All of the last things stand in a list, and each can be taken back from it.
  await page.getByTestId('walk-last').tap();
  await expect(page.getByTestId('walk-done').getByRole('listitem').first()).toContainText('all brown');
  await page.keyboard.press('Escape');
  await touch('Stop');
  await expect(page.getByTestId('walk-start')).toContainText('by you today');

  await context.setOffline(false);
  await page.reload();
  await allSaved(page);
  const rows = await treesOf(page, bushId);
  const drilledIn = async (of: string) => {
    const records = await recordsOf(page, bushId, rows.find((row) => row.tag === of)!.id);
    const taken = new Set(records.filter((r) => r.withdrawn).map((r) => r.correctsId));
    const stands = records.filter((r) => !r.withdrawn && !taken.has(r.id));
    return stands
      .filter((r) => r.kind === 'taphole' && r.season === 2027)
      .map(({ id, strategy }) => ({
        strategy,
        seen: stands.filter((r) => r.kind === 'shavings' && r.tapholeId === id).map((r) => r.seen)
      }));
  };
  expect(await drilledIn(first)).toContainEqual({ strategy: 'rotation', seen: [] });
  expect(await drilledIn(moved)).toContainEqual({ strategy: null, seen: ['brown'] });
});

test('every other round is walked the same way: one tree, one question, and a way back', async ({ page, context }) => {
  await signIn(page);
  const bushId = bushIdOf(page);
  await page.goto(`/bush/${bushId}/walk`);
  await page.evaluate(async () => void (await navigator.serviceWorker.ready));
  await page.reload();
  await wholeBook(page, bushId);
  await context.setOffline(true);
  const walk = page.getByTestId('walk');
  const touch = (name: string | RegExp) => walk.getByRole('button', { name, exact: true }).tap();
  const tag = () => page.getByTestId('walk-tag').innerText();
  const left = async () => Number(/^\d+ of (\d+)/.exec(await page.getByTestId('walk-progress').innerText())![1]);
  const begin = async (slug: string) => {
    await page.goto(`/bush/${bushId}/walk/${slug}`);
    await expect(page.getByTestId('walk-start')).toBeVisible();
    await expectForGloves(page);
    await expectAccessible(page);
    await page.getByRole('button', { name: 'Start' }).tap();
    await expect(walk).toBeVisible();
    await expectForGloves(page);
    await expectAccessible(page);
  };
  /** Goes on to the next tree; undo leads back. */
  const onwardAndBack = async (first: string, says: RegExp) => {
    await expect(page.getByTestId('walk-tag')).not.toHaveText(first);
    await expect(page.getByTestId('walk-last')).toHaveText(says);
    await expect(page.getByTestId('walk-progress')).toHaveText(/^[1-9]\d* of .*, 1 yours$/);
    await touch('Undo');
    await expect(page.getByTestId('walk-tag')).toHaveText(first);
  };

  // A girth on the pad; one that is out of line is asked about before it is written down, and is never saved as typed.
  await begin('measure');
  let first = await tag();
  for (const key of ['9', '9', '9']) await touch(key);
  await touch('Write it down');
  await expect(page.getByTestId('asks')).toContainText('is that right?');
  await expectForGloves(page);
  await expectAccessible(page);
  await touch('Type it again');
  const before = /([\d.]+) cm round/.exec(await page.getByTestId('girth').innerText());
  for (const key of before ? String(Math.ceil(Number(before[1]) + 2)) : '80') await touch(key);
  await touch('Write it down');
  await onwardAndBack(first, /thick$/);

  // A crown in one touch.
  await begin('crown');
  first = await tag();
  await touch(/^Full/);
  await onwardAndBack(first, /crown full$/);

  // Branching is the first thing that is asked, and the verdict stands below every question.
  await begin('identify');
  first = await tag();
  await expect(page.getByTestId('asks')).toContainText('How do twigs and buds sit');
  await touch(/^Opposite/);
  await expect(page.getByTestId('asks')).not.toContainText('How do twigs and buds sit');
  await expectForGloves(page);
  await touch('Can’t tell');
  await touch('Write it down');
  await onwardAndBack(first, /^Tree/);

  // A mark that is doubted before the tree becomes a question to the stewards.
  await begin('paint');
  first = await tag();
  await touch(/^It is on/);
  await onwardAndBack(first, /its mark is on$/);
  const marks = await left();
  await touch(/^Not this tree/);
  await expect(page.getByRole('link', { name: '1 question' })).toBeVisible();
  expect(await left()).toBe(marks);
  await page.getByRole('link', { name: '1 question' }).tap();
  await expect(page.getByTestId('question')).toContainText('Mark taken off');
  await expectAccessible(page);
  await page.getByRole('button', { name: /^Leave it/ }).tap();
  await expect(page.getByTestId('question')).toHaveCount(0);
  await expect(page.getByRole('region', { name: 'Answered' })).toContainText('left as it was');

  await begin('closing');
  first = await tag();
  await touch(/^All closed/);
  await onwardAndBack(first, /old holes closed$/);
});

test('a tree is found on a pad of numbers, and before anything is typed among those next to the last one', async ({
  page
}) => {
  await signIn(page);
  const bushId = bushIdOf(page);
  const trees = (await treesOf(page, bushId)).filter(({ eastM, tag }) => eastM !== null && /^\d+$/.test(tag));
  const here = trees.find(({ tag }) => tag === '12')!;
  await page.goto(`/bush/${bushId}/life/${here.id}`);
  await page.getByRole('button', { name: 'Tree 12' }).click();
  const dialog = page.getByRole('dialog', { name: /^Find a tree/ });
  const next = dialog.getByTestId('found').getByRole('button');
  await expect(dialog.getByText('Next to tree 12')).toBeVisible();
  const away = ({ eastM, northM }: (typeof trees)[number]) => Math.hypot(eastM! - here.eastM!, northM! - here.northM!);
  const nearest = Math.min(...trees.filter(({ id }) => id !== here.id).map(away));
  await expect(next.first()).toContainText(`${Math.round(nearest)} m`);
  for (const digit of ['2', '4', '4']) await dialog.getByRole('button', { name: digit, exact: true }).click();
  await dialog.getByRole('button', { name: 'Take back a digit' }).click();
  await expect(next.first()).toContainText('24');
  await next.first().click();
  await expect(page.getByRole('heading', { name: 'Tree 24', exact: true }).first()).toBeVisible();
});

test('the installed program has its icons and shortcuts, and a shortcut leads where it says, without a network too', async ({
  page,
  context,
  request
}) => {
  const manifest = (await (await request.get('/manifest.webmanifest')).json()) as {
    icons: { src: string; sizes: string; type: string; purpose?: string }[];
    shortcuts: { name: string; url: string }[];
  };
  for (const { src, sizes, type } of manifest.icons) {
    const icon = await request.get(src);
    expect([src, icon.status(), icon.headers()['content-type']]).toEqual([src, 200, type]);
    // A PNG says its size in its first bytes (ISO/IEC 15948).
    if (type === 'image/png')
      expect(`${(await icon.body()).readUInt32BE(16)}x${(await icon.body()).readUInt32BE(20)}`).toBe(sizes);
  }
  expect(manifest.icons.filter(({ purpose }) => purpose === 'maskable')).toHaveLength(1);

  await signIn(page);
  const bushId = bushIdOf(page);
  await expect(page.locator('link[rel=apple-touch-icon]')).toHaveAttribute('href', /apple-touch-icon\.png$/);
  const lead = async () => {
    for (const { name, url } of manifest.shortcuts) {
      await page.goto(url);
      if (name === 'Find a tree') await expect(page.getByRole('dialog', { name: /^Find a tree/ })).toBeVisible();
      else await expect(page.getByTestId('walk-start')).toBeVisible();
      expect(page.url()).toContain(bushId);
    }
  };
  await lead();
  await page.evaluate(async () => void (await navigator.serviceWorker.ready));
  await page.reload();
  await wholeBook(page, bushId);
  await context.setOffline(true);
  await lead();
});

test('a tree that is not in the book is added where it stands, in three touches after its number', async ({ page }) => {
  await signIn(page);
  const bushId = bushIdOf(page);
  await page.goto(`/bush/${bushId}/walk/crown`);
  await page.getByRole('button', { name: 'Start' }).tap();
  const next = await page.getByTestId('walk-tag').innerText();
  await page.getByTestId('walk-tag').tap();
  for (const digit of '9041') await page.getByRole('button', { name: digit, exact: true }).tap();
  await page.getByRole('button', { name: `Add tree 9041 to the book, next to ${next}` }).tap();
  await expect(page).toHaveURL(/\/life\//);
  await allSaved(page);
  const rows = await treesOf(page, bushId);
  const at = rows.findIndex(({ tag }) => tag === '9041');
  expect(rows[at - 1]!.tag).toBe(next);
});

test('each tree is read out, with its hole and its question, where that is wished', async ({ page, context }) => {
  // A voice that keeps what it was given to say.
  await context.addInitScript(() => {
    const said: string[] = [];
    Object.assign(window, { said });
    window.speechSynthesis.speak = (spoken) => void said.push(spoken.text);
  });
  const said = () => page.evaluate(() => (window as unknown as { said: string[] }).said);
  await signIn(page);
  await page.goto(`/bush/${bushIdOf(page)}/walk`);
  await page.getByLabel('Read each tree out').check();
  await page.getByRole('button', { name: 'Start' }).tap();
  const [asks, instruction] = [page.getByTestId('asks'), page.getByTestId('walk-words')];
  /** On to a hole: another device may have drilled some whose shavings nobody looked at. */
  const toAHole = async () => {
    await expect(asks.or(instruction)).toBeVisible();
    while (await asks.isVisible()) {
      await page.getByRole('button', { name: 'Did not look' }).tap();
      await expect(asks.or(instruction)).toBeVisible();
    }
  };
  await toAHole();
  const words = await instruction.innerText();
  const tag = await page.getByTestId('walk-tag').innerText();
  const last = async () => (await said()).at(-1);
  await expect.poll(last).toBe(`Tree ${tag}. ${words}`);
  await page.getByRole('button', { name: 'Drilled', exact: true }).tap();
  await expect.poll(last).toBe('What came out?');
  await page.getByRole('button', { name: 'Undo' }).tap();
  await expect.poll(last).toBe(`Tree ${tag}. ${words}`);
  // Nothing is read out once it is switched off again, on this device for good.
  await page.getByRole('button', { name: 'Stop' }).tap();
  await page.getByLabel('Read each tree out').uncheck();
  await page.reload();
  await page.getByRole('button', { name: 'Start' }).tap();
  await toAHole();
  expect(await said()).toEqual([]);
});

test('trees are found from where the phone stands, and the last things done stay at hand', async ({
  page,
  context
}) => {
  await signIn(page);
  const bushId = bushIdOf(page);
  const { origin } = (
    (await (await page.request.get(`/api/v1/bushes/${bushId}`)).json()) as {
      bush: { origin: { lat: number; lon: number } };
    }
  ).bush;
  const at = (await treesOf(page, bushId)).find((row) => row.eastM !== null && row.tag === '40')!;
  await context.grantPermissions(['geolocation']);
  await context.setGeolocation({
    latitude: origin.lat + at.northM! / 111_320,
    longitude: origin.lon + at.eastM! / (111_320 * Math.cos((origin.lat * Math.PI) / 180)),
    accuracy: 4
  });
  await page.goto(`/bush/${bushId}/walk/crown`);
  await page.getByRole('button', { name: 'Start' }).tap();
  await page.getByTestId('walk-tag').tap();
  await page.getByRole('button', { name: 'Nearest to where I stand' }).tap();
  await expect(page.getByText(/^Next to you, within about/)).toBeVisible();
  await expect(page.getByTestId('found').getByRole('button').first()).toContainText('40');
  await page.getByTestId('found').getByRole('button').first().tap();

  // What was written down is taken back after the message that said so is long gone.
  await page.goto(`/bush/${bushId}/measure/${at.id}`);
  await page.getByTestId('reading').fill('130 cm');
  const right = page.getByLabel('I looked again: it is right');
  if (await right.isVisible()) await right.check();
  await page.getByRole('button', { name: 'Save the reading' }).tap();
  await allSaved(page);
  await page.reload();
  await page.getByRole('button', { name: 'More' }).tap();
  await page.getByRole('button', { name: 'Last things done' }).tap();
  await expectAccessible(page);
  await page
    .getByTestId('last-done')
    .getByRole('button', { name: /^Take back: Tree 40/ })
    .tap();
  await expect(page.getByTestId('last-done')).not.toContainText('Tree 40');
  await allSaved(page);
  const records = await recordsOf(page, bushId, at.id);
  expect(records.filter((r) => r.kind === 'reading' && r.withdrawn && r.asWritten === '130 cm')).toHaveLength(1);
});
