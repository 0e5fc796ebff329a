import { error, json } from '@sveltejs/kit';

import { makeToken, newTokenSchema, tokensOf, TooManyTokens } from '$lib/server/accounts.ts';
import { requireUser, readJson } from '$lib/server/api.ts';

/** The member's own keys for programs. */
export async function GET({ locals }) {
  return json({ tokens: await tokensOf(requireUser(locals).id) });
}

/** Makes a key; this answer is the only one that ever holds it. */
export async function POST({ locals, request }) {
  const member = requireUser(locals);
  const parsed = newTokenSchema.safeParse(await readJson(request, 10_000));
  if (!parsed.success) error(400, parsed.error.issues[0]!.message);
  try {
    return json(await makeToken(member.id, parsed.data), { status: 201 });
  } catch (problem) {
    if (problem instanceof TooManyTokens) error(409, problem.message);
    throw problem;
  }
}
