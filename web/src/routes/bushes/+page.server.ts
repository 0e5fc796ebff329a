import { userFacing } from '@baumkin/core/errors';
import { fail, redirect } from '@sveltejs/kit';
import { z } from 'zod';

import { backupsTold } from '$lib/server/backups.ts';
import { bushesOf, createBush, giveUp } from '$lib/server/bushes.ts';
import { exampleBush, isGuest, throwAway } from '$lib/server/playing.ts';

export async function load({ locals }) {
  const member = locals.member!;
  const [bushes, example, guest] = await Promise.all([bushesOf(member.id), exampleBush(), isGuest(member.id)]);
  const stays = bushes.some(({ role, playUntil }) => role === 'steward' && playUntil === null);
  return {
    backups: stays ? await backupsTold() : null,
    now: new Date(),
    bushes: bushes.map(({ id, name, role, playUntil, goneAt, hers }) => ({ id, name, role, playUntil, goneAt, hers })),
    example: example?.name ?? null,
    isGuest: guest,
    displayName: member.displayName
  };
}

async function givenUp(bushId: string, byId: string, isGivenUp: boolean) {
  try {
    await giveUp({ bushId, byId }, isGivenUp);
  } catch (error) {
    const told = userFacing(error);
    if (told) return fail(403, { name: '', message: told.message });
    throw error;
  }
  redirect(303, '/bushes');
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
  giveUp: async ({ request, locals }) => {
    const form = await request.formData();
    const id = String(form.get('bush') ?? '');
    const bush = (await bushesOf(locals.member!.id)).find((each) => each.id === id);
    // Its name, written out: nobody gives up the wrong one by a slip.
    if (bush && String(form.get('called') ?? '').trim() !== bush.name)
      return fail(400, { name: '', message: `That is not its name. "${bush.name}" stays as it is.` });
    return givenUp(id, locals.member!.id, true);
  },
  takeBack: async ({ request, locals }) =>
    givenUp(String((await request.formData()).get('bush') ?? ''), locals.member!.id, false),
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
