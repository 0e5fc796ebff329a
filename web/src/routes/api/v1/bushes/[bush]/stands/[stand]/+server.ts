import { error, json } from '@sveltejs/kit';

import { answering, requireBush, readRequest } from '$lib/server/api.ts';
import { upsertShape, deleteShape } from '$lib/server/bushes.ts';

/** Draws a stand, or another shape of it. */
export async function PUT({ params, locals, request }) {
  const bush = await requireBush(locals, params.bush, 'steward');
  const { version, stand } = await readRequest('stand', request);
  if (stand.id !== params.stand) error(400, 'The address names another stand.');
  return json(
    await answering(upsertShape({ bushId: bush.id, authorId: locals.member!.id, seen: version }, 'stand', stand))
  );
}

export async function DELETE({ params, locals, request }) {
  const bush = await requireBush(locals, params.bush, 'steward');
  const { version } = await readRequest('deletion', request);
  return json(
    await answering(deleteShape({ bushId: bush.id, authorId: locals.member!.id, seen: version }, 'stand', params.stand))
  );
}
