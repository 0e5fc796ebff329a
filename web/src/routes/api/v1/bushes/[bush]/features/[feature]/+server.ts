import { error, json } from '@sveltejs/kit';

import { changing, enter, readRequest } from '$lib/server/api.ts';
import { draw, erase } from '$lib/server/bushes.ts';

/** Draws a feature, or another shape of it. */
export async function PUT({ params, locals, request }) {
  const bush = await enter(locals, params.bush, 'steward');
  const { version, feature } = await readRequest('feature', request);
  if (feature.id !== params.feature) error(400, 'The address names another feature.');
  return json(await changing(draw('feature', bush.id, locals.member!.id, version, feature)));
}

export async function DELETE({ params, locals, request }) {
  const bush = await enter(locals, params.bush, 'steward');
  const { version } = await readRequest('erase', request);
  return json(await changing(erase('feature', bush.id, locals.member!.id, version, params.feature)));
}
