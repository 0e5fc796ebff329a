import 'fake-indexeddb/auto';
import Dexie from 'dexie';
import { afterEach, describe, expect, it, vi } from 'vitest';

import type { BushState } from '../../src/lib/client/bush.svelte.ts';

/* What a device keeps: across a release that renamed things, and for each of the people who share it. */

const BUSH = '4f9c2f7e-7f2f-4d43-9c4e-0d7a3c6f1a01';
const TREE = '4f9c2f7e-7f2f-4d43-9c4e-0d7a3c6f1a02';
const said = (kind: string, more: object) => ({
  id: crypto.randomUUID(),
  treeId: TREE,
  kind,
  on: '2026-02-20',
  ...more
});

/** The device as an early release left it. */
async function olderDevice(): Promise<void> {
  const older = new Dexie('baumkin');
  older.version(1).stores({ overviews: 'bushId', lives: 'treeId, bushId', outbox: 'id, bushId, treeId' });
  older.version(2).stores({ drafts: 'key, bushId', practice: '++id, memberId' });
  const hole = said('taphole', { school: 'handSpan', season: 2026 });
  const height = said('stature', { heightM: 21 });
  await older
    .table('outbox')
    .put({ id: hole.id, bushId: BUSH, memberId: 'm', treeId: TREE, record: hole, addedAt: 1, refused: null });
  await older.table('lives').put({ treeId: TREE, bushId: BUSH, records: [height, said('reading', { valueMm: 900 })] });
  await older.table('overviews').put({
    bushId: BUSH,
    overview: { bush: { id: BUSH, settings: { ladder: 'handbook', ownLadder: [], school: 'rotation', bitMm: 7.9375 } } }
  });
  await older.table('drafts').put({ key: 'm/identify/x', bushId: BUSH, value: { age: 'grown' }, at: 5 });
  older.close();
}

describe('a device of the release before', () => {
  it('speaks today’s names once it is opened, and has lost nothing', async () => {
    await olderDevice();
    const { store } = await import('../../src/lib/client/store.ts');
    expect((await store.outbox.toArray()).map(({ record }) => record)).toMatchObject([
      { kind: 'taphole', strategy: 'handSpan', season: 2026 }
    ]);
    const [life] = await store.lives.toArray();
    expect(life!.records).toMatchObject([
      { kind: 'heightAndCrown', heightM: 21 },
      { kind: 'reading', valueMm: 900 }
    ]);
    expect(await store.drafts.count()).toBe(1);
    expect(JSON.stringify(await store.outbox.toArray())).not.toContain('school');
  });
});

describe('a device that kept the bush’s own records with its glance', () => {
  it('has them by the year, and the glance without them', async () => {
    const { store: open } = await import('../../src/lib/client/store.ts');
    open.close();
    await Dexie.delete('baumkin');
    const older = new Dexie('baumkin');
    older.version(8).stores({ glances: 'bushId', lives: 'treeId, bushId' });
    const emptied = (on: string) => ({ kind: 'collection', on, litres: 90 });
    const bushRecords = [emptied('2025-12-30'), emptied('2026-03-01'), emptied('2025-03-02')];
    await older.table('glances').put({ bushId: BUSH, glance: { season: 2026, bushRecords } });
    older.close();
    vi.resetModules();
    const { store } = await import('../../src/lib/client/store.ts');
    const { readBushRecords } = await import('../../src/lib/client/bushPacks.ts');
    const told = await readBushRecords(BUSH);
    expect(told.map(({ on }) => on)).toEqual(['2025-12-30', '2025-03-02', '2026-03-01']);
    expect(await store.glances.toArray()).toEqual([{ bushId: BUSH, glance: { season: 2026 } }]);
    store.close();
    await Dexie.delete('baumkin');
    vi.resetModules();
  });
});

describe('what is left half done', () => {
  const bushOf = (memberId: string) => ({ id: BUSH, overview: { member: { id: memberId } } }) as unknown as BushState;

  it('is found again by whoever left it, and by nobody else on this device', async () => {
    const { dropDraft, keepDraft, readDraft } = await import('../../src/lib/client/draft.ts');
    await keepDraft(bushOf('hedda'), 'identify', TREE, { skipped: ['smell'] });
    expect(await readDraft(bushOf('hedda'), 'identify', TREE)).toMatchObject({ value: { skipped: ['smell'] } });
    expect(await readDraft(bushOf('tomke'), 'identify', TREE)).toBeNull();
    expect(await readDraft(bushOf('hedda'), 'plot', TREE)).toBeNull();
    await dropDraft(bushOf('tomke'), 'identify', TREE);
    expect(await readDraft(bushOf('hedda'), 'identify', TREE)).not.toBeNull();
    await dropDraft(bushOf('hedda'), 'identify', TREE);
    expect(await readDraft(bushOf('hedda'), 'identify', TREE)).toBeNull();
  });
});

const toasts = vi.hoisted(() => [] as { said: string; undo?: () => void; duration?: number }[]);
vi.mock('svelte-sonner', () => ({
  toast: {
    success: (said: string, { action, duration }: { action?: { onClick: () => void }; duration?: number }) =>
      toasts.push({ said, undo: action?.onClick, duration })
  }
}));

describe('what was just written down', () => {
  afterEach(() => void toasts.splice(0));

  it('can be taken back, all of it; many stay in sight longer', async () => {
    const { saved } = await import('../../src/lib/client/saved.ts');
    const takeBack = vi.fn();
    const add = vi.fn();
    const mayTakeBack = ({ kind }: { kind: string }) => kind !== 'entry';
    const bush = { takeBack, mayTakeBack, lastDone: { add } } as unknown as BushState;
    const records = [said('mark', {}), said('mark', {})] as never[];
    saved(bush, 'Tree 4: to take.', records[0]!);
    saved(bush, '2 trees: to take.', ...records);
    expect(toasts.map(({ said: words, duration }) => [words, duration])).toEqual([
      ['Tree 4: to take.', 7000],
      ['2 trees: to take.', 15_000]
    ]);
    // What is a steward's to take back is told without a way back.
    saved(bush, 'Tree 9 is in the book.', said('entry', {}) as never);
    expect(toasts[2]!.undo).toBeUndefined();
    toasts[1]!.undo!();
    expect(takeBack).toHaveBeenCalledExactlyOnceWith(...records);
    expect(add.mock.calls.map(([words]) => words)).toEqual([
      'Tree 4: to take.',
      '2 trees: to take.',
      'Tree 9 is in the book.'
    ]);
  });
});
