import { userFacing } from '@baumkin/core/errors';
import { error, fail, redirect } from '@sveltejs/kit';

import { accountSchema } from '$lib/server/accounts.ts';
import { linkFor, passwordSchema, openedBy } from '$lib/server/oneTimeLinks.ts';
import { Refused, statusOf } from '$lib/server/refusals.ts';
import { signInHere } from '$lib/server/sessionCookie.ts';

export async function load({ params }) {
  const link = await linkFor(params.code);
  if (!link) error(410, new Refused('linkOver').message);
  return link.what === 'first' ? { whose: null } : { whose: link.member };
}

export const actions = {
  default: async (event) => {
    const { request, params } = event;
    const form = Object.fromEntries(await request.formData());
    const kept = { name: String(form.name ?? ''), displayName: String(form.displayName ?? '') };
    try {
      const link = await linkFor(params.code);
      if (!link) throw new Refused('linkOver');
      const wished = link.what === 'first' ? accountSchema.safeParse(form) : passwordSchema.safeParse(form);
      if (!wished.success) return fail(400, { ...kept, message: wished.error.issues[0]!.message });
      const member = await openedBy(params.code, wished.data);
      await signInHere(event, member.id);
    } catch (thrown) {
      const told = userFacing(thrown);
      if (told) return fail(statusOf(told.code) ?? 409, { ...kept, message: told.message });
      throw thrown;
    }
    redirect(303, '/bushes');
  }
};
