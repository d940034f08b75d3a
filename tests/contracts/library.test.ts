/** The shop's own library: heats, grades, procedures, units; readings taken out of use. Against the running server. */
import { randomUUID } from 'node:crypto';
import { sql } from 'drizzle-orm';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { closeDb, getDb } from '$store/database';
import { newJob, personOf, startedPiece, type Client } from './client';

let planner: Client;
let welder: Client;
let inspector: Client;
beforeAll(async () => {
	[planner, welder, inspector] = [await personOf('planner'), await personOf('welder'), await personOf('inspector')];
});
afterAll(closeDb);
const tag = () => randomUUID().slice(0, 8);
const fields = (r: { body: { faults?: { field: string }[] } }) => (r.body.faults ?? []).map((f) => f.field);

describe('heats', () => {
	it('a welder enters a heat number; it is listed with who entered it', async () => {
		const heat = `H-${tag()}`;
		const r = await welder.post('/api/heats', { heat, materialId: '1.4301', thicknessMm: 1.5, supplier: 'Stockist' });
		expect(r.status).toBe(201);
		const listed = (await inspector.get('/api/heats')).body.heats.find((h: { heat: string }) => h.heat === heat);
		expect(listed).toMatchObject({ heat, materialId: '1.4301', thicknessMm: 1.5 });
	});
	it('the thickness must be one a sheet can have', async () => {
		for (const thicknessMm of [0, -1, 51]) {
			const r = await welder.post('/api/heats', { heat: 'x', materialId: '1.4301', thicknessMm });
			expect([r.status, fields(r)]).toEqual([400, ['thicknessMm']]);
		}
	});
});

describe('grades of the shop’s own', () => {
	const grade = (id: string) => ({
		id,
		name: 'Own ferritic',
		eModulus: 210_000,
		poisson: 0.3,
		density: 7.7e-6,
		response: { alpha: 1.1e-5, rhoC: 4.2e-3, lambda: 0.025, meltC: 1480 }
	});
	it('are taken or refused by name; a grade that ships with the program cannot be replaced', async () => {
		const shipped = await planner.post('/api/materials', { material: grade('1.4301') });
		expect(shipped.status).toBe(400);
		const bad = await planner.post('/api/materials', { material: { ...grade(`own-${tag()}`), poisson: 0.9 } });
		expect(bad.status).toBe(400);
		expect(fields(bad)).toContain('material.poisson');
		expect((await welder.post('/api/materials', { material: grade('own') })).status).toBe(403);
	});
});

describe('units', () => {
	it('are each person’s own and stay', async () => {
		expect((await planner.send('PATCH', '/api/me', { units: 'in' })).body).toEqual({ units: 'in' });
		const unitsOf = async (name: string) => (await getDb().execute(sql`select units from people where name = ${name}`)).rows[0].units;
		expect([await unitsOf('Test planner'), await unitsOf('Test welder')]).toEqual(['in', 'mm']);
		expect((await planner.send('PATCH', '/api/me', { units: 'furlong' })).status).toBe(400);
		await planner.send('PATCH', '/api/me', { units: 'mm' });
	});
});

describe('procedures', () => {
	async function make() {
		const job = await newJob(planner, 'Settings for a procedure');
		const settings = (await planner.get(`/api/jobs/${job}/plan`)).body.plan.document.settings[0];
		const r = await planner.post('/api/procedures', { name: `Rim ${tag()}`, settings, note: 'first' });
		expect(r.status).toBe(201);
		return { procedure: r.body.procedure, settings };
	}
	it('every version is kept, the second of two savers is told, and the sheet prints', async () => {
		const { procedure, settings } = await make();
		const path = `/api/procedures/${procedure.id}`;
		const hotter = await planner.send('PATCH', path, {
			version: procedure.version,
			settings: { ...settings, ampsA: settings.ampsA + 3 },
			note: 'hotter'
		});
		expect([hotter.status, hotter.body.procedure.version]).toEqual([200, procedure.version + 1]);
		const late = await planner.send('PATCH', path, { version: procedure.version, note: 'too late' });
		expect([late.status, late.body.current.note]).toEqual([409, 'hotter']);
		const all = (await welder.get(path)).body;
		expect(all.versions.map((v: { settings: { ampsA: number } }) => v.settings.ampsA).sort()).toEqual([settings.ampsA, settings.ampsA + 3].sort());
		const pdf = await welder.get(`${path}/sheet.pdf`);
		expect([pdf.status, pdf.headers.get('content-type')]).toEqual([200, 'application/pdf']);
		// kept means kept: the database itself refuses a change of what was
		await expect(getDb().execute(sql`update procedure_versions set settings = '{}' where procedure_id = ${procedure.id}`)).rejects.toThrow();
	});
	it('two of one name cannot be; one put away says so and can come back', async () => {
		const { procedure, settings } = await make();
		const twin = await planner.post('/api/procedures', { name: procedure.name, settings });
		expect([twin.status, fields(twin)]).toEqual([409, ['name']]);
		expect((await planner.send('PATCH', `/api/procedures/${procedure.id}`, { version: procedure.version, archived: true })).status).toBe(200);
		const listed = (await planner.get('/api/procedures')).body.procedures.find((p: { id: string }) => p.id === procedure.id);
		expect(listed.archivedAt).toBeTruthy();
	});
	it('settings outside any sense are refused by name', async () => {
		const { settings } = await make();
		for (const [field, value] of [
			['ampsA', 0],
			['ampsA', 5000],
			['speedMmPerS', 0],
			['gasLPerMin', -1],
			['current', 'alternating with feeling']
		] as const) {
			const r = await planner.post('/api/procedures', { name: `Bad ${tag()}`, settings: { ...settings, [field]: value } });
			expect(r.status, `${field} ${value}`).toBe(400);
			expect(fields(r)).toContain(`settings.${field}`);
		}
	});
});

describe('a reading taken out of use', () => {
	it('stays in the record with the reason and who; it counts no more; nothing else of it can be changed', async () => {
		const { piece, other } = await startedPiece(planner, welder, 'Misread');
		const take = (value: number) =>
			inspector.post(`/api/pieces/${piece}/measurements`, {
				clientId: randomUUID(),
				feature: 'mouth-width',
				method: 'tape',
				moment: 'unclamped',
				posture: 'three-points',
				instrument: 'Tape',
				readings: [value]
			});
		const wrong = (await take(14)).body.measurement;
		const right = (await take(140)).body.measurement;
		const path = `/api/pieces/${piece}/measurements/${wrong.id}`;
		expect((await inspector.send('PATCH', path, { why: '' })).status).toBe(400);
		expect((await inspector.send('PATCH', path, { why: 'A zero was left out', value: 140 })).status).toBe(400);
		const out = await inspector.send('PATCH', path, { why: 'A zero was left out' });
		expect(out.status).toBe(200);
		const list = (await planner.get(`/api/pieces/${piece}/measurements`)).body.measurements as { id: string; value: number; withdrawnWhy?: string }[];
		expect(list.find((m) => m.id === right.id)).toBeDefined();
		const kept = list.find((m) => m.id === wrong.id);
		expect(JSON.stringify(kept)).toContain('A zero was left out');
		expect((await inspector.send('PATCH', path, { why: 'again' })).status).toBeGreaterThanOrEqual(400);
		for (const change of [sql`value = 1`, sql`withdrawn_why = 'better words'`])
			await expect(getDb().execute(sql`update measurements set ${change} where id = ${wrong.id}`)).rejects.toThrow();
		await expect(getDb().execute(sql`delete from measurements where id = ${wrong.id}`)).rejects.toThrow();
		// another piece's address does not reach it
		expect((await inspector.send('PATCH', `/api/pieces/${other}/measurements/${right.id}`, { why: 'x' })).status).toBe(404);
	});
});
