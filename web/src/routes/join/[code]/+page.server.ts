import { userFacing } from '@baumkin/core/errors';
import type { Role } from '@baumkin/core/records';
import { error, fail, redirect } from '@sveltejs/kit';

import { accountSchema, createAccount } from '$lib/server/accounts.ts';
import { bushFor } from '$lib/server/bushes.ts';
import { invitedTo, joinBy, type InvitedTo } from '$lib/server/invitations.ts';
import { mayAsMuchAs } from '$lib/server/members.ts';
import { isGuest } from '$lib/server/playing.ts';
import { Refused, statusOf } from '$lib/server/refusals.ts';
import { signInHere } from '$lib/server/sessionCookie.ts';

export async function load({ params, locals, setHeaders }) {
  setHeaders({ 'cache-control': 'private, no-store' });
  const { member } = locals;
  const { bushId, ...invited } = await asked(params.code);
  // Who only looks around comes in as somebody else.
  if (member === null || (await isGuest(member.id))) return { invited, name: null, already: null };
  const hers = await bushFor(member.id, bushId);
  const already = hers && mayAsMuchAs(hers.role, invited.role) ? { bushId, role: hers.role } : null;
  return { invited, name: member.displayName, already };
}

/** @throws 410 where the link opens nothing any more */
async function asked(code: string): Promise<InvitedTo> {
  const invited = await invitedTo(code);
  if (!invited) error(410, new Refused('noInvitation').message);
  return invited;
}

/** Where somebody who came in begins: whoever helps, at what is to be done. */
const BEGINS: Readonly<Record<Role, string>> = { viewer: '', crew: '/walk', steward: '' };

async function comeIn(code: string, userId: string): Promise<never> {
  const { role } = await asked(code);
  const bushId = await joinBy(code, userId);
  redirect(303, `/bush/${bushId}${BEGINS[role]}`);
}

/** Does what may be refused, and keeps what was typed. */
async function orTold(kept: { name: string; displayName: string }, work: () => Promise<never>) {
  try {
    return await work();
  } catch (thrown) {
    const told = userFacing(thrown);
    if (told) return fail(statusOf(told.code) ?? 409, { ...kept, message: told.message });
    throw thrown;
  }
}

export const actions = {
  /** whoever is signed in */
  join: async ({ params, locals }) => {
    const { member } = locals;
    if (!member) redirect(303, `/sign-in?to=${encodeURIComponent(`/join/${params.code}`)}`);
    return orTold({ name: '', displayName: '' }, () => comeIn(params.code, member.id));
  },
  /** whoever has no account here yet: the link is asked first, so that nobody has one who was not let in */
  begin: async (event) => {
    const { request, params } = event;
    const form = Object.fromEntries(await request.formData());
    const kept = { name: String(form.name ?? ''), displayName: String(form.displayName ?? '') };
    await asked(params.code);
    const parsed = accountSchema.safeParse(form);
    if (!parsed.success) return fail(400, { ...kept, message: parsed.error.issues[0]!.message });
    return orTold(kept, async () => {
      const member = await createAccount(parsed.data);
      await signInHere(event, member.id);
      return comeIn(params.code, member.id);
    });
  }
};
