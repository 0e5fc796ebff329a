import { isMaple } from '@baumkin/core/identify';
import { deriveTree, effectiveRecords, RECORD_KINDS } from '@baumkin/core/records';
import { describe, expect, it } from 'vitest';

import { bushesOf, bushFor, standsOf, upsertShape } from '../src/lib/server/bushes.ts';
import { User } from '../src/lib/server/db/index.ts';
import { loadDemo } from '../../demo/load.ts';
import { importFile } from '../src/lib/server/importTrees.ts';
import { importsOf, takeBackImport } from '../src/lib/server/imports.ts';
import { storeRecords } from '../src/lib/server/records.ts';
import { recordsByTree } from '../src/lib/server/recordRows.ts';
import { treesOf } from '../src/lib/server/trees.ts';
import { bushWithTrees, useFreshDatabase } from './database.ts';
import { hill } from './doorsSupport.ts';
import { treeRows } from './treeRows.ts';

useFreshDatabase();

const TODAY = '2026-11-23';

describe('importing a file of trees', () => {
  it('stores the good rows with their past, names the bad ones, and knows what is there already', async () => {
    const { userId, bushId } = await bushWithTrees();
    const bush = (await bushFor(userId, bushId))!;
    const text =
      'tag,stand,species,girth,lat,lon,holes\n' +
      '10,Hill,sugar maple,115 cm,44.5,-73.2,2024:180:95;2025:200:120\n' +
      '11,Hill,beech,90 cm,44.501,-73.199,\n' +
      '12,Hill,sugar maple,a lot,,,\n' +
      '2,Hill,sugar maple,80 cm,,,\n';
    const wishes = { text, defaultUnit: 'cm' as const, newTrees: true, today: TODAY, told: { undatedOn: TODAY } };
    const result = await importFile(bush, userId, wishes);
    expect(result.counts).toMatchObject({ newTrees: 2, grown: 1, readings: 3, holes: 2 });
    expect(result.bad.map((b) => [b.line, b.column])).toEqual([[4, 'girth']]);

    const trees = await treesOf(bushId);
    const [ten, eleven] = ['10', '11'].map((tag) => trees.find((t) => t.tag === tag)!);
    expect(Math.hypot(eleven!.eastM! - ten!.eastM!, eleven!.northM! - ten!.northM!)).toBeCloseTo(136.649, 2);
    const state = deriveTree((await recordsByTree(bushId, { treeIds: [ten!.id] })).get(ten!.id)!, {
      season: 2027,
      today: TODAY
    });
    expect(state.determination).toMatchObject({ species: 'sugarMaple', verdict: 'settled' });
    expect(state.tapholes.map((h) => [h.season, h.bearingDeg, h.heightMm])).toEqual([
      [2024, 180, 950],
      [2025, 200, 1200]
    ]);

    const again = await importFile((await bushFor(userId, bushId))!, userId, wishes);
    expect(again.counts).toMatchObject({ newTrees: 0, grown: 0, unchanged: 3 });
    expect(again.bad).toHaveLength(1);
  });

  it('two imports of one file at the same moment store each tree once', async () => {
    const { userId, bushId } = await bushWithTrees();
    const bush = (await bushFor(userId, bushId))!;
    const text = `tag,diameter\n${Array.from({ length: 300 }, (_, i) => `N${i},${20 + (i % 30)}`).join('\n')}`;
    const wishes = { text, defaultUnit: 'cm' as const, newTrees: true, today: TODAY, told: { undatedOn: TODAY } };
    const results = await Promise.all([importFile(bush, userId, wishes), importFile(bush, userId, wishes)]);
    expect(results.map((r) => r.counts.newTrees).sort()).toEqual([0, 300]);
    expect(results.map((r) => r.counts.readings).sort()).toEqual([0, 300]);
    expect(await treesOf(bushId)).toHaveLength(303);
  });

  it('changes nothing for a file that is none', async () => {
    const { userId, bushId } = await bushWithTrees();
    const bush = (await bushFor(userId, bushId))!;
    const wishes = { defaultUnit: 'cm' as const, newTrees: true, today: TODAY };
    for (const text of ['PK\u0000\u0000', '<!DOCTYPE gpx []><gpx/>', '{"type":"Feature"}', 'a,b\n1,2'])
      await expect(importFile(bush, userId, { ...wishes, text })).rejects.toMatchObject({
        code: 'unreadableFile'
      });
    expect(await treesOf(bushId)).toHaveLength(3);
  });
});

describe('an import that is taken back', () => {
  const text =
    'tag,species,girth,date,note\n2,sugar maple,150 cm,2024-05-01,by the gate\n20,beech,90 cm,2024-05-01,\n21,red maple,80 cm,2024-05-01,';
  const wishes = { text, name: 'spring.csv', defaultUnit: 'cm' as const, newTrees: true, today: TODAY };

  it('is known by name, and leaves nothing of what it brought', async () => {
    const { userId, bushId } = await bushWithTrees();
    const bush = (await bushFor(userId, bushId))!;
    const before = await treesOf(bushId);
    const lives = async () => [...(await recordsByTree(bushId)).values()].flatMap((life) => effectiveRecords(life));
    const held = (await lives()).map(({ id }) => id).sort();
    await importFile(bush, userId, wishes);
    const [brought] = await importsOf(bushId);
    expect(brought).toMatchObject({
      name: 'spring.csv',
      takenBack: false,
      counts: { newTrees: 2, readings: 3, remarks: 1 }
    });
    const back = await takeBackImport(bush, userId, brought!.id);
    expect(back).toMatchObject({ trees: 2, treesThatStay: 0 });
    expect(await treesOf(bushId)).toEqual(before);
    expect((await lives()).map(({ id }) => id).sort()).toEqual(held);
    expect((await importsOf(bushId))[0]).toMatchObject({ takenBack: true });
    await expect(takeBackImport(bush, userId, brought!.id)).rejects.toMatchObject({ code: 'takenBackAlready' });
    // The file may come again.
    expect((await importFile(bush, userId, wishes)).counts).toMatchObject({ newTrees: 2, readings: 3 });
  });

  it('keeps trees on which somebody worked since', async () => {
    const { userId, bushId } = await bushWithTrees();
    const bush = (await bushFor(userId, bushId))!;
    await importFile(bush, userId, wishes);
    const [tree] = (await treesOf(bushId)).filter(({ tag }) => tag === '20');
    const look = {
      kind: 'remark',
      treeId: tree!.id,
      id: crypto.randomUUID(),
      on: TODAY,
      recordedAt: new Date().toISOString(),
      text: 'a nest'
    };
    const stored = await storeRecords(bushId, { id: userId, role: 'steward' }, [look]);
    expect(stored).toMatchObject([{ status: 'stored' }]);
    const [brought] = await importsOf(bushId);
    expect(await takeBackImport(bush, userId, brought!.id)).toMatchObject({ trees: 1, treesThatStay: 1 });
    expect((await treesOf(bushId)).map(({ tag }) => tag)).toContain('20');
  });

  it('takes stands along that it made, but for those that hold something by now', async () => {
    const { userId, bushId } = await bushWithTrees();
    const bush = (await bushFor(userId, bushId))!;
    await upsertShape({ bushId, authorId: userId, seen: bush.version }, 'stand', hill({ name: 'Old Hill' }));
    const file =
      'tag,species,girth,date,stand\n31,beech,90 cm,2024-05-01,New Stand\n32,beech,91 cm,2024-05-01,Other Stand\n33,beech,92 cm,2024-05-01,Old Hill';
    await importFile((await bushFor(userId, bushId))!, userId, { ...wishes, text: file });
    const names = async () => (await standsOf(bushId)).map(({ name }) => name).sort();
    expect(await names()).toEqual(['New Stand', 'Old Hill', 'Other Stand']);
    const other = (await standsOf(bushId)).find(({ name }) => name === 'Other Stand')!;
    const { version } = (await bushFor(userId, bushId))!;
    await upsertShape({ bushId, authorId: userId, seen: version }, 'stand', { ...other, purpose: 'wildlife' });
    const [brought] = await importsOf(bushId);
    await takeBackImport(bush, userId, brought!.id);
    // One that was drawn anew since is somebody's; one that was there before is not the import's.
    expect(await names()).toEqual(['Old Hill', 'Other Stand']);
    expect((await bushFor(userId, bushId))!.version).toBe(version + 2);
  });

  it('is this bush’s own', async () => {
    const [one, other] = [await bushWithTrees(), await bushWithTrees()];
    await importFile((await bushFor(one.userId, one.bushId))!, one.userId, wishes);
    const [brought] = await importsOf(one.bushId);
    const elsewhere = (await bushFor(other.userId, other.bushId))!;
    await expect(takeBackImport(elsewhere, other.userId, brought!.id)).rejects.toMatchObject({ code: 'notHere' });
  });
});

describe('the demo bush', () => {
  it('loads once, and looks like a wood', async () => {
    expect(await loadDemo()).toBe(true);
    expect(await loadDemo()).toBe(false);
    const hedda = (await User.findOne({ where: { signInName: 'hedda' } }))!;
    const [bush] = await bushesOf(hedda.id);
    const { rows } = await treeRows(bush!.id, 2027, TODAY);
    expect(rows.length).toBeGreaterThan(380);
    expect(rows.filter((r) => r.species && isMaple(r.species)).length).toBeGreaterThan(220);
    // Wrong entries for the guard to find, each with a cause that it can name.
    expect(rows.filter((r) => r.questions > 0).length).toBeGreaterThanOrEqual(5);
    const records = [...(await recordsByTree(bush!.id)).values()].flat();
    for (const kind of RECORD_KINDS) expect([kind, records.some((r) => r.kind === kind)]).toEqual([kind, true]);
    const causes = rows.flatMap((row) => [
      ...deriveTree(
        records.filter((r) => r.treeId === row.id),
        { season: 2027, today: TODAY }
      ).questioned.values()
    ]);
    expect(new Set(causes.map((q) => q.cause)).size).toBeGreaterThanOrEqual(2);
  });

  it('is the same everywhere', async () => {
    const { corranHill } = await import('../../demo/corranHill.ts');
    expect(corranHill()).toEqual(corranHill());
  });
});
