import { json } from '@sveltejs/kit';

import { answering, readRequest, requireBush, requireUser } from '$lib/server/api.ts';
import { invitationsOf, invite } from '$lib/server/invitations.ts';

/** Ways in that were handed out. */
export async function GET({ params, locals }) {
  const bush = await requireBush(locals, params.bush, 'steward');
  return json({ invitations: await invitationsOf(bush.id) });
}

/** Makes a way in; this answer is the only one that ever holds its code. */
export async function POST({ params, locals, request }) {
  const bush = await requireBush(locals, params.bush, 'steward');
  const byId = requireUser(locals).id;
  const code = await answering(invite(bush.id, byId, await readRequest('invitation', request)));
  return json({ code, invitations: await invitationsOf(bush.id) }, { status: 201 });
}
