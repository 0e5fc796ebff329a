import { redirect } from '@sveltejs/kit';

import { bushesOf } from '$lib/server/bushes.ts';

/** Straight to the bush for whoever has one. */
export async function load({ locals }) {
  const bushes = await bushesOf(locals.member!.id);
  redirect(303, bushes.length === 1 ? `/bush/${bushes[0]!.id}` : '/bushes');
}
