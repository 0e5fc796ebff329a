import { error } from '@sveltejs/kit';

import { requireUser } from '$lib/server/api.ts';
import { takeTokenBack } from '$lib/server/tokens.ts';

/** Takes a key back. */
export async function DELETE({ locals, params }) {
  if (!(await takeTokenBack(requireUser(locals).id, params.token))) error(404, 'You have no such key.');
  return new Response(null, { status: 204 });
}
