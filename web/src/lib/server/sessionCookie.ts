import type { Cookies } from '@sveltejs/kit';

export const SESSION_COOKIE = 'baumkin_session';

/** Gives the browser its session: kept from scripts and other sites, and sent by TLS alone where that is spoken. */
export function setSessionCookie(cookies: Cookies, url: URL, token: string, expires: Date): void {
  cookies.set(SESSION_COOKIE, token, {
    path: '/',
    httpOnly: true,
    sameSite: 'lax',
    secure: url.protocol === 'https:',
    expires
  });
}

/** Takes the session from the browser. */
export function dropSessionCookie(cookies: Cookies): void {
  cookies.delete(SESSION_COOKIE, { path: '/' });
}
