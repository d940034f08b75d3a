import 'reflect-metadata';
import { json, redirect, type Handle, type HandleServerError, type RequestEvent } from '@sveltejs/kit';
import { building } from '$app/environment';
import { AWAY } from '$lib/server/api';
import { closePool } from '$lib/server/compute';
import { log } from '$lib/server/log';
import { allows, ruleFor } from '$lib/server/permissions';
import { SESSION_COOKIE } from '$lib/server/session';
import { stopAllSimulated } from '$lib/server/simulated';
import { isAway, patiently } from '$store/away';
import { personOf } from '$store/auth';
import { closeDb, getDb } from '$store/database';
import { closeQueue } from '$store/queue';
import errorPage from './error.html?raw';

// the adapter emits this after SIGTERM/SIGINT; open database clients would keep the process alive
if (!building)
	process.on('sveltekit:shutdown', () => {
		stopAllSimulated();
		void closeQueue().finally(closeDb).finally(closePool);
	});

const HEADERS: Record<string, string> = {
	'x-content-type-options': 'nosniff',
	'x-frame-options': 'DENY',
	'referrer-policy': 'same-origin',
	'permissions-policy': 'camera=(), microphone=(), geolocation=()',
	'cross-origin-opener-policy': 'same-origin',
	'cross-origin-resource-policy': 'same-origin'
};

/** The page tries again by itself after this long, s. */
const WAIT_S = 3;

const shut = (status: number, message: string, refresh?: number) =>
	new Response(errorPage.replaceAll('%sveltekit.status%', String(status)).replace('%sveltekit.error.message%', message), {
		status,
		headers: { ...HEADERS, 'content-type': 'text/html; charset=utf-8', ...(refresh ? { refresh: String(refresh) } : {}) }
	});
/** Whether a write comes from a page of ours. Without an ORIGIN the shop reaches the server by several names: the one asked for counts. */
function isOurs({ request, url }: RequestEvent): boolean {
	const origin = request.headers.get('origin');
	if (process.env.ORIGIN || building) return origin === url.origin;
	return origin !== null && URL.canParse(origin) && new URL(origin).host === request.headers.get('host');
}
/** A device is no browser: it sends with a token of its own, which no other site's page can be made to send. */
const isDevice = ({ request, route }: RequestEvent) =>
	route.id === '/api/devices/readings' && (request.headers.get('authorization')?.startsWith('Bearer ') ?? false);
const refuse = (status: number, message: string) => json({ message, faults: [] }, { status, headers: HEADERS });

export const handle: Handle = async ({ event, resolve }) => {
	const id = event.route.id;
	const isApi = event.url.pathname.startsWith('/api/');
	const { method } = event.request;
	// a write must come from a page of this address: forms, scripts and other sites are treated alike
	if (method !== 'GET' && method !== 'HEAD' && !isOurs(event) && !isDevice(event))
		return refuse(403, 'This request did not come from Sarta’s own pages.');
	const token = event.cookies.get(SESSION_COOKIE);
	try {
		if (token) event.locals.person = await patiently(() => personOf(getDb(), token));
	} catch (e) {
		if (!isAway(e)) throw e;
		return isApi ? refuse(503, AWAY) : shut(503, AWAY, WAIT_S);
	}
	if (id) {
		const rule = ruleFor(id, method === 'HEAD' ? 'GET' : method);
		if (!allows(rule, event.locals.person?.roles)) {
			if (isApi) return event.locals.person ? refuse(403, 'Your role does not allow this. Ask an admin.') : refuse(401, 'Sign in first.');
			if (!event.locals.person) redirect(303, `/sign-in?next=${encodeURIComponent(event.url.pathname)}`);
			return shut(403, 'Your role does not open this page. Ask an admin if it should.');
		}
	} else if (isApi) return refuse(404, 'There is nothing at this address.');
	const response = await resolve(event);
	if (event.locals.isAway) response.headers.set('refresh', String(WAIT_S));
	for (const [k, v] of Object.entries(HEADERS)) if (!response.headers.has(k)) response.headers.set(k, v);
	if (isApi) response.headers.set('cache-control', 'no-store');
	return response;
};

export const handleError: HandleServerError = ({ error, status, event }) => {
	if (status === 404) return { message: 'There is nothing at this address.' };
	if (isAway(error)) {
		event.locals.isAway = true;
		return { message: AWAY, isAway: true };
	}
	const reference = crypto.randomUUID().slice(0, 8);
	log.error({ reference, err: error }, 'page failed');
	return { message: `Something went wrong here. Reference ${reference}.`, reference };
};
