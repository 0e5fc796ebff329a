import { json } from '@sveltejs/kit';

import { answering, requireBush } from '$lib/server/api.ts';
import { takeBackImport } from '$lib/server/imports.ts';

/** Takes an import back, whole. */
export async function DELETE({ params, locals }) {
  const bush = await requireBush(locals, params.bush, 'steward');
  return json(await answering(takeBackImport(bush, locals.member!.id, params.import)));
}
