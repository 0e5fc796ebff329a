import type { Cookies } from '@sveltejs/kit';

export const SESSION_COOKIE = 'baumkin_session';

export function setSessionCookie(cookies: Cookies, url: URL, token: string, expires: Date): void {
  cookies.set(SESSION_COOKIE, token, {
    path: '/',
    httpOnly: true,
    sameSite: 'lax',
    secure: url.protocol === 'https:',
    expires
  });
}

export function dropSessionCookie(cookies: Cookies): void {
  cookies.delete(SESSION_COOKIE, { path: '/' });
}
