import { fail, redirect } from '@sveltejs/kit';
import { z } from 'zod';

import { bushesOf, createBush } from '$lib/server/bushes.ts';

export async function load({ locals }) {
  const bushes = await bushesOf(locals.member!.id);
  return { bushes: bushes.map(({ id, name, role }) => ({ id, name, role })), displayName: locals.member!.displayName };
}

const bushName = z.string().trim().min(1, 'Give the bush a name.').max(80, 'A name of at most 80 letters.');

export const actions = {
  default: async ({ request, locals }) => {
    const name = (await request.formData()).get('name');
    const parsed = bushName.safeParse(name);
    if (!parsed.success) return fail(400, { name: String(name ?? ''), message: parsed.error.issues[0]!.message });
    const id = await createBush(locals.member!.id, parsed.data);
    redirect(303, `/bush/${id}`);
  }
};
