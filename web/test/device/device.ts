import 'fake-indexeddb/auto';
import { afterEach, beforeEach, vi } from 'vitest';

import { BUSH, FailingServer } from './server.ts';

/** A device with a server of its own for every test; a test may give it another one. */
export const device = { server: new FailingServer() };
// The client takes hold of fetch when it is loaded: it is given one that asks whichever server stands at the moment.
vi.stubGlobal('fetch', (input: Request) => device.server.fetch(input));
const { BushState } = await import('../../src/lib/client/bush.svelte.ts');
export const { store } = await import('../../src/lib/client/store.ts');
export type State = InstanceType<typeof BushState>;

const open: State[] = [];

/** Opens the bush in one more tab; it is closed after the test. */
export async function openBush(): Promise<State> {
  const bush = new BushState(BUSH);
  open.push(bush);
  await bush.open();
  return bush;
}

/** Takes everything off the device. */
export const empty = () => Promise.all(store.tables.map((table) => table.clear()));

beforeEach(async () => {
  device.server = new FailingServer();
  await empty();
});
afterEach(() => Promise.all(open.splice(0).map((bush) => bush.close())));
