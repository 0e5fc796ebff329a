import { json } from '@sveltejs/kit';

import { requireBush } from '$lib/server/api.ts';
import { importsOf } from '$lib/server/imports.ts';

/** What files brought in. */
export async function GET({ params, locals }) {
  const bush = await requireBush(locals, params.bush, 'steward');
  return json({ imports: await importsOf(bush.id) });
}
