import { error, json } from '@sveltejs/kit';

import { requireBush, readRequest } from '$lib/server/api.ts';
import { today } from '$lib/server/clock.ts';
import { importFile, UnreadableFile } from '$lib/server/importTrees.ts';

/** Stores what is new in a file about trees and names its bad rows. */
export async function POST({ params, locals, request }) {
  const bush = await requireBush(locals, params.bush, 'steward');
  const wishes = await readRequest('import', request);
  try {
    return json(await importFile(bush, locals.member!.id, wishes, today()));
  } catch (problem) {
    if (problem instanceof UnreadableFile) error(422, problem.message);
    throw problem;
  }
}
