import { json } from '@sveltejs/kit';

import { requireBush } from '$lib/server/api.ts';
import { heldOf } from '$lib/server/heldBooks.ts';

/** Which devices hold the bush, as they said when they asked last. */
export async function GET({ params, locals }) {
  const bush = await requireBush(locals, params.bush, 'steward');
  return json({ held: await heldOf(bush.id) });
}
