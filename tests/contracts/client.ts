/** A signed-in person at the running server, over plain HTTP as a browser would. bin/test starts the server and names it. */
import { randomUUID } from 'node:crypto';
import { sql } from 'drizzle-orm';
import { featureKind } from '$core/features';
import { readingContext } from '$core/features/context';
import { METHOD_KINDS } from '$core/measure/methods';
import { planOf } from '$core/reading/readPlan';
import type { BenchStep } from '$core/weldout/benchSteps';
import { benchPlan } from '$core/weldout/benchPlan';
import { getDb } from '$store/database';
import { addPerson, listPeople } from '$store/library';
import type { Role } from '$store/auth';

export const BASE = process.env.SARTA_URL ?? '';
if (!BASE || !process.env.DATABASE_URL) throw new Error('These tests need the running server: use bin/test');

export interface Reply {
	status: number;
	// eslint-disable-next-line @typescript-eslint/no-explicit-any -- tests look into answers of many shapes
	body: any;
	headers: Headers;
}

export class Client {
	private readonly cookies = new Map<string, string>();
	async send(method: string, path: string, body?: unknown, headers: Record<string, string> = {}): Promise<Reply> {
		const r = await fetch(BASE + path, {
			method,
			redirect: 'manual',
			headers: {
				origin: BASE,
				...(body === undefined ? {} : { 'content-type': 'application/json' }),
				...this.session(),
				...headers
			},
			body: body === undefined ? undefined : typeof body === 'string' ? body : JSON.stringify(body)
		});
		for (const set of r.headers.getSetCookie()) {
			const [name, value] = set.split(';')[0].split('=');
			this.cookies.set(name, value);
		}
		// a stream has no end: what it says is read by whoever follows it
		if (r.headers.get('content-type') === 'text/event-stream') {
			await r.body?.cancel();
			return { status: r.status, body: '', headers: r.headers };
		}
		const text = await r.text();
		let parsed: unknown = text;
		try {
			parsed = JSON.parse(text);
		} catch {
			// a page or a file
		}
		return { status: r.status, body: parsed, headers: r.headers };
	}
	/** What a request of this person carries. */
	session(): Record<string, string> {
		return this.cookies.size ? { cookie: [...this.cookies].map(([k, v]) => `${k}=${v}`).join('; ') } : {};
	}
	/** The same device and session in other hands. */
	copy(): Client {
		const other = new Client();
		for (const [k, v] of this.cookies) other.cookies.set(k, v);
		return other;
	}
	get = (path: string) => this.send('GET', path);
	post = (path: string, body: unknown = {}) => this.send('POST', path, body);
}

export const TEST_PIN = '48271936';

/** One person of each role, made once for all the tests of a run. */
export async function personOf(role: Role): Promise<Client> {
	const name = `Test ${role}`;
	const people = await listPeople(getDb());
	if (!people.some((p) => p.name === name)) await addPerson(getDb(), name, TEST_PIN, [role]);
	const c = new Client();
	const r = await c.post('/api/sign-in', { name, pin: TEST_PIN });
	if (r.status !== 200) throw new Error(`sign-in of ${name} failed: ${JSON.stringify(r.body)}`);
	return c;
}

export const TROUGH = {
	kind: 'open-trough',
	parameters: { lengthMm: 240, widthMm: 140, depthMm: 60, thicknessMm: 1.5, material: '1.4301', body: 'u-body', rimFlangeMm: 0, bendRadiusMm: 2 }
};

export async function newJob(c: Client, name = 'Contract trough'): Promise<string> {
	const r = await c.post('/api/jobs', { name, quantity: 2, family: TROUGH });
	if (r.status !== 201) throw new Error(JSON.stringify(r.body));
	return r.body.job.id;
}

/** The pieces of a job, by serial. */
export const piecesOf = async (job: string) =>
	(await getDb().execute(sql`select id from pieces where job_id = ${job} order by serial`)).rows.map((r) => r.id as string);

/** A new job, issued, with its first piece begun at the bench. */
export async function startedPiece(planner: Client, welder: Client, name: string) {
	const job = await newJob(planner, name);
	const { plan } = (await planner.get(`/api/jobs/${job}/plan`)).body;
	await planner.post(`/api/jobs/${job}/issue`, { revision: plan.revision, version: plan.version });
	const [piece, other] = await piecesOf(job);
	const r = await welder.post(`/api/pieces/${piece}/events`, {
		events: [{ clientId: randomUUID(), kind: 'started', happenedAt: new Date().toISOString() }]
	});
	if (r.status !== 200 && r.status !== 201) throw new Error(JSON.stringify(r.body));
	return { job, piece, other, settings: plan.document.settings[0] as Record<string, unknown> };
}

export const tap = (kind: string, step?: string, more: object = {}) => ({
	clientId: randomUUID(),
	kind,
	...(step ? { step } : {}),
	happenedAt: new Date().toISOString(),
	...more
});

/** The bench steps of a job's newest plan, as the run screen shows them. */
export async function stepsOf(c: Client, job: string): Promise<BenchStep[]> {
	const { plan } = (await c.get(`/api/jobs/${job}/plan`)).body;
	return benchPlan(planOf(plan.document)).steps;
}

/** Every step done and the piece finished, as a welder leaves it. */
export async function weldOut(welder: Client, job: string, piece: string) {
	const steps = await stepsOf(welder, job);
	return welder.post(`/api/pieces/${piece}/events`, { events: [...steps.map((s) => tap('step-done', s.id)), tap('finished')] });
}

/** A reading of a feature that comes out as the drawing says, or off by so much. */
export async function readingOf(c: Client, job: string, feature: string, off = 0, more: object = {}) {
	const document = planOf((await c.get(`/api/jobs/${job}/plan`)).body.plan.document);
	const f = document.features.find((x) => x.id === feature)!;
	const method = featureKind(f).methods[0];
	const context = readingContext(f, document);
	const readings = METHOD_KINDS[method].labels(context).map((_, i) => (context.nominal ?? 0) + (i ? 0 : off));
	return { clientId: randomUUID(), feature, method, moment: 'unclamped', posture: 'three-points', instrument: 'Tape', readings, ...more };
}

/** Every feature read, cold and as drawn. @returns the features, by id */
export async function readAll(c: Client, job: string, piece: string, off: Record<string, number> = {}): Promise<string[]> {
	const document = (await c.get(`/api/jobs/${job}/plan`)).body.plan.document;
	const ids = (document.features as { id: string }[]).map((f) => f.id);
	for (const id of ids) {
		const r = await c.post(`/api/pieces/${piece}/measurements`, await readingOf(c, job, id, off[id] ?? 0));
		if (r.status !== 201) throw new Error(JSON.stringify(r.body));
	}
	return ids;
}
