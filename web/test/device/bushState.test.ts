import fc from 'fast-check';
import { describe, expect, it, vi } from 'vitest';

import { tries } from '../../../testing/long.ts';
import { device, empty, newTab, openBush, store, whole, type State } from './device.ts';
import { BUSH, FailingServer, trees, type Mood } from './server.ts';

/* The bush on a device as its pages see it, with a server that fails in every way in which servers fail. */

const tree = trees[3]!;
const reading = (valueMm: number) => ({
  kind: 'reading' as const,
  quantity: 'girth' as const,
  valueMm,
  asWritten: `${valueMm / 10} cm`,
  method: 'girthTape' as const,
  heightMm: 1300
});
/** what its tape would show this autumn */
const girth = Math.round(Math.PI * (tree.dbhMm! + 4));
const sent = () => device.server.stored.map(({ id }) => id);
/** Until everything that can be sent has been. */
async function settle(bush: State): Promise<void> {
  for (let i = 0; i < 20; i++) await bush.outbox.send();
}

describe('a record written on this device', () => {
  it('shows at once, is sent, and shows the same once the server has it', async () => {
    const bush = await openBush();
    const line = bush.byId.get(tree.id)!;
    const record = await bush.record(tree.id, reading(girth));
    expect(bush.recordsOf(tree.id).filter(({ id }) => id === record.id)).toHaveLength(1);
    const before = bush.byId.get(tree.id)!;
    expect(before.dbhMm).not.toBe(line.dbhMm);
    await settle(bush);
    expect(sent()).toEqual([record.id]);
    expect(bush.outbox.entries).toEqual([]);
    expect(bush.recordsOf(tree.id).filter(({ id }) => id === record.id)).toHaveLength(1);
    expect(bush.byId.get(tree.id)).toEqual(before);
  });

  it('waits to be sent from the moment the bush shows: never is all said to be saved before', async () => {
    const before = await whole();
    device.server.mood = 'away';
    await before.record(tree.id, reading(girth));
    await before.close();
    const bush = newTab();
    const opening = bush.open();
    while (bush.overview === null) await new Promise((done) => setImmediate(done));
    expect(bush.outbox.waiting).toBe(1);
    await opening;
  });

  it('leaves what is known of its tree, also where the device’s book begins anew meanwhile', async () => {
    const bush = await whole();
    await bush.loadTree(tree.id);
    const known = bush.recordsOf(tree.id).map(({ id }) => id);
    const line = bush.byId.get(tree.id)!;
    expect(known.length).toBeGreaterThan(1);
    // A snapshot that begins takes what the device had of all trees off it, until its parts have come.
    await store.lives.clear();
    const record = await bush.record(tree.id, {
      kind: 'trunkFeature',
      what: 'seam',
      bearingDeg: 180,
      heightMm: 1200,
      note: ''
    });
    await settle(bush);
    expect(
      bush
        .recordsOf(tree.id)
        .map(({ id }) => id)
        .sort()
    ).toEqual([...known, record.id].sort());
    expect(bush.stateOf(tree.id).dbhMm).not.toBeNull();
    expect((await store.lives.get(tree.id))!.records).toHaveLength(known.length + 1);
    expect(bush.byId.get(tree.id)!.dbhMm).toBe(line.dbhMm);
  });

  it('waits without a network, also when the page is opened anew, and goes when there is one', async () => {
    const bush = await openBush();
    device.server.mood = 'away';
    const record = await bush.record(tree.id, reading(girth));
    const line = bush.byId.get(tree.id)!;
    await settle(bush);
    expect([bush.outbox.waiting, bush.outbox.offline, sent()]).toEqual([1, true, []]);
    await bush.close();

    const again = await openBush();
    expect(again.outbox.entries.map(({ id }) => id)).toEqual([record.id]);
    expect(again.byId.get(tree.id)).toEqual(line);
    device.server.mood = 'well';
    window.dispatchEvent(new Event('online'));
    await settle(again);
    expect([sent(), again.outbox.entries]).toEqual([[record.id], []]);
  });

  it('is stored once when the answer to it was lost on the way', async () => {
    const bush = await openBush();
    device.server.next = ['lostAnswer'];
    const record = await bush.record(tree.id, reading(girth));
    await settle(bush);
    expect([sent(), bush.outbox.entries, bush.outbox.offline]).toEqual([[record.id], [], false]);
  });

  it('is never sent in the name of another member of this device', async () => {
    const bush = await openBush();
    device.server.mood = 'away';
    const record = await bush.record(tree.id, reading(girth));
    await bush.close();
    device.server.mood = 'well';
    const hedda = device.server.member;
    device.server.member = { id: 'b2f9c2f7-7f2f-4d43-9c4e-0d7a3c6f1b03', name: 'Tomke' };
    const other = await openBush();
    await settle(other);
    expect([sent(), other.outbox.entries]).toEqual([[], []]);
    await other.close();
    device.server.member = hedda;
    await settle(await openBush());
    expect(sent()).toEqual([record.id]);
  });

  it('stays, with the reason in words, where the session is over or too much was asked', async () => {
    const bush = await openBush();
    for (const [mood, words] of [
      ['signedOut', /Sign in again/],
      ['throttled', /wait a minute/]
    ] as const) {
      device.server.mood = mood;
      await bush.record(tree.id, reading(girth));
      await settle(bush);
      expect(bush.outbox.problem).toMatch(words);
    }
    expect([bush.outbox.waiting, sent()]).toEqual([2, []]);
    device.server.mood = 'well';
    await settle(bush);
    expect([bush.outbox.waiting, bush.outbox.problem, sent().length]).toEqual([0, null, 2]);
  });

  it('where the session is over, what is here is worked with as before, until somebody signs in', async () => {
    const bush = await openBush();
    device.server.mood = 'signedOut';
    await bush.refresh();
    expect([bush.signedOut, bush.rows.length]).toEqual([true, trees.length]);
    const record = await bush.record(tree.id, reading(girth));
    await settle(bush);
    expect(bush.recordsOf(tree.id).some(({ id }) => id === record.id)).toBe(true);
    device.server.mood = 'well';
    await bush.refresh();
    await settle(bush);
    expect([bush.signedOut, sent()]).toEqual([false, [record.id]]);
  });

  it('waits as without a network while a proxy answers for a server that is down, however often it is tried', async () => {
    const bush = await openBush();
    device.server.mood = 'proxyPage';
    const record = await bush.record(tree.id, reading(girth));
    await settle(bush);
    expect([bush.outbox.waiting, bush.outbox.refused, bush.outbox.offline]).toEqual([1, [], true]);
    device.server.mood = 'well';
    await settle(bush);
    expect([sent(), bush.outbox.entries, bush.outbox.offline]).toEqual([[record.id], [], false]);
  });

  it('stays at hand to be taken back, in another tab too, until it is', async () => {
    const bush = await whole();
    const record = await bush.record(tree.id, reading(girth));
    await bush.lastDone.add('Tree 4: measured.', [record]);
    await settle(bush);
    const later = await openBush();
    expect(later.lastDone.list.map(({ said }) => said)).toEqual(['Tree 4: measured.']);
    await later.withdraw(...later.lastDone.list[0]!.records);
    expect(later.lastDone.list).toEqual([]);
    await settle(later);
    expect((await openBush()).lastDone.list).toEqual([]);
  });

  it('that corrected another is taken back: what it corrected stands again', async () => {
    const bush = await whole();
    await bush.loadTree(tree.id);
    const first = await bush.record(tree.id, reading(girth));
    const second = await bush.record(tree.id, { ...reading(girth + 300), correctsId: first.id });
    const said = () => bush.stateOf(tree.id).readings.map(({ valueMm }) => valueMm);
    expect(said()).toContain(girth + 300);
    const [again] = await bush.takeBack(second);
    expect(said()).toContain(girth);
    expect(said()).not.toContain(girth + 300);
    // And that one, which brought it back, goes altogether where the first was itself taken back.
    await bush.withdraw(again!);
    expect(said()).not.toContain(girth);
    await settle(bush);
  });

  it('of the bush that corrected or crossed out another is taken back: the other stands again', async () => {
    const bush = await whole();
    const place = { kind: 'collectingPlace', vessel: 'tank', litres: 500, carrier: 'vehicle', treeIds: [] } as const;
    const first = await bush.recordOfBush({ ...place, name: 'Tank' } as never);
    const emptied = { kind: 'collection', placeId: first.id, hour: 9, litres: 80, taps: 20, went: 'kept' } as const;
    await bush.recordOfBush(emptied as never);
    const renamed = await bush.recordOfBush({ ...place, name: 'Steep tank', correctsId: first.id } as never);
    const named = () => bush.bushRecords.flatMap((record) => (record.kind === 'collectingPlace' ? record.name : []));
    /** Whose sap it was that was emptied. */
    const emptiedAt = () => {
      const one = bush.bushRecords.find((record) => record.kind === 'collection');
      return bush.bushRecords.flatMap((r) => (r.kind === 'collectingPlace' && r.id === one?.placeId ? r.name : []));
    };
    expect([named(), emptiedAt()]).toEqual([['Steep tank'], ['Steep tank']]);
    await bush.takeBack(renamed);
    expect([named(), emptiedAt()]).toEqual([['Tank'], ['Tank']]);
    const [gone] = await bush.withdraw(bush.bushRecords.find(({ kind }) => kind === 'collectingPlace')!);
    expect([named(), emptiedAt()]).toEqual([[], []]);
    await bush.takeBack(gone!);
    expect([named(), emptiedAt()]).toEqual([['Tank'], ['Tank']]);
    await settle(bush);
  });

  it('that was refused stays to be read, on this device, until a person drops it', async () => {
    const bush = await openBush();
    device.server.mood = 'away';
    const [bad, good] = await bush.recordAll([
      { treeId: tree.id, draft: reading(girth) },
      { treeId: tree.id, draft: reading(girth + 6) }
    ]);
    device.server.refuses.set(bad!.id, 'The year is far off.');
    device.server.mood = 'well';
    await settle(bush);
    expect(sent()).toEqual([good!.id]);
    await bush.close();
    const again = await openBush();
    expect(again.outbox.refused.map(({ id, refused }) => [id, refused])).toEqual([[bad!.id, 'The year is far off.']]);
    // What was refused does not count on the screen.
    expect(again.recordsOf(tree.id).some(({ id }) => id === bad!.id)).toBe(false);
    await again.outbox.drop(bad!.id);
    expect(again.outbox.entries).toEqual([]);
  });

  it('that was refused is sent again as it is, or for the tree that it was meant for', async () => {
    const bush = await openBush();
    device.server.mood = 'away';
    const [one, two] = await bush.recordAll([
      { treeId: tree.id, draft: reading(girth) },
      { treeId: tree.id, draft: reading(girth + 6) }
    ]);
    for (const { id } of [one!, two!]) device.server.refuses.set(id, 'The tree is not in this bush.');
    device.server.mood = 'well';
    await settle(bush);
    expect(bush.outbox.refused).toHaveLength(2);
    // What stood in their way still does: they are kept, with the reason.
    await bush.outbox.again(bush.outbox.refused);
    expect([bush.outbox.refused.length, sent()]).toEqual([2, []]);
    device.server.refuses.clear();
    const meant = trees[5]!.id;
    await bush.outbox.giveTo(
      bush.outbox.refused.find(({ id }) => id === two!.id)!,
      meant
    );
    await bush.outbox.again(bush.outbox.refused);
    expect(bush.outbox.entries).toEqual([]);
    expect(device.server.stored.map((r) => [r.id, 'treeId' in r && r.treeId])).toEqual([
      [two!.id, meant],
      [one!.id, tree.id]
    ]);
  });

  it('on which the server breaks every time is set aside after three tries; all others arrive', async () => {
    const bush = await openBush();
    device.server.mood = 'away';
    const records = await bush.recordAll(
      Array.from({ length: 30 }, (_, i) => ({ treeId: trees[i % 10]!.id, draft: reading(1200 + i) }))
    );
    const bad = records[17]!.id;
    device.server.poison.add(bad);
    device.server.mood = 'well';
    await settle(bush);
    expect(sent()).toEqual(records.map(({ id }) => id).filter((id) => id !== bad));
    expect(bush.outbox.refused.map(({ id, refused }) => [id, refused])).toEqual([
      [bad, 'Something broke on the server.']
    ]);
  });
});

describe('a device that does not keep what it is given', () => {
  it('says so of a record that is in no store, and takes it back once the next one is kept', async () => {
    const bush = await openBush();
    vi.spyOn(store.outbox, 'bulkPut').mockRejectedValueOnce(new Error('The quota is exceeded.'));
    await expect(bush.record(tree.id, reading(girth))).rejects.toThrow('quota');
    expect([bush.problem, bush.outbox.entries]).toEqual([
      expect.stringMatching(/^Not saved: .*quota.*Free some space/s),
      []
    ]);
    await bush.record(tree.id, reading(girth));
    await settle(bush);
    expect([bush.problem, sent().length]).toEqual([null, 1]);
  });

  it('says so where the bush cannot be opened or brought along', async () => {
    vi.spyOn(console, 'error').mockReturnValue();
    vi.spyOn(store.glances, 'get').mockRejectedValue(new Error('IndexedDB is not there.'));
    const bush = await openBush();
    expect(bush.problem).toMatch(/IndexedDB is not there.*private browsing/s);
    vi.restoreAllMocks();
    await bush.close();
    vi.spyOn(console, 'error').mockReturnValue();
    vi.spyOn(store.lives, 'bulkPut').mockRejectedValue(new Error('The disk is full.'));
    const again = await openBush();
    await vi.waitFor(() => expect(again.problem).toContain('The disk is full.'));
    expect(again.rows.length).toBe(trees.length);
    vi.restoreAllMocks();
  });

  it('mends a pack of lines that it spoilt from what else is here', async () => {
    const bush = await openBush();
    await vi.waitFor(async () => expect((await store.books.get(BUSH))?.taking).toBeNull(), 30_000);
    const rows = bush.rows;
    await bush.close();
    await store.packs.where('bushId').equals(BUSH).modify({ text: '[{"id":' });
    device.server.mood = 'away';
    expect((await openBush()).rows).toEqual(rows);
  });
});

describe('a tree that came into the registry here', () => {
  const entry = { kind: 'entry' as const, tag: '9000', tagged: true, standId: null, stemOf: null, note: '' };

  it('stands where it was put on the walk, before and after the server has it', async () => {
    const bush = await openBush();
    device.server.mood = 'away';
    const treeId = crypto.randomUUID();
    await bush.record(treeId, { ...entry, afterId: trees[4]!.id });
    await bush.record(treeId, reading(900));
    const line = () => bush.rows.map(({ id }) => id).slice(4, 7);
    expect(line()).toEqual([trees[4]!.id, treeId, trees[5]!.id]);
    device.server.mood = 'well';
    await settle(bush);
    expect([bush.outbox.entries, sent().length]).toEqual([[], 2]);
    expect(line()).toEqual([trees[4]!.id, treeId, trees[5]!.id]);
  });

  it('whose tag was taken meanwhile is sent under another, with what was refused for want of it', async () => {
    const bush = await openBush();
    device.server.mood = 'away';
    const treeId = crypto.randomUUID();
    const born = await bush.record(treeId, { ...entry, afterId: null });
    const size = await bush.record(treeId, reading(900));
    device.server.refuses.set(born.id, 'There is a tree 9000 already.').set(size.id, 'The tree is not in this bush.');
    device.server.mood = 'well';
    await settle(bush);
    expect(bush.outbox.refused).toHaveLength(2);
    device.server.refuses.clear();
    await bush.outbox.retag(bush.outbox.refused[0]!, '9001');
    await settle(bush);
    expect(bush.outbox.entries).toEqual([]);
    expect(device.server.stored.map((record) => [record.id, 'tag' in record ? record.tag : null])).toEqual([
      [born.id, '9001'],
      [size.id, null]
    ]);
  });
});

describe('whatever the server does', () => {
  const moods: readonly Mood[] = ['well', 'away', 'lostAnswer', 'broken', 'signedOut', 'throttled', 'proxyPage'];

  it('every record is on the server, waiting here, or here with a reason: never in none of them, never twice', async () => {
    await fc.assert(
      fc.asyncProperty(
        fc.array(
          fc.record({
            size: fc.integer({ min: 1, max: 9 }),
            moods: fc.array(fc.constantFrom(...moods), { maxLength: 6 })
          }),
          {
            minLength: 1,
            maxLength: 6
          }
        ),
        fc.integer({ min: 1, max: 12 }),
        fc.boolean(),
        async (turns, mostRecords, reopens) => {
          device.server = new FailingServer();
          device.server.mostRecords = mostRecords;
          await empty();
          let bush = await openBush();
          const written: string[] = [];
          for (const turn of turns) {
            device.server.next = [...turn.moods];
            const drafts = Array.from({ length: turn.size }, (_, i) => ({
              treeId: trees[(written.length + i) % trees.length]!.id,
              draft: reading(1000 + written.length + i)
            }));
            written.push(...(await bush.recordAll(drafts)).map(({ id }) => id));
            await bush.outbox.send();
            if (reopens) {
              bush.close();
              bush = await openBush();
            }
            const here = bush.outbox.entries.map(({ id }) => id);
            expect(new Set([...sent(), ...here])).toEqual(new Set(written));
            expect(new Set(sent()).size).toBe(sent().length);
          }
          device.server.next = [];
          await settle(bush);
          expect(new Set([...sent(), ...bush.outbox.refused.map(({ id }) => id)])).toEqual(new Set(written));
          expect(bush.outbox.waiting).toBe(0);
          bush.close();
        }
      ),
      tries(60)
    );
  });
});
