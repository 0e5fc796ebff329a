import { packedPieces, requireBush } from '$lib/server/api.ts';
import { glanceAt, withTrees } from '$lib/server/glance.ts';
import { asKept } from '$lib/server/lines.ts';

/** The bush at a glance as devices keep it. The lines are kept as the text that they are sent as. */
export async function GET({ params, locals, request }) {
  const bush = await requireBush(locals, params.bush);
  const { glance, kept } = await glanceAt(bush, { id: locals.member!.id, name: locals.member!.displayName });
  return packedPieces(request, withTrees(glance, asKept(kept)));
}
