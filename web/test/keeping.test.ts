import { randomUUID } from 'node:crypto';
import { describe, expect, it } from 'vitest';

import { createAccount } from '../src/lib/server/accounts.ts';
import { logOf, logTable, notedRefusal } from '../src/lib/server/audit.ts';
import { bushesOf, bushFor, changeSettings, createBush, giveUp } from '../src/lib/server/bushes.ts';
import { clearUp } from '../src/lib/server/clearUp.ts';
import { Bush, Membership, TreeRecord } from '../src/lib/server/db/index.ts';
import { changeRole, membersOf, passFoundingOn, removeMember } from '../src/lib/server/members.ts';
import { storeRecords } from '../src/lib/server/records.ts';
import { makeToken, takeTokenBack } from '../src/lib/server/tokens.ts';
import { bushWithTrees, useFreshDatabase } from './database.ts';

/* Whose a bush is, how it is given up, and what its log tells. */

useFreshDatabase();

const DAY_MS = 86_400_000;

async function bushOfThree() {
  const { userId: founder, bushId, treeIds } = await bushWithTrees();
  const join = async (role: string) => {
    const name = `${role}.${randomUUID().slice(0, 8)}`;
    const { id } = await createAccount({ name, displayName: name, password: 'a long enough one' });
    await Membership.create({ userId: id, bushId, role });
    return id;
  };
  return { founder, bushId, treeIds, other: await join('steward'), crew: await join('crew') };
}
const roleOf = async (bushId: string, id: string) => (await membersOf(bushId)).find((m) => m.id === id)?.role;

describe('whoever founded a bush', () => {
  it('is made less by nobody, and passes it on by her own hand alone', async () => {
    const { founder, bushId, other, crew } = await bushOfThree();
    const byOther = { bushId, byId: other };
    for (const act of [
      () => changeRole(byOther, founder, 'crew'),
      () => removeMember(byOther, founder),
      () => passFoundingOn(byOther, other),
      () => giveUp(byOther, true)
    ])
      await expect(act()).rejects.toMatchObject({ code: 'founder' });
    const byHer = { bushId, byId: founder };
    await expect(changeRole(byHer, founder, 'viewer')).rejects.toMatchObject({ code: 'founderStays' });
    await expect(removeMember(byHer, founder)).rejects.toMatchObject({ code: 'founderStays' });
    await expect(passFoundingOn(byHer, crew)).rejects.toMatchObject({ code: 'notASteward' });
    expect(await roleOf(bushId, founder)).toBe('steward');

    await passFoundingOn(byHer, other);
    await expect(passFoundingOn(byHer, founder)).rejects.toMatchObject({ code: 'founder' });
    await changeRole(byOther, founder, 'crew');
    expect(await roleOf(bushId, founder)).toBe('crew');
  });
});

describe('a bush that is given up', () => {
  it('is looked at and not written in, can be taken back for thirty days, and is gone then with all that is in it', async () => {
    const { founder, bushId, treeIds, crew } = await bushOfThree();
    await giveUp({ bushId, byId: founder }, true);
    expect((await bushFor(crew, bushId))?.role).toBe('viewer');
    expect((await bushFor(founder, bushId))?.role).toBe('viewer');
    expect((await bushesOf(founder)).find(({ id }) => id === bushId)?.hers).toBe(true);
    expect((await bushesOf(crew)).find(({ id }) => id === bushId)?.hers).toBe(false);
    await clearUp(new Date(Date.now() + 29 * DAY_MS));
    await giveUp({ bushId, byId: founder }, false);
    expect((await bushFor(crew, bushId))?.role).toBe('crew');

    await giveUp({ bushId, byId: founder }, true);
    const later = new Date(Date.now() + 31 * DAY_MS);
    expect(await bushFor(founder, bushId, later)).toBeNull();
    await clearUp(later);
    expect(await Bush.findByPk(bushId)).toBeNull();
    expect(await TreeRecord.count({ where: { id: treeIds } })).toBe(0);
  });
});

describe('the log of a bush', () => {
  it('tells who changed what from what, came, left, made keys and was refused, once each', async () => {
    const { founder, bushId, treeIds, crew } = await bushOfThree();
    await changeSettings({ bushId, authorId: founder, seen: 1 }, { depthMm: 40 });
    await changeRole({ bushId, byId: founder }, crew, 'viewer');
    const { note } = await makeToken(crew, { name: 'scale', mayWrite: true, days: 9 });
    await takeTokenBack(crew, note.id);
    const reading = {
      id: randomUUID(),
      treeId: treeIds[0],
      kind: 'reading',
      on: '2026-11-20',
      recordedAt: '2026-11-20T09:00:00.000Z',
      correctsId: null,
      withdrawn: false,
      quantity: 'girth',
      valueMm: 900,
      asWritten: '900',
      method: 'girthTape',
      heightMm: 1300
    };
    for (let i = 0; i < 3; i++) await storeRecords(bushId, { id: crew, role: 'viewer' }, [reading]);
    const { entries } = await logOf(bushId, {});
    expect(entries.map(({ kind }) => kind)).toEqual(['refusal', 'key', 'key', 'member', 'settings']);
    const says = entries.map((entry) => entry.says);
    expect(says[4]).toBe('set the depth of a hole (mm) from 38.1 to 40');
    expect(says[3]).toMatch(/^made crew\.\w+ viewer$/);
    expect(says.slice(0, 3)).toEqual([
      'was refused as viewer: Write down what is not theirs to write',
      'took back the key "scale"',
      'made the key "scale", which reads and writes'
    ]);
    expect((await logOf(bushId, { kind: 'settings' })).entries).toHaveLength(1);
    let table = '';
    for await (const piece of logTable(bushId)) table += piece;
    expect(table.trim().split('\n')).toHaveLength(6);
  });

  it('is read on to its beginning, however long it is, and no formula comes out of it', async () => {
    const { founder, bushId } = await bushOfThree();
    const many = 230;
    for (let seen = 1; seen <= many; seen++)
      await changeSettings({ bushId, authorId: founder, seen }, { markPaint: `=cmd|${seen}` });
    const seen = new Set<number>();
    for (let before: number | null = null, more = true; more;) {
      const page = await logOf(bushId, { before });
      for (const { id } of page.entries) seen.add(id);
      before = page.entries.at(-1)!.id;
      more = page.more;
    }
    expect(seen.size).toBe(many);
    let table = '';
    for await (const piece of logTable(bushId)) table += piece;
    expect(table.trim().split('\n')).toHaveLength(many + 1);
    expect(table).not.toMatch(/(^|[,;])"?=/m);
  });

  it('lets nobody fill it with refusals, and keeps each bush’s own', async () => {
    const { bushId, crew } = await bushOfThree();
    const elsewhere = await createBush(crew, 'Hers');
    for (let i = 0; i < 60; i++) {
      await notedRefusal({ bushId, authorId: crew, at: new Date() }, 'crew', `Try ${i}`);
    }
    expect((await logOf(bushId, { kind: 'refusal' })).entries).toHaveLength(50);
    expect((await logOf(elsewhere, {})).entries).toEqual([]);
  });
});
