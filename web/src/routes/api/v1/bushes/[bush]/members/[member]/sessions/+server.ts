import { answering, requireBush } from '$lib/server/api.ts';
import { membersOf } from '$lib/server/members.ts';
import { Refused } from '$lib/server/refusals.ts';
import { closeSessionsOf } from '$lib/server/sessions.ts';

/** Signs a member out everywhere. What waits on her devices stays there until she signs in again. */
export async function DELETE({ params, locals }) {
  const bush = await requireBush(locals, params.bush, 'steward');
  await answering(signOut(bush.id, params.member));
  return new Response(null, { status: 204 });
}

async function signOut(bushId: string, memberId: string): Promise<void> {
  if (!(await membersOf(bushId)).some(({ id }) => id === memberId)) throw new Refused('notHere');
  await closeSessionsOf(memberId);
}
