/// <reference types="@sveltejs/kit" />
/// <reference lib="webworker" />
/**
 * Keeps the run screen going with the server gone: a bench page that was opened once opens again, with the scripts it needs. Nothing else
 * is answered from here: other pages show what is, or say that they cannot.
 */
import { version } from '$service-worker';

const self = globalThis.self as unknown as ServiceWorkerGlobalScope;
const ASSETS = `sarta-assets-${version}`;
const PAGES = `sarta-bench-${version}`;

const isAsset = (url: URL) => url.pathname.startsWith('/_app/immutable/');
const isBench = (url: URL) => /^\/jobs\/[0-9a-f-]{36}\/weld-out\/?$/.test(url.pathname);

self.addEventListener('install', () => void self.skipWaiting());
self.addEventListener('activate', (event) =>
	event.waitUntil(
		(async () => {
			// pages of another version ask for scripts that are gone with it
			for (const key of await caches.keys()) if (key !== ASSETS && key !== PAGES) await caches.delete(key);
			await self.clients.claim();
		})()
	)
);

/** What a page loaded before this worker was there for it. */
self.addEventListener('message', (event) => {
	const { keep } = event.data as { keep?: string[] };
	if (Array.isArray(keep)) event.waitUntil(keepAll(keep));
});
async function keepAll(addresses: readonly string[]) {
	for (const address of addresses) {
		const url = new URL(address, self.location.origin);
		if (url.origin !== self.location.origin) continue;
		if (isAsset(url)) await asset(new Request(url)).catch(() => {});
		else if (isBench(url)) await page(new Request(url, { headers: { accept: 'text/html' } })).catch(() => {});
	}
}

self.addEventListener('fetch', (event) => {
	const { request } = event;
	const url = new URL(request.url);
	if (url.origin !== self.location.origin) return;
	if (request.method === 'POST' && url.pathname === '/api/sign-out') event.waitUntil(caches.delete(PAGES));
	if (request.method !== 'GET') return;
	if (isAsset(url)) event.respondWith(asset(request));
	else if (request.mode === 'navigate' && isBench(url)) event.respondWith(page(request));
});

/** Named by its content: what is kept is right for ever. */
async function asset(request: Request): Promise<Response> {
	const cache = await caches.open(ASSETS);
	const known = await cache.match(request);
	if (known) return known;
	const fresh = await fetch(request);
	if (fresh.ok) await cache.put(request, fresh.clone());
	return fresh;
}

/** From the server where it answers; as it was last seen where it does not. */
async function page(request: Request): Promise<Response> {
	const cache = await caches.open(PAGES);
	try {
		const fresh = await fetch(request);
		if (fresh.ok && !fresh.redirected) await cache.put(request, fresh.clone());
		if (fresh.status < 500) return fresh;
		return (await cache.match(request)) ?? fresh;
	} catch (e) {
		// by its whole address: another piece's page would take this one's taps
		const known = await cache.match(request);
		if (known) return known;
		throw e;
	}
}
