import { describe, expect, it, vi } from 'vitest';

import { device, openBush, store, type State } from './device.ts';
import { BUSH, trees } from './server.ts';

/* The book of a bush on this device: how it comes, how it is kept in step, and when it goes. */

/** A busy machine takes its time. */
const until = <T>(holds: () => T) => vi.waitFor(holds, { timeout: 30_000 });

/** A device on which the whole bush is. */
async function whole(): Promise<State> {
  const bush = await openBush();
  await until(async () => expect((await store.books.get(BUSH))?.taking).toBeNull());
  return bush;
}
const tree = trees[3]!;
const reading = (valueMm: number, treeId = tree.id) => ({
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
const times = (path: string) => device.server.asked.filter((asked) => asked === path).length;

describe('a bush that is opened for the first time', () => {
  it('comes in parts behind the page, and every tree can be read without a network then', async () => {
    (await whole()).close();
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
    await expect(bush.everything()).rejects.toThrow('Not all of this bush is on this device yet');
    expect(bush.problem).toContain('Not all of this bush');
    device.server.mood = 'well';
    device.server.makeSnapshot(4);
    expect(await bush.everything()).toHaveLength(trees.length);
    expect(bush.problem).toBeNull();
  });

  it('goes on with the next part after a visit that was cut off', async () => {
    device.server.makeSnapshot(4, 2);
    const bush = await openBush();
    await until(async () => expect((await store.books.get(BUSH))?.taking?.part).toBe(2));
    bush.close();
    device.server.makeSnapshot(4);
    device.server.asked.length = 0;
    await whole();
    expect(
      device.server.asked.filter((path) => path.startsWith('/snapshot/')).map((path) => path.split('/')[3])
    ).toEqual(['2', '3']);
    expect(await store.lives.count()).toBe(trees.length);
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

describe('a bush that is on this device', () => {
  it('is not asked for again: what is new comes by the feed, and shows', async () => {
    (await whole()).close();
    const before = times('');
    const size = Math.round(Math.PI * (tree.dbhMm! + 9));
    device.server.stored.push(reading(size));
    const bush = await openBush();
    expect(times('')).toBe(before);
    expect(times('/snapshot')).toBe(1);
    expect(bush.byId.get(tree.id)!.lastReadingOn).toBe('2026-11-20');
    await bush.loadTree(tree.id);
    expect(bush.recordsOf(tree.id).at(-1)).toMatchObject({ valueMm: size });
    expect(times(`/trees/${tree.id}`)).toBe(0);
  });

  it('follows what others change of the bush itself, and what they may', async () => {
    const bush = await whole();
    const { settings } = bush.overview!.bush;
    const stand = { id: crypto.randomUUID(), name: 'Hill' };
    device.server.others.set(1, {
      role: 'crew',
      bush: { name: 'Other Hill', settings: { ...settings, snowMm: 400 }, version: 2, origin: null, baseMap: null },
      stands: [{ id: stand.id, stand: stand as never }],
      people: [{ id: device.server.member.id, name: 'Hedda', showsHoles: true }]
    });
    await bush.refresh();
    expect(bush.overview!.bush).toMatchObject({
      name: 'Other Hill',
      version: 2,
      role: 'crew',
      settings: { snowMm: 400 }
    });
    expect(bush.overview!.stands).toEqual([stand]);
    expect(bush.overview!.people).toHaveLength(1);
    expect(bush.mayDecide).toBe(false);
    device.server.others.set(2, { stands: [{ id: stand.id, stand: null }] });
    await bush.refresh();
    expect(bush.overview!.stands).toEqual([]);
  });

  it('takes a tree out that others took out, and another order of the walk', async () => {
    const bush = await whole();
    device.server.others.set(1, { trees: [{ id: tree.id, walkOrder: 3, tree: null }] });
    await bush.refresh();
    expect(bush.byId.has(tree.id)).toBe(false);
    const walk = trees.map(({ id }, i) => ({ id, walkOrder: trees.length - i }));
    device.server.others.set(2, { walk });
    await bush.refresh();
    expect(bush.rows.map(({ id }) => id)).toEqual(
      trees
        .map(({ id }) => id)
        .filter((id) => id !== tree.id)
        .reverse()
    );
  });

  it('begins anew where the feed is another one', async () => {
    const bush = await whole();
    device.server.feed = '6f9c2f7e-7f2f-4d43-9c4e-0d7a3c6f1a06';
    device.server.stored.push(reading(1234));
    device.server.makeSnapshot();
    await bush.refresh();
    expect(await store.books.get(BUSH)).toMatchObject({ feed: device.server.feed, number: 1, taking: null });
    expect(bush.overview!.feed).toBe(device.server.feed);
  });

  it('is asked for at a glance on another day, and where a page of the feed was missed', async () => {
    const bush = await whole();
    const before = times('');
    device.server.today = '2026-11-24';
    await bush.refresh();
    expect([times(''), bush.today]).toEqual([before + 1, '2026-11-24']);
    // This tab was closed after the page was on the device and before it was in the glance.
    device.server.stored.push(reading(1000), reading(1001));
    await store.books.update(BUSH, { number: 2 });
    device.server.stored.push(reading(1002));
    await bush.refresh();
    expect(times('')).toBe(before + 2);
    expect(bush.overview!.number).toBe(3);
  });

  it('goes from the device of one who is no member any more; what she wrote waits', async () => {
    const bush = await whole();
    device.server.mood = 'away';
    const { id } = await bush.record(tree.id, { kind: 'heightAndCrown', heightM: 20, crownRadiiM: null, note: '' });
    device.server.mood = 'noMember';
    await bush.refresh();
    await until(async () => expect(await store.lives.count()).toBe(0));
    expect([await store.books.count(), await store.overviews.count()]).toEqual([0, 0]);
    expect((await store.outbox.toArray()).map((entry) => entry.id)).toEqual([id]);
  });

  it('is begun anew for another member of this device', async () => {
    (await whole()).close();
    device.server.member = { id: 'b2f9c2f7-7f2f-4d43-9c4e-0d7a3c6f1b03', name: 'Tomke' };
    const bush = await openBush();
    await until(async () => expect((await store.books.get(BUSH))?.memberId).toBe(device.server.member.id));
    expect(bush.overview!.member).toEqual(device.server.member);
  });

  it('shows in every tab what came by one of them', async () => {
    const [one, other] = [await whole(), await whole()];
    await other.loadTree(tree.id);
    device.server.stored.push(reading(1111));
    await one.refresh();
    await until(() => expect(other.recordsOf(tree.id).at(-1)).toMatchObject({ valueMm: 1111 }));
    expect(other.overview!.number).toBe(1);
  });
});
