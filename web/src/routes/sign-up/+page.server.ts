import { userFacing } from '@baumkin/core/errors';
import { fail, redirect } from '@sveltejs/kit';

import { accountSchema, signUp } from '$lib/server/accounts.ts';
import { Refused, statusOf } from '$lib/server/refusals.ts';
import { signInHere } from '$lib/server/sessionCookie.ts';
import { signUpIsOpen } from '$lib/server/signUpIsOpen.ts';

export const load = () => ({ open: signUpIsOpen() });

export const actions = {
  default: async (event) => {
    const { request, getClientAddress } = event;
    const form = Object.fromEntries(await request.formData());
    const kept = { name: String(form.name ?? ''), displayName: String(form.displayName ?? '') };
    if (!signUpIsOpen()) return fail(403, { ...kept, message: new Refused('signUpClosed').message });
    const parsed = accountSchema.safeParse(form);
    if (!parsed.success) return fail(400, { ...kept, message: parsed.error.issues[0]!.message });
    try {
      const member = await signUp(parsed.data, { address: getClientAddress() });
      await signInHere(event, member.id);
    } catch (error) {
      const told = userFacing(error);
      if (told) return fail(statusOf(told.code) ?? 409, { ...kept, message: told.message });
      throw error;
    }
    redirect(303, '/bushes');
  }
};
