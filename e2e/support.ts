import AxeBuilder from '@axe-core/playwright';
import { expect, test, type Page } from '@playwright/test';

import { inLongForm } from '../testing/long.ts';

import type { SpeciesId } from '../core/src/identify/index.ts';
import type { CrownRadii, PositionQuality, StandTree } from '../core/src/stand/index.ts';

/** A walk of minutes through one page: for the long form of the tests alone. */
export const walk = inLongForm ? test : test.skip;

export const DEMO = { name: 'hedda', password: 'pale-shavings' };

/** Signs in and lands in the bush or the list of bushes. */
export async function signIn(page: Page, { name, password } = DEMO): Promise<void> {
  await page.goto('/sign-in');
  await page.getByLabel('Sign-in name').fill(name);
  await page.getByLabel('Password').fill(password);
  await page.getByRole('button', { name: 'Sign in', exact: true }).click();
  await page.waitForURL(/\/bush/);
}

/** Waits for the map and gives places on it by their share of its width and height. */
export async function mapOf(page: Page): Promise<(x: number, y: number) => [number, number]> {
  await expect(page.getByTestId('map')).toHaveAttribute('data-ready', 'true');
  const box = (await page.getByTestId('map').boundingBox())!;
  return (x, y) => [box.x + x * box.width, box.y + y * box.height];
}

/** Brings in the file that was read, or what of it is clear; where it is much the numbers are asked once more. */
export async function bringIn(page: Page): Promise<void> {
  await page
    .getByTestId('preview')
    .getByRole('button', { name: /^Bring (it in|in what is clear)/ })
    .click();
  const sure = page.getByRole('dialog', { name: 'Bring all this in?' });
  const done = page.getByText(/^Brought in: /);
  await expect(sure.or(done).first()).toBeVisible();
  if (await sure.isVisible()) await sure.getByRole('button', { name: 'Bring it in' }).click();
  await expect(done.first()).toBeVisible();
}

/** Makes an account of its own and a bush, and lands on the page of files. */
export async function signUpWithBush(page: Page, bush: string): Promise<string> {
  await page.goto('/sign-up');
  await page.getByLabel('Your name').fill('Own Trees');
  await page.getByLabel('Sign-in name').fill(`steward-${Date.now()}`);
  await page.getByLabel(/^Password/).fill('a long enough password');
  await page.getByRole('button', { name: 'Make the account' }).click();
  await page.getByLabel('Name of a new bush').fill(bush);
  await page.getByRole('button', { name: 'Make the bush' }).click();
  await expect(page.getByRole('heading', { name: 'What do you have?' })).toBeVisible();
  await page.getByRole('link', { name: 'A list in a file' }).click();
  await page.waitForURL(/exchange/);
  return bushIdOf(page);
}

export function bushIdOf(page: Page): string {
  return /\/bush\/([0-9a-f-]{36})/.exec(page.url())![1]!;
}

/** The rows of the trees that stand, as the program itself reads them. */
export async function treesOf(page: Page, bushId: string) {
  const overview = (await (await page.request.get(`/api/v1/bushes/${bushId}`)).json()) as {
    trees: {
      id: string;
      tag: string;
      species: SpeciesId | null;
      verdict: string | null;
      dbhMm: number | null;
      decidedTaps: number | null;
      drilled: number;
      mark: string | null;
      lastTappedSeason: number | null;
      ringMm: number;
      questions: number;
      eastM: number | null;
      northM: number | null;
      crownRadiiM: CrownRadii | null;
      standId: string | null;
      positionQuality: PositionQuality;
      heightM: number | null;
      cut: object | null;
      tagged: boolean;
    }[];
  };
  return overview.trees.filter(({ cut }) => cut === null);
}

/** Writes records as a program would: all of them are taken. */
export async function postRecords(page: Page, bushId: string, records: readonly object[]): Promise<void> {
  const recordedAt = new Date().toISOString();
  const answer = await page.request.post(`/api/v1/bushes/${bushId}/records`, {
    data: {
      records: records.map((record) => ({
        id: crypto.randomUUID(),
        recordedAt,
        correctsId: null,
        withdrawn: false,
        ...record
      }))
    }
  });
  const { outcomes } = (await answer.json()) as { outcomes: { status: string; reason?: string }[] };
  expect(outcomes.map(({ status, reason }) => reason ?? status)).toEqual(records.map(() => 'stored'));
}

/** Writes a record of today as a program would. @returns what became of it */
export async function postRecord(page: Page, bushId: string, treeId: string, draft: object): Promise<string> {
  const now = new Date().toISOString();
  const record = {
    id: crypto.randomUUID(),
    treeId,
    on: now.slice(0, 10),
    recordedAt: now,
    correctsId: null,
    withdrawn: false,
    ...draft
  };
  const answer = await page.request.post(`/api/v1/bushes/${bushId}/records`, { data: { records: [record] } });
  const { outcomes } = (await answer.json()) as { outcomes: { status: string; reason?: string }[] };
  return outcomes[0]!.reason ?? outcomes[0]!.status;
}

export async function recordsOf(page: Page, bushId: string, treeId: string) {
  const life = (await (await page.request.get(`/api/v1/bushes/${bushId}/trees/${treeId}`)).json()) as {
    records: { id: string; kind: string; [key: string]: unknown }[];
  };
  return life.records;
}

export async function allSaved(page: Page): Promise<void> {
  await expect(page.getByTestId('saved')).toHaveText('All saved');
}

/** No violation of WCAG 2.2 AA that axe can see. @param rules these alone, where another theme changes no others */
export async function expectAccessible(page: Page, rules?: string[]): Promise<void> {
  const axe = new AxeBuilder({ page });
  const { violations } = await (
    rules ? axe.withRules(rules) : axe.withTags(['wcag2a', 'wcag2aa', 'wcag21a', 'wcag21aa', 'wcag22aa'])
  ).analyze();
  expect(
    violations.map(
      (v) =>
        `${v.id}: ${v.nodes
          .map((n) => n.target.join(' '))
          .slice(0, 4)
          .join(' | ')}`
    )
  ).toEqual([]);
  // A label belongs to the first thing in it that can be labelled: a word that explains itself is such a thing too.
  const elsewhere = await page.evaluate(() =>
    [...document.querySelectorAll('label')].flatMap((label) =>
      label.querySelector('input, select, textarea') && label.control instanceof HTMLButtonElement
        ? (label.textContent ?? '').trim().slice(0, 60)
        : []
    )
  );
  expect(elsewhere).toEqual([]);
}

/** Nothing sticks out sideways, and no scroll bar inside a scroll bar. */
export async function expectFits(page: Page): Promise<void> {
  const found = await page.evaluate(() => {
    const scrolls = (e: Element) => {
      const style = getComputedStyle(e);
      return /auto|scroll/.test(style.overflowY) && e.scrollHeight > e.clientHeight + 1;
    };
    const nested = [...document.querySelectorAll('*')].filter(
      (e) => scrolls(e) && [...e.querySelectorAll('*')].some(scrolls)
    );
    return { sideways: document.documentElement.scrollWidth - window.innerWidth, nested: nested.length };
  });
  expect(found.sideways).toBeLessThanOrEqual(0);
  expect(found.nested).toBe(0);
}

/** Answers one look of the Identify sheet, whether it is the one asked for or has to be chosen first. */
export async function look(page: Page, character: string, state: string): Promise<void> {
  const card = page.getByRole('button', { name: new RegExp(`^${state}`), includeHidden: false });
  // The sheet may not stand there yet: asking at once would take that for another question.
  await card.or(page.getByText('Look at something else')).first().waitFor();
  if (!(await card.isVisible())) {
    const other = page.getByRole('button', { name: new RegExp(`^${character}(: can’t tell)?$`) });
    if (!(await other.isVisible())) await page.getByText('Look at something else').click();
    await other.click();
  }
  await card.click();
  await expect(page.getByRole('button', { name: new RegExp(`^${character}: `) })).toContainText(state, {
    ignoreCase: true
  });
}

/** A sugar maple that is crowded as a test needs it, seen with the neighbours that stand around it. */
export function crowdedMaple(
  trees: Awaited<ReturnType<typeof treesOf>>,
  as: (tree: StandTree, others: readonly StandTree[]) => boolean
) {
  const mapped = trees.flatMap((tree): StandTree[] =>
    tree.eastM === null || tree.northM === null || tree.dbhMm === null
      ? []
      : [{ ...tree, eastM: tree.eastM, northM: tree.northM, dbhMm: tree.dbhMm }]
  );
  // What is marked, or read in question, is left to the tests that are about it.
  const left = new Set(trees.filter((tree) => tree.mark !== null || tree.questions > 0).map((tree) => tree.id));
  const found = mapped.find(
    (tree) => tree.species === 'sugarMaple' && !tree.crownRadiiM && !left.has(tree.id) && as(tree, mapped)
  );
  return trees.find((tree) => tree.id === found!.id)!;
}
