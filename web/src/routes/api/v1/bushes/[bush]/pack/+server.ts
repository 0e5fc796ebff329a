import { requireBush, packedJson } from '$lib/server/api.ts';
import { recordsByTree } from '$lib/server/records.ts';

/** Everything recorded of every tree: what a phone takes along into the woods. */
export async function GET({ params, locals, request }) {
  const bush = await requireBush(locals, params.bush);
  const byTree = await recordsByTree(bush.id);
  return packedJson(request, { lives: [...byTree].map(([treeId, records]) => ({ treeId, records })) });
}
