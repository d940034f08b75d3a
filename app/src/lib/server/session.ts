import type { Cookies, RequestEvent } from '@sveltejs/kit';
import type { From } from '$store/auth';

export const SESSION_COOKIE = 'sarta_session';
const DEVICE_COOKIE = 'sarta_device';
const DEVICE_DAYS = 400;

/** `secure` follows the address: a shop's tablet on plain http could not sign in otherwise; behind https it is always on. */
const isSecure = ({ url, request }: Pick<RequestEvent, 'url' | 'request'>) =>
	process.env.ORIGIN ? url.protocol === 'https:' : request.headers.get('x-forwarded-proto') === 'https';

/** The address people reach the server by, for what is printed: without an ORIGIN, the one this request came to. */
export const addressOf = (asked: Pick<RequestEvent, 'url' | 'request'>) =>
	process.env.ORIGIN ? asked.url.origin : `${isSecure(asked) ? 'https' : 'http'}://${asked.request.headers.get('host') ?? asked.url.host}`;

type Asked = Pick<RequestEvent, 'url' | 'request'>;

export const setSession = (cookies: Cookies, token: string, expires: Date, asked: Asked) =>
	cookies.set(SESSION_COOKIE, token, { path: '/', httpOnly: true, sameSite: 'strict', secure: isSecure(asked), expires });

export const endSession = (cookies: Cookies, asked: Asked) => cookies.delete(SESSION_COOKIE, { path: '/', secure: isSecure(asked) });

/** The device is known by this from now on: see knownDevices. */
export const setDevice = (cookies: Cookies, token: string, asked: Asked) =>
	cookies.set(DEVICE_COOKIE, token, { path: '/api', httpOnly: true, sameSite: 'strict', secure: isSecure(asked), maxAge: DEVICE_DAYS * 86_400 });

export const fromOf = (event: Pick<RequestEvent, 'getClientAddress' | 'cookies'>): From => ({
	address: event.getClientAddress(),
	device: event.cookies.get(DEVICE_COOKIE)
});

const LOOPBACK = /^(localhost|(::ffff:)?127(\.\d+){3}|\[?::1\]?)$/;

/** Whether somebody sits at this very machine. Behind a proxy every address is this one: a public ORIGIN says there is one. */
export const isAtThisMachine = (address: string, origin = process.env.ORIGIN) =>
	LOOPBACK.test(address) && (origin === undefined || LOOPBACK.test(new URL(origin).hostname));
