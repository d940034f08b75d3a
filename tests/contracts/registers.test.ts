/** What the shop has to work with, and how an instrument of it goes with a reading. Against the running server. */
import { randomUUID } from 'node:crypto';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { closeDb } from '$store/database';
import { BASE, personOf, startedPiece, type Client } from './client';

let planner: Client;
let inspector: Client;
let welder: Client;
beforeAll(async () => {
	[planner, welder, inspector] = [await personOf('planner'), await personOf('welder'), await personOf('inspector')];
});
afterAll(closeDb);
const tag = () => randomUUID().slice(0, 8);
const csvOf = async (who: Client, kind: string) => (await fetch(`${BASE}/api/registers/${kind}/csv`, { headers: who.session() })).text();
const readIn = async (who: Client, kind: string, text: string) => {
	const r = await fetch(`${BASE}/api/registers/${kind}/csv`, {
		method: 'POST',
		body: text,
		headers: { origin: BASE, 'content-type': 'text/plain', ...who.session() }
	});
	return { status: r.status, body: (await r.json()) as { added?: number; changed?: number; faults?: { field: string }[] } };
};

describe('a register', () => {
	it('takes an entry once by its name, is changed by one at a time, and puts away without losing', async () => {
		const name = `Cup ${tag()}`;
		const made = await welder.post('/api/registers', { kind: 'cup', item: { name, boreMm: 8 } });
		expect([made.status, made.body.item.version]).toEqual([201, 1]);
		const again = await planner.post('/api/registers', { kind: 'cup', item: { name, boreMm: 9 } });
		expect([again.status, again.body.faults[0].field]).toEqual([400, 'item.name']);
		// the same name in another register is another thing
		expect((await planner.post('/api/registers', { kind: 'tungsten', item: { name, grade: 'WC20', diameterMm: 1.6 } })).status).toBe(201);
		const path = `/api/registers/${made.body.item.id}`;
		const wider = await inspector.send('PATCH', path, { version: 1, item: { name, boreMm: 10 } });
		expect([wider.status, wider.body.item.item.boreMm]).toEqual([200, 10]);
		const late = await planner.send('PATCH', path, { version: 1, archived: true });
		expect([late.status, late.body.current.item.boreMm]).toEqual([409, 10]);
		expect((await planner.send('PATCH', path, { version: 2, archived: true })).status).toBe(200);
		expect(await csvOf(planner, 'cup')).not.toContain(name);
		// a file that has it brings it back
		expect((await readIn(planner, 'cup', `name,boreMm\n${name},11\n`)).body).toEqual({ added: 0, changed: 1 });
		expect(await csvOf(planner, 'cup')).toContain(`${name},11`);
	});
	it('a table goes out and comes in; a wrong one changes nothing', async () => {
		const [a, b] = [`Bar ${tag()}`, `Bar ${tag()}`];
		const head = 'name,material,widthMm,thicknessMm,lengthMm';
		expect((await readIn(planner, 'bar', `${head}\n${a},copper,40,10,600\n${b},brass,20,5,200\n`)).body).toEqual({ added: 2, changed: 0 });
		const bad = await readIn(planner, 'bar', `${head}\n${a},copper,41,10,600\n${b},gold,20,5,200\n`);
		expect([bad.status, bad.body.faults!.map((f) => f.field)]).toEqual([400, ['row 3, material']]);
		expect(await csvOf(planner, 'bar')).toContain(`${a},copper,40,10,600`);
		expect((await readIn(planner, 'spoons', head)).status).toBe(404);
		expect((await planner.post('/api/registers', { kind: 'bar', item: { name: 'x' } })).body.faults.map((f: { field: string }) => f.field)).toContain(
			'item.widthMm'
		);
	});
});

describe('an instrument of the register', () => {
	const instrument = async (item: object) => (await planner.post('/api/registers', { kind: 'instrument', item })).body.item.id as string;
	it('gives its name, its last day and its uncertainty to the reading, and reads what it can', async () => {
		const { job, piece } = await startedPiece(planner, welder, 'Read with an instrument');
		const { plan } = (await planner.get(`/api/jobs/${job}/plan`)).body;
		const flat = plan.document.features.find((f: { kind: string }) => f.kind === 'length');
		const name = `Tape ${tag()}`;
		const tape = await instrument({ name, reads: 'length', uncertainty90: 5, dueOn: '2020-01-31' });
		const protractor = await instrument({ name: `Protractor ${tag()}`, reads: 'angle', uncertainty90: 0.1 });
		const nominal = 100;
		const read = (more: object) =>
			inspector.post(`/api/pieces/${piece}/measurements`, {
				clientId: randomUUID(),
				feature: flat.id,
				method: 'tape',
				moment: 'as-tacked',
				posture: 'three-points',
				instrument: 'typed',
				readings: [nominal],
				...more
			});
		const plain = await read({});
		expect([plain.status, plain.body.measurement?.instrument, plain.body.measurement?.instrumentDueOn]).toEqual([201, 'typed', null]);
		const taped = await read({ instrumentId: tape });
		expect(taped.body.measurement).toMatchObject({ instrument: name, instrumentDueOn: '2020-01-31' });
		expect(taped.body.measurement.uncertainty90).toBeGreaterThan(plain.body.measurement.uncertainty90);
		expect(taped.body.measurement.uncertainty90).toBeCloseTo(5, 6);
		const wrong = await read({ instrumentId: protractor });
		expect([wrong.status, wrong.body.faults[0].allowed]).toEqual([400, expect.stringMatching(/must read lengths/)]);
		expect((await read({ instrumentId: randomUUID() })).status).toBe(404);
		// as it was then, whatever the register says later, and in the record
		const { items } = (await planner.get('/api/registers')).body;
		const row = items.find((i: { id: string }) => i.id === tape);
		await planner.send('PATCH', `/api/registers/${tape}`, { version: row.version, item: { ...row.item, dueOn: '2099-01-01' } });
		const record = (await planner.get(`/api/jobs/${job}/record`)).body;
		expect(
			record.pieces
				.flatMap((p: { readings: { instrumentDueOn?: string }[] }) => p.readings)
				.map((r: { instrumentDueOn?: string }) => r.instrumentDueOn)
		).toEqual([undefined, '2020-01-31']);
		expect((await planner.post('/api/jobs/import?record', record)).status).toBe(201);
	});
});
