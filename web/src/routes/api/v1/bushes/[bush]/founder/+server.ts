import { json } from '@sveltejs/kit';

import { answering, readRequest, requireBush, requireUser } from '$lib/server/api.ts';
import { membersOf, passFoundingOn } from '$lib/server/members.ts';

/** Passes the founding on. */
export async function PUT({ params, locals, request }) {
  const bush = await requireBush(locals, params.bush, 'steward');
  const byId = requireUser(locals).id;
  const { member } = await readRequest('founding', request);
  await answering(passFoundingOn({ bushId: bush.id, byId }, member));
  return json({ members: await membersOf(bush.id) });
}
