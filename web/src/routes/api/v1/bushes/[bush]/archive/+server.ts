import { json } from '@sveltejs/kit';

import { answering, requireBush, readRequest } from '$lib/server/api.ts';
import { restoreArchive } from '$lib/server/archive.ts';

/** Reads an archive back into an empty bush. */
export async function POST({ params, locals, request }) {
  const bush = await requireBush(locals, params.bush, 'steward');
  const { text } = await readRequest('archive', request);
  return json(await answering(restoreArchive(bush, locals.member!.id, text)));
}
