import { json } from '@sveltejs/kit';

import { enter } from '$lib/server/api.ts';
import { recordsByTree } from '$lib/server/records.ts';

/** Everything recorded of every tree: what a phone takes along into the woods. */
export async function GET({ params, locals }) {
  const bush = await enter(locals, params.bush);
  const byTree = await recordsByTree(bush.id);
  return json({ lives: [...byTree].map(([treeId, records]) => ({ treeId, records })) });
}
