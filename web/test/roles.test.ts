import type { Role } from '@baumkin/core/records';
import { isHttpError, type RequestEvent } from '@sveltejs/kit';
import { afterEach, beforeAll, describe, expect, it } from 'vitest';

import { handle } from '../src/hooks.server.ts';
import { createAccount } from '../src/lib/server/accounts.ts';
import { makeToken } from '../src/lib/server/tokens.ts';
import { PATHS, SCHEMAS, type Method, type Operation } from '../src/lib/server/contract.ts';
import { Membership } from '../src/lib/server/db/index.ts';
import { openSession } from '../src/lib/server/sessions.ts';
import { snapshotOf } from '../src/lib/server/snapshot.ts';
import { bushWithTrees, useFreshDatabase } from './database.ts';

/* Who gets in where: every address by every role, by a member of another bush, by a key, and by nobody. */

/** The least role that each address asks for; a person is anybody who is signed in and is no program. */
const LEAST = {
  'get /bushes': 'anybody',
  'get /bushes/{bush}': 'viewer',
  'patch /bushes/{bush}': 'steward',
  // Each record is answered for itself: what a viewer wrote while she was crew is refused with its reason, one by one.
  'post /bushes/{bush}/records': 'viewer',
  'get /bushes/{bush}/trees/{tree}': 'viewer',
  'get /bushes/{bush}/lines': 'viewer',
  'get /bushes/{bush}/changes': 'viewer',
  'get /bushes/{bush}/events': 'viewer',
  'get /bushes/{bush}/snapshot': 'viewer',
  'get /bushes/{bush}/snapshot/{number}/{part}': 'viewer',
  'patch /bushes/{bush}/settings': 'steward',
  'put /bushes/{bush}/walk': 'steward',
  'put /bushes/{bush}/stands/{stand}': 'steward',
  'delete /bushes/{bush}/stands/{stand}': 'steward',
  'put /bushes/{bush}/features/{feature}': 'steward',
  'delete /bushes/{bush}/features/{feature}': 'steward',
  'get /bushes/{bush}/base-map': 'viewer',
  'put /bushes/{bush}/base-map': 'steward',
  'delete /bushes/{bush}/base-map': 'steward',
  'get /bushes/{bush}/members': 'viewer',
  'patch /bushes/{bush}/members': 'viewer',
  'patch /bushes/{bush}/members/{member}': 'steward',
  'delete /bushes/{bush}/members/{member}': 'steward',
  'put /bushes/{bush}/founder': 'steward',
  'get /bushes/{bush}/log': 'steward',
  'get /bushes/{bush}/log.csv': 'steward',
  'delete /bushes/{bush}/membership': 'viewer',
  'delete /bushes/{bush}/members/{member}/sessions': 'steward',
  'get /bushes/{bush}/invitations': 'steward',
  'post /bushes/{bush}/invitations': 'steward',
  'delete /bushes/{bush}/invitations/{invitation}': 'steward',
  'get /bushes/{bush}/devices': 'steward',
  'post /bushes/{bush}/import': 'steward',
  'get /bushes/{bush}/imports': 'steward',
  'delete /bushes/{bush}/imports/{import}': 'steward',
  'post /bushes/{bush}/archive': 'steward',
  'get /bushes/{bush}/files/{file}': 'viewer',
  'get /bushes/{bush}/weather': 'crew',
  'get /devices': 'anybody',
  'get /tokens': 'person',
  'post /tokens': 'person',
  'delete /tokens/{token}': 'person'
} as const satisfies Record<string, Role | 'anybody' | 'person'>;
type Address = keyof typeof LEAST;
/** Who belongs to a bush is for people to say: a key that was lost opens no other door. */
const IN_PERSON: readonly Address[] = [
  'patch /bushes/{bush}/members/{member}',
  'delete /bushes/{bush}/members/{member}',
  'delete /bushes/{bush}/membership',
  'put /bushes/{bush}/founder',
  'post /bushes/{bush}/invitations',
  'delete /bushes/{bush}/invitations/{invitation}'
];
const ADDRESSES = Object.entries(LEAST) as [Address, (typeof LEAST)[Address]][];

useFreshDatabase();

const routes = import.meta.glob<Partial<Record<string, (event: RequestEvent) => Promise<Response> | Response>>>(
  '../src/routes/api/v1/**/+server.ts'
);
const path: Record<string, string> = {
  stand: crypto.randomUUID(),
  feature: crypto.randomUUID(),
  token: crypto.randomUUID(),
  import: crypto.randomUUID(),
  invitation: crypto.randomUUID(),
  file: 'trees.csv',
  number: '0',
  part: '0'
};
/** what an address asks for after a question mark */
const query: Record<string, string> = {};
const makings: Promise<void>[] = [];
const keys = {} as Record<Role | 'readOnly', string>;
const sessions = {} as Record<Role, string>;
let elsewhere: string;
/** the role of everybody in the bush, which tests below change or take */
const roleOf = new Map<string, Role>();

async function keyOf(memberId: string, mayWrite: boolean): Promise<string> {
  return (await makeToken(memberId, { name: 'a program', mayWrite, days: 30 })).token;
}

beforeAll(async () => {
  const { userId, bushId, treeIds } = await bushWithTrees();
  const { id: member } = await createAccount({ name: 'other', displayName: 'Other', password: 'a long enough one' });
  await Membership.create({ userId: member, bushId, role: 'crew' });
  roleOf.set(member, 'crew');
  Object.assign(path, { bush: bushId, tree: treeIds[0], member });
  keys.steward = await keyOf(userId, true);
  keys.readOnly = await keyOf(userId, false);
  sessions.steward = (await openSession(userId)).token;
  for (const role of ['crew', 'viewer'] as const) {
    const { id } = await createAccount({ name: role, displayName: role, password: 'a long enough one' });
    await Membership.create({ userId: id, bushId, role });
    roleOf.set(id, role);
    keys[role] = await keyOf(id, true);
    sessions[role] = (await openSession(id)).token;
  }
  const { feed, number } = await snapshotOf(bushId, { background: (making) => void makings.push(making) });
  await Promise.all(makings);
  path.number = String(number);
  query['/bushes/{bush}/changes'] = `?after=0&feed=${feed}`;
  elsewhere = await keyOf((await bushWithTrees()).userId, true);
});

afterEach(async () => {
  for (const [userId, role] of roleOf) await Membership.update({ role }, { where: { userId, bushId: path.bush } });
});

/**
 * Asks an address by way of the door that every request comes through.
 * @param key of a program; null for nobody
 * @param session of a person, who comes without a key
 */
async function answerOf(address: Address, key: string | null, session?: string): Promise<Response> {
  const [method, where] = address.split(' ') as [Method, string];
  const file = `../src/routes/api/v1${where.replaceAll('{', '[').replaceAll('}', ']')}/+server.ts`;
  const params = Object.fromEntries([...where.matchAll(/\{(\w+)\}/g)].map(([, name]) => [name, path[name!]!]));
  const url = new URL(
    `http://baumkin.test/api/v1${where.replace(/\{(\w+)\}/g, (_, name: string) => params[name]!)}${query[where] ?? ''}`
  );
  const request = new Request(url, {
    method: method.toUpperCase(),
    headers: key === null ? {} : { authorization: `Bearer ${key}` },
    ...(method === 'get' ? {} : { body: '{}' })
  });
  const event = { url, request, params, locals: {}, cookies: { get: () => session }, route: { id: where } };
  const resolve = async (given: unknown) => {
    try {
      return await (
        await routes[file]!()
      )[method.toUpperCase()]!(given as RequestEvent);
    } catch (error) {
      if (isHttpError(error)) return new Response(error.body.message, { status: error.status });
      throw error;
    }
  };
  return handle({ event: event as unknown as RequestEvent, resolve: resolve as never });
}

async function ask(address: Address, key: string | null, session?: string): Promise<number> {
  const { status, body } = await answerOf(address, key, session);
  // Events go on for as long as somebody listens.
  await body?.cancel();
  return status;
}

/** Got in: the answer itself, or what is wrong with an empty body or file, or that what is here forbids it. */
const GOT_IN = [200, 204, 400, 409, 422];
/** Whoever may ask for these is told that there is none. */
const NONE_THERE: readonly Address[] = [
  'get /bushes/{bush}/base-map',
  'delete /bushes/{bush}/imports/{import}',
  'delete /bushes/{bush}/invitations/{invitation}'
];
const gotIn = (address: Address, status: number) =>
  GOT_IN.includes(status) || (status === 404 && NONE_THERE.includes(address));

describe('the interface', () => {
  it('has these addresses and no others, and its description says the role that each asks for', () => {
    const said = Object.entries(PATHS).flatMap(([where, operations]) =>
      Object.entries<Operation>(operations).map(([method, { needs }]) => [`${method} ${where}`, needs ?? null])
    );
    expect(Object.fromEntries(said)).toEqual(
      Object.fromEntries(
        ADDRESSES.map(([address, least]) => [address, least === 'steward' || least === 'crew' ? least : null])
      )
    );
  });

  const told = Object.entries<Partial<Record<Method, Operation>>>(PATHS).flatMap(([where, { get }]) =>
    get?.gives && LEAST[`get ${where}` as Address] !== 'person' ? [[`get ${where}` as Address, get.gives] as const] : []
  );
  it.each(told)('%s answers with what is described as %s', async (address, gives) => {
    const answer = await answerOf(address, keys.steward);
    expect(SCHEMAS[gives].safeParse(await answer.json()).error).toBeUndefined();
  });

  it.each(ADDRESSES)('%s lets in: %s', async (address, least) => {
    const reads = address.startsWith('get');
    expect(await ask(address, null), 'nobody').toBe(401);
    expect(await ask(address, 'a-key-that-was-never-made'), 'a made-up key').toBe(401);
    if (!reads) expect(await ask(address, keys.readOnly), 'a key that only reads').toBe(403);
    else if (least !== 'person')
      expect(await ask(address, keys.readOnly), 'a key that only reads').toSatisfy((s: number) => gotIn(address, s));
    if (least === 'person') {
      expect(await ask(address, keys.steward), 'a program').toBe(403);
      return;
    }
    const rank = ['viewer', 'crew', 'steward'] as const;
    const inPerson = IN_PERSON.includes(address);
    for (const role of rank) {
      if (inPerson) expect(await ask(address, keys[role]), `a program, ${role}`).toBe(403);
      const status = inPerson ? await ask(address, null, sessions[role]) : await ask(address, keys[role]);
      if (least === 'anybody' || rank.indexOf(role) >= rank.indexOf(least))
        expect(status, role).toSatisfy((s: number) => gotIn(address, s));
      else expect(status, role).toBe(403);
    }
    if (least !== 'anybody') expect(await ask(address, elsewhere), 'a member of another bush').toBe(404);
  });
});
