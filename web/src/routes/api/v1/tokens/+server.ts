import { error, json } from '@sveltejs/kit';

import { answering, requireUser, readJson } from '$lib/server/api.ts';
import { makeToken, newTokenSchema, tokensOf } from '$lib/server/tokens.ts';

/** The member's own keys for programs. */
export async function GET({ locals }) {
  return json({ tokens: await tokensOf(requireUser(locals).id) });
}

/** Makes a key; this answer is the only one that ever holds it. */
export async function POST({ locals, request }) {
  const member = requireUser(locals);
  const parsed = newTokenSchema.safeParse(await readJson(request, 10_000));
  if (!parsed.success) error(400, parsed.error.issues[0]!.message);
  return json(await answering(makeToken(member.id, parsed.data)), { status: 201 });
}
