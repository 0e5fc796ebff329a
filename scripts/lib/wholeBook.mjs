import { pause } from './exec.mjs';

/** Waits until a whole bush is on the device. @param {import('@playwright/test').Page} page @param {string} bush */
export async function wholeBook(page, bush) {
  while (!(await page.evaluate(isWhole, bush))) await pause(200);
}

/** In the page: is the whole bush on this device? @param {string} bush */
async function isWhole(bush) {
  const asked = (/** @type {IDBRequest} */ request) =>
    new Promise((/** @type {(found: any) => void} */ resolve) => (request.onsuccess = () => resolve(request.result)));
  const database = await asked(indexedDB.open('baumkin'));
  const book = await asked(database.transaction('books').objectStore('books').get(bush));
  database.close();
  return book?.taking === null;
}
