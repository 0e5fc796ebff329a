import { expose } from 'comlink';
import { describe, expect, it, vi } from 'vitest';

import { device, openBush, store, type State } from './device.ts';
import { BUSH, trees } from './server.ts';

const { RoomSearch, woodStamp } = await import('../../src/lib/count/roomSearch.svelte.ts');

/* Clear wood that is looked for on all trunks: what is kept of it, and when it is looked for again. */

/** What workers were asked, each by a channel of its own; three holes of four are clear enough. */
const asked: unknown[] = [];
class PlaceWorker {
  constructor() {
    const { port1, port2 } = new MessageChannel();
    const outlook = (pClear: number) => ({ outlook: { pClear } });
    const place = (task: unknown) => {
      asked.push(task);
      return { proposals: [1, 1, 1, 0.1].map(outlook) };
    };
    expose({ place }, port1);
    port2.start();
    return Object.assign(port2, { terminate: () => (port1.close(), port2.close()) }) as unknown as PlaceWorker;
  }
}

const standing = trees.filter(({ cut, dbhMm }) => !cut && dbhMm !== null);

async function whole(): Promise<State> {
  const bush = await openBush();
  await vi.waitFor(async () => expect((await store.books.get(BUSH))?.taking).toBeNull(), 30_000);
  return bush;
}

/** Looks for clear wood as a page does that is opened, asked, and left. */
async function search(bush: State) {
  // The book is opened before: it finds no workers here, and works on the page.
  vi.stubGlobal('Worker', PlaceWorker);
  const found = new RoomSearch(bush);
  await found.open();
  const known = found.rooms.size;
  asked.length = 0;
  await found.look(standing.map(({ id }) => bush.byId.get(id)!));
  Reflect.deleteProperty(globalThis, 'Worker');
  expect([found.run.done, found.run.failed]).toEqual([null, false]);
  return { known, looked: asked.length, rooms: found.rooms };
}

describe('the search for clear wood', () => {
  it('is gone on with where it ended, and asks again of the trunk alone whose wood is known otherwise', async () => {
    const bush = await whole();
    const first = await search(bush);
    expect([first.known, first.looked, first.rooms.size]).toEqual([0, standing.length, standing.length]);
    expect([...first.rooms.values()].every((room) => room >= 3)).toBe(true);

    const one = standing[0]!;
    await bush.record(one.id, { kind: 'decision', season: 2027, taps: 1, suggested: 1, binding: 'size', reason: '' });
    expect(await search(bush)).toMatchObject({ known: standing.length, looked: 0 });

    device.server.mood = 'away';
    await bush.record(one.id, {
      kind: 'reading',
      quantity: 'diameter',
      valueMm: Math.round(one.dbhMm! + 4),
      asWritten: '',
      method: 'diameterTape',
      heightMm: 1300
    });
    expect(await search(bush)).toMatchObject({ known: standing.length - 1, looked: 1 });
  });

  it('begins anew where the bush is tapped otherwise', async () => {
    const bush = await whole();
    await search(bush);
    const { settings } = bush.overview!.bush;
    device.server.others.set(1, {
      bush: {
        name: 'Hill',
        settings: { ...settings, bitMm: 11 },
        version: 2,
        origin: null,
        goneAt: null,
        baseMap: null
      }
    });
    await bush.refresh();
    expect(await search(bush)).toMatchObject({ known: 0, looked: standing.length });
  });

  it('names the wood by the records that tell of it, in whatever order they came', async () => {
    const bush = await whole();
    const [tree] = standing;
    await bush.loadTree(tree!.id);
    const records = bush.recordsOf(tree!.id);
    expect(woodStamp(records.toReversed())).toBe(woodStamp(records));
    expect(woodStamp(records.filter(({ kind }) => kind !== 'decision' && kind !== 'entry'))).toBe(woodStamp(records));
    const reading = records.findIndex(({ kind }) => kind === 'reading');
    expect(woodStamp(records.toSpliced(reading, 1))).not.toBe(woodStamp(records));
  });
});
