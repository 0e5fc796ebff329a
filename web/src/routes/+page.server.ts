import { redirect } from '@sveltejs/kit';

import { shortcutIn } from '$lib/frame/shortcuts.ts';
import { bushesOf } from '$lib/server/bushes.ts';

/** Straight to the bush for whoever has one, and to the page of it that a shortcut names. */
export async function load({ locals, url }) {
  const bushes = await bushesOf(locals.member!.id);
  redirect(303, bushes.length === 1 ? `/bush/${bushes[0]!.id}${shortcutIn(url)}` : '/bushes');
}
