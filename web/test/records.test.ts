import { randomUUID } from 'node:crypto';
import {
  effectiveRecords,
  type Decision,
  type Reading,
  type Role,
  type Shavings,
  type Taphole
} from '@baumkin/core/records';
import { beforeAll, describe, expect, it } from 'vitest';

import { bushRecordsOf, recordsByTree } from '../src/lib/server/recordRows.ts';
import { storeRecords } from '../src/lib/server/records.ts';
import { reorderWalk, treeLife, treesOf } from '../src/lib/server/trees.ts';
import { bushWithTrees, useFreshDatabase } from './database.ts';
import { treeRows } from './treeRows.ts';

useFreshDatabase();

let bush: Awaited<ReturnType<typeof bushWithTrees>>;
beforeAll(async () => {
  bush = await bushWithTrees();
});

const envelope = () => ({
  id: randomUUID(),
  treeId: bush.treeIds[0]!,
  on: '2026-11-20',
  recordedAt: '2026-11-20T10:00:00.000Z',
  correctsId: null,
  withdrawn: false
});
const reading = (more: Partial<Reading> = {}): Reading => ({
  ...envelope(),
  kind: 'reading',
  quantity: 'girth',
  valueMm: 1150,
  asWritten: '115 cm',
  method: 'girthTape',
  heightMm: 1300,
  confirmed: false,
  note: '',
  ...more
});
const taphole = (more: Partial<Taphole> = {}): Taphole => ({
  ...envelope(),
  kind: 'taphole',
  season: 2027,
  bearingDeg: 181.5,
  heightMm: 950,
  bitMm: 7.9375,
  depthMm: 38.1,
  predictedClear: 0.97,
  strategy: 'rotation',
  ...more
});
const as = (role: Role) => ({ id: bush.userId, role });
const store = async (record: unknown, role: Role = 'steward', bushId = bush.bushId) =>
  (await storeRecords(bushId, as(role), [record]))[0]!;

describe('records of work', () => {
  it('come back as they went in', async () => {
    const hole = taphole();
    const seen: Shavings = {
      ...envelope(),
      kind: 'shavings',
      tapholeId: hole.id,
      seen: 'partly',
      brownShare: 0.25,
      brownFromMm: null,
      othersRan: null
    };
    const determination = {
      ...envelope(),
      kind: 'determination' as const,
      verdict: 'settled' as const,
      species: 'sugarMaple' as const,
      probability: 0.971,
      age: 'grown' as const,
      basis: 'clues' as const,
      lookSeason: 'bare' as const,
      evidence: { arrangement: 'opposite', rub: 'holds' },
      note: 'Äste “gegenständig” 🍁'
    };
    const all = [reading(), hole, seen, determination];
    for (const outcome of await storeRecords(bush.bushId, as('steward'), all)) expect(outcome.status).toBe('stored');
    const life = (await treeLife(bush.bushId, bush.treeIds[0]!))!;
    for (const record of all)
      expect(life.find((r) => r.id === record.id)).toEqual({ ...record, authorId: bush.userId });
  });

  it('sent twice are stored once, also at the same moment', async () => {
    const record = reading();
    const outcomes = await Promise.all([store(record), store(record), store(record)]);
    expect(outcomes.filter((o) => o.status === 'stored')).toHaveLength(1);
    expect(outcomes.filter((o) => o.status === 'already')).toHaveLength(2);
    const life = (await treeLife(bush.bushId, bush.treeIds[0]!))!;
    expect(life.filter((r) => r.id === record.id)).toHaveLength(1);
  });

  it('are refused with a sentence, and the rest of the batch is stored', async () => {
    const good = reading();
    const outcomes = await storeRecords(bush.bushId, as('steward'), [
      { ...reading(), valueMm: -3 },
      { ...reading(), kind: 'wish' },
      { ...good, id: randomUUID(), treeId: randomUUID() },
      'nonsense',
      good
    ]);
    expect(outcomes.map((o) => o.status)).toEqual(['refused', 'refused', 'refused', 'refused', 'stored']);
    expect(outcomes[0]!.reason).toMatch(/valueMm/);
    expect(outcomes[2]!.reason).toMatch(/not in this bush/);
    expect((await store({ ...good, valueMm: 1160 })).reason).toMatch(/Another record/);
  });

  it('keep to the roles', async () => {
    const decision: Decision = {
      ...envelope(),
      kind: 'decision',
      season: 2027,
      taps: 1,
      suggested: 1,
      binding: 'size',
      reason: ''
    };
    expect((await store(reading(), 'viewer')).status).toBe('refused');
    expect((await store(decision, 'crew')).status).toBe('refused');
    expect((await store(reading(), 'crew')).status).toBe('stored');
    expect((await store(decision, 'steward')).status).toBe('stored');
  });

  it('stay in their bush', async () => {
    const other = await bushWithTrees();
    const mine = reading();
    await store(mine);
    expect((await store(reading(), 'steward', other.bushId)).reason).toMatch(/not in this bush/);
    expect((await store(mine, 'steward', other.bushId)).status).toBe('refused');
    expect(await treeLife(other.bushId, bush.treeIds[0]!)).toBeNull();
    expect((await recordsByTree(other.bushId)).size).toBe(0);
  });

  it('are corrected once: of two people who correct the same entry, the second is told', async () => {
    const wrong = reading({ valueMm: 3650 });
    await store(wrong);
    const outcomes = await Promise.all(
      [1150, 1160].map((valueMm) => store(reading({ valueMm, correctsId: wrong.id })))
    );
    expect(outcomes.map((o) => o.status).sort()).toEqual(['refused', 'stored']);
    expect(outcomes.find((o) => o.status === 'refused')!.reason).toMatch(/corrected this record already/);
    expect((await store(reading({ correctsId: randomUUID() }))).reason).toMatch(/not there/);
  });

  it('of shavings need their hole', async () => {
    expect(
      (await store({ ...envelope(), kind: 'shavings', tapholeId: randomUUID(), seen: 'pale', brownShare: null })).reason
    ).toMatch(/not there/);
  });

  it('make up the list line of their tree', async () => {
    const fresh = await bushWithTrees();
    const treeId = fresh.treeIds[1]!;
    await storeRecords(fresh.bushId, { id: fresh.userId, role: 'steward' }, [
      reading({ treeId, quantity: 'diameter', valueMm: 402, method: 'diameterTape' }),
      taphole({ treeId })
    ]);
    const row = (await treeRows(fresh.bushId, 2027, '2026-11-20')).rows.find((r) => r.id === treeId)!;
    expect(row).toMatchObject({ drilled: 1, lastReadingOn: '2026-11-20', questions: 0, species: null });
    expect(row.dbhMm).toBeCloseTo(402, 0);
  });
});

describe('the walking order', () => {
  it('is taken as given; strangers are left out, and trees that it does not name follow in their old order', async () => {
    const { bushId, treeIds } = await bushWithTrees();
    const other = await bushWithTrees();
    await reorderWalk(bushId, [treeIds[2]!, other.treeIds[0]!, treeIds[2]!]);
    expect((await treesOf(bushId)).map((t) => t.id)).toEqual([treeIds[2], treeIds[0], treeIds[1]]);
    expect((await treesOf(other.bushId)).map((t) => t.id)).toEqual(other.treeIds);
  });
});

describe('records of the bush as a whole', () => {
  const plot = (more: object = {}) => {
    const { treeId: _, ...dated } = envelope();
    return {
      ...dated,
      kind: 'plot' as const,
      standId: null,
      name: '7',
      centre: { eastM: 3, northM: 4 },
      design: { kind: 'gauge' as const, bafM2PerHa: 2 },
      trees: [
        { species: 'sugarMaple' as const, dbhMm: 412 },
        { species: null, dbhMm: null }
      ],
      note: '',
      ...more
    };
  };

  it('come back as they went in, are corrected like any other, and belong to their bush alone', async () => {
    const first = plot();
    expect((await store(first)).status).toBe('stored');
    expect((await store(first)).status).toBe('already');
    const better = plot({ correctsId: first.id, trees: [] });
    expect((await store(better, 'crew')).status).toBe('stored');
    expect((await store(plot({ correctsId: first.id }))).reason).toMatch(/corrected this record already/);
    const kept = await bushRecordsOf(bush.bushId);
    expect(kept).toEqual(expect.arrayContaining([first, better].map((r) => ({ ...r, authorId: bush.userId }))));
    expect(effectiveRecords(kept)).toEqual([{ ...better, authorId: bush.userId }]);
    const other = await bushWithTrees();
    expect(await bushRecordsOf(other.bushId)).toEqual([]);
  });

  it.each([
    ['a stand of another bush', { standId: randomUUID() }, /stand/],
    ['a circle wider than a wood', { design: { kind: 'fixed', radiusM: 900 } }, /50/],
    ['a species that is none', { trees: [{ species: 'plastic', dbhMm: 300 }] }, /./],
    ['what it corrects is elsewhere', { correctsId: randomUUID() }, /not there/]
  ])('refuse %s', async (_, more, reason) => {
    const outcome = await store(plot(more));
    expect(outcome.status).toBe('refused');
    expect(outcome.reason).toMatch(reason);
  });

  it('are not a viewer’s to write', async () => {
    expect((await store(plot(), 'viewer')).reason).toMatch(/Viewers look/);
  });
});
