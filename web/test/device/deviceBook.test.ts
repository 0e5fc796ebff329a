import { deriveTree, treeRow } from '@baumkin/core/records';
import { describe, expect, it, vi } from 'vitest';

import { device, openBush, reading, store, tree, until, whole } from './device.ts';
import { BUSH, trees } from './server.ts';

const { DeviceBook } = await import('../../src/lib/client/deviceBook.ts');
const { isWhole } = await import('../../src/lib/client/bookHere.ts');
const { replaceBushRecords } = await import('../../src/lib/client/bushPacks.ts');
const { readLines } = await import('../../src/lib/client/linePacks.ts');

/* The book of a bush on this device: how it is kept in step, and when it goes. */

const times = (path: string) => device.server.asked.filter((asked) => asked === path).length;

describe('a bush that is on this device', () => {
  it('is not asked for again: what is new comes by the feed, and shows', async () => {
    await (await whole()).close();
    const before = times('/lines');
    const size = Math.round(Math.PI * (tree.dbhMm! + 9));
    device.server.stored.push(reading(size));
    const bush = await openBush();
    expect(times('/lines')).toBe(before);
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
      bush: {
        name: 'Other Hill',
        settings: { ...settings, snowMm: 400 },
        version: 2,
        origin: null,
        goneAt: null,
        baseMap: null
      },
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
    // The look that brought the bush here may have met the other feed by itself: then it is the one that begins anew.
    await until(async () =>
      expect(await store.books.get(BUSH)).toMatchObject({ feed: device.server.feed, number: 1, taking: null })
    );
    expect(bush.overview!.feed).toBe(device.server.feed);
  });

  it('is not begun anew for ever where what comes fits nothing', async () => {
    const bush = await whole();
    const before = times('/snapshot');
    device.server.others.set(1, { memberId: 'somebody else' });
    await bush.refresh();
    expect(bush.problem).toContain('cannot be followed');
    expect(times('/snapshot') - before).toBe(3);
    device.server.others.set(1, {});
    // As it says, it is tried again by itself; the bush at a glance is there before all of it is.
    await until(() => expect(bush.problem).toBeNull());
    await until(async () => expect(await isWhole(BUSH)).toBe(true));
    vi.spyOn(console, 'error').mockReturnValue();
    device.server.others.set(2, { records: undefined });
    await bush.refresh();
    expect(bush.problem).toContain('cannot be followed');
    vi.restoreAllMocks();
  });

  it('is told for another day without being asked for', async () => {
    const bush = await whole();
    const before = times('/lines');
    const line = bush.byId.get(tree.id)!;
    device.server.today = '2026-12-24';
    await bush.refresh();
    expect([times('/lines'), bush.today]).toEqual([before, '2026-12-24']);
    expect(bush.byId.get(tree.id)!.dbhMm).toBeGreaterThan(line.dbhMm!);
    await bush.close();
    expect((await openBush()).byId.get(tree.id)).toEqual(bush.byId.get(tree.id));
  });

  it('knows without a network that days have passed', async () => {
    const before = await whole();
    await before.close();
    const kept = (await store.glances.get(BUSH))!;
    const ago = new Date(Date.parse(kept.dayHere) - 3 * 86_400_000).toISOString().slice(0, 10);
    await store.glances.put({ ...kept, dayHere: ago });
    device.server.mood = 'away';
    const bush = await openBush();
    await until(() => expect(bush.today).toBe('2026-11-26'));
    expect(bush.byId.get(tree.id)!.dbhMm).toBeGreaterThan(before.byId.get(tree.id)!.dbhMm!);
  });

  it('is derived anew from what is here by another program, and for another season', async () => {
    await (await whole()).close();
    await store.glances.update(BUSH, { core: 'another' });
    await store.packs.where('bushId').equals(BUSH).modify({ text: '{"keys":["nonsense"],"rows":[]}' });
    const before = times('/lines');
    const bush = await openBush();
    expect([bush.rows.length, times('/lines')]).toEqual([trees.length, before]);
    expect(bush.byId.get(tree.id)!.lastTappedSeason).toBe(tree.lastTappedSeason);
    device.server.season = 2030;
    await bush.refresh();
    expect([bush.season, times('/lines')]).toEqual([2030, before]);
    expect(bush.rows.map(({ decidedTaps }) => decidedTaps)).toEqual(trees.map(() => null));
  });

  it('has what came with a release where another program kept the bush, network or not', async () => {
    await (await whole()).close();
    const kept = (await store.glances.get(BUSH))!;
    const { alsoTaps: _, ...settings } = kept.glance.bush.settings;
    const place = {
      kind: 'collectingPlace',
      id: crypto.randomUUID(),
      on: '2026-02-20',
      recordedAt: '2026-02-20T10:00:00Z'
    };
    const said = { ...place, name: 'West', vessel: 'bucket', litres: 13, carrier: 'hand', treeIds: [], authorId: 'x' };
    const glance = {
      ...kept.glance,
      bush: { ...kept.glance.bush, settings }
    };
    await store.glances.put({ ...kept, core: 'another', glance } as never);
    await replaceBushRecords(BUSH, [said, { kind: 'unheard of', on: '2026-02-20' }] as never);
    device.server.mood = 'away';
    const bush = await openBush();
    await until(() => expect(bush.overview!.bush.settings.alsoTaps).toEqual([]));
    expect(bush.bushRecords).toMatchObject([{ name: 'West', of: 'maple', authorId: 'x' }]);
  });

  it('writes no more than this year’s records of the bush for what comes today', async () => {
    const emptied = (on: string) => ({ kind: 'collection', id: crypto.randomUUID(), on, litres: 90 }) as never;
    const bush = await whole();
    const old = [emptied('2001-03-04'), emptied('2026-03-04')];
    await replaceBushRecords(BUSH, old);
    const written = vi.spyOn(store.bushPacks, 'put');
    const glanced = vi.spyOn(store.glances, 'put');
    const today = emptied('2026-03-09');
    device.server.stored.push(today);
    await bush.refresh();
    await until(() => expect(written).toHaveBeenCalledTimes(1));
    expect(JSON.parse(written.mock.calls[0]![0].text)).toEqual([old[1], today]);
    expect(JSON.stringify(glanced.mock.calls)).not.toContain('"collection"');
    // Another page of this device reads them all, the oldest first.
    const again = await openBush();
    expect(again.bushRecords.map(({ on }) => on)).toEqual(['2001-03-04', '2026-03-04', '2026-03-09']);
  });

  it('asks for records of the bush anew where a disk spoilt them', async () => {
    const place = { kind: 'collection', id: crypto.randomUUID(), on: '2026-03-04', recordedAt: '2026-03-04T10:00:00Z' };
    device.server.stored.push({ ...place, litres: 90 } as never);
    await whole();
    await store.bushPacks.update([BUSH, '2026'], { text: '[{"kind' });
    const bush = await openBush();
    await until(() => expect(bush.bushRecords.map(({ id }) => id)).toEqual([place.id]));
    expect(await isWhole(BUSH)).toBe(true);
  });

  it('has the lines of its records, however what is sent and what others wrote cross each other', async () => {
    const bush = await whole();
    for (let i = 0; i < 12; i++) {
      device.server.stored.push(reading(900 + i, trees[i % 3]!.id));
      const {
        id: _,
        authorId: _a,
        recordedAt: _r,
        correctsId: _c,
        withdrawn: _w,
        treeId,
        ...own
      } = reading(950 + i, trees[i % 3]!.id);
      await Promise.all([bush.record(treeId, { ...own, on: `2026-10-${10 + i}` }), bush.refresh()]);
      if (i % 4 === 0) await bush.outbox.send();
    }
    for (let i = 0; i < 5; i++) await bush.outbox.send();
    await bush.refresh();
    const { glance, expects } = (await store.glances.get(BUSH))!;
    const lives = await store.lives.bulkGet(trees.slice(0, 3).map(({ id }) => id));
    const lines = new Map((await readLines(BUSH)).map((row) => [row.id, row]));
    expect(
      lives.map((life) => life!.records.filter(({ kind, on }) => kind === 'reading' && on > '2026-09').length)
    ).toEqual([8, 8, 8]);
    for (const life of lives)
      expect(lines.get(life!.treeId)!.readings).toEqual(
        treeRow(life!.tree!, deriveTree(life!.records, glance, expects)).readings
      );
  });

  it('keeps a record that arrived and the line that follows from it together, or neither', async () => {
    const bush = await whole();
    device.server.mood = 'away';
    await bush.record(tree.id, { kind: 'heightAndCrown', heightM: 21, crownRadiiM: null, note: '' });
    device.server.mood = 'well';
    vi.spyOn(store.packs, 'bulkPut').mockRejectedValueOnce(new Error('The disk is full.'));
    const told = vi.spyOn(console, 'error').mockReturnValue();
    await until(async () => {
      await bush.outbox.send();
      expect(bush.outbox.problem).toContain('The disk is full.');
    });
    expect(told).toHaveBeenCalled();
    vi.restoreAllMocks();
    expect((await store.lives.get(tree.id))!.records.some(({ kind }) => kind === 'heightAndCrown')).toBe(false);
    expect(bush.outbox.waiting).toBe(1);
    await bush.outbox.send();
    await bush.outbox.send();
    expect(bush.outbox.problem).toBeNull();
    expect([bush.outbox.waiting, (await readLines(BUSH)).find(({ id }) => id === tree.id)!.heightM]).toEqual([0, 21]);
  });

  it('expects something else of all trees once enough of them have changed, not the next day alone', async () => {
    const bush = await whole();
    expect(bush.expects.sizes ?? null).toBeNull();
    const entries = Array.from({ length: 24 }, (_, i) => {
      const treeId = `5f9c2f7e-7f2f-4d43-9c4e-0000000000${String(i).padStart(2, '0')}`;
      const {
        quantity: _q,
        valueMm: _v,
        asWritten: _a,
        method: _m,
        heightMm: _h,
        confirmed: _c,
        ...rest
      } = reading(1, treeId);
      const entry = {
        ...rest,
        id: crypto.randomUUID(),
        kind: 'entry' as const,
        tag: `n${i}`,
        tagged: true,
        standId: null,
        stemOf: null,
        afterId: null
      };
      return [entry, reading(900 + 10 * i, treeId)];
    });
    device.server.stored.push(...entries.flat());
    await bush.refresh();
    expect(bush.rows.length).toBe(trees.length + 24);
    expect(bush.expects.sizes!.medianMm).toBeGreaterThan(250);
    await bush.close();
    expect((await openBush()).expects.sizes).toEqual(bush.expects.sizes);
  });

  it('knows without a network that the season has turned', async () => {
    await (await whole()).close();
    const kept = (await store.glances.get(BUSH))!;
    const ago = new Date(Date.parse(kept.dayHere) - 365 * 86_400_000).toISOString().slice(0, 10);
    await store.glances.put({ ...kept, dayHere: ago });
    device.server.mood = 'away';
    const bush = await openBush();
    await until(() => expect([bush.today, bush.season]).toEqual(['2027-11-23', 2028]));
    expect(bush.rows.map(({ decidedTaps }) => decidedTaps)).toEqual(trees.map(() => null));
  });

  it('is read anew where another tab took a page of the feed and this one missed it', async () => {
    const bush = await whole();
    device.server.stored.push(reading(1000));
    const quiet = {
      progress: () => undefined,
      changed: () => undefined,
      replaced: () => undefined,
      refilled: () => undefined
    };
    await new DeviceBook(BUSH, quiet).sync();
    expect(bush.overview!.number).toBe(0);
    device.server.stored.push(reading(1002, trees[4]!.id));
    await bush.refresh();
    expect(bush.overview!.number).toBe(2);
    expect([tree.id, trees[4]!.id].map((id) => bush.byId.get(id)!.readings.at(-1)!.on)).toEqual([
      '2026-11-20',
      '2026-11-20'
    ]);
  });

  it('is left alone where it was forgotten while a page of its feed came', async () => {
    await (await whole()).close();
    const logged = vi.spyOn(console, 'error');
    const quiet = {
      progress: () => undefined,
      changed: () => undefined,
      replaced: () => undefined,
      refilled: () => undefined
    };
    device.server.stored.push(reading(1031));
    const { asked } = device.server;
    const push = asked.push.bind(asked);
    vi.spyOn(asked, 'push').mockImplementation((...paths) => {
      if (paths.includes('/changes')) void new DeviceBook(BUSH, quiet).forget();
      return push(...paths);
    });
    expect((await new DeviceBook(BUSH, quiet).sync()).kind).toBe('inStep');
    expect([await store.books.count(), await store.glances.count(), await store.lives.count()]).toEqual([0, 0, 0]);
    expect(logged).not.toHaveBeenCalled();
    vi.restoreAllMocks();
  });

  it('is here as a whole only with what came after its snapshot, and takes no part of it twice for that', async () => {
    device.server.makeSnapshot();
    device.server.stored.push(reading(1041));
    const quiet = {
      progress: () => undefined,
      changed: () => undefined,
      replaced: () => undefined,
      refilled: () => undefined
    };
    const { asked } = device.server;
    const push = asked.push.bind(asked);
    vi.spyOn(asked, 'push').mockImplementation((...paths) => {
      if (paths.includes('/changes')) throw new TypeError('Failed to fetch');
      return push(...paths);
    });
    vi.spyOn(console, 'error').mockReturnValue();
    expect((await new DeviceBook(BUSH, quiet).sync()).kind).toBe('problem');
    expect(await store.lives.count()).toBe(trees.length);
    expect(await isWhole(BUSH)).toBe(false);
    vi.restoreAllMocks();
    const parts = asked.filter((path) => path.startsWith('/snapshot/')).length;
    expect((await new DeviceBook(BUSH, quiet).sync()).kind).toBe('inStep');
    expect(await isWhole(BUSH)).toBe(true);
    expect(asked.filter((path) => path.startsWith('/snapshot/'))).toHaveLength(parts);
    expect((await store.lives.get(tree.id))!.records.at(-1)).toMatchObject({ valueMm: 1041 });
  });

  it('is told of as a whole only once what came after its snapshot is here too: nothing goes back for a moment', async () => {
    device.server.makeSnapshot();
    device.server.stored.push(reading(1021));
    const followed = times('/changes');
    const told: number[] = [];
    const owner = {
      progress: () => undefined,
      changed: () => undefined,
      replaced: () => undefined,
      refilled: () => void told.push(times('/changes') - followed)
    };
    const book = new DeviceBook(BUSH, owner);
    await book.sync();
    await book.sync();
    expect(told).toEqual([1]);
  });

  it('is listened to again after a no: a proxy’s, whose server is started anew', async () => {
    const heard: EventTarget[] = [];
    class Events extends EventTarget {
      static readonly CLOSED = 2;
      readyState = 1;
      constructor() {
        super();
        heard.push(this);
      }
      close(): void {
        this.readyState = 2;
      }
    }
    vi.stubGlobal('EventSource', Events);
    const bush = await whole();
    await until(() => expect(heard).toHaveLength(1));
    device.server.stored.push(reading(1010));
    Object.assign(heard[0]!, { readyState: 2 });
    heard[0]!.dispatchEvent(new Event('error'));
    // What was missed meanwhile is looked for at once.
    await until(() => expect(bush.overview!.number).toBe(1));
    await until(() => expect(heard).toHaveLength(2));
    device.server.stored.push(reading(1011));
    heard[1]!.dispatchEvent(
      Object.assign(new Event('changed'), { data: JSON.stringify({ feed: device.server.feed, last: 2 }) })
    );
    await until(() => expect(bush.overview!.number).toBe(2));
    await bush.close();
    expect(heard.map((events) => (events as Events).readyState)).toEqual([2, 2]);
    Reflect.deleteProperty(globalThis, 'EventSource');
  });

  it('goes from the device of one who is no member any more; what she wrote waits', async () => {
    const bush = await whole();
    device.server.mood = 'away';
    const { id } = await bush.record(tree.id, { kind: 'heightAndCrown', heightM: 20, crownRadiiM: null, note: '' });
    device.server.mood = 'noMember';
    await bush.refresh();
    await until(async () => expect(await store.lives.count()).toBe(0));
    expect([await store.books.count(), await store.glances.count(), await store.packs.count()]).toEqual([0, 0, 0]);
    expect((await store.outbox.toArray()).map((entry) => entry.id)).toEqual([id]);
  });

  it('is begun anew for another member of this device', async () => {
    await (await whole()).close();
    device.server.member = { id: 'b2f9c2f7-7f2f-4d43-9c4e-0d7a3c6f1b03', name: 'Tomke' };
    const bush = await openBush();
    await until(async () => expect((await store.books.get(BUSH))?.memberId).toBe(device.server.member.id));
    expect(bush.overview!.member).toEqual(device.server.member);
  });

  it('goes on showing what comes after something that could not be read', async () => {
    const logged = vi.spyOn(console, 'error').mockImplementation(() => undefined);
    const bush = await whole();
    await bush.loadTree(tree.id);
    const keeps = store.lives.bulkGet.bind(store.lives);
    const reads = vi.spyOn(store.lives, 'bulkGet');
    reads.mockImplementationOnce(((ids: string[]) => keeps(ids)) as never);
    reads.mockRejectedValueOnce(new Error('The disk is busy'));
    device.server.stored.push(reading(1111));
    await bush.refresh();
    expect(reads).toHaveBeenCalledTimes(2);
    expect(logged).toHaveBeenCalledWith(new Error('The disk is busy'));
    expect(bush.recordsOf(tree.id).at(-1)).not.toMatchObject({ valueMm: 1111 });
    reads.mockRestore();
    device.server.stored.push(reading(1112));
    await bush.refresh();
    expect(bush.recordsOf(tree.id).map((record) => 'valueMm' in record && record.valueMm)).toEqual(
      expect.arrayContaining([1111, 1112])
    );
    logged.mockRestore();
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
