import { json } from '@sveltejs/kit';

import { requireBush } from '$lib/server/api.ts';
import { snapshotOf } from '$lib/server/snapshot.ts';

/** The whole bush to begin with: one that was made before, or how far the making of one is. */
export async function GET({ params, locals }) {
  const bush = await requireBush(locals, params.bush);
  return json(await snapshotOf(bush.id), { headers: { 'cache-control': 'no-store' } });
}
