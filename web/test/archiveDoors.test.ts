import { randomUUID } from 'node:crypto';
import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { tries } from '../../testing/long.ts';
import { restoreText, writeArchive } from './archives.ts';
import { bushFor, createBush, upsertShape, deleteShape, shapesOf } from '../src/lib/server/bushes.ts';
import { changesAfter } from '../src/lib/server/changes.ts';
import { Bush, migrate, missingColumns, Snapshot, tables } from '../src/lib/server/db/index.ts';
import { recordsByTree } from '../src/lib/server/recordRows.ts';
import { storeRecords } from '../src/lib/server/records.ts';
import { fromOlder, requests } from '../src/lib/server/requests.ts';
import { TODAY, NOW, made, entry, reading, hill, book } from './doorsSupport.ts';
import { useFreshDatabase } from './database.ts';
import { treeRows } from './treeRows.ts';

useFreshDatabase();

describe('databases of earlier versions', () => {
  it('get the columns that landed migrations were given afterwards, and the tables are held against the models', async () => {
    const { sequelize } = tables();
    expect(await missingColumns(sequelize)).toEqual([]);
    // As a database was left by the first wording of two migrations.
    await sequelize.query('ALTER TABLE tapholes DROP COLUMN strategy');
    await sequelize.query('ALTER TABLE plots DROP COLUMN centre');
    await sequelize.query("DELETE FROM migrations WHERE name IN ('0012-sound-advice', '0014-field-words')");
    expect((await missingColumns(sequelize)).sort()).toEqual(['plots.centre', 'tapholes.strategy']);
    await migrate(sequelize);
    expect(await missingColumns(sequelize)).toEqual([]);
  });

  it('give every bush another feed: devices and snapshots hold the columns of before', async () => {
    const { bushId, access } = await book();
    const { feedId, changes } = await Bush.findByPk(bushId, { rejectOnEmpty: true });
    await writeArchive(await access());
    expect(await Snapshot.count({ where: { bushId } })).toBe(1);
    // The newest runs once more, as it does where it was cut off half-way.
    await tables().sequelize.query('DELETE FROM migrations ORDER BY name DESC LIMIT 1');
    expect(await migrate(tables().sequelize)).toHaveLength(1);
    await expect(changesAfter(bushId, feedId, changes)).rejects.toMatchObject({ code: 'beginAnew' });
    expect(await Snapshot.count({ where: { bushId } })).toBe(0);
  });

  it('speak the names of today afterwards, and so do devices and programs that still send the older ones', async () => {
    const { sequelize } = tables();
    const { userId, bushId, treeIds, send } = await book();
    const tall = made(treeIds[0]!, { kind: 'stature', heightM: 21, crownRadiiM: null });
    expect(await send(tall)).toEqual(['stored']);
    expect(await send(tall)).toEqual(['already']);
    expect(requests.settings.parse(fromOlder.settings!({ version: 1, settings: { ladder: 'metric' } }))).toEqual({
      version: 1,
      settings: { tapGuideline: 'metric' }
    });
    const older = { ladder: 'metric', ownLadder: [], school: 'handSpan', stockingSchool: 'sugarbush', bitMm: 8 };
    await Bush.update({ settings: older }, { where: { id: bushId } });
    await sequelize.query('RENAME TABLE heightsAndCrowns TO statures, baseMaps TO grounds');
    await sequelize.query('ALTER TABLE tapholes RENAME COLUMN strategy TO school');
    await sequelize.query("DELETE FROM migrations WHERE name = '0014-field-words'");
    await migrate(sequelize);
    expect(await missingColumns(sequelize)).toEqual([]);
    expect((await bushFor(userId, bushId))!.settings).toMatchObject({
      tapGuideline: 'metric',
      ownGuideline: [],
      strategy: 'handSpan',
      stockingGuide: 'sugarbush',
      bitMm: 8
    });
    expect((await treeRows(bushId, 2027, '2026-11-23')).rows[0]!.heightM).toBe(21);
  });
});

describe('an archive', () => {
  it('is not read into a bush in which stands were drawn: nothing of them is lost', async () => {
    const from = await book();
    const into = await book();
    const empty = await createBush(into.userId, 'Drawn');
    await upsertShape({ bushId: empty, authorId: into.userId, seen: 1 }, 'stand', hill({ name: 'By hand' }));
    const text = JSON.stringify(await writeArchive(await from.access(), NOW));
    await expect(restoreText((await bushFor(into.userId, empty))!, into.userId, text, NOW)).rejects.toThrow(
      /holds trees, stands/
    );
    expect((await shapesOf(empty)).stands.map(({ name }) => name)).toEqual(['By hand']);
  });

  it('keeps which of two records of one moment holds, also where it comes in under other ids', async () => {
    const { userId, send, access } = await book();
    const tree = randomUUID();
    await send(entry(tree, 'moved'));
    const places = Array.from({ length: 12 }, (_, eastM) => {
      const own = { eastM, northM: 0, quality: 'paced', accuracyM: null };
      return { ...made(tree, { kind: 'place', ...own }), ...own };
    });
    await send(...places);
    const last = places.toSorted((a, b) => a.id.localeCompare(b.id)).at(-1)!;
    const copy = await createBush(userId, 'Copy');
    const written = JSON.stringify(await writeArchive(await access(), NOW));
    await restoreText((await bushFor(userId, copy))!, userId, written, NOW);
    const east = async (bushId: string) =>
      (await treeRows(bushId, 2027, TODAY)).rows.find((row) => row.tag === 'moved')?.eastM;
    expect([await east((await access()).id), await east(copy)]).toEqual([last.eastM, last.eastM]);
  });

  it('reads back equal after any run of writes, erasures and corrections', async () => {
    type Step = 'stand' | 'erase' | 'tree' | 'move' | 'read' | 'withdraw' | 'out' | 'place' | 'mark';
    const steps = fc.array(
      fc.constantFrom<Step>('stand', 'erase', 'tree', 'move', 'read', 'withdraw', 'out', 'place', 'mark'),
      { minLength: 4, maxLength: 14 }
    );
    await fc.assert(
      fc.asyncProperty(steps, fc.integer({ min: 0, max: 1e6 }), async (run, seed) => {
        const { userId } = await book();
        const bushId = await createBush(userId, 'Any');
        const access = async () => (await bushFor(userId, bushId))!;
        const send = async (...records: object[]) =>
          (await storeRecords(bushId, { id: userId, role: 'steward' }, records, NOW)).map((o) => o.reason ?? o.status);
        const trees: string[] = [];
        let standIds: string[] = [];
        let n = seed;
        const pick = <T>(list: readonly T[]) => list[(n = (n * 48271 + 11) % 2147483647) % list.length];
        for (const [i, step] of run.entries()) {
          const tree = pick(trees);
          const stand = pick(standIds);
          const { version } = (await Bush.findByPk(bushId))!;
          const lives = tree ? ((await recordsByTree(bushId, { treeIds: [tree] })).get(tree) ?? []) : [];
          const corrected = new Set(lives.map((r) => r.correctsId));
          const last = (kind: string) =>
            lives.filter((r) => r.kind === kind && !r.withdrawn && !corrected.has(r.id)).at(-1);
          if (step === 'stand') {
            const drawn = hill({ name: `Hill ${i}` });
            await upsertShape({ bushId, authorId: userId, seen: version, now: NOW }, 'stand', drawn);
            standIds.push(drawn.id);
          } else if (step === 'erase' && stand) {
            await deleteShape({ bushId, authorId: userId, seen: version, now: NOW }, 'stand', stand);
            standIds = standIds.filter((id) => id !== stand);
          } else if (step === 'tree') {
            const id = randomUUID();
            expect(await send(entry(id, `T${i}`, { standId: stand ?? null }))).toEqual(['stored']);
            trees.push(id);
          } else if (tree && step === 'read') expect(await send(reading(tree, 300 + i))).toEqual(['stored']);
          else if (tree && step === 'place')
            expect(
              await send(made(tree, { kind: 'place', eastM: i, northM: 1, quality: 'paced', accuracyM: null }))
            ).toEqual(['stored']);
          else if (tree && step === 'mark') await send(made(tree, { kind: 'mark', purpose: 'keep', reason: 'x' }));
          else if (tree && (step === 'move' || step === 'out')) {
            const own = last('entry');
            if (own?.kind === 'entry')
              expect(
                await send({
                  ...own,
                  authorId: undefined,
                  id: randomUUID(),
                  correctsId: own.id,
                  withdrawn: step === 'out',
                  standId: step === 'out' ? own.standId : (stand ?? null)
                })
              ).toEqual(['stored']);
          } else if (tree && step === 'withdraw') {
            const own = last('reading');
            if (own) await send({ ...own, authorId: undefined, id: randomUUID(), correctsId: own.id, withdrawn: true });
          }
        }
        const before = await writeArchive(await access(), NOW);
        const copy = await createBush(userId, 'Copy');
        const written = JSON.stringify(before);
        await restoreText((await bushFor(userId, copy))!, userId, written, NOW);
        const shapes = async (id: string) => {
          const { rows } = await treeRows(id, 2027, TODAY);
          const { stands } = await shapesOf(id);
          const named = new Map(stands.map((stand) => [stand.id, stand.name]));
          return rows.map((row) => [row.tag, row.dbhMm, row.mark, row.eastM, row.standId && named.get(row.standId)]);
        };
        expect(await shapes(copy)).toEqual(await shapes(bushId));
        const after = await writeArchive((await bushFor(userId, copy))!, NOW);
        expect([after.records.length, after.stands.length, after.walk.length]).toEqual([
          before.records.length,
          before.stands.length,
          before.walk.length
        ]);
      }),
      tries(12)
    );
    expect(tables().sequelize).toBeDefined();
  });
});

describe('planted trees', () => {
  it('are counted again, and refused where more live than were planted or they were counted before; an archive holds them', async () => {
    const { bushId, userId, send, access } = await book();
    const planting = (change: object = {}) => {
      const { treeId: _tree, ...record } = made('', {
        kind: 'planting',
        standId: null,
        name: 'By the brook',
        species: 'sugarMaple',
        year: 2019,
        many: 24,
        alive: null,
        heightM: 0.6,
        guard: 'tube',
        note: '',
        ...change
      });
      return record;
    };
    const first = planting();
    expect(await send(first)).toEqual(['stored']);
    expect(await send(planting({ correctsId: first.id, alive: 19, heightM: 2.1 }))).toEqual(['stored']);
    for (const wrong of [{ alive: 25 }, { year: 2030 }, { species: 'noTree' }, { standId: randomUUID() }])
      expect((await send(planting(wrong)))[0]).not.toBe('stored');
    const archive = JSON.stringify(await writeArchive(await access(), NOW));
    const empty = await createBush(userId, 'Restored');
    await restoreText((await bushFor(userId, empty))!, userId, archive, NOW);
    const told = (id: string) =>
      tables().work.planting.findAll({ where: { bushId: id }, attributes: ['name', 'alive', 'heightM'], raw: true });
    expect(await told(empty)).toEqual(expect.arrayContaining(await told(bushId)));
  });
});
