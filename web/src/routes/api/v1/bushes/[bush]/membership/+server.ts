import { answering, requireBush, requireUser } from '$lib/server/api.ts';
import { removeMember } from '$lib/server/members.ts';

/** Leaves the bush. */
export async function DELETE({ params, locals }) {
  const bush = await requireBush(locals, params.bush);
  const { id } = requireUser(locals);
  await answering(removeMember({ bushId: bush.id, byId: id }, id));
  return new Response(null, { status: 204 });
}
