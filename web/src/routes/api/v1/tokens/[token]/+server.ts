import { error } from '@sveltejs/kit';

import { takeTokenBack } from '$lib/server/accounts.ts';
import { requireUser } from '$lib/server/api.ts';

/** Takes a key back. */
export async function DELETE({ locals, params }) {
  if (!(await takeTokenBack(requireUser(locals).id, params.token))) error(404, 'You have no such key.');
  return new Response(null, { status: 204 });
}
