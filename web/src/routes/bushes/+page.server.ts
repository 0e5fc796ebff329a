import { userFacing } from '@baumkin/core/errors';
import { fail, redirect } from '@sveltejs/kit';
import { z } from 'zod';

import { bushesOf, createBush } from '$lib/server/bushes.ts';
import { exampleBush, isGuest, throwAway } from '$lib/server/playing.ts';

export async function load({ locals }) {
  const member = locals.member!;
  const [bushes, example, guest] = await Promise.all([bushesOf(member.id), exampleBush(), isGuest(member.id)]);
  return {
    bushes: bushes.map(({ id, name, role, playUntil }) => ({ id, name, role, playUntil })),
    example: example?.name ?? null,
    isGuest: guest,
    displayName: member.displayName
  };
}

const bushName = z.string().trim().min(1, 'Give the bush a name.').max(80, 'A name of at most 80 letters.');
const FOR_AN_ACCOUNT = 'A bush of your own stays: make an account for it.';

export const actions = {
  make: async ({ request, locals }) => {
    const name = (await request.formData()).get('name');
    const kept = String(name ?? '');
    const parsed = bushName.safeParse(name);
    if (!parsed.success) return fail(400, { name: kept, message: parsed.error.issues[0]!.message });
    if (await isGuest(locals.member!.id)) return fail(403, { name: kept, message: FOR_AN_ACCOUNT });
    const id = await createBush(locals.member!.id, parsed.data);
    redirect(303, `/bush/${id}`);
  },
  throwAway: async ({ request, locals }) => {
    const id = String((await request.formData()).get('bush') ?? '');
    try {
      await throwAway(id, locals.member!.id);
    } catch (error) {
      const told = userFacing(error);
      if (told) return fail(404, { name: '', message: told.message });
      throw error;
    }
    redirect(303, '/bushes');
  }
};
