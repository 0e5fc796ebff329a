import type { Role } from '@baumkin/core/records';
import { Op, type Transaction } from 'sequelize';

import { noted } from './audit.ts';
import { writeToBush } from './bushWrite.ts';
import { Bush, FORMER, Membership, User } from './db/index.ts';
import { Refused } from './refusals.ts';

const RANK: Readonly<Record<Role, number>> = { viewer: 0, crew: 1, steward: 2 };
/** May somebody do all that a role may? */
export const mayAsMuchAs = (role: Role, as: Role): boolean => RANK[role] >= RANK[as];

/** Who belongs to a bush. */
export interface MemberHere {
  readonly id: string;
  readonly displayName: string;
  readonly signInName: string;
  readonly role: Role;
  /** she made the bush, or it was passed on to her: nobody else changes her role */
  readonly founder: boolean;
}

/** Who belongs to a bush, by name. */
export async function membersOf(bushId: string): Promise<MemberHere[]> {
  const bush = await Bush.findByPk(bushId, { attributes: ['founderId'], rejectOnEmpty: true });
  const all = await namedIn(bushId);
  return all.flatMap(({ user: { id, displayName, signInName }, role }) =>
    role === FORMER ? [] : [{ id, displayName, signInName, role: role as Role, founder: id === bush.founderId }]
  );
}

/** Who changes what somebody may do in which bush. */
export interface MemberChangeBy {
  readonly bushId: string;
  readonly byId: string;
}

/**
 * Changes what a member may do. Two stewards who demote each other at once come one after the other, and the second is none any more.
 * @throws Refused 'notHere', Refused 'lastSteward', Refused 'noSteward', Refused 'founder', Refused 'founderStays'
 */
export const changeRole = (by: MemberChangeBy, memberId: string, role: Role): Promise<void> =>
  changeMember(by, memberId, role);

/**
 * Takes a member's way into the bush: a steward that of somebody else, anybody her own. What she wrote stays under her name.
 * @throws Refused 'notHere', Refused 'lastSteward', Refused 'noSteward', Refused 'founder', Refused 'founderStays'
 */
export const removeMember = (by: MemberChangeBy, memberId: string): Promise<void> => changeMember(by, memberId, FORMER);

async function changeMember(
  { bushId, byId }: MemberChangeBy,
  memberId: string,
  role: Role | typeof FORMER
): Promise<void> {
  await writeToBush(bushId, async (write) => {
    const { transaction, now } = write;
    const stewards = await Membership.findAll({ where: { bushId, role: 'steward' }, transaction });
    const isSteward = (userId: string) => stewards.some((each) => each.userId === userId);
    const leaves = role === FORMER && memberId === byId;
    if (!leaves && !isSteward(byId)) throw new Refused('noSteward');
    if (role !== 'steward' && isSteward(memberId) && stewards.length === 1) throw new Refused('lastSteward');
    if (role !== 'steward' && memberId === write.bush.founderId)
      throw new Refused(memberId === byId ? 'founderStays' : 'founder');
    // A change of role leaves her own choice of what the others see.
    const where = { userId: memberId, bushId, role: { [Op.ne]: FORMER } };
    const known = await Membership.findOne({ where, transaction });
    if (!known) throw new Refused('notHere');
    await known.update({ role }, { transaction });
    const change = { member: memberId, role: role === FORMER ? null : role };
    await noted({ bushId, authorId: byId, at: now }, 'member', change, transaction);
    write.touches('people');
  });
}

/**
 * Passes the founding of a bush on to another of its stewards: by the founder's own hand alone. She stays a steward.
 * @throws Refused 'founder', Refused 'notASteward'
 */
export async function passFoundingOn({ bushId, byId }: MemberChangeBy, memberId: string): Promise<void> {
  await writeToBush(bushId, async ({ bush, transaction, now }) => {
    if (bush.founderId !== byId) throw new Refused('founder');
    const where = { bushId, userId: memberId, role: 'steward' };
    if (!(await Membership.findOne({ where, transaction }))) throw new Refused('notASteward');
    await bush.update({ founderId: memberId }, { transaction });
    await noted({ bushId, authorId: byId, at: now }, 'bush', { founder: memberId }, transaction);
  });
}

/** Lets the others of a bush see a member's share of brown wood under her name, or no more. */
export async function showHoles(bushId: string, userId: string, showsHoles: boolean): Promise<void> {
  await writeToBush(bushId, async (write) => {
    await Membership.update({ showsHoles }, { where: { userId, bushId }, transaction: write.transaction });
    write.touches('people');
  });
}

/** Everybody whom a record of a bush may name: its members, and those who were. */
export async function peopleOf(
  bushId: string,
  transaction?: Transaction
): Promise<{ id: string; name: string; showsHoles: boolean }[]> {
  return (await namedIn(bushId, transaction)).map(({ user, showsHoles }) => ({
    id: user.id,
    name: user.displayName,
    showsHoles
  }));
}

async function namedIn(
  bushId: string,
  transaction?: Transaction
): Promise<{ user: User; role: string; showsHoles: boolean }[]> {
  const memberships = await Membership.findAll({ where: { bushId }, transaction });
  const users = await User.findAll({
    where: { id: memberships.map((m) => m.userId) },
    order: [['displayName', 'ASC']],
    transaction
  });
  return users.map((user) => {
    const { role, showsHoles } = memberships.find((m) => m.userId === user.id)!;
    return { user, role, showsHoles };
  });
}
