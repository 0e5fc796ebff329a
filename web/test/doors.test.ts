import { randomUUID } from 'node:crypto';
import { standSchema } from '@baumkin/core/records';
import fc from 'fast-check';
import { describe, expect, it } from 'vitest';

import { tries } from '../../testing/long.ts';
import { createAccount, signIn } from '../src/lib/server/accounts.ts';
import { restoreArchive, writeArchive } from '../src/lib/server/archive.ts';
import { admit, bushFor, createBush, upsertShape, deleteShape, membersOf, shapesOf } from '../src/lib/server/bushes.ts';
import { Bush, BushChange, migrate, missingColumns, StandRow, tables } from '../src/lib/server/db/index.ts';
import { importFile } from '../src/lib/server/importTrees.ts';
import { recordsByTree, storeRecords } from '../src/lib/server/records.ts';
import { fromOlder, requests } from '../src/lib/server/requests.ts';
import { treeRows, treesOf } from '../src/lib/server/trees.ts';
import { bushWithTrees, useFreshDatabase } from './database.ts';

/* Doors through which a book was lost once, and what keeps them shut. */

useFreshDatabase();

const TODAY = '2026-11-23';
const NOW = new Date('2026-11-23T12:00:00.000Z');
const made = (treeId: string, change: object) => ({
  id: randomUUID(),
  treeId,
  on: TODAY,
  recordedAt: '2026-11-23T10:00:00.000Z',
  correctsId: null,
  withdrawn: false,
  ...change
});
const entry = (treeId: string, tag: string, change: object = {}) =>
  made(treeId, { kind: 'entry', tag, standId: null, ...change });
const reading = (treeId: string, valueMm: number, change: object = {}) =>
  made(treeId, {
    kind: 'reading',
    quantity: 'diameter',
    valueMm,
    asWritten: `${valueMm}`,
    method: 'diameterTape',
    heightMm: 1300,
    ...change
  });
const hill = (change: object = {}) =>
  standSchema.parse({
    id: randomUUID(),
    name: 'Hill',
    purpose: 'syrup',
    areaHa: null,
    outline: [
      [0, 0],
      [50, 0],
      [50, 50]
    ],
    ...change
  });

async function book() {
  const { userId, bushId, treeIds } = await bushWithTrees();
  const send = async (...records: object[]) =>
    (await storeRecords(bushId, { id: userId, role: 'steward' }, records, NOW)).map((o) => o.reason ?? o.status);
  const access = async () => (await bushFor(userId, bushId))!;
  const bring = async (text: string) =>
    importFile(
      await access(),
      userId,
      { text, newTrees: true, defaultUnit: 'cm', sizesAre: {}, today: TODAY } as never,
      NOW
    );
  return { userId, bushId, treeIds, send, access, bring };
}

describe('a bush can always be read', () => {
  it('a stand that no schema takes is set aside, named and can be taken away; all else is whole', async () => {
    const { userId, bushId, access } = await book();
    const good = hill();
    await upsertShape({ bushId, authorId: userId, seen: 1 }, 'stand', good);
    const far = [
      [9_000_000, 0],
      [9_000_050, 0],
      [9_000_050, 50]
    ];
    await StandRow.create({ ...hill({ name: 'Far' }), outline: far as [number, number][], bushId });
    const { stands, damaged } = await shapesOf(bushId);
    expect(stands.map(({ name }) => name)).toEqual(['Hill']);
    expect(damaged).toMatchObject([{ what: 'stand', name: 'Far' }]);
    expect((await writeArchive(await access(), NOW)).stands.map(({ name }) => name)).toEqual(['Hill']);
    await deleteShape({ bushId, authorId: userId, seen: 2, now: NOW }, 'stand', damaged[0]!.id);
    expect((await shapesOf(bushId)).damaged).toEqual([]);
  });

  it('a polygon with latitude and longitude in each other’s place is named and not stored', async () => {
    const { bushId, bring } = await book();
    await Bush.update({ originLat: 44.5, originLon: -73.2 }, { where: { id: bushId } });
    const square = (lon: number, lat: number) => ({
      type: 'Feature',
      geometry: {
        type: 'Polygon',
        coordinates: [
          [
            [lon, lat],
            [lon + 0.001, lat],
            [lon, lat + 0.001],
            [lon, lat]
          ]
        ]
      },
      properties: { name: 'Swapped' }
    });
    const file = (feature: object) => JSON.stringify({ type: 'FeatureCollection', features: [feature] });
    const { bad } = await bring(file(square(44.5, -73.2)));
    expect(bad[0]!.reason).toMatch(/100 km/);
    expect(await shapesOf(bushId)).toMatchObject({ stands: [], damaged: [] });
    await bring(file(square(-73.2, 44.5)));
    expect((await shapesOf(bushId)).stands.length).toBe(1);
  });
});

describe('a file and the book', () => {
  it('brings a withdrawn reading back: what was taken back is not there any more', async () => {
    const { treeIds, send, bring } = await book();
    const wrong = reading(treeIds[0]!, 412, { on: '2026-08-01' });
    await send(entry(treeIds[0]!, '1'), wrong);
    await send({ ...wrong, id: randomUUID(), correctsId: wrong.id, withdrawn: true });
    const { counts, bad } = await bring('tag,diameter_cm,measured_on\n1,41.2,2026-08-01\n');
    expect(bad).toEqual([]);
    expect(counts.readings).toBe(1);
  });

  it('counts up the bush’s version and is in its log, as every change of origin and stands is', async () => {
    const { bushId, bring } = await book();
    await bring('tag,lat,lon,stand\n9,44.5,-73.2,New Stand\n');
    expect((await Bush.findByPk(bushId))!.version).toBe(2);
    const [change] = await BushChange.findAll({ where: { bushId } });
    expect(JSON.stringify(change!.settings)).toMatch(/New Stand/);
  });
});

describe('the steward', () => {
  const account = (name: string) => createAccount({ name, displayName: name, password: 'eleven pails of sap' });

  it('two who demote each other at once leave one', async () => {
    for (let i = 0; i < 8; i++) {
      const [a, b] = await Promise.all([account(`anne-${i}`), account(`bert-${i}`)]);
      const bushId = await createBush(a.id, 'Two');
      await admit(bushId, a.id, `bert-${i}`, 'steward');
      const outcomes = await Promise.allSettled([
        admit(bushId, a.id, `bert-${i}`, 'crew'),
        admit(bushId, b.id, `anne-${i}`, 'crew')
      ]);
      expect((await membersOf(bushId)).filter(({ role }) => role === 'steward').length).toBe(1);
      expect(outcomes.filter(({ status }) => status === 'rejected').length).toBe(1);
    }
  });

  it('a sole steward stays, however her own name is spelled; look-alike names are other people', async () => {
    const zoe = await account('zoë');
    const bushId = await createBush(zoe.id, 'One');
    for (const spelled of ['zoë', 'ZOË', 'zoe\u0308'])
      await expect(admit(bushId, zoe.id, spelled, 'crew')).rejects.toMatchObject({ code: 'lastSteward' });
    const plain = await account('zoe');
    expect(plain.id).not.toBe(zoe.id);
    await admit(bushId, zoe.id, 'zoe', 'crew');
    await expect(admit(bushId, plain.id, 'zoë', 'crew')).rejects.toMatchObject({ code: 'noSteward' });
    expect((await signIn('ZOE\u0308', 'eleven pails of sap', '::1')).outcome).toBe('welcome');
  });
});

describe('tags, names and ids', () => {
  it('tags that cannot be told apart are named as such; emoji are told apart', async () => {
    const { treeIds, send } = await book();
    const fresh = () => randomUUID();
    expect(await send(entry(fresh(), 'straße'), entry(fresh(), 'Strasse'))).toEqual([
      'stored',
      expect.stringMatching(/cannot be told from straße/)
    ]);
    expect(await send(entry(fresh(), 'É7'), entry(fresh(), 'e7'))).toEqual([
      'stored',
      expect.stringMatching(/cannot be told from É7/)
    ]);
    expect(await send(entry(fresh(), '🍁'), entry(fresh(), '🌲'))).toEqual(['stored', 'stored']);
    expect(await send(entry(fresh(), 'I9'), entry(fresh(), 'ı9'))).toEqual([
      'stored',
      expect.stringMatching(/cannot be told from I9/)
    ]);
    expect(treeIds.length).toBe(3);
  });

  it('a file whose tags cannot be told apart is no error of the server', async () => {
    const { bushId, bring } = await book();
    const { bad, counts } = await bring('tag,diameter_cm\nÄ1,30\na1,31\nß2,30\nSS2,33\n');
    expect(counts.newTrees + bad.length).toBeGreaterThanOrEqual(2);
    expect((await treesOf(bushId)).length).toBe(3 + counts.newTrees);
  });

  it('what cannot be seen is refused in tags', async () => {
    const { send } = await book();
    for (const tag of ['a\u200bb', 'a\u202eb', 'a\u0007', 'a\ufeff7'])
      expect((await send(entry(randomUUID(), tag)))[0]).toMatch(/cannot be seen/);
  });

  it('ids have one case, and a day lies between 1900 and the next year', async () => {
    const { treeIds, send } = await book();
    const upper = reading(treeIds[0]!.toUpperCase(), 300);
    expect(await send({ ...upper, id: upper.id.toUpperCase() }, upper)).toEqual(['stored', 'already']);
    expect((await send(reading(treeIds[0]!, 300, { on: '2031-01-01' })))[0]).toMatch(/beyond the next year/);
    expect((await send(reading(treeIds[0]!, 300, { on: '1026-08-01' })))[0]).toMatch(/day/);
  });

  it('a season far off is refused, whatever day it was written on', async () => {
    const { treeIds, send } = await book();
    const hole = (season: number) =>
      made(treeIds[0]!, {
        kind: 'taphole',
        season,
        bearingDeg: 10,
        heightMm: 900,
        bitMm: 8,
        depthMm: 38,
        strategy: null
      });
    expect(await send(hole(2027), hole(2199), hole(1850))).toEqual([
      'stored',
      'The season 2199 is far off: look at the year.',
      expect.stringMatching(/^season: /)
    ]);
  });

  it('no field names another bush’s tree', async () => {
    const [a, b] = [await book(), await book()];
    const other = b.treeIds[0]!;
    const side = { side: 'north', treeId: other, species: null, dbhMm: null, fate: 'stands' };
    const card = { kind: 'crownCard', north: 'blocked', east: null, south: null, west: null, blockers: [side] };
    const plan = { ...made('', { kind: 'thinningPlan', standId: null, name: 'x', taken: [other] }), treeId: undefined };
    for (const record of [
      made(a.treeIds[0]!, card),
      made(a.treeIds[0]!, { kind: 'cut', what: 'felled', damaged: [other] }),
      plan
    ])
      expect(await a.send(record)).toEqual(['It names a tree that is not in this bush.']);
  });

  it('a record sent twice at once is stored once, and never refused', async () => {
    const { treeIds, send } = await book();
    for (const record of [entry(randomUUID(), 'twice'), reading(treeIds[0]!, 300)]) {
      const answers = (await Promise.all([1, 2, 3, 4].map(() => send(record)))).flat().sort();
      expect(answers).toEqual(['already', 'already', 'already', 'stored']);
    }
  });
});

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
    await expect(restoreArchive((await bushFor(into.userId, empty))!, into.userId, text, NOW)).rejects.toThrow(
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
    await restoreArchive((await bushFor(userId, copy))!, userId, written, NOW);
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
        await restoreArchive((await bushFor(userId, copy))!, userId, written, NOW);
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
  }, 60_000);
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
    await restoreArchive((await bushFor(userId, empty))!, userId, archive, NOW);
    const told = (id: string) =>
      tables().work.planting.findAll({ where: { bushId: id }, attributes: ['name', 'alive', 'heightM'], raw: true });
    expect(await told(empty)).toEqual(expect.arrayContaining(await told(bushId)));
  });
});
