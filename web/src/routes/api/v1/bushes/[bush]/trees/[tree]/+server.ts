import { error, json } from '@sveltejs/kit';

import { requireBush } from '$lib/server/api.ts';
import { treeLife } from '$lib/server/trees.ts';

/** Everything recorded of one tree. */
export async function GET({ params, locals }) {
  const bush = await requireBush(locals, params.bush);
  const records = await treeLife(bush.id, params.tree);
  if (!records) error(404, 'There is no such tree in this bush.');
  return json({ records });
}
