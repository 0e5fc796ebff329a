import { randomBytes, randomUUID } from 'node:crypto';
import { env } from 'node:process';
import { lineOfText, nameKey } from '@baumkin/core/records';
import { hash, verify } from '@node-rs/argon2';
import { Op, UniqueConstraintError } from 'sequelize';
import { z } from 'zod';

import { AccessToken, User } from './db/index.ts';
import { isKnownDevice } from './knownDevices.ts';
import { Refused } from './refusals.ts';
import { hashOf } from './sessions.ts';
import { countTry, forgetTries, uncountTry, type TryRule } from './throttle.ts';

/** Somebody who is signed in. */
export interface Member {
  readonly id: string;
  readonly signInName: string;
  readonly displayName: string;
}

export const signInSchema = z.object({
  name: z.string().trim().min(1, 'Write your sign-in name.').max(80),
  password: z.string().min(1, 'Write your password.').max(200)
});

export const accountSchema = z.object({
  name: z
    .string()
    .trim()
    .min(3, 'A sign-in name has at least 3 letters.')
    .max(80)
    .regex(/^[\p{L}\p{N}._@-]+$/u, 'Letters, digits, dot, dash and @ only.'),
  displayName: lineOfText(80),
  password: z.string().min(10, 'At least 10 characters; a short sentence is good.').max(200)
});

/** Tries of one name, or of one known device; by one address, behind which a whole school may be. Working assumptions. */
const BY_NAME: TryRule = { free: 5, firstWaitS: 2, longestWaitS: 300, forgottenAfterS: 3600 };
const BY_ADDRESS: TryRule = { ...BY_NAME, free: 40 };
/** Accounts made from one address, beside those of people who were asked in: a school has one address. */
const newAccounts = (): TryRule => ({
  free: Number(env.BAUMKIN_SIGN_UPS ?? 20),
  firstWaitS: 60,
  longestWaitS: 3600,
  forgottenAfterS: 3600
});
/** A well-formed hash of nothing: a name that does not exist takes as long to refuse as a wrong password. */
let decoy: Promise<string> | undefined;

export type SignInResult =
  | { readonly outcome: 'welcome'; readonly userId: string }
  | { readonly outcome: 'wrong' }
  | { readonly outcome: 'wait'; readonly seconds: number };

/** Where somebody tries from. */
export interface TriedFrom {
  readonly address: string;
  /** what her browser says of having been here before */
  readonly known?: string | undefined;
}

/** Makes an account for whoever asks from an address. @throws Refused 'nameTaken', Refused 'tooManyTries' */
export async function signUp(
  input: z.infer<typeof accountSchema>,
  { address }: TriedFrom,
  now = new Date()
): Promise<Member> {
  if ((await countTry([[`signUp:${address}`, newAccounts()]], now)) > 0) throw new Refused('tooManyTries');
  return createAccount(input, now);
}

/** Makes an account. @throws Refused 'nameTaken' */
export async function createAccount(input: z.infer<typeof accountSchema>, now = new Date()): Promise<Member> {
  try {
    const user = await User.create({
      id: randomUUID(),
      signInName: nameKey(input.name),
      displayName: input.displayName,
      passwordHash: await hash(input.password),
      createdAt: now
    });
    return user.get({ plain: true });
  } catch (error) {
    if (error instanceof UniqueConstraintError) throw new Refused('nameTaken');
    throw error;
  }
}

/**
 * Checks name and password. Whoever guesses waits longer and longer, by name and by address; a device on which she was signed in
 * before has a count of its own, so that nobody can lock an owner out by guessing at her name.
 */
export async function signIn(name: string, password: string, from: TriedFrom, now = new Date()): Promise<SignInResult> {
  const signInName = nameKey(name);
  const user = await User.findOne({ where: { signInName } });
  const isKnown = user !== null && from.known !== undefined && (await isKnownDevice(user.id, from.known));
  const [who, address] = [isKnown ? `device:${hashOf(from.known!)}` : `name:${signInName}`, `address:${from.address}`];
  const seconds = await countTry(
    isKnown
      ? [[who, BY_NAME]]
      : [
          [who, BY_NAME],
          [address, BY_ADDRESS]
        ],
    now
  );
  if (seconds > 0) return { outcome: 'wait', seconds };
  decoy ??= hash(randomBytes(16).toString('hex'));
  // Authors that came in with an archive have a name and no password.
  const own = user?.passwordHash.startsWith('$') ? user.passwordHash : null;
  const right = await verify(own ?? (await decoy), password);
  if (!user || !own || !right) return { outcome: 'wrong' };
  await forgetTries([who], now);
  if (!isKnown) await uncountTry(address);
  return { outcome: 'welcome', userId: user.id };
}

export const newPasswordSchema = accountSchema
  .pick({ password: true })
  .extend({ current: z.string().min(1, 'Write the password that holds now.').max(200) });

/**
 * Sets somebody's new password by her own hand. Whoever sits at her open page has to know the old one, and cannot guess at it faster than
 * at the door.
 * @throws Refused 'wrongPassword', Refused 'tooManyTries'
 */
export async function changePassword(
  userId: string,
  { current, password }: z.infer<typeof newPasswordSchema>,
  now = new Date()
): Promise<void> {
  const key = `password:${userId}`;
  if ((await countTry([[key, BY_NAME]], now)) > 0) throw new Refused('tooManyTries');
  const user = await User.findByPk(userId, { rejectOnEmpty: true });
  if (!user.passwordHash.startsWith('$') || !(await verify(user.passwordHash, current)))
    throw new Refused('wrongPassword');
  await user.update({ passwordHash: await hash(password) });
  await forgetTries([key], now);
}

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
export async function takeTokenBack(userId: string, id: string): Promise<boolean> {
  return (await AccessToken.destroy({ where: { userId, id } })) > 0;
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
