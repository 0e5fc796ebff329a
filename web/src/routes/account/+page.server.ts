import { userFacing } from '@baumkin/core/errors';
import { fail } from '@sveltejs/kit';
import { z } from 'zod';

import { changePassword, newPasswordSchema } from '$lib/server/accounts.ts';
import { isGuest } from '$lib/server/playing.ts';
import { statusOf } from '$lib/server/refusals.ts';
import { closeOtherSessionsOf, closeSessionOf, sessionsOf } from '$lib/server/sessions.ts';

export async function load({ locals }) {
  const { member, session } = locals;
  const devices = await sessionsOf(member!.id);
  return {
    name: member!.displayName,
    signInName: member!.signInName,
    isGuest: await isGuest(member!.id),
    devices: devices.map((device) => ({ ...device, isThis: device.id === session?.id }))
  };
}

export const actions = {
  password: async ({ request, locals }) => {
    const { member, session } = locals;
    const parsed = newPasswordSchema.safeParse(Object.fromEntries(await request.formData()));
    if (!parsed.success) return fail(400, { message: parsed.error.issues[0]!.message });
    try {
      await changePassword(member!.id, parsed.data);
    } catch (thrown) {
      const told = userFacing(thrown);
      if (told) return fail(statusOf(told.code) ?? 409, { message: told.message });
      throw thrown;
    }
    await closeOtherSessionsOf(member!.id, session!.id);
    return { done: 'The new password holds. Every other device is signed out.' };
  },
  signOut: async ({ request, locals }) => {
    const id = z.uuid().safeParse((await request.formData()).get('device'));
    if (!id.success) return fail(400, { message: 'Say which device.' });
    await closeSessionOf(locals.member!.id, id.data);
    return { done: 'It is signed out.' };
  },
  signOutOthers: async ({ locals }) => {
    await closeOtherSessionsOf(locals.member!.id, locals.session!.id);
    return { done: 'Every other device is signed out.' };
  }
};
