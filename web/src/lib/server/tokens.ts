import { randomBytes, randomUUID } from 'node:crypto';
import { Op } from 'sequelize';
import { z } from 'zod';

import type { Member } from './accounts.ts';
import { notedEverywhere } from './audit.ts';
import { AccessToken, User } from './db/index.ts';
import { Refused } from './refusals.ts';
import { hashOf } from './sessions.ts';

/** A member's key for a program, as she sees it: never the key itself. */
export interface TokenNote {
  readonly id: string;
  readonly name: string;
  readonly mayWrite: boolean;
  readonly expiresAt: string;
}

export const newTokenSchema = z.object({
  name: z.string().trim().min(1, 'Say which program it is for.').max(80),
  mayWrite: z.boolean(),
  days: z.number().int().min(1).max(730)
});

/** Keys begin like this, so that one that was left lying about is recognised for what it is. */
const TOKEN_MARK = 'bush_';
const MAX_TOKENS = 20;

/**
 * Makes a key for a program of a member's. It is shown this once; only its hash is kept.
 * @throws Refused 'tooManyTokens'
 */
export async function makeToken(
  userId: string,
  { name, mayWrite, days }: z.infer<typeof newTokenSchema>,
  now = new Date()
): Promise<{ token: string; note: TokenNote }> {
  if ((await AccessToken.count({ where: { userId } })) >= MAX_TOKENS)
    throw new Refused('tooManyTokens', `There are ${MAX_TOKENS} keys already. Take one back first.`);
  const token = TOKEN_MARK + randomBytes(32).toString('base64url');
  const expiresAt = new Date(now.getTime() + days * 86_400_000);
  const row = await AccessToken.create({
    id: randomUUID(),
    userId,
    name,
    mayWrite,
    tokenHash: hashOf(token),
    createdAt: now,
    expiresAt
  });
  await notedEverywhere(userId, now, 'key', { key: name, mayWrite });
  return { token, note: noteOf(row) };
}

const noteOf = ({ id, name, mayWrite, expiresAt }: AccessToken): TokenNote => ({
  id,
  name,
  mayWrite,
  expiresAt: expiresAt.toISOString()
});

/** A member's keys for programs, the oldest first. */
export async function tokensOf(userId: string): Promise<TokenNote[]> {
  return (await AccessToken.findAll({ where: { userId }, order: [['createdAt', 'ASC']] })).map(noteOf);
}

/** Takes a key back; it opens nothing from now on. @returns whether there was one */
export async function takeTokenBack(userId: string, id: string, now = new Date()): Promise<boolean> {
  const row = await AccessToken.findOne({ where: { userId, id } });
  if (!row || (await AccessToken.destroy({ where: { userId, id } })) === 0) return false;
  await notedEverywhere(userId, now, 'key', { keyBack: row.name });
  return true;
}

/** Whose program this is, and whether it may write; null where the key opens nothing. */
export async function memberByToken(
  token: string,
  now = new Date()
): Promise<{ member: Member; mayWrite: boolean } | null> {
  if (!token.startsWith(TOKEN_MARK)) return null;
  const row = await AccessToken.findOne({ where: { tokenHash: hashOf(token), expiresAt: { [Op.gt]: now } } });
  const user = row && (await User.findByPk(row.userId));
  return user
    ? { member: { id: user.id, signInName: user.signInName, displayName: user.displayName }, mayWrite: row.mayWrite }
    : null;
}
