import { error, json } from '@sveltejs/kit';

import { bushesOf } from '$lib/server/bushes.ts';
import { exampleBush } from '$lib/server/playing.ts';

/** The bushes that the member belongs to. */
export async function GET({ locals }) {
  if (!locals.member) error(401, 'Sign in first.');
  const bushes = await bushesOf(locals.member.id);
  const example = await exampleBush();
  return json({ bushes: bushes.map(({ id, name, role }) => ({ id, name, role })), example: example?.name ?? null });
}
