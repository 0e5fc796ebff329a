import { describe, expect, it } from 'vitest';

import { changePassword, createAccount, signIn, signUp } from '../src/lib/server/accounts.ts';
import { bushesOf, bushFor, createBush } from '../src/lib/server/bushes.ts';
import { connect, migrate, pendingMigrations, Session, User } from '../src/lib/server/db/index.ts';
import * as foundation from '../src/lib/server/db/migrations/0001-foundation.ts';
import { changeRole, membersOf, peopleOf, showHoles } from '../src/lib/server/members.ts';
import { rememberDevice } from '../src/lib/server/knownDevices.ts';
import {
  closeOtherSessionsOf,
  closeSession,
  closeSessionOf,
  closeSessionsOf,
  openSession,
  sessionOf,
  sessionsOf
} from '../src/lib/server/sessions.ts';
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
    expect((await signIn('ada', 'wrong', { address: '::1' })).outcome).toBe('wrong');
    expect((await signIn('nobody', password, { address: '::1' })).outcome).toBe('wrong');
    const welcome = await signIn(' ADA ', password, { address: '::1' });
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

  const at = (second: number) => new Date(Date.UTC(2026, 5, 1, 12, 0, second));
  it('hold a guesser up longer and longer, and only for that name', async () => {
    await account('cyn');
    await account('dot');
    const guess = (second: number) => signIn('cyn', 'guess', { address: '10.0.0.1' }, at(second));
    for (let i = 0; i < 5; i++) expect((await guess(0)).outcome).toBe('wrong');
    expect(await guess(1)).toEqual({ outcome: 'wait', seconds: 1 });
    expect((await guess(2)).outcome).toBe('wrong');
    expect(await guess(3)).toEqual({ outcome: 'wait', seconds: 3 });
    expect((await signIn('dot', password, { address: '10.0.0.1' }, at(3))).outcome).toBe('welcome');
    expect((await signIn('cyn', password, { address: '10.0.0.1' }, at(6))).outcome).toBe('welcome');
    // Who was right begins anew.
    expect((await guess(7)).outcome).toBe('wrong');
  });

  it('count a guess before it is checked: of sixty at once five are', async () => {
    await account('flo');
    const all = await Promise.all(
      Array.from({ length: 60 }, (_, i) => signIn('flo', `guess ${i}`, { address: `10.1.0.${i}` }, at(0)))
    );
    expect(all.filter(({ outcome }) => outcome === 'wrong')).toHaveLength(5);
    expect(all.filter(({ outcome }) => outcome === 'wait')).toHaveLength(55);
  });

  it('let the owner in on a device of hers while others guess at her name, and no guesser by it', async () => {
    const { id } = await account('gus');
    const known = await rememberDevice(id);
    for (let i = 0; i < 30; i++) await signIn('gus', 'guess', { address: '10.2.0.1' }, at(0));
    expect((await signIn('gus', password, { address: '10.2.0.1' }, at(1))).outcome).toBe('wait');
    expect((await signIn('gus', password, { address: '10.2.0.1', known }, at(1))).outcome).toBe('welcome');
    // A stolen device has a count of its own, and opens no other name.
    for (let i = 0; i < 5; i++) await signIn('gus', 'guess', { address: '10.2.0.2', known }, at(2));
    expect((await signIn('gus', password, { address: '10.2.0.2', known }, at(2))).outcome).toBe('wait');
    await account('hal');
    for (let i = 0; i < 5; i++) await signIn('hal', 'guess', { address: '10.2.0.3', known }, at(2));
    expect((await signIn('hal', 'guess', { address: '10.2.0.3', known }, at(2))).outcome).toBe('wait');
    await closeSessionsOf(id);
    expect((await signIn('gus', password, { address: '10.2.0.1', known }, at(1))).outcome).toBe('wait');
  });

  it('wait longest five minutes, however many guess for however long', async () => {
    await account('ivo');
    let now = 0;
    let longest = 0;
    for (let i = 0; i < 40; i++) {
      const answer = await signIn('ivo', 'guess', { address: `10.3.0.${i}` }, at(now));
      const waits = answer.outcome === 'wait' ? answer.seconds : 0;
      longest = Math.max(longest, waits);
      now += waits;
    }
    expect(longest).toBe(300);
  });

  it('have their password changed by whoever knows the old one, and who guesses at it waits', async () => {
    const { id } = await account('jan');
    const change = (current: string, second = 0) =>
      changePassword(id, { current, password: 'twelve pails of sap' }, at(second));
    for (let i = 0; i < 5; i++) await expect(change('guess')).rejects.toMatchObject({ code: 'wrongPassword' });
    await expect(change(password)).rejects.toMatchObject({ code: 'tooManyTries' });
    await change(password, 3);
    const enter = (word: string) => signIn('jan', word, { address: '10.5.0.1' }, at(3));
    expect((await enter(password)).outcome).toBe('wrong');
    expect((await enter('twelve pails of sap')).outcome).toBe('welcome');
  });

  it('tell where somebody is signed in, and end one of it or all the others', async () => {
    const { id } = await account('kim');
    const { id: another } = await account('lea');
    const day = (n: number) => new Date(Date.UTC(2026, 5, n));
    const [phone, laptop, lost] = [
      await openSession(id, 'Firefox on Android', day(1)),
      await openSession(id, 'Chrome on Linux', day(2)),
      await openSession(id, 'Safari on an iPhone', day(3))
    ];
    const { token: theirs } = await openSession(another, 'Chrome on Linux', day(3));
    await sessionOf(phone.token, day(5));
    const there = await sessionsOf(id, day(6));
    expect(there.map(({ device }) => device)).toEqual(['Firefox on Android', 'Safari on an iPhone', 'Chrome on Linux']);
    expect(there[0]).toMatchObject({ since: day(1), seenAt: day(5) });
    // Of somebody else's nothing is ended.
    const { session } = (await sessionOf(theirs, day(6)))!;
    await closeSessionOf(id, session.id);
    expect(await sessionOf(theirs, day(6))).not.toBeNull();
    await closeSessionOf(id, there[1]!.id);
    const open = () =>
      Promise.all([phone, laptop, lost].map(async ({ token }) => (await sessionOf(token, day(6))) !== null));
    expect(await open()).toEqual([true, true, false]);
    await closeOtherSessionsOf(id, there[2]!.id);
    expect(await open()).toEqual([false, true, false]);
  });

  it('are not made by the hundred from one address', async () => {
    const more = (i: number) =>
      signUp({ name: `many.${i}`, displayName: 'Many', password }, { address: '10.4.0.1' }, at(0));
    const all = await Promise.allSettled(Array.from({ length: 25 }, (_, i) => more(i)));
    expect(all.filter(({ status }) => status === 'fulfilled')).toHaveLength(20);
    await expect(more(30)).rejects.toMatchObject({ code: 'tooManyTries' });
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
