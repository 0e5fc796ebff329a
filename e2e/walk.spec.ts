import { expect, test, type Page } from '@playwright/test';

import { wholeBook } from '../scripts/lib/deviceStore.mjs';
import { allSaved, bushIdOf, expectAccessible, recordsOf, signIn, treesOf } from './support.ts';

/** A target for a thumb in a glove, and type that is read at arm's length, px. */
const TARGET_PX = 48;
const TYPE_PX = 16;

/** Everything lies in sight, every target is large enough, and nothing is set in small type. */
async function expectForGloves(page: Page): Promise<void> {
  const found = await page.evaluate(
    ([target, type]) => {
      const main = document.querySelector('main')!;
      const shown = [...main.querySelectorAll('*')].filter((e) => e.getClientRects().length > 0);
      const says = (e: Element) => `${e.tagName} ${e.textContent.trim().slice(0, 30)}`;
      const small = shown
        .filter((e) => e.matches('button, a, select, input'))
        .filter((e) => {
          const { width, height } = e.getBoundingClientRect();
          return width < target! || height < target!;
        });
      const fine = shown.filter(
        (e) =>
          [...e.childNodes].some((n) => n.nodeType === Node.TEXT_NODE && n.textContent!.trim() !== '') &&
          parseFloat(getComputedStyle(e).fontSize) < type!
      );
      const { bottom } = main.getBoundingClientRect();
      const below = shown.filter((e) => e.matches('button, a') && e.getBoundingClientRect().bottom > bottom + 1);
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

test.use({ viewport: { width: 390, height: 844 }, hasTouch: true });

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
    await page.getByTestId('walk').getByRole('button', { name }).tap();
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
  await expect(page.getByRole('button', { name: 'Drilled' })).toHaveCount(0);
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
  await touch('Stop');
  await expect(page.getByTestId('walk-start')).toContainText('by you today');

  await context.setOffline(false);
  await page.reload();
  await allSaved(page);
  const rows = await treesOf(page, bushId);
  const drilledIn = async (of: string) => {
    const records = await recordsOf(page, bushId, rows.find((row) => row.tag === of)!.id);
    const taken = new Set(records.filter((r) => r.withdrawn).map((r) => r.correctsId));
    const [today] = records.filter(
      (r) => r.kind === 'taphole' && r.season === 2027 && !r.withdrawn && !taken.has(r.id)
    );
    const seen = records.filter(
      (r) => r.kind === 'shavings' && r.tapholeId === today!.id && !r.withdrawn && !taken.has(r.id)
    );
    return { strategy: today!.strategy, seen: seen.map((r) => r.seen) };
  };
  expect(await drilledIn(first)).toEqual({ strategy: 'rotation', seen: [] });
  expect(await drilledIn(moved)).toEqual({ strategy: null, seen: ['brown'] });
});
