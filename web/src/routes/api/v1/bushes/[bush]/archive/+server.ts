import { json } from '@sveltejs/kit';

import { answering, requireBush } from '$lib/server/api.ts';
import { restoreArchive } from '$lib/server/archive.ts';
import { spooled } from '$lib/server/archiveStream.ts';

/** Reads an archive back into an empty bush, however long it is. */
export async function POST({ params, locals, request }) {
  const bush = await requireBush(locals, params.bush, 'steward');
  return json(
    await answering(spooled(request.body, (source) => restoreArchive({ bush, memberId: locals.member!.id }, source)))
  );
}
