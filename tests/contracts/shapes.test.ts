/** Drawings and models at the server's door, what is printed before the arc, and orders that do not go to the bench. */
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { boxStep, cylinderStep } from '$core/compose/stepFixtures';
import { FAMILY_DEFAULTS, MADE_FAMILIES } from '$core/families';
import { closeDb } from '$store/database';
import { newJob, personOf, type Client } from './client';

let planner: Client;
beforeAll(async () => {
	planner = await personOf('planner');
});
afterAll(closeDb);

const query = (change: Record<string, string> = {}) =>
	`/api/shapes?${new URLSearchParams({ kind: 'dxf', material: '1.4301', thicknessMm: '1.5', bendAngleDeg: '90', bendRadiusMm: '2', toleranceMm: '0.5', ...change })}`;
const send = (text: string, change: Record<string, string> = {}) =>
	planner.send('POST', query(change), text, { 'content-type': 'application/octet-stream' });
const line = (a: number[], b: number[], layer = 'CUT') => ['0', 'LINE', '8', layer, '10', a[0], '20', a[1], '11', b[0], '21', b[1]].join('\n');
const ring = (points: number[][]) => points.map((p, i) => line(p, points[(i + 1) % points.length])).join('\n');
const drawing = (body: string, units = true) =>
	`${units ? '0\nSECTION\n2\nHEADER\n9\n$INSUNITS\n70\n4\n0\nENDSEC\n' : ''}0\nSECTION\n2\nENTITIES\n${body}\n0\nENDSEC\n0\nEOF\n`;
const sheet = (x: number) =>
	ring([
		[x, 0],
		[x + 100, 0],
		[x + 100, 80],
		[x, 80]
	]);

describe('drawings', () => {
	it('looked at, nothing is made; named, a job is', async () => {
		const jobs = async () => (await planner.get('/api/jobs')).body.jobs.length;
		const before = await jobs();
		const look = await send(drawing(`${sheet(0)}\n${sheet(100)}`));
		expect(look.status).toBe(200);
		expect(look.body).toMatchObject({ unit: 'mm', faults: [], needsUnit: false });
		expect(look.body.parts).toHaveLength(2);
		expect(look.body.seams).toHaveLength(1);
		expect(await jobs()).toBe(before);
		const made = await send(drawing(`${sheet(0)}\n${sheet(100)}`), { name: 'Two sheets' });
		expect(made.status).toBe(201);
		const plan = (await planner.get(`/api/jobs/${made.body.job.id}/plan`)).body.plan;
		expect(plan.document.joints[0]).toMatchObject({ type: 'butt' });
		expect(await jobs()).toBe(before + 1);
	});
	it('without units it asks; with an open outline it says where; neither makes a job even when named', async () => {
		expect((await send(drawing(sheet(0), false), { name: 'No units' })).body).toMatchObject({ needsUnit: true });
		const open = await send(drawing([line([0, 0], [100, 0]), line([100, 0], [100, 80])].join('\n')), { name: 'Open' });
		expect(open.body.faults[0].words).toMatch(/stands open between/);
		expect(open.body.faults[0].at).toHaveLength(2);
		expect(open.body.job).toBeUndefined();
	});
	it('what the address asks for is checked field by field', async () => {
		const r = await send('x', { kind: 'docx', thicknessMm: '99', material: 'wood', toleranceMm: 'much' });
		expect(r.status).toBe(400);
		const fields = r.body.faults.map((f: { field: string }) => f.field);
		for (const f of ['kind', 'thicknessMm', 'material', 'toleranceMm']) expect(fields).toContain(f);
	});
	it('garbage of every kind is refused in words, never a broken answer', async () => {
		for (const kind of ['dxf', 'step', 'stl', 'obj', 'ply']) {
			const r = await send('\u0000garbage\n<script>', { kind });
			expect(r.status, kind).toBe(200);
			expect(r.body.faults.length, kind).toBeGreaterThan(0);
			expect(r.body.parts, kind).toBeUndefined();
		}
	});
});

describe('models', () => {
	it('a STEP box and cylinder come in as sheets and a tube', async () => {
		const box = await send(boxStep(120, 80, 50), { kind: 'step' });
		expect(box.body.parts).toHaveLength(6);
		expect(box.body.seams).toHaveLength(12);
		const can = await send(cylinderStep(40, 100), { kind: 'step' });
		expect(can.body.parts.filter((p: { rolled: boolean }) => p.rolled)).toHaveLength(1);
	});
	it('an OBJ in inches is scaled', async () => {
		const obj = 'v 0 0 0\nv 10 0 0\nv 10 5 0\nv 0 5 0\nf 1 2 3\nf 1 3 4\n';
		const r = await send(obj, { kind: 'obj', unit: 'in' });
		const span = (d: number) => {
			const v = r.body.parts[0].outline.map((p: number[]) => p[d]);
			return Math.max(...v) - Math.min(...v);
		};
		const [short, long] = [span(0), span(1)].sort((p, q) => p - q);
		expect(short).toBeCloseTo(127, 6);
		expect(long).toBeCloseTo(254, 6);
	});
});

describe('every family through the server', () => {
	for (const kind of MADE_FAMILIES)
		it(`${kind}: made, printed, exported and brought back the same`, async () => {
			const made = await planner.post('/api/jobs', { name: `Server ${kind}`, quantity: 3, family: { kind, parameters: FAMILY_DEFAULTS[kind] } });
			expect(made.status).toBe(201);
			const id = made.body.job.id;
			for (const s of ['cutting-list.pdf', 'fit-up-sheet.pdf', 'hold-sheet.pdf', 'run-sheet.pdf', 'marks-sheet.pdf']) {
				const r = await planner.get(`/api/jobs/${id}/${s}`);
				expect(r.status, s).toBe(200);
				expect(r.headers.get('content-type')).toBe('application/pdf');
			}
			const csv = (await planner.get(`/api/jobs/${id}/cutting-list.csv`)).body as string;
			expect(csv.split('\r\n')[0]).toMatch(/^blank,material,thickness mm/);
			expect(csv).not.toMatch(/NaN|undefined/);
			const file = (await planner.get(`/api/jobs/${id}/export`)).body;
			const back = await planner.send('POST', '/api/jobs/import', JSON.stringify(file));
			expect(back.status).toBe(201);
			expect((await planner.get(`/api/jobs/${back.body.job.id}/export`)).body.plan).toEqual(file.plan);
		});
});

describe('orders that shut in what is still to be welded', () => {
	it('are not issued, and say what to do; put right, they are', async () => {
		const parameters = {
			...FAMILY_DEFAULTS['open-trough'],
			lengthMm: 260,
			widthMm: 160,
			depthMm: 100,
			baffles: 1,
			baffleHeightMm: 70,
			lid: true,
			rimFlangeMm: 0
		};
		const made = await planner.post('/api/jobs', { name: 'Lidded', quantity: 1, family: { kind: 'open-trough', parameters } });
		const id = made.body.job.id;
		const first = (await planner.get(`/api/jobs/${id}/plan`)).body.plan;
		// as a family makes it, it can be carried out; all at once it cannot
		const own = first.document;
		const order = own.fitUp.order;
		delete own.fitUp.order;
		own.joints.filter((j: { id: string }) => j.id.startsWith('baffle')).forEach((j: { weldSide: string }) => (j.weldSide = 'front'));
		const shut = await planner.send('PUT', `/api/jobs/${id}/plan`, { revision: first.revision, version: first.version, plan: own });
		expect(shut.status).toBe(200);
		const draft = { ...first, ...shut.body };
		const refused = await planner.post(`/api/jobs/${id}/issue`, { revision: draft.revision, version: draft.version });
		expect(refused.status).toBe(422);
		expect(refused.body.message).toMatch(/cannot be carried out as it stands, so it stays a draft/);
		expect(refused.body.faults[0]).toMatchObject({ field: 'fitUp.order', value: '', allowed: expect.stringMatching(/cannot be reached/) });
		const plan = own;
		plan.fitUp.order = order;
		const saved = await planner.send('PUT', `/api/jobs/${id}/plan`, { revision: draft.revision, version: draft.version, plan });
		expect(saved.status).toBe(200);
		const issued = await planner.post(`/api/jobs/${id}/issue`, { revision: saved.body.revision, version: saved.body.version });
		expect(issued.body.state).toBe('issued');
	});
	it('an ordinary trough is issued as before', async () => {
		const id = await newJob(planner, 'Plain');
		const draft = (await planner.get(`/api/jobs/${id}/plan`)).body.plan;
		expect((await planner.post(`/api/jobs/${id}/issue`, { revision: draft.revision, version: draft.version })).body.state).toBe('issued');
	});
});
