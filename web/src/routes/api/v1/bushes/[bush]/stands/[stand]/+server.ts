import { error, json } from '@sveltejs/kit';

import { changing, enter, readRequest } from '$lib/server/api.ts';
import { draw, erase } from '$lib/server/bushes.ts';

/** Draws a stand, or another shape of it. */
export async function PUT({ params, locals, request }) {
  const bush = await enter(locals, params.bush, 'steward');
  const { version, stand } = await readRequest('stand', request);
  if (stand.id !== params.stand) error(400, 'The address names another stand.');
  return json(await changing(draw('stand', bush.id, locals.member!.id, version, stand)));
}

export async function DELETE({ params, locals, request }) {
  const bush = await enter(locals, params.bush, 'steward');
  const { version } = await readRequest('erase', request);
  return json(await changing(erase('stand', bush.id, locals.member!.id, version, params.stand)));
}
