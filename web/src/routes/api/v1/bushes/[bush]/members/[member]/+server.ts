import { json } from '@sveltejs/kit';

import { answering, readRequest, requireBush, requireUser } from '$lib/server/api.ts';
import { changeRole, membersOf, removeMember } from '$lib/server/members.ts';

/** Changes what a member may do. */
export async function PATCH({ params, locals, request }) {
  const bush = await requireBush(locals, params.bush, 'steward');
  const byId = requireUser(locals).id;
  const { role } = await readRequest('role', request);
  await answering(changeRole({ bushId: bush.id, byId }, params.member, role));
  return json({ members: await membersOf(bush.id) });
}

/** Takes a member's way in. */
export async function DELETE({ params, locals }) {
  const bush = await requireBush(locals, params.bush, 'steward');
  const byId = requireUser(locals).id;
  await answering(removeMember({ bushId: bush.id, byId }, params.member));
  return new Response(null, { status: 204 });
}
