import { mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';

import { chromium, expect, test, type BrowserContext, type Page } from '@playwright/test';

import { wholeBook } from '../scripts/lib/deviceStore.mjs';
import { allSaved, bushIdOf, postRecord, recordsOf, signIn, treesOf } from './support.ts';

/*
 * A morning in the woods: a steward and a helper with a phone each, forty trees, no network. What they wrote arrives once, what
 * does not go together is asked, and paper, list and phones name the same holes.
 */

const TREES = 40;
const SLOWED = 6;
const TOMKE = { name: 'tomke', password: 'pale-shavings' };
const PHONE = { viewport: { width: 390, height: 844 }, hasTouch: true, isMobile: true };

test.setTimeout(400_000);
/** What waits longer waits for something that never comes. */
const PATIENCE_MS = 30_000;

const walk = (page: Page) => page.getByTestId('walk');
const tagOn = (page: Page) => page.getByTestId('walk-tag').innerText();
const wordsOn = (page: Page) => page.getByTestId('walk-words').innerText();

/** Brings program and bush onto a phone, and takes the network away. */
async function intoTheWoods(page: Page, context: BrowserContext, bushId: string): Promise<void> {
  await page.goto(`/bush/${bushId}/walk`);
  await page.evaluate(async () => void (await navigator.serviceWorker.ready));
  await page.reload();
  await wholeBook(page, bushId);
  await context.setOffline(true);
}

/** Types a tag on the pad of the dialog that finds trees. */
async function typeOn(page: Page, tag: string): Promise<void> {
  const pad = page.getByRole('dialog').getByRole('group', { name: 'Numbers' });
  for (const digit of tag) await pad.getByRole('button', { name: digit, exact: true }).tap();
}

/** Touches a button of the walk. @returns milliseconds until the next instruction stands there */
const touchedFor = (page: Page, says: string): Promise<number> =>
  page.evaluate(async (label) => {
    const at = (id: string) => document.querySelector<HTMLElement>(`[data-testid=${id}]`);
    const button = [...at('walk')!.querySelectorAll('button')].find((each) => each.textContent.startsWith(label))!;
    const began = performance.now();
    button.click();
    while (at('walk') && (at('asks') || !at('walk-words'))) await new Promise(requestAnimationFrame);
    return performance.now() - began;
  }, says);

test('a morning: two phones, forty trees, no network, and all of it once', async ({ page: desk, baseURL }, info) => {
  desk.setDefaultTimeout(PATIENCE_MS);
  await signIn(desk);
  const bushId = bushIdOf(desk);

  // The evening before: forty trees are decided, their holes placed, and the round is handed out.
  const rows = await treesOf(desk, bushId);
  const open = rows.filter((row) => (row.decidedTaps ?? 0) > row.drilled);
  const more = rows.filter(
    (row) => row.decidedTaps === null && /^\d/.test(row.tag) && (row.dbhMm ?? 0) > 300 && row.species === 'sugarMaple'
  );
  for (const row of more.slice(0, TREES - open.length)) {
    const decision = { kind: 'decision', season: 2027, taps: 1, suggested: 1, binding: 'size', reason: '' };
    expect(await postRecord(desk, bushId, row.id, { ...decision, on: '2026-11-22' })).toBe('stored');
  }
  await desk.goto(`/bush/${bushId}/place/round`);
  await desk.getByRole('button', { name: /^Place the holes of \d+ tree/ }).click();
  await expect(desk.getByRole('button', { name: /^Place the holes/ })).toHaveCount(0, { timeout: 180_000 });
  await expect(desk.getByRole('progressbar')).toHaveCount(0, { timeout: 180_000 });
  await desk.getByRole('button', { name: 'Hand it out' }).click();
  for (const name of ['Tomke Brookpail', 'Hedda Spilewright']) {
    await desk.getByLabel('Helper').fill(name);
    await desk.getByRole('button', { name: 'Add', exact: true }).click();
  }
  await desk.getByRole('button', { name: 'Hand it out so' }).click();
  await allSaved(desk);
  const listed = async (tag: string) =>
    await desk
      .getByTestId('round')
      .locator('div.grid', { has: desk.getByRole('link', { name: tag, exact: true }) })
      .innerText();

  // Two phones; the helper's is a browser of its own that can be killed.
  const profile = mkdtempSync(join(tmpdir(), 'baumkin-phone-'));
  const { launchOptions } = info.project.use;
  const phone = async () => {
    const context = await chromium.launchPersistentContext(profile, { ...launchOptions, ...PHONE, baseURL });
    context.setDefaultTimeout(PATIENCE_MS);
    return context;
  };
  let hers = await phone();
  const stewards = await desk
    .context()
    .browser()!
    .newContext({ ...PHONE, baseURL });
  stewards.setDefaultTimeout(PATIENCE_MS);
  try {
    let a = await hers.newPage();
    await signIn(a, TOMKE);
    await intoTheWoods(a, hers, bushId);
    const b = await stewards.newPage();
    await signIn(b);
    await intoTheWoods(b, stewards, bushId);

    // The helper's own part, with the phone slowed as an old one is.
    await a.getByRole('button', { name: 'Start' }).tap();
    await expect(a.getByTestId('walk-words')).toBeVisible();
    const slow = async () => (await hers.newCDPSession(a)).send('Emulation.setCPUThrottlingRate', { rate: SLOWED });
    await slow();
    const waited: number[] = [];
    let touches = 0;
    const drilled: { tag: string; words: string }[] = [];
    const drill = async (page: Page, seen: string) => {
      const [tag, words] = [await tagOn(page), await wordsOn(page)];
      await walk(page).getByRole('button', { name: 'Drilled', exact: true }).tap();
      await expect(page.getByTestId('asks')).toBeVisible();
      touches += 2;
      const ms = await touchedFor(page, seen);
      return { tag, words, ms };
    };
    const before = Number(/of (\d+)/.exec(await a.getByTestId('walk-progress').innerText())![1]);
    for (let i = 0; i < 12; i++) {
      const { tag, words, ms } = await drill(a, i % 5 === 4 ? 'All brown' : 'Pale cream');
      // Where the tree has another hole, the tag stays: that is no next tree.
      if ((await tagOn(a)) !== tag) waited.push(ms);
      drilled.push({ tag, words });
    }
    expect(touches / 12).toBeLessThanOrEqual(4);

    // A mistake is taken back, and done as it should be.
    const mistaken = await tagOn(a);
    await walk(a).getByRole('button', { name: 'Drilled', exact: true }).tap();
    await walk(a).getByRole('button', { name: 'Undo' }).tap();
    await expect(a.getByTestId('walk-words')).toBeVisible();
    expect(await tagOn(a)).toBe(mistaken);

    // The phone dies in the middle of a tree; from its icon, without a network, the walk stands where it stood.
    await walk(a).getByRole('button', { name: 'Drilled', exact: true }).tap();
    await expect(a.getByTestId('asks')).toBeVisible();
    await a.waitForTimeout(500);
    await (await hers.newCDPSession(a)).send('Browser.crash').catch(() => undefined);
    await hers.close().catch(() => undefined);
    hers = await phone();
    await hers.setOffline(true);
    a = await hers.newPage();
    await a.goto('/?to=walk');
    await expect(a.getByTestId('asks')).toBeVisible();
    expect(await tagOn(a)).toBe(mistaken);
    await walk(a)
      .getByRole('button', { name: /^Pale cream/ })
      .tap();
    await expect(a.getByTestId('asks')).toHaveCount(0);

    // On the way a girth, a crown, and a tree that is in nobody's book.
    await a.goto(`/bush/${bushId}/walk/measure`);
    await a.getByRole('button', { name: 'Start' }).tap();
    const measured = await tagOn(a);
    const round = /([\d.]+) cm round/.exec(await a.getByTestId('girth').innerText());
    for (const key of round ? String(Math.ceil(Number(round[1]) + 1)) : '80')
      await walk(a).getByRole('button', { name: key, exact: true }).tap();
    await walk(a).getByRole('button', { name: 'Write it down' }).tap();
    await expect(a.getByTestId('walk-last')).toContainText(`Tree ${measured}`);
    await a.goto(`/bush/${bushId}/walk/crown`);
    await a.getByRole('button', { name: 'Start' }).tap();
    const looked = await tagOn(a);
    await walk(a).getByRole('button', { name: /^Full/ }).tap();
    await expect(a.getByTestId('walk-last')).toContainText('crown full');
    await a.getByTestId('walk-tag').tap();
    await typeOn(a, '7077');
    await a.getByRole('button', { name: /^Add tree 7077/ }).tap();
    await expect(a).toHaveURL(/\/life\//);

    // The steward drills her part; then a tree of the helper's, of which she knows nothing; and one of the helper's is put to rest.
    await b.getByRole('button', { name: 'Start' }).tap();
    await expect(b.getByTestId('walk-words')).toBeVisible();
    for (let i = 0; i < 4; i++) drilled.push(await drill(b, 'Pale cream'));
    await walk(b).getByRole('button', { name: 'Stop' }).tap();
    await b.getByLabel('Whose part').selectOption('');
    await b.getByRole('button', { name: 'Start' }).tap();
    const one = (tag: string) => rows.find((row) => row.tag === tag)!;
    const [twice, rests] = drilled.filter(({ tag }) => drilled.filter((each) => each.tag === tag).length === 1);
    await b.getByTestId('walk-tag').tap();
    await typeOn(b, twice!.tag);
    await b.getByTestId('found').getByRole('button').first().tap();
    await expect(b.getByTestId('walk-tag')).toHaveText(twice!.tag);
    // The same hole stands on both phones.
    expect(await wordsOn(b)).toBe(twice!.words);
    await walk(b).getByRole('button', { name: 'Drilled', exact: true }).tap();
    await expect(b.getByTestId('asks')).toBeVisible();
    await walk(b)
      .getByRole('button', { name: /^Partly brown/ })
      .tap();

    // The helper's phone is thought lost: she is signed out everywhere, and goes on working until she is back.
    await desk.goto(`/bush/${bushId}/people`);
    await desk.getByRole('button', { name: /sign Tomke .* out/ }).click();
    await desk.getByRole('button', { name: 'Sign out', exact: true }).first().click();
    await expect(desk.getByText(/signed out everywhere/)).toBeVisible();
    const rest = { kind: 'decision', season: 2027, taps: 0, suggested: 1, binding: 'condition', reason: 'let it rest' };
    expect(await postRecord(desk, bushId, one(rests!.tag).id, rest)).toBe('stored');
    await hers.setOffline(false);
    await a.evaluate(() => window.dispatchEvent(new Event('online')));
    await a.getByRole('link', { name: 'Sign in and go on' }).tap();
    await a.getByLabel('Sign-in name').fill(TOMKE.name);
    await a.getByLabel('Password').fill(TOMKE.password);
    await a.getByRole('button', { name: 'Sign in', exact: true }).tap();
    await a.waitForURL(/\/bush\//);
    await allSaved(a);
    await stewards.setOffline(false);
    await b.evaluate(() => window.dispatchEvent(new Event('online')));
    await allSaved(b);

    // All of it once.
    const holesOf = async (tag: string) => {
      const records = await recordsOf(desk, bushId, one(tag).id);
      const taken = new Set(records.flatMap(({ correctsId }) => (correctsId ? [correctsId] : [])));
      return records.filter((r) => r.kind === 'taphole' && r.season === 2027 && !r.withdrawn && !taken.has(r.id));
    };
    for (const tag of new Set(drilled.map((each) => each.tag)))
      expect([tag, (await holesOf(tag)).length]).toEqual([
        tag,
        drilled.filter((each) => each.tag === tag).length + (tag === twice!.tag ? 1 : 0)
      ]);
    expect((await holesOf(mistaken)).length).toBe(1);
    const after = await treesOf(desk, bushId);
    expect(after.filter(({ tag }) => tag === '7077')).toHaveLength(1);
    const kindsOf = async (tag: string) =>
      (await recordsOf(desk, bushId, one(tag).id)).filter(({ on }) => on === '2026-11-23').map(({ kind }) => kind);
    expect(await kindsOf(measured)).toContain('reading');
    expect(await kindsOf(looked)).toContain('assessment');

    // What does not go together is asked, on both phones, and the answer is on both.
    for (const page of [a, b]) await expect(page.getByRole('link', { name: '2 questions' })).toBeVisible();
    await b.getByRole('link', { name: '2 questions' }).tap();
    await expect(b.getByTestId('question')).toHaveCount(2);
    await b
      .getByTestId('question')
      .filter({ hasText: 'same spot' })
      .getByRole('button', { name: /^One hole/ })
      .tap();
    await b
      .getByTestId('question')
      .filter({ hasText: 'not to be tapped' })
      .filter({ has: b.getByTestId('why') })
      .getByRole('button', { name: /^Spout pulled/ })
      .tap();
    await allSaved(b);
    await expect(a.getByRole('link', { name: /question/ })).toHaveCount(0);
    expect((await holesOf(twice!.tag)).length).toBe(1);

    // Paper, list and both phones name the same holes.
    await desk.goto(`/bush/${bushId}/place/round`);
    await desk.evaluate(() => (window.print = () => undefined));
    await desk.getByLabel('Which trees').selectOption('left');
    await desk.getByRole('button', { name: 'List, a row a page' }).click();
    const paper = await desk.getByTestId('rows').textContent();
    for (const page of [a, b]) {
      await page.goto(`/bush/${bushId}/walk`);
      await expect(walk(page).or(page.getByTestId('walk-start'))).toBeVisible();
      if (await walk(page).isVisible()) await walk(page).getByRole('button', { name: 'Stop' }).tap();
      await page.getByLabel('Whose part').selectOption('');
      await page.getByRole('button', { name: 'Start' }).tap();
      await expect(page.getByTestId('walk-words')).toBeVisible();
      const [tag, words] = [await tagOn(page), await wordsOn(page)];
      expect(await listed(tag)).toContain(words);
      expect(paper).toContain(words);
    }

    waited.sort((x, y) => x - y);
    const says = `a hole with its shavings: ${touches / 16} touches; the next instruction, CPU slowed ${SLOWED} times: median ${Math.round(waited[waited.length >> 1]!)} ms, most ${Math.round(waited.at(-1)!)} ms; ${before} holes in her part`;
    info.annotations.push({ type: 'measured', description: says });
  } finally {
    await hers.close().catch(() => undefined);
    await stewards.close();
    rmSync(profile, { recursive: true, force: true });
  }
});
