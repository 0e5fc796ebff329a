import { describe, expect, it } from 'vitest';

import { device, openBush, reading, store, tree, until, whole, type State } from './device.ts';
import { BUSH, trees } from './server.ts';

/* How the book of a bush comes onto a device. */

async function everything(bush: State) {
  const all = [];
  for await (const life of bush.lives()) all.push(life);
  return all;
}

describe('a bush that is opened for the first time', () => {
  it('comes in parts behind the page, and every tree can be read without a network then', async () => {
    await (await whole()).close();
    expect(await store.lives.count()).toBe(trees.length);
    device.server.mood = 'away';
    const again = await openBush();
    for (const { id } of trees) {
      await again.loadTree(id);
      expect(again.recordsOf(id).length).toBeGreaterThan(0);
    }
  });

  it('is not told as a bush without holes while it is not all here', async () => {
    device.server.makeSnapshot(4, 2);
    const bush = await openBush();
    await until(async () => expect((await store.books.get(BUSH))?.taking?.part).toBe(2));
    device.server.mood = 'away';
    const late = trees.at(-1)!;
    await bush.loadTree(late.id);
    expect(bush.hasLife(late.id)).toBe(false);
    await expect(everything(bush)).rejects.toThrow('Not all of this bush is on this device yet');
    expect(bush.problem).toContain('Not all of this bush');
    device.server.mood = 'well';
    device.server.makeSnapshot(4);
    expect(await everything(bush)).toHaveLength(trees.length);
    expect(bush.problem).toBeNull();
  });

  it('goes on with the next part after a visit that was cut off', async () => {
    device.server.makeSnapshot(4, 2);
    const bush = await openBush();
    await until(async () => expect((await store.books.get(BUSH))?.taking?.part).toBe(2));
    await bush.close();
    device.server.makeSnapshot(4);
    device.server.asked.length = 0;
    await whole();
    expect(
      device.server.asked.filter((path) => path.startsWith('/snapshot/')).map((path) => path.split('/')[3])
    ).toEqual(['2', '3']);
    expect(await store.lives.count()).toBe(trees.length);
  });

  it('goes on by itself once a server answers again that was away for a while', async () => {
    device.server.makeSnapshot(4, 2);
    const bush = await openBush();
    await until(async () => expect((await store.books.get(BUSH))?.taking?.part).toBe(2));
    device.server.mood = 'away';
    await until(() => expect(bush.outbox.offline).toBe(true));
    device.server.makeSnapshot(4);
    device.server.mood = 'well';
    await until(async () => expect((await store.books.get(BUSH))?.taking).toBeNull());
    await until(() => expect(bush.outbox.offline).toBe(false));
  });

  it('waits for parts that are still being made, and begins with another snapshot where there is one', async () => {
    device.server.makeSnapshot(4, 2);
    const coming = whole();
    await until(async () => expect((await store.books.get(BUSH))?.taking?.part).toBe(2));
    device.server.stored.push(reading(900));
    device.server.makeSnapshot(3);
    const bush = await coming;
    expect(await store.lives.count()).toBe(trees.length);
    await bush.loadTree(tree.id);
    expect(bush.recordsOf(tree.id).at(-1)).toMatchObject({ valueMm: 900 });
  });
});
