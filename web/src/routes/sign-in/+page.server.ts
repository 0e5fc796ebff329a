import { fail, redirect } from '@sveltejs/kit';
import { z } from 'zod';

import { counted } from '$lib/labels/counted.ts';
import { signIn, signInSchema } from '$lib/server/accounts.ts';
import { pathHere } from '$lib/server/pathHere.ts';
import { exampleBush, takesGuests } from '$lib/server/playing.ts';
import { KNOWN_COOKIE, signInHere } from '$lib/server/sessionCookie.ts';
import { signUpIsOpen } from '$lib/server/signUpIsOpen.ts';

/** Whom the page offers to sign in as, where the server was started to show a demo. */
const demoSchema = z.object({ bush: z.string(), name: z.string(), password: z.string() });

export async function load({ locals, url }) {
  if (locals.member) redirect(303, pathHere(url.searchParams.get('to'), url.origin));
  const demo = process.env.BAUMKIN_DEMO ? demoSchema.parse(JSON.parse(process.env.BAUMKIN_DEMO)) : null;
  const example = takesGuests() ? await exampleBush() : null;
  return { demo, example: example?.name ?? null, open: signUpIsOpen() };
}

export const actions = {
  default: async (event) => {
    const { request, url, getClientAddress, cookies, setHeaders } = event;
    const form = Object.fromEntries(await request.formData());
    const name = String(form.name ?? '');
    const parsed = signInSchema.safeParse(form);
    if (!parsed.success) return fail(400, { name, message: parsed.error.issues[0]!.message });
    const result = await signIn(parsed.data.name, parsed.data.password, {
      address: getClientAddress(),
      known: cookies.get(KNOWN_COOKIE)
    });
    switch (result.outcome) {
      case 'wrong':
        return fail(400, { name, message: 'Name and password do not belong together.' });
      case 'wait':
        setHeaders({ 'retry-after': String(result.seconds) });
        return fail(429, { name, message: `Too many tries. Wait ${waitWords(result.seconds)} and try again.` });
      case 'welcome':
        await signInHere(event, result.userId);
        redirect(303, pathHere(url.searchParams.get('to'), url.origin));
    }
  }
};

const waitWords = (seconds: number) =>
  seconds < 60 ? counted(seconds, 'second') : counted(Math.ceil(seconds / 60), 'minute');
