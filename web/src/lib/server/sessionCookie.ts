import type { Cookies, RequestEvent } from '@sveltejs/kit';

import { LEFT_COOKIE } from '../leftCookie.ts';
import { isKnownDevice, rememberDevice } from './knownDevices.ts';
import { deviceOf, openSession } from './sessions.ts';

export const SESSION_COOKIE = 'baumkin_session';
/** Stays when somebody signs out: her device is known when she comes again. */
export const KNOWN_COOKIE = 'baumkin_known';
const A_YEAR_S = 31_536_000;

/** Opens a session for the browser that asks: kept from scripts and other sites, and sent by TLS alone where that is spoken. */
export async function signInHere({ cookies, url, request }: RequestEvent, userId: string): Promise<void> {
  const { token, expires } = await openSession(userId, deviceOf(request));
  cookies.set(SESSION_COOKIE, token, {
    path: '/',
    httpOnly: true,
    sameSite: 'lax',
    secure: url.protocol === 'https:',
    expires
  });
  const known = cookies.get(KNOWN_COOKIE);
  if (known !== undefined && (await isKnownDevice(userId, known))) return;
  cookies.set(KNOWN_COOKIE, await rememberDevice(userId), {
    path: '/',
    httpOnly: true,
    sameSite: 'strict',
    secure: url.protocol === 'https:',
    maxAge: A_YEAR_S
  });
}

/** Takes the session from the browser, and lets its pages know that it is over: they clear away what the device keeps. */
export function dropSessionCookie(cookies: Cookies, url: URL): void {
  cookies.delete(SESSION_COOKIE, { path: '/' });
  const secure = url.protocol === 'https:';
  cookies.set(LEFT_COOKIE, '1', { path: '/', httpOnly: false, sameSite: 'lax', secure, maxAge: A_YEAR_S });
}
