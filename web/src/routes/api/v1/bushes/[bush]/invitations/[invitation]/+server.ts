import { json } from '@sveltejs/kit';

import { answering, requireBush, requireUser } from '$lib/server/api.ts';
import { endInvitation, invitationsOf } from '$lib/server/invitations.ts';

/** Ends an invitation. */
export async function DELETE({ params, locals }) {
  const bush = await requireBush(locals, params.bush, 'steward');
  await answering(endInvitation(bush.id, requireUser(locals).id, params.invitation));
  return json({ invitations: await invitationsOf(bush.id) });
}
