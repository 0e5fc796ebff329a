import 'fake-indexeddb/auto';
import { afterEach, beforeEach, expect, vi } from 'vitest';

import { BUSH, FailingServer, trees } from './server.ts';

/** A device with a server of its own for every test; a test may give it another one. */
export const device = { server: new FailingServer() };
// The client takes hold of fetch when it is loaded: it is given one that asks whichever server stands at the moment.
vi.stubGlobal('fetch', (input: Request) => device.server.fetch(input));
const { BushState } = await import('../../src/lib/client/bush.svelte.ts');
export const { store } = await import('../../src/lib/client/store.ts');
export type State = InstanceType<typeof BushState>;

const open: State[] = [];

/** The bush in one more tab, not opened yet; it is closed after the test. */
export function newTab(): State {
  const bush = new BushState(BUSH);
  open.push(bush);
  return bush;
}

/** Opens the bush in one more tab. */
export async function openBush(): Promise<State> {
  const bush = newTab();
  await bush.open();
  return bush;
}

/** A busy machine takes its time. */
export const until = <T>(holds: () => T) => vi.waitFor(holds, { timeout: 30_000 });

/** A device on which the whole bush is. */
export async function whole(): Promise<State> {
  const bush = await openBush();
  await until(async () => expect((await store.books.get(BUSH))?.taking).toBeNull());
  return bush;
}

/** A tree of the bush, and a reading of it, or of another, as its author sends it. */
export const tree = trees[3]!;
export const reading = (valueMm: number, treeId = tree.id) => ({
  id: crypto.randomUUID(),
  kind: 'reading' as const,
  treeId,
  on: '2026-11-20',
  recordedAt: '2026-11-20T10:00:00.000Z',
  correctsId: null,
  withdrawn: false,
  quantity: 'girth' as const,
  valueMm,
  asWritten: `${valueMm / 10} cm`,
  method: 'girthTape' as const,
  heightMm: 1300,
  confirmed: true,
  note: '',
  authorId: device.server.member.id
});

/** Takes everything off the device. */
export const empty = () => Promise.all(store.tables.map((table) => table.clear()));

beforeEach(async () => {
  device.server = new FailingServer();
  await empty();
});
/** What is still on its way is not waited for longer. */
const LAST_WORDS_MS = 200;
/** A page that is left still sends what it had begun to: to the server of its own test, not to that of the next. */
afterEach(async () => {
  const left = open.splice(0);
  await Promise.all(left.map((bush) => bush.close()));
  const sent = Promise.all(left.map((bush) => bush.outbox.send()));
  await Promise.race([sent, new Promise((resolve) => setTimeout(resolve, LAST_WORDS_MS))]);
});
