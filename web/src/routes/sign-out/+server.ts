import { redirect } from '@sveltejs/kit';

import { closeSession } from '$lib/server/sessions.ts';
import { dropSessionCookie, SESSION_COOKIE } from '$lib/server/sessionCookie.ts';

export async function POST({ cookies, url }) {
  const token = cookies.get(SESSION_COOKIE);
  if (token) await closeSession(token);
  dropSessionCookie(cookies, url);
  redirect(303, '/sign-in');
}
