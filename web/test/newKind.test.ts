import { randomUUID } from 'node:crypto';
import { recordKindOf, type AnyRecordKind, type Role, type TreeRow } from '@baumkin/core/records';
import { TABLES } from '@baumkin/core/exchange';
import { strFromU8, unzipSync } from 'fflate';
import { DataTypes } from 'sequelize';
import { beforeAll, describe, expect, it, vi } from 'vitest';

import { restoreText, writeArchive } from './archives.ts';
import { bushFile } from '../src/lib/server/bushFiles.ts';
import { bushFor, createBush } from '../src/lib/server/bushes.ts';
import { missingColumns, tables } from '../src/lib/server/db/index.ts';
import { createRecordTable } from '../src/lib/server/db/migrations/recordTable.ts';
import { openApi } from '../src/lib/server/openapi.ts';
import { storeRecords } from '../src/lib/server/records.ts';
import { treeLife } from '../src/lib/server/trees.ts';
import { bushWithTrees, useFreshDatabase } from './database.ts';
import { treeRows } from './treeRows.ts';

vi.mock('../../core/src/records/kinds/index.ts', async (original) => {
  const [real, { sapTest }] = [await original<{ KINDS: readonly object[] }>(), await import('./sapTest.ts')];
  return { ...real, KINDS: [...real.KINDS, sapTest] };
});
useFreshDatabase();

const text = (length: number) => ({ type: DataTypes.STRING(length), allowNull: false });
const json = () => ({ type: DataTypes.JSON, allowNull: false });

let bush: Awaited<ReturnType<typeof bushWithTrees>>;
beforeAll(async () => {
  const query = tables().sequelize.getQueryInterface();
  expect(await missingColumns(tables().sequelize)).toEqual(['sapTests']);
  await createRecordTable(query, 'sapTests', 'tree', {
    sugarBrix: { type: DataTypes.DOUBLE, allowNull: false },
    runs: { type: DataTypes.BOOLEAN, allowNull: false },
    taste: text(10),
    tapholeIds: json(),
    beside: json(),
    seenOn: { type: DataTypes.DATEONLY, allowNull: true },
    note: text(500)
  });
  expect(await missingColumns(tables().sequelize)).toEqual([]);
  bush = await bushWithTrees();
});

const dated = (treeId: string) => ({
  id: randomUUID(),
  treeId,
  on: '2026-03-12',
  recordedAt: '2026-03-12T10:00:00.000Z',
  correctsId: null as string | null,
  withdrawn: false
});

describe('a kind of record that is only described', () => {
  it('is stored, corrected, withdrawn, listed, exported and restored like any other', async () => {
    const [tree, beside] = [randomUUID(), randomUUID()];
    const send = async (record: object, role: Role = 'steward') =>
      (await storeRecords(bush.bushId, { id: bush.userId, role }, [record]))[0]!;
    const hole = {
      ...dated(tree),
      kind: 'taphole',
      season: 2026,
      bearingDeg: 180,
      heightMm: 900,
      bitMm: 7.9,
      depthMm: 38,
      predictedClear: null,
      strategy: null
    };
    for (const [treeId, tag] of [
      [tree, '50'],
      [beside, '51']
    ] as const)
      expect(await send({ ...dated(treeId), kind: 'entry', tag, standId: null })).toMatchObject({ status: 'stored' });
    expect(await send(hole)).toMatchObject({ status: 'stored' });
    const test = (more: object = {}) => ({
      ...dated(tree),
      kind: 'sapTest',
      sugarBrix: 2.1,
      runs: true,
      taste: 'sweet',
      tapholeIds: [hole.id],
      beside: { treeId: beside },
      seenOn: '2026-03-10',
      note: 'Ahorn 🍁',
      ...more
    });
    const first = test();
    expect(await send(first, 'crew')).toMatchObject({ status: 'refused', reason: expect.stringMatching(/steward/) });
    expect(await send(test({ runs: false }))).toMatchObject({ reason: 'what does not run has no taste' });
    expect(await send(test({ tapholeIds: [randomUUID()] }))).toMatchObject({ reason: 'Its taphole is not there.' });
    expect(await send(test({ beside: { treeId: randomUUID() } }))).toMatchObject({ reason: /names a tree/ });
    expect(await send(first)).toMatchObject({ status: 'stored' });
    expect(await send(first)).toMatchObject({ status: 'already' });
    expect(await send({ ...first, sugarBrix: 3 })).toMatchObject({ reason: 'Another record has this id.' });
    expect(await send(test({ correctsId: hole.id }))).toMatchObject({ reason: 'What it corrects is not there.' });

    const line = async () =>
      (await treeRows(bush.bushId, 2026, '2026-04-01')).rows.find(({ id }) => id === tree) as unknown as TreeRow & {
        sugarBrix: number | null;
      };
    expect((await line()).sugarBrix).toBe(2.1);
    const better = test({ correctsId: first.id, sugarBrix: 2.4 });
    expect(await send(better)).toMatchObject({ status: 'stored' });
    expect((await line()).sugarBrix).toBe(2.4);
    expect(await send(test({ correctsId: first.id }))).toMatchObject({
      reason: expect.stringMatching(/Somebody else/)
    });
    expect(await treeLife(bush.bushId, tree)).toEqual(
      expect.arrayContaining([first, better].map((record) => ({ ...record, authorId: bush.userId })))
    );

    const access = (await bushFor(bush.userId, bush.bushId))!;
    const csv = await bushFile(access, 'sapTests.csv', '2026-04-01');
    expect(csv).toMatchObject({ body: 'tag,sugar_brix\n50,2.4\n' });
    const zip = (await bushFile(access, 'tables.zip', '2026-04-01')) as { body: Uint8Array };
    expect(strFromU8(unzipSync(zip.body)['sapTests.csv']!)).toBe('tag,sugar_brix\n50,2.4\n');
    expect(TABLES.map(({ name }) => name)).toContain('sapTests');
    expect(JSON.stringify(openApi('http://127.0.0.1').components.schemas)).toContain('"sapTest"');

    const archive = await writeArchive(access);
    const copyId = await createBush(bush.userId, 'Copy');
    const copy = (await bushFor(bush.userId, copyId))!;
    await restoreText(copy, bush.userId, JSON.stringify(archive));
    const [copied] = (await treeRows(copyId, 2026, '2026-04-01')).rows as (TreeRow & { sugarBrix: number | null })[];
    expect(copied!.sugarBrix).toBe(2.4);
    // Under other ids it points at the copies of what it pointed at.
    const life = (await treeLife(copyId, copied!.id)) as unknown as (typeof better)[];
    const [holeThere] = life.filter(({ kind }) => kind === 'taphole');
    expect(holeThere!.id).not.toBe(hole.id);
    expect(life.filter(({ kind }) => kind === 'sapTest').map((record) => record.tapholeIds)).toEqual([
      [holeThere!.id],
      [holeThere!.id]
    ]);

    expect(await send({ ...better, id: randomUUID(), correctsId: better.id, withdrawn: true })).toMatchObject({
      status: 'stored'
    });
    expect((await line()).sugarBrix).toBeNull();
    expect(recordKindOf('sapTest' as AnyRecordKind).label).toBe('test of sap');
  });
});
