import { expect, test, type Page } from '@playwright/test';

import { bushIdOf, expectAccessible, postRecords, signUpWithBush, treesOf } from './support.ts';

/** A helper's phone: another browser, which knows nothing of the steward's. */
async function aPhone(page: Page): Promise<Page> {
  const context = await page
    .context()
    .browser()!
    .newContext({
      baseURL: new URL(page.url()).origin,
      viewport: { width: 390, height: 844 },
      hasTouch: true
    });
  return context.newPage();
}

test('a helper is in the round by a link, with two fields; is seen with her phone, and sent away', async ({ page }) => {
  const bush = await signUpWithBush(page, 'Invited Bush');
  await page.getByRole('link', { name: 'People', exact: true }).click();
  await expect(page.getByRole('heading', { name: 'Ask somebody in' })).toBeVisible();
  await expectAccessible(page);
  await page.getByLabel('For whom, for your own list').fill('Saturday');
  await page.getByRole('button', { name: 'Make the invitation' }).click();
  const link = await page.getByTestId('link').innerText();
  expect(link).toMatch(/\/join\/[\w-]{22}$/);
  await expect(page.getByRole('img', { name: /phone’s camera/ })).toBeVisible();
  await expect(page.getByTestId('invitations')).toContainText('Saturday');

  const phone = await aPhone(page);
  await phone.goto(link);
  await expect(phone.getByRole('heading', { name: 'Come into Invited Bush' })).toBeVisible();
  await expectAccessible(phone);
  await phone.getByLabel('Your name, as others see it').fill(`Jule Moss ${Date.now()}`);
  await phone.getByLabel(/^Password/).fill('a long enough password');
  await expect(phone.getByLabel('Sign-in name')).toHaveValue(/^jule\.moss\.\d+$/);
  await phone.getByRole('button', { name: 'Come in' }).click();
  await phone.waitForURL(new RegExp(`/bush/${bush}/walk`));

  // The link was for one.
  const late = await aPhone(page);
  await late.goto(link);
  await expect(late.getByText(/This invitation has ended/)).toBeVisible();
  await late.context().close();

  // The steward sees who came, and what is on which device.
  const members = page.getByTestId('members');
  await expect(async () => {
    await page.reload();
    await expect(members).toContainText(/on .*, seen today .*has the whole bush as it is, nothing waited there/);
  }).toPass();
  await expect(page.getByText(/^Came by invitations that have ended: Jule Moss/)).toBeVisible();
  const jule = members.getByRole('listitem').filter({ hasText: 'Jule Moss' });
  await jule.getByRole('combobox').selectOption('viewer');
  await expect(jule).toContainText('looks and changes nothing');
  await jule.getByRole('button', { name: /^Take Jule Moss .* out/ }).click();
  await jule.getByRole('button', { name: 'Take out' }).click();
  await expect(members).not.toContainText('Jule Moss');

  // Her phone hears of it, and drops what it held.
  await phone.goto(`/bush/${bush}`);
  await expect(phone.getByText(/There is no such bush, or you are not a member of it/)).toBeVisible();
  await phone.context().close();
});

test('who has an account comes in with one touch; the last steward cannot leave, a helper can', async ({ page }) => {
  await signUpWithBush(page, 'Second Bush');
  const bush = bushIdOf(page);
  await page.goto(`/bush/${bush}/people`);
  await page.getByRole('button', { name: 'For all of a crew' }).click();
  await page.getByRole('button', { name: 'Make the invitation' }).click();
  const link = await page.getByTestId('link').innerText();
  await page.getByRole('button', { name: 'Leave this bush' }).click();
  await page.getByRole('button', { name: 'Leave the bush' }).click();
  await expect(page.getByRole('alert')).toContainText('A bush without a steward helps nobody');

  const other = await aPhone(page);
  await signUpWithBush(other, 'Their own');
  await other.goto(link);
  await other.getByRole('button', { name: /^Come in as/ }).click();
  await other.waitForURL(new RegExp(`/bush/${bush}`));
  // Twice is once: who is in already is told so, and loses nothing.
  await page.goto(link);
  await expect(page.getByText(/You belong to it already, as steward/)).toBeVisible();
  await expectAccessible(page);
  await other.goto(link);
  await other.getByRole('link', { name: 'Go to Second Bush' }).click();
  await other.waitForURL(new RegExp(`/bush/${bush}`));
  await other.goto(`/bush/${bush}/people`);
  await expect(other.getByRole('heading', { name: 'Ask somebody in' })).toBeHidden();
  await other.getByRole('button', { name: 'Leave this bush' }).click();
  await other.getByRole('button', { name: 'Leave the bush' }).click();
  await other.waitForURL(/\/bushes/);
  await expect(other.getByText('Second Bush')).toBeHidden();
  await other.context().close();
});

test('somebody looks around without an account, in a copy that goes with her', async ({ page }) => {
  await page.goto('/sign-in');
  await page.getByRole('link', { name: /^Look around in/ }).click();
  await expectAccessible(page);
  await page.getByRole('button', { name: 'Make my copy' }).click();
  await page.waitForURL(/\/bush\/[0-9a-f-]{36}/);
  await expect(page.getByRole('heading', { name: /^A copy of / })).toBeVisible();
  const bush = bushIdOf(page);
  const [first] = await treesOf(page, bush);
  await postRecords(page, bush, [
    { kind: 'mark', treeId: first!.id, on: '2026-11-23', purpose: 'watch', reason: 'a fine crown' }
  ]);
  await page.goto('/bushes');
  await expect(page.getByText(/^Gone by itself on /)).toBeVisible();
  await page.getByRole('button', { name: 'Sign out' }).click();
  await page.waitForURL(/sign-in/);
  // Nobody comes back to it, and a program's address of it is one of nothing.
  await page.goto(`/bush/${bush}`);
  await page.waitForURL(/sign-in/);
});

test('a page for visitors is read without an account while it is open, and not after', async ({
  page,
  browser,
  baseURL
}) => {
  const bush = await signUpWithBush(page, 'School Bush');
  const visitors = await (await browser.newContext({ baseURL })).newPage();
  await visitors.goto(`/visit/${bush}`);
  await expect(visitors.getByText('There is nothing at this address.')).toBeVisible();
  await page.goto(`/bush/${bush}/people`);
  await page.getByRole('button', { name: 'Open a page for visitors' }).click();
  await page.getByLabel('What you say to visitors').fill('Welcome to our trees.');
  await page.getByLabel('What you say to visitors').blur();
  await expectAccessible(page);
  await expect(async () => {
    await visitors.goto(await page.getByTestId('visit').innerText());
    await expect(visitors.getByText('Welcome to our trees.')).toBeVisible({ timeout: 1000 });
  }).toPass();
  await expectAccessible(visitors);
  await page.getByRole('button', { name: 'Close the page' }).click();
  await expect(page.getByRole('button', { name: 'Open a page for visitors' })).toBeVisible();
  const answer = await visitors.request.get(`/visit/${bush}`, { headers: { 'cache-control': 'no-cache' } });
  expect(answer.status()).toBe(404);
  await visitors.context().close();
});

test('somebody sees where she is signed in, changes her password, and a lost phone is out', async ({ page }) => {
  const bush = await signUpWithBush(page, 'Third Bush');
  await page.goto(`/bush/${bush}/people`);
  await page.getByRole('link', { name: 'Password and devices' }).click();
  await expect(page.getByTestId('devices').getByRole('listitem')).toHaveCount(1);
  await expectAccessible(page);
  const name = /signs in as (\S+)\./.exec((await page.getByText(/who signs in as/).innerText()) ?? '')![1]!;

  const phone = await aPhone(page);
  await phone.goto('/sign-in');
  const signIn = async (password: string) => {
    await phone.getByLabel('Sign-in name').fill(name);
    await phone.getByLabel('Password').fill(password);
    await phone.getByRole('button', { name: 'Sign in' }).click();
  };
  await signIn('a long enough password');
  await phone.waitForURL(new RegExp(`/bush/${bush}`));
  await page.reload();
  await expect(page.getByTestId('devices').getByRole('listitem')).toHaveCount(2);

  const change = async (current: string) => {
    await page.getByLabel('The one that holds now').fill(current);
    await page.getByLabel(/^Password, 10 characters/).fill('another long password');
    await page.getByRole('button', { name: 'Change it' }).click();
  };
  await change('not that one');
  await expect(page.getByRole('alert')).toContainText('That is not the password that holds now');
  await change('a long enough password');
  await expect(page.getByRole('status')).toContainText('Every other device is signed out');
  await expect(page.getByTestId('devices').getByRole('listitem')).toHaveCount(1);
  await phone.goto('/account');
  await phone.waitForURL(/sign-in/);
  await signIn('a long enough password');
  await expect(phone.getByRole('alert')).toContainText('Name and password do not belong together');
  await signIn('another long password');
  await phone.waitForURL(/account/);
  await phone.context().close();
});
