import { randomBytes, randomUUID } from 'node:crypto';
import { env } from 'node:process';
import { lineOfText, nameKey } from '@baumkin/core/records';
import { hash, verify } from '@node-rs/argon2';
import { UniqueConstraintError } from 'sequelize';
import { z } from 'zod';

import { User } from './db/index.ts';
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
  await forgetTries(who);
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
  await forgetTries(key);
}
