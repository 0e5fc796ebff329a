import { randomBytes } from 'node:crypto';
import { hash } from '@node-rs/argon2';
import { nameKey } from '@baumkin/core/records';
import { Op } from 'sequelize';
import type { z } from 'zod';

import { accountSchema, createAccount, type Member } from './accounts.ts';
import { OneTimeLink, User } from './db/index.ts';
import { inTransaction } from './db/transaction.ts';
import { Refused } from './refusals.ts';
import { closeSessionsOf, hashOf } from './sessions.ts';

/*
 * Links that whoever runs the server makes: one for the first account, one for somebody who lost her password. Each opens once, and only
 * a hash of it is kept. No mail is sent: it is handed over as people hand things over.
 */

const HOURS = 48;

export const passwordSchema = accountSchema.pick({ password: true });

/** What a link does: make the first account, or set a new password for somebody. */
export type LinkFor = { readonly what: 'first' } | { readonly what: 'password'; readonly member: Member };

async function makeLink(userId: string | null, now: Date): Promise<string> {
  const code = randomBytes(16).toString('base64url');
  // One at a time for each: who asks for another has lost the one before.
  await OneTimeLink.destroy({ where: { [Op.or]: [{ userId }, { expiresAt: { [Op.lte]: now } }] } });
  await OneTimeLink.create({ codeHash: hashOf(code), userId, expiresAt: new Date(now.getTime() + HOURS * 3_600_000) });
  return code;
}

/** Has anybody an account with a password here? Names that came in with an archive have none. */
export const hasAccounts = async (): Promise<boolean> =>
  (await User.count({ where: { passwordHash: { [Op.like]: '$%' } } })) > 0;

/** A link for the first account; null where there is one. @returns its code, told this once */
export async function linkForFirst(now = new Date()): Promise<string | null> {
  return (await hasAccounts()) ? null : makeLink(null, now);
}

/** A link with which somebody sets a new password. @param signInName as it is typed @returns null where nobody is called so */
export async function linkForPassword(signInName: string, now = new Date()): Promise<string | null> {
  const user = await User.findOne({ where: { signInName: nameKey(signInName), guestUntil: null } });
  // A name that came in with an archive belongs to nobody here.
  return user?.passwordHash.startsWith('$') ? makeLink(user.id, now) : null;
}

/** What a link opens; null where it opens nothing any more. */
export async function linkFor(code: string, now = new Date()): Promise<LinkFor | null> {
  const link = await OneTimeLink.findOne({ where: { codeHash: hashOf(code), expiresAt: { [Op.gt]: now } } });
  if (!link) return null;
  if (link.userId === null) return (await hasAccounts()) ? null : { what: 'first' };
  const { id, signInName, displayName } = await User.findByPk(link.userId, { rejectOnEmpty: true });
  return { what: 'password', member: { id, signInName, displayName } };
}

/** Uses a link up, and does what it is for; of two who come at once one is refused. @throws Refused 'linkOver' */
async function useUp<T>(code: string, work: () => Promise<T>): Promise<T> {
  return inTransaction(async (transaction) => {
    if ((await OneTimeLink.destroy({ where: { codeHash: hashOf(code) }, transaction })) === 0)
      throw new Refused('linkOver');
    return work();
  });
}

/**
 * Does what a link is for: makes the first account, or sets somebody's new password, after which whoever was signed in as her is not any
 * more.
 * @param wished what the link's page asked for
 * @returns who is let in @throws Refused 'linkOver', Refused 'nameTaken'
 */
export async function openedBy(
  code: string,
  wished: z.infer<typeof accountSchema> | z.infer<typeof passwordSchema>
): Promise<Member> {
  const link = await linkFor(code);
  if (link?.what === 'first' && 'name' in wished) return useUp(code, () => createAccount(wished));
  if (link?.what !== 'password') throw new Refused('linkOver');
  const { member } = link;
  const passwordHash = await hash(wished.password);
  await useUp(code, () => User.update({ passwordHash }, { where: { id: member.id } }));
  await closeSessionsOf(member.id);
  return member;
}
