import { json } from '@sveltejs/kit';

import { requireBush, readRequest } from '$lib/server/api.ts';
import { membersOf, showHoles } from '$lib/server/members.ts';

export async function GET({ params, locals }) {
  const bush = await requireBush(locals, params.bush);
  return json({ members: await membersOf(bush.id) });
}

/** A member's own word on what the others see of her. */
export async function PATCH({ params, locals, request }) {
  const bush = await requireBush(locals, params.bush);
  const { showsHoles } = await readRequest('ownFigures', request);
  await showHoles(bush.id, locals.member!.id, showsHoles);
  return new Response(null, { status: 204 });
}
