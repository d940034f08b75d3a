import type { Cookies } from '@sveltejs/kit';

export const SESSION_COOKIE = 'sarta_session';

/** `secure` follows the address: a shop's tablet on plain http could not sign in otherwise; behind https it is always on. */
export const setSession = (cookies: Cookies, token: string, expires: Date, secure: boolean) =>
	cookies.set(SESSION_COOKIE, token, { path: '/', httpOnly: true, sameSite: 'strict', secure, expires });
