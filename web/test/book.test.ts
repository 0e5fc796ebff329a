import { randomUUID } from 'node:crypto';
import { readFileSync } from 'node:fs';
import { standSchema } from '@baumkin/core/records';
import { readArchive } from '@baumkin/core/exchange';
import { Validator } from '@seriousme/openapi-schema-validator';
import { QueryTypes } from 'sequelize';
import { describe, expect, it } from 'vitest';

import { signIn } from '../src/lib/server/accounts.ts';
import { makeToken, memberByToken, takeTokenBack, tokensOf } from '../src/lib/server/tokens.ts';
import { bushFile } from '../src/lib/server/bushFiles.ts';
import { restoreText, writeArchive } from './archives.ts';
import { bushesOf, bushFor, createBush, upsertShape, deleteShape, standsOf } from '../src/lib/server/bushes.ts';
import { connect, migrate, User } from '../src/lib/server/db/index.ts';
import * as foundation from '../src/lib/server/db/migrations/0001-foundation.ts';
import { loadDemo } from '../../demo/load.ts';
import { setBaseMap, baseMapOf } from '../src/lib/server/baseMap.ts';
import { peopleOf } from '../src/lib/server/members.ts';
import { openApi } from '../src/lib/server/openapi.ts';
import { recordsByTree } from '../src/lib/server/recordRows.ts';
import { storeRecords } from '../src/lib/server/records.ts';
import { treesOf } from '../src/lib/server/trees.ts';
import { bushWithTrees, emptyDatabase, useFreshDatabase } from './database.ts';
import { treeRows } from './treeRows.ts';

useFreshDatabase();

const made = (treeId: string, change: object) => ({
  id: randomUUID(),
  treeId,
  on: '2026-11-23',
  recordedAt: '2026-11-23T10:00:00.000Z',
  correctsId: null,
  withdrawn: false,
  ...change
});
const entry = (treeId: string, tag: string, change: object = {}) =>
  made(treeId, { kind: 'entry', tag, standId: null, ...change });
const place = (treeId: string, eastM: number, change: object = {}) =>
  made(treeId, { kind: 'place', eastM, northM: 0, quality: 'phone', accuracyM: 4, ...change });

async function bush() {
  const { userId, bushId, treeIds } = await bushWithTrees();
  const as =
    (role: 'crew' | 'steward') =>
    async (...records: object[]) =>
      (await storeRecords(bushId, { id: userId, role }, records)).map((o) => o.reason ?? o.status);
  const send = as('crew');
  const tags = async () => (await treesOf(bushId)).map((tree) => tree.tag);
  return { userId, bushId, treeIds, send, decide: as('steward'), tags };
}

describe('the book of trees', () => {
  it('takes a new tree where it is walked, with its place, once', async () => {
    const { bushId, treeIds, send, tags } = await bush();
    const id = randomUUID();
    const [first, second] = [entry(id, '1a', { afterId: treeIds[0] }), place(id, 2)];
    expect(await send(first, second, first)).toEqual(['stored', 'stored', 'already']);
    expect(await tags()).toEqual(['1', '1a', '2', '3']);
    const tree = (await treesOf(bushId)).find((t) => t.id === id)!;
    expect(tree).toMatchObject({ eastM: 2, positionQuality: 'phone', positionAccuracyM: 4, tagged: true });
  });

  it('refuses a tag that hangs already, and two people who take it at once', async () => {
    const { send, tags } = await bush();
    expect(await send(entry(randomUUID(), '2'))).toEqual([expect.stringMatching(/tag 2 hangs/)]);
    const both = await Promise.all([send(entry(randomUUID(), '9')), send(entry(randomUUID(), '9'))]);
    expect(both.flat().sort()).toEqual([expect.stringMatching(/hangs/), 'stored'].sort());
    expect((await tags()).filter((tag) => tag === '9')).toHaveLength(1);
  });

  it('takes another tag, frees the old one, takes a tree out and in again, and keeps its records', async () => {
    const { bushId, send, decide, tags } = await bush();
    const id = randomUUID();
    const first = entry(id, '8');
    const second = entry(id, '88', { correctsId: first.id });
    const gone = entry(id, '88', { correctsId: second.id, withdrawn: true });
    await send(first, place(id, 1), second);
    expect(await tags()).toContain('88');
    expect(await send(entry(randomUUID(), '8'))).toEqual(['stored']);
    expect(await send(gone)).toEqual([expect.stringMatching(/^Only a steward takes a tree out/)]);
    expect(await decide(gone)).toEqual(['stored']);
    expect(await tags()).not.toContain('88');
    expect((await recordsByTree(bushId)).get(id)).toHaveLength(4);
    expect(await send(entry(id, '88', { correctsId: gone.id }))).toEqual(['stored']);
    expect((await treesOf(bushId)).find((t) => t.id === id)).toMatchObject({ tag: '88', eastM: 1 });
  });

  it('knows the stems of one base, by their first', async () => {
    const { treeIds, send } = await bush();
    const [second, third] = [randomUUID(), randomUUID()];
    expect(await send(entry(second, '1b', { stemOf: treeIds[0] }))).toEqual(['stored']);
    expect(await send(entry(third, '1c', { stemOf: second }))).toEqual([expect.stringMatching(/first stem/)]);
    expect(await send(entry(third, '1c', { stemOf: randomUUID() }))).toEqual([
      expect.stringMatching(/not in this bush/)
    ]);
  });

  it('does not let one bush write into another', async () => {
    const [a, b] = [await bush(), await bush()];
    expect(await a.send(place(b.treeIds[0]!, 3))).toEqual([expect.stringMatching(/not in this bush/)]);
    expect(await a.send(entry(b.treeIds[0]!, '77'))).not.toEqual(['stored']);
    expect(await b.tags()).toEqual(['1', '2', '3']);
  });
});

describe('the step to the book', () => {
  it('gives the trees of the version before an entry and a place', async () => {
    const [userId, bushId, standing, nowhere] = [randomUUID(), randomUUID(), randomUUID(), randomUUID()];
    const empty = await emptyDatabase();
    const sequelize = connect(empty.url);
    const query = sequelize.getQueryInterface();
    await foundation.up(query);
    const now = new Date();
    await query.bulkInsert('users', [
      { id: userId, signInName: 'old', displayName: 'Old', passwordHash: '-', createdAt: now }
    ]);
    await query.bulkInsert('bushes', [{ id: bushId, name: 'Old Bush', settings: '{}', createdAt: now }]);
    await query.bulkInsert('memberships', [{ userId, bushId, role: 'steward' }]);
    await query.bulkInsert('trees', [
      { id: standing, bushId, tag: '1', walkOrder: 0, eastM: 3, northM: 4, positionQuality: 'surveyed' },
      { id: nowhere, bushId, tag: '2', walkOrder: 1 }
    ]);
    await migrate(sequelize);
    const rows = (table: string) =>
      sequelize.query<Record<string, unknown>>(`SELECT * FROM ${table} ORDER BY treeId = '${nowhere}'`, {
        type: QueryTypes.SELECT
      });
    expect(await rows('entries')).toMatchObject([
      { treeId: standing, tag: '1', authorId: userId },
      { treeId: nowhere, tag: '2' }
    ]);
    expect(await rows('places')).toMatchObject([{ treeId: standing, eastM: 3, northM: 4, quality: 'surveyed' }]);
    await sequelize.close();
    await empty.drop();
  });
});

describe('stands and features', () => {
  const stand = (change: object = {}) =>
    standSchema.parse({
      id: randomUUID(),
      name: 'Hill',
      purpose: 'syrup' as const,
      areaHa: null,
      wetness: 'moist' as const,
      outline: [
        [0, 0],
        [9, 0],
        [9, 9]
      ] as [number, number][],
      note: '',
      ...change
    });

  it('are drawn, drawn anew and taken away; an older sight of the bush changes nothing', async () => {
    const { userId, bushId, send, treeIds } = await bush();
    const hill = stand();
    expect(await upsertShape({ bushId, authorId: userId, seen: 1 }, 'stand', hill)).toEqual({ version: 2 });
    await upsertShape({ bushId, authorId: userId, seen: 2 }, 'stand', { ...hill, name: 'Hill Top' });
    expect(await standsOf(bushId)).toEqual([{ ...hill, name: 'Hill Top' }]);
    await expect(upsertShape({ bushId, authorId: userId, seen: 2 }, 'stand', hill)).rejects.toMatchObject({
      code: 'outdated'
    });
    await send(entry(treeIds[0]!, '1', { standId: hill.id }));
    await deleteShape({ bushId, authorId: userId, seen: 3 }, 'stand', hill.id);
    expect(await standsOf(bushId)).toEqual([]);
    expect(await treesOf(bushId)).toHaveLength(3);
  });

  it('of another bush are out of reach', async () => {
    const [a, b] = [await bush(), await bush()];
    const hill = stand();
    await upsertShape({ bushId: b.bushId, authorId: b.userId, seen: 1 }, 'stand', hill);
    await expect(upsertShape({ bushId: a.bushId, authorId: a.userId, seen: 1 }, 'stand', hill)).rejects.toMatchObject({
      code: 'notHere'
    });
    await expect(
      deleteShape({ bushId: a.bushId, authorId: a.userId, seen: 1 }, 'stand', hill.id)
    ).rejects.toMatchObject({ code: 'notHere' });
    expect(await standsOf(b.bushId)).toHaveLength(1);
  });

  it('a picture of the ground is known by its bytes', async () => {
    const { userId, bushId } = await bush();
    const pin = (x: number) => ({ x, y: 0, eastM: x, northM: 0 });
    const fit = {
      widthPx: 100,
      heightPx: 100,
      pins: [pin(0), pin(90)] as [ReturnType<typeof pin>, ReturnType<typeof pin>]
    };
    const png = Buffer.from('89504e470d0a1a0a00', 'hex');
    await setBaseMap({ bushId, authorId: userId }, png, fit);
    expect(await baseMapOf(bushId)).toEqual({ mimeType: 'image/png', picture: png });
    await expect(setBaseMap({ bushId, authorId: userId }, Buffer.from('<svg onload="x"/>'), fit)).rejects.toMatchObject(
      {
        code: 'noPicture'
      }
    );
  });
});

describe('the archive', () => {
  it('of the demo bush reads back into an empty one, equal but for the ids, and then stands', async () => {
    await loadDemo();
    const hedda = (await User.findOne({ where: { signInName: 'hedda' } }))!;
    const [demo] = await bushesOf(hedda.id);
    const archive = await writeArchive(demo!);
    const text = JSON.stringify(archive);

    const { userId, bushId } = await bushWithTrees();
    await expect(restoreText((await bushFor(userId, bushId))!, userId, text)).rejects.toMatchObject({
      code: 'notEmpty'
    });
    const emptyId = await createBush(userId, 'Copy');
    const answer = await restoreText((await bushFor(userId, emptyId))!, userId, text);
    expect(answer.trees).toBe(new Set((await treesOf(demo!.id)).map((t) => t.id)).size);

    // The ids that this server knew already were renamed; by their order they are put back.
    const copy = await writeArchive((await bushFor(userId, emptyId))!);
    const rows = async (id: string) =>
      (await treeRows(id, 2027, '2026-11-23')).rows.map(
        ({ id: _id, standId: _stand, stemOf, crownCard, cut, fallen, tapBan, ...row }) => ({
          ...row,
          stem: stemOf !== null,
          seen: crownCard && [crownCard.north, crownCard.east, crownCard.south, crownCard.west],
          cut: cut && [cut.what, cut.on, cut.by, cut.damaged.length],
          fallen: fallen && [fallen.what, fallen.on, fallen.reviewOn],
          tapBan: tapBan && [tapBan.reasons, tapBan.on]
        })
      );
    expect(await rows(emptyId)).toEqual(await rows(demo!.id));
    expect(copy.records.length).toBe(archive.records.length);
    expect(copy.bushRecords.length).toBe(archive.bushRecords.length);
    // What stands is in the table of trees; what was felled is in the tables of work alone.
    const table = async (name: string) => {
      const file = await bushFile((await bushFor(userId, emptyId))!, name, '2026-11-23');
      return file && 'body' in file ? String(file.body) : '';
    };
    const { rows: lines } = await treeRows(emptyId, 2027, '2026-11-23');
    const felled = lines.filter(({ cut }) => cut !== null);
    expect(felled.length).toBe(4);
    expect((await table('trees.csv')).trim().split('\n')).toHaveLength(lines.length - felled.length + 1);
    for (const { tag } of felled) expect(await table('readings.csv')).toMatch(new RegExp(`^"?${tag}"?,`, 'm'));
    // Trees that a record names inside itself are the copy's own.
    const own = new Set(copy.walk);
    const named = [...copy.records, ...copy.bushRecords].flatMap((record) =>
      record.kind === 'cut' ? record.damaged : record.kind === 'thinningPlan' ? record.taken : []
    );
    expect(named.length).toBeGreaterThan(3);
    for (const id of named) expect(own.has(id)).toBe(true);
    // Its writers have a name here and no way in.
    const people = await peopleOf(emptyId);
    for (const { name } of archive.people.filter((p) => archive.records.some((r) => r.authorId === p.id)))
      expect(people.map((p) => p.name)).toContain(`${name} (archive)`);
    const ghost = people.find((p) => p.id !== userId)!;
    const { signInName } = (await User.findByPk(ghost.id))!;
    expect((await signIn(signInName, '-', { address: '::1' })).outcome).toBe('wrong');
    expect(await bushFor(ghost.id, emptyId)).toBeNull();
  });

  it('comes to a server that knows nothing of it under its own ids, equal to the letter', async () => {
    const { userId, bushId, send } = await bush();
    const id = randomUUID();
    const first = entry(id, '50');
    await send(
      first,
      place(id, 7),
      made(id, { kind: 'mark', purpose: 'keep', reason: 'den' }),
      entry(id, '51', { correctsId: first.id })
    );
    const pin = (x: number) => ({ x, y: 0, eastM: x, northM: 0 });
    await setBaseMap({ bushId, authorId: userId }, Buffer.from('89504e470d0a1a0a00', 'hex'), {
      widthPx: 9,
      heightPx: 9,
      pins: [pin(0), pin(90)]
    });
    const source = await writeArchive((await bushFor(userId, bushId))!);
    expect(source.baseMap?.fit.pins[1].x).toBe(90);
    // As if from elsewhere: the same bush under ids that this server has never seen.
    const foreign = JSON.stringify(source).replace(/([0-9a-f]{8}-[0-9a-f]{4})-4/g, (_, head: string) => `${head}-7`);
    const emptyId = await createBush(userId, source.bush.name);
    await restoreText((await bushFor(userId, emptyId))!, userId, foreign);
    const { writtenAt: _then, people, ...back } = await writeArchive((await bushFor(userId, emptyId))!);
    const { writtenAt: _now, people: writers, ...expected } = readArchive(foreign);
    expect(back).toEqual(expected);
    // Nothing shows that they wrote it: their names say where it is from.
    expect(people).toEqual(
      expect.arrayContaining(writers.map((each) => ({ ...each, name: `${each.name} (archive)` })))
    );
  });

  it('of an earlier release fills an empty bush', async () => {
    const { userId } = await bushWithTrees();
    const emptyId = await createBush(userId, 'From November 2026');
    // The demo bush of this database has the same ids.
    const older = readFileSync(new URL('../../core/test/data/bush-2026-11.json', import.meta.url), 'utf8').replace(
      /([0-9a-f]{8}-[0-9a-f]{4})-4/g,
      (_, head: string) => `${head}-6`
    );
    await restoreText((await bushFor(userId, emptyId))!, userId, older);
    const {
      writtenAt: _then,
      people: _writers,
      bush: _now,
      ...back
    } = await writeArchive((await bushFor(userId, emptyId))!);
    expect(readArchive(older)).toMatchObject(back);
  });
});

describe('keys for programs', () => {
  it('open what their member may see until they end or are taken back', async () => {
    const { userId } = await bushWithTrees();
    const { token, note } = await makeToken(userId, { name: 'script', mayWrite: false, days: 30 });
    expect(await memberByToken(token)).toMatchObject({ member: { id: userId }, mayWrite: false });
    expect(await memberByToken(token, new Date(Date.now() + 31 * 86_400_000))).toBeNull();
    expect(await memberByToken(`${token}x`)).toBeNull();
    expect(JSON.stringify(await tokensOf(userId))).not.toContain(token.slice(5));
    const other = await bushWithTrees();
    expect(await takeTokenBack(other.userId, note.id)).toBe(false);
    expect(await takeTokenBack(userId, note.id)).toBe(true);
    expect(await memberByToken(token)).toBeNull();
  });
});

describe('the description of the interface', () => {
  it('is OpenAPI by the reference validator, and names every route there is', async () => {
    const description = openApi('http://127.0.0.1');
    const result = await new Validator().validate(
      JSON.parse(JSON.stringify(description)) as Parameters<Validator['validate']>[0]
    );
    expect(result).toMatchObject({ valid: true });
    const files = Object.keys(import.meta.glob('../src/routes/api/v1/**/+server.ts'));
    const routes = files
      .map((file) => file.replace('../src/routes/api/v1', '').replace('/+server.ts', ''))
      .filter((route) => !route.endsWith('.json'))
      .map((route) => route.replace(/\[(\w+)\]/g, '{$1}'));
    expect(Object.keys(description.paths).sort()).toEqual(routes.sort());
    for (const file of files) {
      const module = await import.meta.glob('../src/routes/api/v1/**/+server.ts', { query: '?raw', import: 'default' })[
        file
      ]!();
      const path = file
        .replace('../src/routes/api/v1', '')
        .replace('/+server.ts', '')
        .replace(/\[(\w+)\]/g, '{$1}');
      if (path.endsWith('.json')) continue;
      const methods = [...String(module).matchAll(/export (?:async )?function (GET|POST|PUT|PATCH|DELETE)/g)].map((m) =>
        m[1]!.toLowerCase()
      );
      const described = Object.keys(description.paths[path]!).filter((key) => key !== 'parameters');
      expect([path, described.sort()]).toEqual([path, methods.sort()]);
    }
  });
});
