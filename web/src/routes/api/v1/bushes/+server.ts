import { error, json } from '@sveltejs/kit';

import { bushesOf } from '$lib/server/bushes.ts';

/** The bushes that the member belongs to. */
export async function GET({ locals }) {
  if (!locals.member) error(401, 'Sign in first.');
  const bushes = await bushesOf(locals.member.id);
  return json({ bushes: bushes.map(({ id, name, role }) => ({ id, name, role })) });
}
