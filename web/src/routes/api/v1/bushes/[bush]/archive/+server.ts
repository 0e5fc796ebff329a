import { error, json } from '@sveltejs/kit';

import { requireBush, readRequest } from '$lib/server/api.ts';
import { NotEmpty, restoreArchive } from '$lib/server/archive.ts';
import { NoPicture } from '$lib/server/baseMap.ts';
import { UnreadableFile } from '$lib/server/importTrees.ts';

/** Reads an archive back into an empty bush. */
export async function POST({ params, locals, request }) {
  const bush = await requireBush(locals, params.bush, 'steward');
  const { text } = await readRequest('archive', request);
  try {
    return json(await restoreArchive(bush, locals.member!.id, text));
  } catch (problem) {
    if (problem instanceof UnreadableFile || problem instanceof NoPicture) error(422, problem.message);
    if (problem instanceof NotEmpty) error(409, problem.message);
    throw problem;
  }
}
