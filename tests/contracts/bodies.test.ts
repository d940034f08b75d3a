/** Every route that takes a body refuses each of its fields by name, and never answers with a crash. */
import { randomUUID } from 'node:crypto';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { closeDb } from '$store/database';
import { personOf, startedPiece, TROUGH, type Client } from './client';

interface Fault {
	field: string;
	value: string;
	allowed: string;
}
let admin: Client;
const made = { job: '', piece: '', person: '', procedure: '', measurement: '' };
let settings: Record<string, unknown> = {};
beforeAll(async () => {
	admin = await personOf('admin');
	const started = await startedPiece(admin, admin, 'Bodies');
	Object.assign(made, { job: started.job, piece: started.piece });
	settings = started.settings;
	made.person = (await admin.post('/api/people', { name: `Body ${randomUUID().slice(0, 8)}`, pin: '7391', roles: ['welder'] })).body.person.id;
	made.procedure = (await admin.post('/api/procedures', { name: `Body ${randomUUID().slice(0, 8)}`, settings })).body.procedure.id;
	made.measurement = (await admin.post(`/api/pieces/${made.piece}/measurements`, reading())).body.measurement.id;
});
afterAll(closeDb);

const reading = () => ({
	clientId: randomUUID(),
	feature: 'mouth-width',
	method: 'tape',
	moment: 'unclamped',
	posture: 'three-points',
	instrument: 'Tape',
	metalC: 20,
	readings: [140]
});
const event = () => ({ clientId: randomUUID(), kind: 'note', step: 'run:1', note: 'seen', happenedAt: new Date().toISOString() });
/** path, and a body that would be taken */
const routes: [method: string, path: () => string, body: () => Record<string, unknown>][] = [
	['POST', () => '/api/jobs', () => ({ name: 'Good', customer: 'Somebody', dueDate: '2027-01-31', quantity: 1, notes: 'none', family: TROUGH })],
	['PATCH', () => `/api/jobs/${made.job}`, () => ({ version: 1, name: 'Good', quantity: 3, archived: false })],
	['POST', () => `/api/jobs/${made.job}/duplicate`, () => ({ name: 'Copy' })],
	['POST', () => `/api/jobs/${made.job}/issue`, () => ({ revision: 1, version: 1 })],
	[
		'POST',
		() => `/api/jobs/${made.job}/tasks`,
		() => ({
			revision: 1,
			version: 999,
			kind: 'order-search',
			full: false,
			runLengthMm: 50,
			goals: { weights: [{ id: 'mouth-width', weight: 2 }], time: 1, heat: 1, flip: 1, maxFlips: 3, mayReverse: true, restarts: 0 }
		})
	],
	['POST', () => '/api/people', () => ({ name: 'Somebody New', pin: '6182', roles: ['welder'] })],
	['PATCH', () => `/api/people/${made.person}`, () => ({ version: 1, pin: '8305', roles: ['welder'], archived: false, unlock: true })],
	['PATCH', () => '/api/me', () => ({ units: 'mm' })],
	['PATCH', () => '/api/settings', () => ({ inspectorMayWeld: 'alone' })],
	['POST', () => `/api/pieces/${made.piece}/events`, () => ({ events: [event()] })],
	['POST', () => `/api/pieces/${made.piece}/measurements`, reading],
	['PATCH', () => `/api/pieces/${made.piece}/measurements/${made.measurement}`, () => ({ why: 'misread' })],
	['POST', () => `/api/pieces/${made.piece}/sign`, () => ({ accepted: false, statement: 'Not yet.', concession: 'none' })],
	['POST', () => '/api/procedures', () => ({ name: 'Procedure', settings, note: 'n' })],
	['PATCH', () => `/api/procedures/${made.procedure}`, () => ({ version: 1, settings, note: 'n', archived: false })],
	['POST', () => '/api/heats', () => ({ heat: 'H 1', materialId: '1.4301', thicknessMm: 1.5, supplier: 'Stockist' })]
];

/** Every leaf of a body, as its path. */
function leaves(value: unknown, path: (string | number)[] = []): (string | number)[][] {
	if (typeof value !== 'object' || value === null) return [path];
	return Object.entries(value).flatMap(([k, v]) => leaves(v, [...path, Array.isArray(value) ? Number(k) : k]));
}
function put(body: object, path: (string | number)[], value: unknown) {
	const copy = structuredClone(body) as never;
	let at: Record<string | number, unknown> = copy;
	for (const k of path.slice(0, -1)) at = at[k] as typeof at;
	at[path[path.length - 1]] = value;
	return copy;
}
const named = (path: (string | number)[]) => path.reduce<string>((s, k) => (typeof k === 'number' ? `${s}[${k}]` : s ? `${s}.${k}` : k), '');
const spoilt = (value: unknown): unknown[] =>
	typeof value === 'number' ? ['7', {}, 1e300, -1e300] : typeof value === 'boolean' ? ['yes', 1] : [7, {}, 'x'.repeat(5000)];

describe('bodies', () => {
	for (const [method, path, body] of routes)
		it(`${method} ${path().replace(/\/\//g, '/…/')}: every field is refused by its own name`, async () => {
			const good = body();
			for (const leaf of leaves(good)) {
				let value: unknown = good;
				for (const k of leaf) value = (value as Record<string | number, unknown>)[k];
				// a family's own sizes have a test of their own (core/plan/boundary.test.ts)
				if (leaf[0] === 'family' && leaf[1] === 'parameters') continue;
				// events are judged one by one: what is refused of them is told in an answer of its own (data.test.ts)
				if (leaf[0] === 'events') continue;
				for (const bad of spoilt(value)) {
					const r = await admin.send(method, path(), put(body(), leaf, bad));
					const what = `${named(leaf)} = ${String(JSON.stringify(bad)).slice(0, 30)}`;
					expect(r.status, what).toBe(400);
					const faults = r.body.faults as Fault[];
					// a list of plain words or numbers is named as a whole
					expect(
						faults.some((f) => f.field === named(leaf) || named(leaf).startsWith(`${f.field}[`)),
						`${what}: ${JSON.stringify(faults)}`
					).toBe(true);
					for (const f of faults) expect(f.allowed.length).toBeGreaterThan(3);
				}
			}
			const surprise = await admin.send(method, path(), { ...good, surprise: 1 });
			expect(surprise.status).toBe(400);
			expect((surprise.body.faults as Fault[]).map((f) => f.field)).toEqual(['surprise']);
			for (const text of ['', '{', 'null', '[]', '7', '"x"', `{"a":${'['.repeat(60)}${']'.repeat(60)}}`]) {
				const r = await admin.send(method, path(), text);
				expect(r.status, text).toBe(400);
				expect(JSON.stringify(r.body)).not.toMatch(/node_modules|at [A-Z]\w+\./);
			}
		});
	it('nothing of all this was kept', async () => {
		const name = async (path: string, list: string) =>
			(await admin.get(path)).body[list].map((x: { name?: string; heat?: string }) => x.name ?? x.heat);
		expect(await name('/api/jobs', 'jobs')).not.toContain('Good');
		expect(await name('/api/people', 'people')).not.toContain('Somebody New');
		expect(await name('/api/procedures', 'procedures')).not.toContain('Procedure');
		expect(await name('/api/heats', 'heats')).not.toContain('H 1');
		expect((await admin.get(`/api/pieces/${made.piece}/measurements`)).body.measurements).toHaveLength(1);
		expect((await admin.get(`/api/pieces/${made.piece}/events`)).body.events).toHaveLength(1);
	});
});
