import { randomUUID } from 'node:crypto';
import { chromium } from '@playwright/test';

import { bookOn, storedRows } from './deviceStore.mjs';
import { pause } from './exec.mjs';
import { program } from './setup.mjs';
import { signIn } from './signIn.mjs';

/*
 * Several devices write into one bush while networks are cut, tabs, the server and its database are killed. Whatever happens,
 * in the end the server and all devices hold the same.
 */

const DEVICES = 5;
/** Records that a device writes, at most, before something happens. */
const AT_ONCE = 40;
const SETTLES_WITHIN_MS = 180_000;
/**
 * What happens to the device that wrote, or to the server: all of it in an order that chance decides, and then again.
 * @typedef {'killServer' | 'killDatabase' | 'killTab' | 'toggleNetwork' | 'reload'} Mishap
 * @type {readonly Mishap[]}
 */
const MISHAPS = [
  'killServer',
  'killDatabase',
  ...repeated('killTab', 5),
  ...repeated('toggleNetwork', 4),
  ...repeated('reload', 5)
];

/**
 * @typedef {{ origin: () => string, killServer: () => Promise<void>, killDatabase: () => Promise<void> }} World
 * @param {World} world a server with the demo bush, and how it is killed and comes back
 * @param {{ records: number, seed: number, told?: (written: number) => void }} run
 * @returns what the server and each device hold in the end, as text in canonical form, and how many records were written
 */
export async function soak(world, { records, seed, told = () => undefined }) {
  const random = seeded(seed);
  const any = (/** @type {number} */ n) => Math.floor(random() * n);
  const browser = await chromium.launch({
    executablePath: program('chromium'),
    args: ['--no-sandbox', '--disable-gpu']
  });
  try {
    const devices = [];
    for (let i = 0; i < DEVICES; i++) devices.push(await Device.open(browser, world));
    const [first] = /** @type {[Device]} */ (devices);
    const { trees } = await first.ask(`/bushes/${first.bush}/lines`);
    /** @type {Written[]} */
    const written = [];
    /** @type {Mishap[]} */
    const ahead = [];
    // Few records are written in few at a time, so that each of the mishaps comes.
    const atOnce = Math.min(AT_ONCE, Math.floor(records / MISHAPS.length));
    while (written.length < records) {
      const device = /** @type {Device} */ (devices[any(DEVICES)]);
      const batch = Array.from({ length: Math.min(1 + any(atOnce), records - written.length) }, () =>
        draw(any, trees, written)
      );
      written.push(...batch);
      await device.write(batch);
      if (ahead.length === 0) ahead.push(...shuffled(MISHAPS, any));
      const mishap = /** @type {Mishap} */ (ahead.pop());
      if (mishap === 'killServer' || mishap === 'killDatabase') await world[mishap]();
      else await device[mishap]();
      told(written.length);
    }
    for (const device of devices) await device.settle();
    const { number } = await first.ask(`/bushes/${first.bush}/lines`);
    for (const device of devices) await device.reach(number);
    const server = await first.asServed();
    const held = [];
    for (const device of devices) held.push(await device.asHeld(Object.keys(server.lines[0] ?? {})));
    return { written: written.length, server: canonical(server), devices: held.map(canonical) };
  } finally {
    await browser.close();
  }
}

/** @typedef {Record<string, unknown> & { id: string, treeId: string }} Written */

/**
 * A record of a tree; one in five corrects an earlier one or takes it back, whoever wrote that.
 * @param {(n: number) => number} any
 * @param {readonly { id: string }[]} trees
 * @param {readonly Written[]} written
 * @returns {Written}
 */
function draw(any, trees, written) {
  const earlier = any(5) === 0 ? written[any(written.length)] : undefined;
  const treeId = earlier?.treeId ?? /** @type {{ id: string }} */ (trees[any(trees.length)]).id;
  const envelope = {
    id: randomUUID(),
    treeId,
    on: `2026-${String(1 + any(10)).padStart(2, '0')}-${String(1 + any(28)).padStart(2, '0')}`,
    recordedAt: new Date().toISOString(),
    correctsId: earlier?.id ?? null,
    withdrawn: earlier !== undefined && any(2) === 0,
    note: ''
  };
  if (earlier ? earlier.kind === 'reading' : any(3) > 0)
    return {
      ...envelope,
      kind: 'reading',
      quantity: 'girth',
      valueMm: 600 + any(1200),
      asWritten: 'soaked',
      method: 'girthTape',
      heightMm: 1300,
      confirmed: true
    };
  return { ...envelope, kind: 'heightAndCrown', heightM: 10 + any(150) / 10, crownRadiiM: null };
}

/** A browser with a store of its own, and its one tab. */
class Device {
  offline = false;

  /**
   * @param {import('@playwright/test').BrowserContext} context
   * @param {import('@playwright/test').Page} page
   * @param {World} world
   * @param {{ bush: string, member: string }} whose
   */
  constructor(context, page, world, { bush, member }) {
    this.context = context;
    this.page = page;
    this.world = world;
    this.bush = bush;
    this.member = member;
  }

  /** @param {import('@playwright/test').Browser} browser @param {World} world */
  static async open(browser, world) {
    const context = await browser.newContext();
    const page = await context.newPage();
    await signIn(page, world.origin());
    await page.waitForURL(/\/bush\/[0-9a-f-]{36}/);
    const bush = /** @type {string} */ (new URL(page.url()).pathname.split('/')[2]);
    const { member } = await (await context.request.get(`${world.origin()}/api/v1/bushes/${bush}/lines`)).json();
    const device = new Device(context, page, world, { bush, member: member.id });
    await page.evaluate(async () => void (await navigator.serviceWorker.ready));
    await device.reach(0);
    return device;
  }

  /** @param {string} path */
  async ask(path) {
    const answer = await this.context.request.get(`${this.world.origin()}/api/v1${path}`);
    if (!answer.ok()) throw new Error(`${path}: ${await answer.text()}`);
    return answer.json();
  }

  /** Keeps records on the device as its pages do before anything else. @param {readonly Written[]} records */
  async write(records) {
    const addedAt = Date.now();
    await this.page.evaluate(
      putAll,
      records.map((record, i) => ({
        id: record.id,
        bushId: this.bush,
        memberId: this.member,
        treeId: record.treeId,
        record: { ...record, authorId: this.member },
        addedAt: addedAt + i / 1000,
        refused: null
      }))
    );
  }

  async reload() {
    await this.page.reload({ waitUntil: 'commit' });
  }

  /** The tab goes in the middle of whatever it does, and another is opened. */
  async killTab() {
    const url = this.page.url();
    await this.page.close();
    this.page = await this.context.newPage();
    await this.page.goto(url, { waitUntil: 'commit' });
  }

  async toggleNetwork() {
    this.offline = !this.offline;
    await this.context.setOffline(this.offline);
    await this.reload();
  }

  /** With a network again, until everything that was written here is sent or answered for. */
  async settle() {
    this.offline = false;
    await this.context.setOffline(false);
    await this.reload();
    const until = Date.now() + SETTLES_WITHIN_MS;
    while ((await storedRows(this.page, 'outbox')).some(({ refused }) => refused === null)) {
      if (Date.now() > until) throw new Error('What waits on a device was not sent.');
      await pause(300);
    }
  }

  /** Until the whole bush is here, up to a number of its feed. @param {number} number */
  async reach(number) {
    const until = Date.now() + SETTLES_WITHIN_MS;
    for (;;) {
      const book = await bookOn(this.page, this.bush).catch(() => undefined);
      if (book && book.number >= number) return;
      if (Date.now() > until) throw new Error(`A device stands at ${JSON.stringify(book)} and not at ${number}.`);
      await pause(300);
    }
  }

  /** What the server holds of the bush, and what it says of its trees. */
  async asServed() {
    const { trees } = await this.ask(`/bushes/${this.bush}/lines`);
    const { records } = await this.ask(`/bushes/${this.bush}/files/archive.json`);
    /** @type {Map<string, Written[]>} */
    const byTree = new Map(trees.map((/** @type {Written} */ { id }) => [id, []]));
    for (const record of records) byTree.get(record.treeId)?.push(record);
    return { lives: [...byTree].map(([id, own]) => ({ id, records: own })), lines: trees };
  }

  /** The same of this device. @param {readonly string[]} fields of a line that the server keeps */
  async asHeld(fields) {
    return JSON.parse(await this.page.evaluate(allHere, { bush: this.bush, fields }));
  }
}

/** In the page. @param {readonly object[]} entries */
async function putAll(entries) {
  const database = await new Promise((/** @type {(found: IDBDatabase) => void} */ resolve) => {
    const request = indexedDB.open('baumkin');
    request.onsuccess = () => resolve(request.result);
  });
  const write = database.transaction('outbox', 'readwrite');
  for (const entry of entries) write.objectStore('outbox').put(entry);
  await new Promise((resolve) => (write.oncomplete = resolve));
  database.close();
}

/** In the page: records of all trees that are in the registry, and their lines, as a text: it travels faster. @param {{ bush: string, fields: readonly string[] }} asked */
async function allHere({ bush, fields }) {
  const database = await new Promise((/** @type {(found: IDBDatabase) => void} */ resolve) => {
    const request = indexedDB.open('baumkin');
    request.onsuccess = () => resolve(request.result);
  });
  const all = (/** @type {string} */ table) =>
    new Promise((/** @type {(found: any[]) => void} */ resolve) => {
      const request = database.transaction(table).objectStore(table).index('bushId').getAll(bush);
      request.onsuccess = () => resolve(request.result);
    });
  const lives = (await all('lives'))
    .filter(({ tree }) => tree !== null)
    .map(({ treeId: id, records }) => ({ id, records }));
  const lines = (await all('packs'))
    .flatMap(({ text }) => JSON.parse(text))
    .map((row) => Object.fromEntries(fields.map((field) => [field, row[field]])));
  database.close();
  return JSON.stringify({ lives, lines });
}

/** Whatever order things came in: the same content is the same text. @param {{ lives: any[], lines: any[] }} book */
function canonical({ lives, lines }) {
  const byId = (/** @type {{ id: string }} */ a, /** @type {{ id: string }} */ b) => (a.id < b.id ? -1 : 1);
  const sorted = {
    lives: lives.map(({ id, records }) => ({ id, records: records.toSorted(byId) })).toSorted(byId),
    lines: lines.toSorted(byId)
  };
  return JSON.stringify(sorted, (_key, value) =>
    value !== null && typeof value === 'object' && !Array.isArray(value)
      ? Object.fromEntries(Object.entries(value).sort(([a], [b]) => (a < b ? -1 : 1)))
      : value
  );
}

/** @param {Mishap} mishap @param {number} times @returns {Mishap[]} */
function repeated(mishap, times) {
  return Array.from({ length: times }, () => mishap);
}

/** @template T @param {readonly T[]} all @param {(n: number) => number} any @returns {T[]} */
function shuffled(all, any) {
  const left = [...all];
  return all.map(() => /** @type {T} */ (left.splice(any(left.length), 1)[0]));
}

/** A small generator of numbers in [0, 1) that begins where it is told to. @param {number} seed */
function seeded(seed) {
  let state = seed >>> 0;
  return () => {
    state = (state + 0x6d2b79f5) >>> 0;
    let t = Math.imul(state ^ (state >>> 15), 1 | state);
    t = (t + Math.imul(t ^ (t >>> 7), 61 | t)) ^ t;
    return ((t ^ (t >>> 14)) >>> 0) / 4294967296;
  };
}
