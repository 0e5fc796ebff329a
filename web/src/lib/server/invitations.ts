import { randomBytes, randomUUID } from 'node:crypto';
import { roleSchema, type Role } from '@baumkin/core/records';
import { Op, type Transaction } from 'sequelize';
import { z } from 'zod';

import { noted } from './audit.ts';
import { writeToBush } from './bushWrite.ts';
import { Bush, FORMER, Invitation, Membership, User } from './db/index.ts';
import { mayAsMuchAs } from './members.ts';
import { Refused } from './refusals.ts';
import { hashOf } from './sessions.ts';

export const invitationSchema = z.object({
  role: roleSchema.describe('that it gives'),
  note: z.string().trim().max(80).default('').describe('for whom, for the stewards’ own list'),
  forMany: z.boolean().describe('for whoever has the link, until it ends; else for the first who comes by it'),
  days: z.number().int().min(1).max(60)
});

/** An invitation as stewards see it: never its link, which is shown once. */
export interface InvitationNote {
  readonly id: string;
  readonly role: Role;
  readonly note: string;
  readonly forMany: boolean;
  readonly by: string;
  readonly expiresAt: string;
  /** may anybody still come by it? */
  readonly open: boolean;
  /** who came by it */
  readonly joined: readonly string[];
}

/** What somebody who holds a link is told before she comes in. */
export interface InvitedTo {
  readonly bushId: string;
  readonly bush: string;
  readonly role: Role;
  readonly by: string;
  readonly expiresAt: Date;
}

const MOST_OPEN = 20;
/** Invitations that ended are listed for so long. */
const LISTED_DAYS = 60;
const DAY_MS = 86_400_000;

const isOpen = (now: Date) => ({ endedAt: null, expiresAt: { [Op.gt]: now } });

/**
 * Makes a way into a bush. Its code is told this once; only a hash of it is kept.
 * @throws Refused 'tooManyInvitations'
 */
export async function invite(
  bushId: string,
  byId: string,
  { role, note, forMany, days }: z.infer<typeof invitationSchema>
): Promise<string> {
  const code = randomBytes(16).toString('base64url');
  await writeToBush(bushId, async ({ transaction, now }) => {
    if ((await Invitation.count({ where: { bushId, ...isOpen(now) }, transaction })) >= MOST_OPEN)
      throw new Refused('tooManyInvitations');
    const expiresAt = new Date(now.getTime() + days * DAY_MS);
    const made = { id: randomUUID(), bushId, codeHash: hashOf(code), role, note, forMany };
    await Invitation.create({ ...made, madeById: byId, madeAt: now, expiresAt, endedAt: null }, { transaction });
    const invitation = { id: made.id, role, note, forMany, days };
    await noted({ bushId, authorId: byId, at: now }, 'invitation', { invitation }, transaction);
  });
  return code;
}

/** The invitations of a bush that are open, and those that ended lately; the newest first. */
export async function invitationsOf(bushId: string, now = new Date()): Promise<InvitationNote[]> {
  const since = new Date(now.getTime() - LISTED_DAYS * DAY_MS);
  const rows = await Invitation.findAll({
    where: { bushId, expiresAt: { [Op.gt]: since } },
    order: [['madeAt', 'DESC']]
  });
  const comers = await Membership.findAll({ where: { bushId, invitationId: rows.map(({ id }) => id) } });
  const users = await User.findAll({
    where: { id: [...rows.map((row) => row.madeById), ...comers.map(({ userId }) => userId)] }
  });
  const nameOf = (id: string) => users.find((user) => user.id === id)?.displayName ?? '';
  return rows.map((row) => ({
    id: row.id,
    role: row.role as Role,
    note: row.note,
    forMany: row.forMany,
    by: nameOf(row.madeById),
    expiresAt: row.expiresAt.toISOString(),
    open: row.endedAt === null && row.expiresAt > now,
    joined: comers.filter(({ invitationId }) => invitationId === row.id).map(({ userId }) => nameOf(userId))
  }));
}

/** Ends an invitation: nobody comes by it any more. @throws Refused 'notHere' */
export async function endInvitation(bushId: string, byId: string, id: string): Promise<void> {
  await writeToBush(bushId, async ({ transaction, now }) => {
    const [ended] = await Invitation.update({ endedAt: now }, { where: { id, bushId, endedAt: null }, transaction });
    if (ended === 0) throw new Refused('notHere');
    await noted({ bushId, authorId: byId, at: now }, 'invitation', { invitationEnded: id }, transaction);
  });
}

/**
 * What a code opens; null where it opens nothing: it ended, or whoever made it is no steward of the bush any more.
 * @param at a transaction to look within
 */
async function opened(
  code: string,
  now: Date,
  transaction?: Transaction
): Promise<{ row: Invitation; by: string } | null> {
  const row = await Invitation.findOne({ where: { codeHash: hashOf(code), ...isOpen(now) }, transaction });
  if (!row) return null;
  const where = { bushId: row.bushId, userId: row.madeById, role: 'steward' };
  if (!(await Membership.findOne({ where, transaction }))) return null;
  const by = await User.findByPk(row.madeById, { transaction, rejectOnEmpty: true });
  return { row, by: by.displayName };
}

/** What somebody who holds a code is asked to; null where it opens nothing any more. */
export async function invitedTo(code: string, now = new Date()): Promise<InvitedTo | null> {
  const found = await opened(code, now);
  if (!found) return null;
  const { bushId, role, expiresAt } = found.row;
  const bush = await Bush.findByPk(bushId, { rejectOnEmpty: true });
  return { bushId, bush: bush.name, role: role as Role, by: found.by, expiresAt };
}

/**
 * Lets somebody in by an invitation. Who is in already loses nothing by it.
 * @returns the bush
 * @throws Refused 'noInvitation', Refused 'forAnAccount' for a guest, who ends by herself and would leave records without a writer
 */
export async function joinBy(code: string, userId: string, now = new Date()): Promise<string> {
  const before = await opened(code, now);
  if (!before) throw new Refused('noInvitation');
  if ((await User.findByPk(userId))?.guestUntil) throw new Refused('forAnAccount');
  const { bushId } = before.row;
  await writeToBush(
    bushId,
    async (write) => {
      const { transaction } = write;
      // Once more under the lock of the bush: two who come at once by a link for one do not both get in.
      const found = await opened(code, now, transaction);
      if (!found) throw new Refused('noInvitation');
      const { id: invitationId, forMany } = found.row;
      const role = found.row.role as Role;
      const known = await Membership.findOne({ where: { userId, bushId }, transaction });
      if (known && known.role !== FORMER && mayAsMuchAs(known.role as Role, role)) return;
      if (known) await known.update({ role, invitationId }, { transaction });
      else await Membership.create({ userId, bushId, role, invitationId }, { transaction });
      if (!forMany) await found.row.update({ endedAt: now }, { transaction });
      const joined = { joined: role, invitation: invitationId };
      await noted({ bushId, authorId: userId, at: now }, 'member', joined, transaction);
      write.touches('people');
    },
    now
  );
  return bushId;
}
