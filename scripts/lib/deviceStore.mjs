import { pause } from './exec.mjs';

/**
 * The rows that a device has in one of its tables.
 * @param {import('@playwright/test').Page} page any page of the program, once it was opened
 * @param {string} table
 * @returns {Promise<any[]>}
 */
export const storedRows = (page, table) => page.evaluate(rowsOf, table);

/** In the page. @param {string} table */
async function rowsOf(table) {
  const asked = (/** @type {IDBRequest} */ request) =>
    new Promise((/** @type {(found: any) => void} */ resolve) => (request.onsuccess = () => resolve(request.result)));
  const database = await asked(indexedDB.open('baumkin'));
  const rows = await asked(database.transaction(table).objectStore(table).getAll());
  database.close();
  return rows;
}

/**
 * How far a bush is on the device, once the whole of it is there; else undefined.
 * @param {import('@playwright/test').Page} page @param {string} bush
 * @returns {Promise<{ number: number } | undefined>}
 */
export const bookOn = async (page, bush) =>
  (await storedRows(page, 'books')).find(({ bushId, taking }) => bushId === bush && taking === null);

/** Waits until a whole bush is on the device. @param {import('@playwright/test').Page} page @param {string} bush */
export async function wholeBook(page, bush) {
  while (!(await bookOn(page, bush))) await pause(200);
}
