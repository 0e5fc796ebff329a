import { randomUUID } from 'node:crypto';
import { describe, expect, it } from 'vitest';
import { createAccount, signIn } from '../src/lib/server/accounts.ts';
import { writeArchive } from './archives.ts';
import { createBush, upsertShape, deleteShape, shapesOf } from '../src/lib/server/bushes.ts';
import { Bush, BushChange, StandRow } from '../src/lib/server/db/index.ts';
import { changeRole, membersOf, removeMember } from '../src/lib/server/members.ts';
import { treesOf } from '../src/lib/server/trees.ts';
import { NOW, made, entry, reading, hill, book } from './doorsSupport.ts';
import { letIn, useFreshDatabase } from './database.ts';

useFreshDatabase();

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
      await letIn({ bushId, byId: a.id }, b.id, 'steward');
      const outcomes = await Promise.allSettled([
        changeRole({ bushId, byId: a.id }, b.id, 'crew'),
        changeRole({ bushId, byId: b.id }, a.id, 'crew')
      ]);
      expect((await membersOf(bushId)).filter(({ role }) => role === 'steward').length).toBe(1);
      expect(outcomes.filter(({ status }) => status === 'rejected').length).toBe(1);
    }
  });

  it('a sole steward stays, and cannot leave; look-alike names are other people', async () => {
    const zoe = await account('zoë');
    const bushId = await createBush(zoe.id, 'One');
    const by = { bushId, byId: zoe.id };
    await expect(changeRole(by, zoe.id, 'crew')).rejects.toMatchObject({ code: 'lastSteward' });
    await expect(removeMember(by, zoe.id)).rejects.toMatchObject({ code: 'lastSteward' });
    await expect(account('zoe\u0308')).rejects.toMatchObject({ code: 'nameTaken' });
    const plain = await account('zoe');
    expect(plain.id).not.toBe(zoe.id);
    await letIn(by, plain.id, 'crew');
    await expect(changeRole({ bushId, byId: plain.id }, zoe.id, 'crew')).rejects.toMatchObject({ code: 'noSteward' });
    expect((await signIn('ZOE\u0308', 'eleven pails of sap', { address: '::1' })).outcome).toBe('welcome');
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
