import { describe, expect, it } from 'vitest';

import { createAccount, signIn } from '../src/lib/server/accounts.ts';
import { bushesOf, bushFor, createBush } from '../src/lib/server/bushes.ts';
import { connect, migrate, pendingMigrations, Session, User } from '../src/lib/server/db/index.ts';
import * as foundation from '../src/lib/server/db/migrations/0001-foundation.ts';
import { changeRole, membersOf, peopleOf, showHoles } from '../src/lib/server/members.ts';
import { closeSession, openSession, sessionOf } from '../src/lib/server/sessions.ts';
import { emptyDatabase, letIn, useFreshDatabase } from './database.ts';

useFreshDatabase();

const password = 'eleven pails of sap';
const account = (name: string) => createAccount({ name, displayName: name, password });

describe('migrations', () => {
  it('run once, also when two servers start together', async () => {
    const empty = await emptyDatabase();
    const [a, b] = [connect(empty.url), connect(empty.url)];
    const pending = await pendingMigrations(a);
    expect(pending[0]).toBe('0001-foundation');
    const ran = await Promise.all([migrate(a), migrate(b)]);
    expect(ran.flat()).toEqual(pending);
    expect(await pendingMigrations(b)).toEqual([]);
    await Promise.all([a.close(), b.close()]);
    await empty.drop();
  });
});

describe('the first migration', () => {
  it('can be run again after it was cut off half-way', async () => {
    const empty = await emptyDatabase();
    const sequelize = connect(empty.url);
    await foundation.up(sequelize.getQueryInterface());
    // As if the process had been ended before the last table was made and the migration written down.
    await sequelize.query('DROP TABLE marks');
    expect(await migrate(sequelize)).toContain('0001-foundation');
    expect(await sequelize.getQueryInterface().tableExists('marks')).toBe(true);
    expect(await pendingMigrations(sequelize)).toEqual([]);
    await sequelize.close();
    await empty.drop();
  });
});

describe('accounts', () => {
  it('sign in with the right password alone; the table holds neither password nor token', async () => {
    const member = await account('ada');
    expect((await signIn('ada', 'wrong', '::1')).outcome).toBe('wrong');
    expect((await signIn('nobody', password, '::1')).outcome).toBe('wrong');
    const welcome = await signIn(' ADA ', password, '::1');
    if (welcome.outcome !== 'welcome') throw new Error(welcome.outcome);
    const { token } = await openSession(welcome.userId);
    expect((await sessionOf(token))!.member).toMatchObject({ id: member.id, signInName: 'ada' });
    expect((await User.findByPk(member.id))!.passwordHash).toMatch(/^\$argon2id\$/);
    expect((await Session.findAll()).map((s) => s.tokenHash)).not.toContain(token);
    await closeSession(token);
    expect(await sessionOf(token)).toBeNull();
  });

  it('sessions end', async () => {
    const { id } = await account('bea');
    const { token } = await openSession(id, 'a phone', new Date('2026-01-01'));
    expect(await sessionOf(token, new Date('2026-02-01'))).toMatchObject({ session: { device: 'a phone' } });
    expect(await sessionOf(token, new Date('2026-04-01'))).toBeNull();
  });

  it('shut the door after too many tries, for a while, and only for that name', async () => {
    await account('cyn');
    await account('dot');
    const at = (minute: number) => new Date(Date.UTC(2026, 5, 1, 12, minute));
    for (let i = 0; i < 8; i++) expect((await signIn('cyn', 'guess', '10.0.0.1', at(0))).outcome).toBe('wrong');
    expect((await signIn('cyn', password, '10.0.0.1', at(1))).outcome).toBe('wait');
    expect((await signIn('dot', password, '10.0.0.1', at(1))).outcome).toBe('welcome');
    expect((await signIn('cyn', password, '10.0.0.1', at(20))).outcome).toBe('welcome');
  });

  it('have names of their own', async () => {
    await account('eve');
    await expect(account('EVE')).rejects.toMatchObject({ code: 'nameTaken' });
  });
});

describe('membership', () => {
  it('opens a bush to its members alone, each with a role', async () => {
    const [steward, crew, stranger] = await Promise.all([account('fay'), account('gil'), account('hob')]);
    const bushId = await createBush(steward.id, 'Fay’s Bush');
    const by = { bushId, byId: steward.id };
    await letIn(by, crew.id, 'viewer');
    await changeRole(by, crew.id, 'crew');
    // Nobody is put into a bush: she comes by an invitation.
    await expect(changeRole(by, stranger.id, 'crew')).rejects.toMatchObject({ code: 'notHere' });
    expect((await bushFor(steward.id, bushId))!.role).toBe('steward');
    expect((await bushFor(crew.id, bushId))!.role).toBe('crew');
    expect(await bushFor(stranger.id, bushId)).toBeNull();
    expect(await bushesOf(stranger.id)).toEqual([]);
    expect((await membersOf(bushId)).map((m) => [m.signInName, m.role])).toEqual([
      ['fay', 'steward'],
      ['gil', 'crew']
    ]);
  });

  it('a member decides what the others see of her own holes, and another role leaves that as it is', async () => {
    const [steward, crew] = await Promise.all([account('ida'), account('jon')]);
    const bushId = await createBush(steward.id, 'Ida’s Bush');
    const by = { bushId, byId: steward.id };
    await letIn(by, crew.id, 'crew');
    const shown = async () => (await peopleOf(bushId)).filter((p) => p.showsHoles).map((p) => p.id);
    expect(await shown()).toEqual([]);
    await showHoles(bushId, crew.id, true);
    await changeRole(by, crew.id, 'viewer');
    await changeRole(by, crew.id, 'viewer');
    expect(await shown()).toEqual([crew.id]);
  });
});
