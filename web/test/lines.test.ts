import { randomUUID } from 'node:crypto';
import { gzipSync } from 'node:zlib';
import { deriveBush, treeRow, type TreeRow } from '@baumkin/core/records';
import fc from 'fast-check';
import { describe, expect, it, vi } from 'vitest';

import { tries } from '../../testing/long.ts';
import { LineBook, SnapshotPart, tables, TreeLine } from '../src/lib/server/db/index.ts';
import { dropLines } from '../src/lib/server/lines.ts';
import { log } from '../src/lib/server/log.ts';
import { recordsByTree } from '../src/lib/server/recordRows.ts';
import { reorderWalk, treesOf } from '../src/lib/server/trees.ts';
import { snapshotOf } from '../src/lib/server/snapshot.ts';
import { book, entry, made, reading, TODAY } from './doorsSupport.ts';
import { useFreshDatabase } from './database.ts';
import { treeRows } from './treeRows.ts';

/* The lines that are kept beside the records say what the records say: self-consistency. */

useFreshDatabase();

const SEASON = 2027;
const kept = async (bushId: string) => (await treeRows(bushId, SEASON, TODAY)).rows;

/** The lines as they follow from the records, with nothing kept in between. */
async function derived(bushId: string, today = TODAY): Promise<TreeRow[]> {
  const trees = await treesOf(bushId);
  const records = await recordsByTree(bushId);
  const { states } = deriveBush(
    trees.map(({ id }) => records.get(id) ?? []),
    { season: SEASON, today }
  );
  return trees.map((tree, i) => treeRow(tree, states[i]!));
}
const asJson = (value: unknown): unknown => JSON.parse(JSON.stringify(value));

/** Makes a snapshot of what there is now, and waits until it is whole. */
async function madeSnapshot(bushId: string): Promise<void> {
  let making: Promise<void> = Promise.resolve();
  await snapshotOf(bushId, { behind: 0, background: (begun) => (making = begun) });
  await making;
}

/** Counts the queries of some work. */
async function queriesOf(work: () => Promise<unknown>): Promise<number> {
  let queries = 0;
  const sequelize = tables().sequelize as unknown as { options: { logging: unknown } };
  sequelize.options.logging = () => (queries += 1);
  await work();
  sequelize.options.logging = false;
  return queries;
}

describe('the kept lines', () => {
  it('are those that follow from the records, after any run of writes and looks', async () => {
    const steps = fc.array(
      fc.tuple(
        fc.constantFrom('read', 'look', 'tree', 'walk', 'file', 'crown', 'snapshot', 'drop'),
        fc.integer({ min: 0, max: 400 })
      ),
      { minLength: 2, maxLength: 10 }
    );
    await fc.assert(
      fc.asyncProperty(steps, async (run) => {
        const { bushId, send, bring } = await book();
        for (const [step, at] of run) {
          const trees = await treesOf(bushId);
          const tree = trees[at % trees.length]!;
          if (step === 'read')
            await send(
              reading(tree.id, 200 + at, { on: '2016-08-01' }),
              reading(tree.id, 220 + at, { on: '2025-08-01' })
            );
          else if (step === 'crown')
            await send(made(tree.id, { kind: 'heightAndCrown', heightM: 20, crownRadiiM: null, note: '' }));
          else if (step === 'tree') await send(entry(randomUUID(), `n${at}`, { afterId: tree.id }));
          else if (step === 'walk') await reorderWalk(bushId, trees.map(({ id }) => id).reverse());
          else if (step === 'file')
            await bring(
              `tag,diameter_cm\n${Array.from({ length: 25 }, (_, i) => `f${at}-${i},${25 + (i % 9)}`).join('\n')}`
            );
          else if (step === 'snapshot') await madeSnapshot(bushId);
          else if (step === 'drop') await dropLines(bushId);
          else await kept(bushId);
        }
        expect(asJson(await kept(bushId))).toEqual(asJson(await derived(bushId)));
        // And once more, from what is kept now.
        expect(asJson(await kept(bushId))).toEqual(asJson(await derived(bushId)));
      }),
      tries(10)
    );
  });

  it('are read in few queries, and only those that a write made old are derived anew', async () => {
    const { bushId, treeIds, send } = await book();
    await send(
      ...treeIds.flatMap((id) => [reading(id, 300, { on: '2016-08-01' }), reading(id, 320, { on: '2025-08-01' })])
    );
    await kept(bushId);
    expect(await queriesOf(() => kept(bushId))).toBeLessThanOrEqual(6);
    await send(made(treeIds[0]!, { kind: 'heightAndCrown', heightM: 20, crownRadiiM: null, note: '' }));
    expect(await TreeLine.count({ where: { bushId } })).toBe(2);
    expect((await kept(bushId)).map(({ heightM }) => heightM)).toEqual([20, null, null]);
    expect(await TreeLine.count({ where: { bushId } })).toBe(3);
  });

  it('of another season or build are not taken, and hold on another day', async () => {
    const { bushId, treeIds, send } = await book();
    await send(reading(treeIds[0]!, 300, { on: '2016-08-01' }), reading(treeIds[0]!, 340, { on: '2025-08-01' }));
    const [before] = await kept(bushId);
    const queries = await queriesOf(() => kept(bushId));
    let later: readonly TreeRow[] = [];
    const day = '2027-11-23';
    expect(await queriesOf(async () => (later = (await treeRows(bushId, SEASON, day)).rows))).toBe(queries);
    expect(later[0]!.dbhMm).toBeGreaterThan(before!.dbhMm!);
    expect(asJson(later)).toEqual(asJson(await derived(bushId, day)));
    await LineBook.update({ release: 'another' }, { where: { bushId } });
    await TreeLine.update({ line: '{"tag":"nonsense"}' }, { where: { bushId } });
    expect(asJson(await kept(bushId))).toEqual(asJson(await derived(bushId)));
  });

  it('are derived from the snapshot that stands, and from the tables only where something was written since', async () => {
    const { bushId, treeIds, send, bring } = await book();
    await bring(`tag,diameter_cm\n${Array.from({ length: 600 }, (_, i) => `s${i},${25 + (i % 9)}`).join('\n')}`);
    const withoutOne = await queriesOf(() => kept(bushId));
    await madeSnapshot(bushId);
    const order = (await treesOf(bushId)).map(({ id }) => id).reverse();
    await reorderWalk(bushId, order);
    await send(
      reading(treeIds[0]!, 333, { on: '2025-08-01' }),
      entry(order[1]!, 's598', { withdrawn: true }),
      entry(randomUUID(), 'new')
    );
    await dropLines(bushId);
    expect(await queriesOf(() => kept(bushId))).toBeLessThan(withoutOne / 1.3);
    expect(asJson(await kept(bushId))).toEqual(asJson(await derived(bushId)));
  });

  it('are derived from the tables where a snapshot is spoilt', async () => {
    const told = vi.spyOn(log, 'error').mockImplementation(() => undefined);
    const { bushId, bring } = await book();
    await bring(`tag,diameter_cm\n${Array.from({ length: 600 }, (_, i) => `s${i},${25 + (i % 9)}`).join('\n')}`);
    await madeSnapshot(bushId);
    for (const spoilt of ['nothing', gzipSync('{"lives":[null]}')]) {
      await SnapshotPart.update({ content: Buffer.from(spoilt) }, { where: { bushId, part: 2 } });
      await dropLines(bushId);
      expect(asJson(await kept(bushId))).toEqual(asJson(await derived(bushId)));
    }
    expect(told).toHaveBeenCalledTimes(2);
    told.mockRestore();
  });

  it('are not kept where something was written while they were derived', async () => {
    const { bushId, treeIds, send } = await book();
    for (let i = 0; i < 8; i++) {
      await dropLines(bushId);
      await Promise.all([kept(bushId), send(reading(treeIds[0]!, 300 + i, { on: `2025-08-${10 + i}` })), kept(bushId)]);
      expect(asJson(await kept(bushId))).toEqual(asJson(await derived(bushId)));
    }
  });
});
