import { json } from '@sveltejs/kit';

import { answering, packedPieces, readRequest, requireBush } from '$lib/server/api.ts';
import { changeNameOrOrigin } from '$lib/server/bushes.ts';
import { glanceAt, withTrees } from '$lib/server/glance.ts';
import { asTold } from '$lib/server/lines.ts';

/** The bush at a glance: what every station's list, the beads and the map are drawn from, told for today. */
export async function GET({ params, locals, request }) {
  const bush = await requireBush(locals, params.bush);
  const { glance, kept } = await glanceAt(bush, { id: locals.member!.id, name: locals.member!.displayName });
  const { lines, rings, sizes } = asTold(kept, glance.today);
  return packedPieces(request, withTrees({ ...glance, rings, sizes }, lines));
}

/** Gives the bush another name, or says where on earth it lies. */
export async function PATCH({ params, locals, request }) {
  const bush = await requireBush(locals, params.bush, 'steward');
  const { version, ...change } = await readRequest('bush', request);
  return json(
    await answering(changeNameOrOrigin({ bushId: bush.id, authorId: locals.member!.id, seen: version }, change))
  );
}
