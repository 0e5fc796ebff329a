import { describe, expect, it } from 'vitest';

import { createAccount } from '../src/lib/server/accounts.ts';
import { bushFor } from '../src/lib/server/bushes.ts';
import { BushChange, HeldBook, Invitation } from '../src/lib/server/db/index.ts';
import { dropBook, heldOf, noteBook } from '../src/lib/server/heldBooks.ts';
import { endInvitation, invitationsOf, invite, invitedTo, joinBy } from '../src/lib/server/invitations.ts';
import { changeRole, membersOf, peopleOf, removeMember } from '../src/lib/server/members.ts';
import { closeSession, closeSessionsOf, deviceOf, openSession, sessionOf } from '../src/lib/server/sessions.ts';
import { heldWords, whenWords } from '../src/lib/people/heldWords.ts';
import { signInNameFor } from '../src/lib/words/signInName.ts';
import { bushWithTrees, letIn, useFreshDatabase } from './database.ts';

useFreshDatabase();

let names = 0;
const somebody = async () => {
  const name = `guest-${++names}`;
  return (await createAccount({ name, displayName: name, password: 'eleven pails of sap' })).id;
};
const CREW = { role: 'crew', note: 'the Saturday lot', forMany: false, days: 7 } as const;
const later = (days: number) => new Date(Date.now() + days * 86_400_000);
const ENDED = { code: 'noInvitation' };

describe('an invitation', () => {
  it('says who asks whom into what, lets one in with its role, and is used up', async () => {
    const { bushId, userId } = await bushWithTrees();
    const [first, second] = [await somebody(), await somebody()];
    const code = await invite(bushId, userId, CREW);
    expect(await invitedTo(code)).toMatchObject({ bush: 'Test Bush', role: 'crew', by: 'Steward' });
    expect(await joinBy(code, first)).toBe(bushId);
    expect((await bushFor(first, bushId))!.role).toBe('crew');
    expect(await invitedTo(code)).toBeNull();
    await expect(joinBy(code, second)).rejects.toMatchObject(ENDED);
    expect(await bushFor(second, bushId)).toBeNull();
    expect(await invitationsOf(bushId)).toMatchObject([
      { note: 'the Saturday lot', open: false, joined: [expect.stringMatching(/^guest/)], by: 'Steward' }
    ]);
    // Who came in, and that she was asked, is in the bush's log; the code is in no table.
    expect(JSON.stringify(await BushChange.findAll({ where: { bushId } }))).toMatch(/"joined":"crew"/);
    expect(JSON.stringify([await Invitation.findAll(), await BushChange.findAll()])).not.toContain(code);
  });

  it('for one lets in one of many who come at once; for a crew, all of them', async () => {
    const { bushId, userId } = await bushWithTrees();
    const guests = await Promise.all(Array.from({ length: 6 }, somebody));
    const one = await invite(bushId, userId, CREW);
    const came = await Promise.allSettled(guests.map((guest) => joinBy(one, guest)));
    expect(came.filter(({ status }) => status === 'fulfilled')).toHaveLength(1);
    const many = await invite(bushId, userId, { ...CREW, forMany: true });
    await Promise.all(guests.map((guest) => joinBy(many, guest)));
    expect(await membersOf(bushId)).toHaveLength(7);
  });

  it('opens nothing once it ran out, was ended, or its maker decides here no more', async () => {
    const { bushId, userId } = await bushWithTrees();
    const guest = await somebody();
    const lapsed = await invite(bushId, userId, { ...CREW, days: 1 });
    await expect(joinBy(lapsed, guest, later(2))).rejects.toMatchObject(ENDED);
    const ended = await invite(bushId, userId, CREW);
    const { id } = (await invitationsOf(bushId))[0]!;
    await endInvitation(bushId, userId, id);
    await expect(joinBy(ended, guest)).rejects.toMatchObject(ENDED);
    await expect(endInvitation(bushId, userId, id)).rejects.toMatchObject({ code: 'notHere' });

    const other = await somebody();
    await letIn({ bushId, byId: userId }, other, 'steward');
    const theirs = await invite(bushId, other, CREW);
    await changeRole({ bushId, byId: userId }, other, 'crew');
    await expect(joinBy(theirs, guest)).rejects.toMatchObject(ENDED);
    await expect(joinBy('a code that was never made', guest)).rejects.toMatchObject(ENDED);
    expect(await bushFor(guest, bushId)).toBeNull();
  });

  it('takes nothing from who is in, gives more where it says more, and lets those back in who were sent away', async () => {
    const { bushId, userId } = await bushWithTrees();
    const by = { bushId, byId: userId };
    const guest = await somebody();
    const look = await invite(bushId, userId, { ...CREW, role: 'viewer', forMany: true });
    await joinBy(look, userId);
    expect((await bushFor(userId, bushId))!.role).toBe('steward');
    await joinBy(look, guest);
    await joinBy(await invite(bushId, userId, CREW), guest);
    expect((await bushFor(guest, bushId))!.role).toBe('crew');
    await removeMember(by, guest);
    expect(await bushFor(guest, bushId)).toBeNull();
    await joinBy(look, guest);
    expect((await bushFor(guest, bushId))!.role).toBe('viewer');
  });

  it('is one of twenty at most', async () => {
    const { bushId, userId } = await bushWithTrees();
    for (let i = 0; i < 20; i++) await invite(bushId, userId, CREW);
    await expect(invite(bushId, userId, CREW)).rejects.toMatchObject({ code: 'tooManyInvitations' });
  });
});

describe('leaving', () => {
  it('is anybody’s own; sending away is a steward’s, and what was written keeps its writer’s name', async () => {
    const { bushId, userId } = await bushWithTrees();
    const by = { bushId, byId: userId };
    const [a, b] = [await somebody(), await somebody()];
    await letIn(by, a, 'crew');
    await letIn(by, b, 'crew');
    await expect(removeMember({ bushId, byId: a }, b)).rejects.toMatchObject({ code: 'noSteward' });
    await removeMember({ bushId, byId: a }, a);
    expect(await bushFor(a, bushId)).toBeNull();
    await expect(removeMember(by, a)).rejects.toMatchObject({ code: 'notHere' });
    await removeMember(by, b);
    expect((await membersOf(bushId)).map(({ id }) => id)).toEqual([userId]);
    expect((await peopleOf(bushId)).map(({ id }) => id)).toEqual(expect.arrayContaining([a, b]));
  });
});

describe('what is on whose device', () => {
  it('is what each said last, is dropped with the hand that signs out, and known where somebody else’s hand did it', async () => {
    const { bushId, userId } = await bushWithTrees();
    const guest = await somebody();
    await letIn({ bushId, byId: userId }, guest, 'crew');
    const { token } = await openSession(guest, 'Firefox on Android');
    const { session } = (await sessionOf(token))!;
    const said = { bushId, userId: guest, session, number: 0 };
    await noteBook({ ...said, waiting: 3 });
    expect(await heldOf(bushId)).toMatchObject([
      { memberId: guest, device: 'Firefox on Android', waiting: 3, behind: 1, signedIn: true }
    ]);
    await noteBook({ ...said, number: 1, waiting: 0 });
    expect(await heldOf(bushId)).toMatchObject([{ waiting: 0, behind: 0 }]);

    await closeSessionsOf(guest);
    expect(await heldOf(bushId)).toMatchObject([{ signedIn: false }]);
    await dropBook(bushId, session.id);
    expect(await HeldBook.count({ where: { bushId } })).toBe(0);

    const again = await openSession(guest);
    await noteBook({ ...said, session: (await sessionOf(again.token))!.session, waiting: 0 });
    await closeSession(again.token);
    expect(await heldOf(bushId)).toEqual([]);
  });

  it('is told in words', () => {
    const now = new Date('2027-03-10T12:00:00');
    const seen = (at: string) => whenWords(new Date(at).toISOString(), now);
    expect(seen('2027-03-10T10:04:00')).toBe('today at 10:04');
    expect(seen('2027-03-09T23:50:00')).toBe('yesterday at 23:50');
    expect(seen('2027-03-03T10:00:00')).toBe('on 3 March');
    expect(seen('2026-12-03T10:00:00')).toBe('on 3 December 2026');
    const held = { memberId: '', device: '', behind: 1, waiting: 2, seenAt: now.toISOString(), signedIn: false };
    expect(heldWords(held, now)).toBe(
      'A device, seen today at 12:00: has the bush without the last change, 2 records waited there to be sent; signed out from here, and drops it when it is next opened.'
    );
  });

  it('browsers say what device they run on; one that says nothing has no name', () => {
    const named = (agent?: string) =>
      deviceOf(new Request('http://baumkin.test', agent === undefined ? {} : { headers: { 'user-agent': agent } }));
    expect(named('Mozilla/5.0 (Android 14; Mobile; rv:130.0) Gecko/130.0 Firefox/130.0')).toBe('Firefox on Android');
    expect(
      named(
        'Mozilla/5.0 (iPhone; CPU iPhone OS 17_5 like Mac OS X) AppleWebKit/605.1.15 (KHTML, like Gecko) Version/17.5 Mobile/15E148 Safari/604.1'
      )
    ).toBe('Safari on Apple mobile');
    expect(named()).toBe('');
  });

  it('a sign-in name goes with a name', () => {
    expect(signInNameFor('Änne van Dijk')).toBe('anne.van.dijk');
    expect(signInNameFor('  O’Hara-Łuk ')).toBe('o.hara.łuk');
  });
});
