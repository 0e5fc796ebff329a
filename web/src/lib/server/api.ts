import { error } from '@sveltejs/kit';
import type { Role } from '@baumkin/core';

import { bushFor, type BushAccess } from './bushes.ts';

/**
 * The member's way into a bush for a route, or an answer of 404: who is not a member does not learn that it exists.
 * @param needed the role that the route asks for
 */
export async function enter(locals: App.Locals, bushId: string, needed: Role = 'viewer'): Promise<BushAccess> {
  const bush = locals.member && (await bushFor(locals.member.id, bushId));
  if (!bush) error(404, 'There is no such bush, or you are not a member of it.');
  const rank: Record<Role, number> = { viewer: 0, crew: 1, steward: 2 };
  if (rank[bush.role] < rank[needed]) error(403, `That needs the ${needed}'s role; yours is ${bush.role}.`);
  return bush;
}

/** Reads a JSON body of limited size. @throws 413 and 400 answers */
export async function readJson(request: Request, mostBytes: number): Promise<unknown> {
  if (Number(request.headers.get('content-length') ?? 0) > mostBytes) tooLarge(mostBytes);
  const text = await request.text();
  if (text.length > mostBytes) tooLarge(mostBytes);
  try {
    return JSON.parse(text);
  } catch {
    error(400, 'The request is not JSON.');
  }
}

function tooLarge(mostBytes: number): never {
  error(413, `That is more than ${Math.round(mostBytes / 1_000_000)} MB. Split it into parts; nothing was changed.`);
}
