import { demoSignIn } from './server.mjs';

/** Signs in as the steward of the demo. @param {import('@playwright/test').Page} page @param {string} [origin] where the page has none */
export async function signIn(page, origin = '') {
  await page.goto(`${origin}/sign-in`);
  await page.getByLabel('Sign-in name').fill(demoSignIn.name);
  await page.getByLabel('Password').fill(demoSignIn.password);
  await page.getByRole('button', { name: 'Sign in', exact: true }).click();
  await page.waitForURL(/\/bush/);
}
