import { randomUUID } from 'node:crypto';
import { afterEach, describe, expect, it } from 'vitest';

import { signIn } from '../src/lib/server/accounts.ts';
import { unitsWhere } from '../src/lib/client/unitsWhere.ts';
import { bushesOf, bushFor } from '../src/lib/server/bushes.ts';
import { Bush, TreeRecord, User } from '../src/lib/server/db/index.ts';
import {
  clearOver,
  copyToPlay,
  endGuest,
  exampleBush,
  isGuest,
  throwAway,
  welcomeGuest
} from '../src/lib/server/playing.ts';
import { openSession, sessionOf } from '../src/lib/server/sessions.ts';
import { treesOf } from '../src/lib/server/trees.ts';
import { book, entry, reading } from './doorsSupport.ts';
import { bushWithTrees, letIn, useFreshDatabase } from './database.ts';

useFreshDatabase();

afterEach(() => {
  delete process.env.BAUMKIN_EXAMPLE;
  delete process.env.BAUMKIN_GUESTS;
});
const later = (days: number) => new Date(Date.now() + days * 86_400_000);

/** A bush with a reading, which the operator shows. */
async function shown() {
  const example = await book();
  const [tree, other] = [randomUUID(), randomUUID()];
  expect(await example.send(entry(tree, '71'), entry(other, '72'), reading(tree, 900))).toEqual(
    Array.from({ length: 3 }, () => 'stored')
  );
  process.env.BAUMKIN_EXAMPLE = example.bushId;
  return example;
}

describe('a copy to play in', () => {
  it('holds what the example holds, is its own, and is thrown away with the names that came along', async () => {
    const example = await shown();
    const { userId } = await bushWithTrees();
    const users = await User.count();
    const id = await copyToPlay(userId);
    expect(id).not.toBe(example.bushId);
    expect(await bushFor(userId, id)).toMatchObject({ role: 'steward', name: expect.stringMatching(/^A copy of /) });
    const [copied, there] = [await treesOf(id), await treesOf(example.bushId)];
    expect(copied.map(({ tag }) => tag)).toEqual(['71', '72']);
    expect(copied.filter(({ id }) => there.some((each) => each.id === id))).toEqual([]);
    // Who asks again has hers.
    expect(await copyToPlay(userId)).toBe(id);
    const other = await bushWithTrees();
    const asked = await Promise.all([copyToPlay(other.userId), copyToPlay(other.userId)]);
    expect(new Set(asked).size).toBe(1);
    await throwAway(asked[0], other.userId);
    expect(await User.count()).toBe(users + 2);

    await throwAway(id, userId);
    expect(await bushFor(userId, id)).toBeNull();
    expect(await TreeRecord.count({ where: { bushId: id } })).toBe(0);
    expect(await User.count()).toBe(users + 1);
    expect(await treesOf(example.bushId)).toHaveLength(there.length);
  });

  it('ends by itself: nobody gets in any more, and the next who plays has it cleared away', async () => {
    await shown();
    const { userId, bushId: own } = await bushWithTrees();
    const id = await copyToPlay(userId);
    expect(await bushFor(userId, id, later(6.9))).not.toBeNull();
    expect(await bushFor(userId, id, later(7.1))).toBeNull();
    expect((await bushesOf(userId, later(7.1))).map((bush) => bush.id)).toEqual([own]);
    await clearOver(later(6.9));
    expect(await Bush.findByPk(id)).not.toBeNull();
    await clearOver(later(7.1));
    expect(await Bush.findByPk(id)).toBeNull();
  });

  it('is of no bush that stays, of no stranger’s, and of nothing where nobody shows one', async () => {
    const { userId, bushId } = await bushWithTrees();
    expect(await exampleBush()).toBeNull();
    await expect(copyToPlay(userId)).rejects.toMatchObject({ code: 'noExample' });
    await expect(throwAway(bushId, userId)).rejects.toMatchObject({ code: 'notHere' });
    await shown();
    const other = await bushWithTrees();
    const theirs = await copyToPlay(other.userId);
    await expect(throwAway(theirs, userId)).rejects.toMatchObject({ code: 'notHere' });
    expect(await bushFor(other.userId, bushId)).toBeNull();
  });
});

describe('a guest', () => {
  it('comes in where guests are taken, has no password, and is gone with the copy after a day', async () => {
    await shown();
    await expect(welcomeGuest('10.1.1.1')).rejects.toMatchObject({ code: 'noExample' });
    process.env.BAUMKIN_GUESTS = '1';
    const guest = await welcomeGuest('10.1.1.1');
    const { token } = await openSession(guest);
    const copy = await copyToPlay(guest);
    expect(await isGuest(guest)).toBe(true);
    expect(await sessionOf(token, later(0.9))).not.toBeNull();
    expect(await sessionOf(token, later(1.1))).toBeNull();
    for (const guess of ['-', ''])
      expect((await signIn(`guest:${guest}`, guess, { address: '10.1.1.1' })).outcome).toBe('wrong');
    await clearOver(later(1.1));
    expect([await Bush.findByPk(copy), await User.findByPk(guest)]).toEqual([null, null]);
  });

  it('takes copy and account along when she signs out; a member who signs out leaves hers', async () => {
    await shown();
    process.env.BAUMKIN_GUESTS = '1';
    const guest = await welcomeGuest('10.4.4.4');
    const copy = await copyToPlay(guest);
    const { userId } = await bushWithTrees();
    const theirs = await copyToPlay(userId);
    await endGuest(guest);
    await endGuest(userId);
    expect([await Bush.findByPk(copy), await User.findByPk(guest)]).toEqual([null, null]);
    expect(await bushFor(userId, theirs)).not.toBeNull();
  });

  it('comes into no bush but as somebody with an account: her records would lose their writer', async () => {
    await shown();
    process.env.BAUMKIN_GUESTS = '1';
    const guest = await welcomeGuest('10.5.5.5');
    const { userId, bushId } = await bushWithTrees();
    await expect(letIn({ bushId, byId: userId }, guest, 'crew')).rejects.toMatchObject({ code: 'forAnAccount' });
  });

  it('is one of thirty an hour from one address', async () => {
    await shown();
    process.env.BAUMKIN_GUESTS = '1';
    const all = await Promise.allSettled(Array.from({ length: 40 }, () => welcomeGuest('10.2.2.2')));
    expect(all.filter(({ status }) => status === 'fulfilled').length).toBeLessThanOrEqual(30);
    await expect(welcomeGuest('10.2.2.2')).rejects.toMatchObject({ code: 'tooManyCopies' });
    await welcomeGuest('10.3.3.3');
    // A sign-in meanwhile, which clears away its own old tries, does not let more in.
    await signIn('nobody', 'guess', { address: '10.2.2.2' }, later(1 / 48));
    await expect(welcomeGuest('10.2.2.2', later(1 / 48))).rejects.toMatchObject({ code: 'tooManyCopies' });
    await expect(welcomeGuest('10.2.2.2', later(0.1))).resolves.toBeTypeOf('string');
  });
});

it('units are those that are usual where the clock is', () => {
  for (const zone of ['America/New_York', 'America/Detroit', 'America/Indiana/Vevay', 'America/Chicago'])
    expect(unitsWhere(zone), zone).toBe('inch');
  for (const zone of ['America/Toronto', 'America/Montreal', 'Europe/Vienna', 'Asia/Tokyo', 'UTC', 'America/Winnipeg'])
    expect(unitsWhere(zone), zone).toBe('metric');
});
