import { randomUUID } from 'node:crypto';
import { gunzipSync } from 'node:zlib';
import {
  effectiveRecords,
  type BushRecord,
  type SiteFeature,
  type Stand,
  type WorkRecord
} from '@baumkin/core/records';
import fc from 'fast-check';
import { describe, expect, it, vi } from 'vitest';

import { tries } from '../../testing/long.ts';
import { createAccount } from '../src/lib/server/accounts.ts';
import { restoreText, writeArchive } from './archives.ts';
import { bushFor, changeSettings, createBush, deleteShape, upsertShape } from '../src/lib/server/bushes.ts';
import { changesAfter, type Changes, type Registered } from '../src/lib/server/changes.ts';
import { Bush, Change, Membership, Snapshot, SnapshotPart, TreeRecord } from '../src/lib/server/db/index.ts';
import { listen } from '../src/lib/server/listeners.ts';
import { showHoles } from '../src/lib/server/members.ts';
import { storeRecords } from '../src/lib/server/records.ts';
import { snapshotOf, snapshotPart, type SnapshotHead, type SnapshotTrees } from '../src/lib/server/snapshot.ts';
import { reorderWalk, treeLife, treesOf } from '../src/lib/server/trees.ts';
import { GET as glance } from '../src/routes/api/v1/bushes/[bush]/+server.ts';
import { book, entry, hill, NOW, reading } from './doorsSupport.ts';
import { letIn, useFreshDatabase } from './database.ts';

useFreshDatabase();

/** A book that knows of a bush what snapshot and changes told it, as a program that follows them would keep it. */
class Follower {
  feed = '';
  number = 0;
  trees = new Map<string, Registered>();
  records = new Map<string, WorkRecord | BushRecord>();
  stands = new Map<string, Stand>();
  features = new Map<string, SiteFeature>();
  head: unknown = null;
  people: unknown = null;

  constructor(readonly bushId: string) {}

  async begin(): Promise<void> {
    let made: Promise<void> | undefined;
    const { feed, number } = await snapshotOf(this.bushId, { background: (making) => (made = making) });
    await made;
    Object.assign(this, { feed, number });
    const { parts, ready } = await snapshotOf(this.bushId);
    expect(ready).toBe(parts);
    const part = async (i: number) =>
      JSON.parse(gunzipSync((await snapshotPart(this.bushId, number, i))!).toString()) as SnapshotHead & SnapshotTrees;
    const { whole } = await part(0);
    const { people, stands, features, damaged: _damaged, bushRecords, ...head } = whole;
    this.head = head;
    this.people = people;
    this.stands = new Map(stands.map((stand) => [stand.id, stand]));
    this.features = new Map(features.map((feature) => [feature.id, feature]));
    for (const record of bushRecords) this.records.set(record.id, record);
    for (let i = 1; i < parts; i++)
      for (const { records, ...tree } of (await part(i)).lives) {
        this.trees.set(tree.id, tree);
        for (const record of records) this.records.set(record.id, record);
      }
  }

  /** Takes one page. @returns whether there is more */
  async follow(): Promise<boolean> {
    const changes = await changesAfter(this.bushId, this.feed, this.number);
    this.take(changes);
    return changes.to < changes.last;
  }

  take({ to, trees, records, bushRecords, stands, features, walk, bush, people }: Changes): void {
    this.number = to;
    for (const tree of trees) this.trees.set(tree.id, tree);
    for (const record of [...records, ...bushRecords]) this.records.set(record.id, record);
    for (const { id, stand } of stands)
      if (stand) this.stands.set(id, stand);
      else this.stands.delete(id);
    for (const { id, feature } of features)
      if (feature) this.features.set(id, feature);
      else this.features.delete(id);
    for (const { id, walkOrder } of walk ?? []) {
      const known = this.trees.get(id)!;
      this.trees.set(id, { ...known, walkOrder, tree: known.tree && { ...known.tree, walkOrder } });
    }
    if (bush) this.head = bush;
    if (people) this.people = people;
  }

  /** All that it knows, in an order of its own. */
  get canonical(): string {
    const sorted = <T>(map: ReadonlyMap<string, T>) => [...map].sort(([a], [b]) => (a < b ? -1 : 1));
    const { head, people, trees, records, stands, features } = this;
    return JSON.stringify(
      [head, people, sorted(trees), sorted(records), sorted(stands), sorted(features)],
      (_key, value: unknown) =>
        value && typeof value === 'object' && !Array.isArray(value)
          ? Object.fromEntries(Object.entries(value).sort(([a], [b]) => (a < b ? -1 : 1)))
          : value
    );
  }
}

/** What the server itself holds, told by a snapshot that is made now. */
async function whole(bushId: string): Promise<string> {
  await Snapshot.destroy({ where: { bushId } });
  await SnapshotPart.destroy({ where: { bushId } });
  const fresh = new Follower(bushId);
  await fresh.begin();
  return fresh.canonical;
}

describe('the feed of changes', () => {
  it('tells whoever follows it all that the server holds, after any run of writes', async () => {
    type Step =
      'tree' | 'read' | 'correct' | 'out' | 'stand' | 'noStand' | 'feature' | 'settings' | 'walk' | 'people' | 'file';
    const steps = fc.array(
      fc.tuple(
        fc.constantFrom<Step>(
          ...([
            'tree',
            'read',
            'correct',
            'out',
            'stand',
            'noStand',
            'feature',
            'settings',
            'walk',
            'people',
            'file'
          ] as const)
        ),
        fc.integer({ min: 0, max: 999 })
      ),
      { minLength: 3, maxLength: 15 }
    );
    await fc.assert(
      fc.asyncProperty(steps, async (run) => {
        const { bushId, userId, send, bring } = await book();
        const follower = new Follower(bushId);
        await follower.begin();
        const stands: string[] = [];
        const by = async () => ({ bushId, authorId: userId, seen: (await Bush.findByPk(bushId))!.version, now: NOW });
        for (const [step, at] of run) {
          const trees = await treesOf(bushId);
          const tree = trees[at % Math.max(1, trees.length)];
          if (step === 'tree')
            await send(
              entry(randomUUID(), `n${at}`, {
                afterId: at % 3 === 0 ? null : (tree?.id ?? null),
                standId: stands[0] ?? null
              })
            );
          else if (step === 'read' && tree) await send(reading(tree.id, 900 + at), reading(tree.id, 905 + at));
          else if (step === 'correct' && tree) {
            const first = reading(tree.id, 800 + at);
            await send(first, { ...first, id: randomUUID(), correctsId: first.id, withdrawn: at % 2 === 0 });
          } else if (step === 'out' && tree) {
            const life = (await treeLife(bushId, tree.id))!.filter((record) => record.kind === 'entry');
            const last = effectiveRecords(life).at(-1);
            if (last) await send({ ...last, id: randomUUID(), correctsId: last.id, withdrawn: true });
          } else if (step === 'stand') {
            const stand = hill({ name: `S${at}` });
            stands.push(stand.id);
            await upsertShape(await by(), 'stand', stand);
          } else if (step === 'noStand') {
            const stand = hill({ name: `T${at}` });
            await upsertShape(await by(), 'stand', stand);
            await send(entry(randomUUID(), `t${at}`, { standId: stand.id }));
            while (await follower.follow());
            await deleteShape(await by(), 'stand', stand.id);
          } else if (step === 'feature')
            await upsertShape(await by(), 'feature', {
              id: randomUUID(),
              kind: 'path',
              name: `P${at}`,
              points: [
                [0, 0],
                [at, 1]
              ]
            } as SiteFeature);
          else if (step === 'settings') await changeSettings(await by(), { snowMm: at });
          else if (step === 'walk') await reorderWalk(bushId, trees.map(({ id }) => id).reverse());
          else if (step === 'people') await showHoles(bushId, userId, at % 2 === 0);
          else if (step === 'file') await bring(`tag,diameter_cm\nf${at},30\n${tree?.tag ?? 'g'},31\n`);
          // Now and then the device looks in between.
          if (at % 4 === 0) while (await follower.follow());
        }
        while (await follower.follow());
        expect(follower.canonical).toBe(await whole(bushId));
      }),
      tries(12)
    );
  });

  it('misses nothing of those who write at once, read while they write', async () => {
    const { bushId, treeIds, send } = await book();
    const follower = new Follower(bushId);
    await follower.begin();
    let writing = true;
    const following = (async () => {
      while (writing) await follower.follow();
    })();
    await Promise.all(
      Array.from({ length: 30 }, (_, i) => send(reading(treeIds[i % 3]!, 900 + i), entry(randomUUID(), `w${i}`)))
    );
    writing = false;
    await following;
    while (await follower.follow());
    expect([...follower.trees.values()].filter(({ tree }) => tree?.tag.startsWith('w'))).toHaveLength(30);
    expect(follower.canonical).toBe(await whole(bushId));
    const numbers = (await Change.findAll({ where: { bushId }, order: [['number', 'ASC']] })).map((row) => row.number);
    expect(numbers).toEqual(numbers.map((_, i) => i + 1));
  });

  it('tells a large file in pages, each of which can be followed', async () => {
    const { bushId, bring } = await book();
    const follower = new Follower(bushId);
    await follower.begin();
    await bring(`tag,diameter_cm,holes\n${Array.from({ length: 2500 }, (_, i) => `p${i},30,2025:90:100`).join('\n')}`);
    let pages = 1;
    while (await follower.follow()) pages += 1;
    expect(pages).toBeGreaterThan(3);
    expect(follower.trees.size).toBe(2503);
    expect(follower.canonical).toBe(await whole(bushId));
  });

  it('says so where it cannot be followed: another feed, a number from the future, an archive read in', async () => {
    const { bushId, userId, access } = await book();
    const follower = new Follower(bushId);
    await follower.begin();
    await expect(changesAfter(bushId, randomUUID(), 0)).rejects.toMatchObject({ code: 'beginAnew' });
    await expect(changesAfter(bushId, follower.feed, 10_000)).rejects.toMatchObject({ code: 'beginAnew' });
    const copyId = await createBush(userId, 'Copy');
    const copy = new Follower(copyId);
    await copy.begin();
    const archive = JSON.stringify(await writeArchive(await access(), NOW));
    await restoreText((await bushFor(userId, copyId))!, userId, archive, NOW);
    await expect(copy.follow()).rejects.toMatchObject({ code: 'beginAnew' });
    await copy.begin();
    expect(copy.trees.size).toBe(3);
  });

  it('gives nothing a number that changed nothing', async () => {
    const { bushId, treeIds, send } = await book();
    const record = reading(treeIds[0]!, 900);
    await send(record);
    const { changes } = (await Bush.findByPk(bushId))!;
    await send(record, { ...record, id: 'no id' }, reading(randomUUID(), 900));
    expect((await Bush.findByPk(bushId))!.changes).toBe(changes);
  });
});

describe('the bush at a glance', () => {
  it('never says that it holds a change which it does not', async () => {
    const { bushId, userId, access } = await book();
    const locals = { member: { id: userId, displayName: 'Steward' } };
    for (let i = 0; i < 25; i++) {
      const { changes, version } = (await Bush.findByPk(bushId))!;
      const stand = hill({ name: `G${i}` });
      const request = new Request('http://baumkin.test/');
      const [answer] = await Promise.all([
        glance({ params: { bush: bushId }, locals, request } as never),
        upsertShape({ bushId, authorId: userId, seen: version, now: NOW }, 'stand', stand)
      ]);
      const told = (await answer.json()) as { number: number; stands: { id: string }[] };
      expect(told.number > changes && !told.stands.some(({ id }) => id === stand.id)).toBe(false);
    }
    expect((await access()).version).toBe(26);
  });
});

describe('a snapshot', () => {
  it('is made once for many who ask at once, kept while it is near, and made anew where it was given up', async () => {
    const { bushId, treeIds, send } = await book();
    const makings: Promise<void>[] = [];
    const asked = await Promise.all(
      Array.from({ length: 5 }, () => snapshotOf(bushId, { background: (making) => void makings.push(making) }))
    );
    await Promise.all(makings);
    expect(new Set(asked.map(({ number }) => number)).size).toBe(1);
    expect(await Snapshot.count({ where: { bushId } })).toBe(1);
    await send(reading(treeIds[0]!, 900));
    expect((await snapshotOf(bushId)).number).toBe(asked[0]!.number);
    // A server was killed while it made one.
    await Snapshot.update({ ready: 1, begunAt: new Date(Date.now() - 3_600_000) }, { where: { bushId } });
    let made: Promise<void> | undefined;
    const anew = await snapshotOf(bushId, { background: (making) => (made = making) });
    await made;
    expect(anew.number).toBe(asked[0]!.number + 1);
    expect(await snapshotOf(bushId)).toMatchObject({ ready: 2, parts: 2, trees: 3 });
  });
});

describe('those who listen', () => {
  it('are told of a write within a moment, and no more once they are members no more', async () => {
    const { bushId, treeIds, userId, send } = await book();
    const name = `c-${randomUUID().slice(0, 8)}`;
    const other = await createAccount({ name, displayName: 'Crew', password: 'eleven pails of sap' });
    await letIn({ bushId, byId: userId }, other.id, 'crew');
    const reader = listen(bushId, other.id).getReader();
    const told = async () =>
      JSON.parse(new TextDecoder().decode((await reader.read()).value).split('data: ')[1]!) as unknown;
    const { changes, feedId } = (await Bush.findByPk(bushId))!;
    expect(await told()).toEqual({ feed: feedId, last: changes });
    await send(reading(treeIds[0]!, 900));
    expect(await told()).toEqual({ feed: feedId, last: changes + 1 });
    await Membership.destroy({ where: { bushId, userId: other.id } });
    expect((await reader.read()).done).toBe(true);
  });

  it('are told by the next look where they come in the middle of one, and not sent away', async () => {
    const [one, other] = [await book(), await book()];
    const looking = vi.spyOn(Membership, 'findAll');
    const readers: ReadableStreamDefaultReader<Uint8Array>[] = [];
    looking.mockImplementationOnce((async () => {
      readers.push(listen(other.bushId, other.userId).getReader());
      return [{ userId: one.userId, bushId: one.bushId }];
    }) as never);
    readers.push(listen(one.bushId, one.userId).getReader());
    await vi.waitFor(() => expect(readers).toHaveLength(2));
    for (const reader of readers) {
      const { value, done } = await reader.read();
      expect(done).toBe(false);
      expect(new TextDecoder().decode(value)).toContain('event: changed');
      await reader.cancel();
    }
    looking.mockRestore();
  });
});

describe('the walk', () => {
  it('takes a tree in between two others without moving any, however often, and is spread out in the end', async () => {
    const { bushId, treeIds, send } = await book();
    const tags: string[] = [];
    for (let i = 0; i < 40; i++) {
      await send(entry(randomUUID(), `m${i}`, { afterId: treeIds[0] }));
      tags.unshift(`m${i}`);
    }
    const trees = await treesOf(bushId);
    expect(trees.map(({ tag }) => tag)).toEqual(['1', ...tags, '2', '3']);
    expect(new Set(trees.map(({ walkOrder }) => walkOrder)).size).toBe(trees.length);
  });

  it('lets two trees swap their tags in one batch', async () => {
    const { bushId, treeIds, send } = await book();
    const [one, two] = [entry(treeIds[0]!, '1'), entry(treeIds[1]!, '2')];
    await TreeRecord.update({ tag: null, tagKey: null }, { where: { id: [treeIds[0]!, treeIds[1]!] } });
    await send(one, two);
    const outcomes = await send(
      { ...one, id: randomUUID(), correctsId: one.id, tag: 'x' },
      { ...two, id: randomUUID(), correctsId: two.id, tag: '1' }
    );
    expect(outcomes).toEqual(['stored', 'stored']);
    expect((await treesOf(bushId)).map(({ tag }) => tag)).toEqual(['x', '1', '3']);
  });

  it('takes no tree of another bush for its own', async () => {
    const [here, there] = [await book(), await book()];
    const [outcome] = await storeRecords(there.bushId, { id: there.userId, role: 'steward' }, [
      entry(here.treeIds[0]!, 'mine')
    ]);
    expect(outcome).toMatchObject({ status: 'refused', reason: 'The tree is not in this bush.' });
    expect((await treesOf(here.bushId)).map(({ tag }) => tag)).toEqual(['1', '2', '3']);
  });
});
