import { requireBush, readRequest } from '$lib/server/api.ts';
import { reorderWalk } from '$lib/server/trees.ts';

/** Takes a new walking order. */
export async function PUT({ params, locals, request }) {
  const bush = await requireBush(locals, params.bush, 'steward');
  const { order } = await readRequest('walk', request);
  await reorderWalk(bush.id, order);
  return new Response(null, { status: 204 });
}
