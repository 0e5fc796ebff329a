import { redirect } from '@sveltejs/kit';

import { closeSession } from '$lib/server/sessions.ts';
import { endGuest } from '$lib/server/playing.ts';
import { dropSessionCookie, SESSION_COOKIE } from '$lib/server/sessionCookie.ts';

export async function POST({ cookies, url, locals }) {
  const token = cookies.get(SESSION_COOKIE);
  if (token) await closeSession(token);
  if (locals.member) await endGuest(locals.member.id);
  dropSessionCookie(cookies, url);
  redirect(303, '/sign-in');
}
