/** Every server route refuses the wrong role and the signed-out; a route without a rule is a fault. */
import { readdirSync, readFileSync, statSync } from 'node:fs';
import path from 'node:path';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { RULES } from '../../app/src/lib/server/permissions';
import { closeDb } from '$store/database';
import type { Role } from '$store/auth';
import { BASE, Client, personOf } from './client';

const ROOT = 'app/src/routes';
const walk = (dir: string): string[] =>
	readdirSync(dir).flatMap((f) => (statSync(path.join(dir, f)).isDirectory() ? walk(path.join(dir, f)) : [path.join(dir, f)]));
const routes = walk(`${ROOT}/api`)
	.filter((f) => f.endsWith('+server.ts'))
	.map((f) => ({
		id: `/${path.relative(ROOT, path.dirname(f))}`,
		methods: [...readFileSync(f, 'utf8').matchAll(/export const (GET|POST|PUT|PATCH|DELETE)\b/g)].map((m) => m[1])
	}));
const ROLES: Role[] = ['planner', 'welder', 'inspector', 'admin', 'learner'];
const address = (id: string) => id.replace(/\[[a-z]+\]/g, '00000000-0000-4000-8000-000000000000');

/** They look at a secret that comes with the request: a PIN, a device's token. */
const OWN_SECRET = ['/api/sign-in', '/api/devices/readings'];

describe('the matrix of routes and roles', () => {
	const clients = new Map<Role, Client>();
	beforeAll(async () => {
		for (const r of ROLES) clients.set(r, await personOf(r));
	});
	afterAll(closeDb);

	it('every route and method has a rule, and every rule a route', () => {
		const have = routes.flatMap((r) => r.methods.map((m) => `${m} ${r.id}`)).sort();
		const ruled = Object.entries(RULES)
			.flatMap(([id, by]) => Object.keys(by).map((m) => `${m} ${id}`))
			.sort();
		expect(have).toEqual(ruled);
		expect(have.length).toBeGreaterThan(25);
	});

	for (const route of routes)
		for (const method of route.methods) {
			const rule = RULES[route.id]?.[method];
			it(`${method} ${route.id}: ${Array.isArray(rule) ? rule.join(', ') : rule}`, async () => {
				const body = method === 'GET' ? undefined : {};
				const out = await new Client().send(method, address(route.id), body);
				if (rule === 'public') expect([401, 403]).not.toContain(out.status === 401 && OWN_SECRET.includes(route.id) ? 200 : out.status);
				else expect(out.status).toBe(401);
				// signing out would end the session the other checks use
				if (route.id === '/api/sign-out') return;
				for (const role of ROLES) {
					const r = await clients.get(role)!.send(method, address(route.id), body);
					const allowed =
						rule === 'public' ||
						rule === 'learners-too' ||
						(rule === 'signed-in' && role !== 'learner') ||
						(Array.isArray(rule) && rule.includes(role));
					if (allowed) expect([401, 403], `${role} is let in`).not.toContain(OWN_SECRET.includes(route.id) ? 200 : r.status);
					else expect(r.status, `${role} is refused`).toBe(403);
					expect(r.status).toBeLessThan(500);
				}
			});
		}

	it('pages ask for a session, and the people page for an admin', async () => {
		const out = await new Client().get('/jobs');
		expect([out.status, out.headers.get('location')]).toEqual([303, '/sign-in?next=%2Fjobs']);
		expect((await clients.get('welder')!.get('/people')).status).toBe(403);
		expect((await clients.get('admin')!.get('/people')).status).toBe(200);
	});

	it('a write from another site is refused whatever the session', async () => {
		for (const origin of ['http://elsewhere.example', 'null', '']) {
			const r = await fetch(`${BASE}/api/sign-out`, { method: 'POST', headers: origin ? { origin } : {} });
			expect(r.status).toBe(403);
		}
	});

	it('security headers stand on pages and answers', async () => {
		const page = await clients.get('planner')!.get('/jobs');
		expect(page.headers.get('content-security-policy')).toMatch(/script-src 'self' 'nonce-/);
		for (const r of [page, await clients.get('planner')!.get('/api/jobs')]) {
			expect(r.headers.get('x-content-type-options')).toBe('nosniff');
			expect(r.headers.get('x-frame-options')).toBe('DENY');
		}
	});
});
