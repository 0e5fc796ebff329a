import { userFacing } from '@baumkin/core/errors';
import { error, fail, redirect } from '@sveltejs/kit';

import { copyToPlay, exampleBush, takesGuests, welcomeGuest } from '$lib/server/playing.ts';
import { Refused, statusOf } from '$lib/server/refusals.ts';
import { signInHere } from '$lib/server/sessionCookie.ts';

export async function load({ locals }) {
  const example = await exampleBush();
  if (!example || (!locals.member && !takesGuests())) error(404, new Refused('noExample').message);
  return { name: example.name, trees: example.trees, signedIn: locals.member !== null };
}

export const actions = {
  default: async (event) => {
    const { locals, getClientAddress } = event;
    let bush: string;
    try {
      let userId = locals.member?.id;
      if (userId === undefined) {
        userId = await welcomeGuest(getClientAddress());
        await signInHere(event, userId);
      }
      bush = await copyToPlay(userId);
    } catch (thrown) {
      const told = userFacing(thrown);
      if (told) return fail(statusOf(told.code) ?? 409, { message: told.message });
      throw thrown;
    }
    redirect(303, `/bush/${bush}`);
  }
};
