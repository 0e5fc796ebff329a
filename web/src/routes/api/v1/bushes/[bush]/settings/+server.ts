import { json } from '@sveltejs/kit';

import { answering, requireBush, readRequest } from '$lib/server/api.ts';
import { changeSettings } from '$lib/server/bushes.ts';

/** Changes some of the bush's own numbers. */
export async function PATCH({ params, locals, request }) {
  const bush = await requireBush(locals, params.bush, 'steward');
  const { version, settings } = await readRequest('settings', request);
  return json(
    await answering(changeSettings({ bushId: bush.id, authorId: locals.member!.id, seen: version }, settings))
  );
}
