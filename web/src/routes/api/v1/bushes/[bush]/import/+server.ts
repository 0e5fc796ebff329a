import { json } from '@sveltejs/kit';

import { answering, requireBush, readRequest } from '$lib/server/api.ts';
import { today } from '$lib/server/clock.ts';
import { importFile } from '$lib/server/importTrees.ts';

/** Stores what is new in a file about trees and names its bad rows. */
export async function POST({ params, locals, request }) {
  const bush = await requireBush(locals, params.bush, 'steward');
  const wishes = await readRequest('import', request);
  return json(await answering(importFile(bush, locals.member!.id, { ...wishes, today: today() })));
}
