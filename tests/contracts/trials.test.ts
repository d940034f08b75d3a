/** A trial as a shop makes it, and a coupon of it welded by the simulated hand through the open routes and the protocol of the devices. */
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { benchPlan } from '$core/weldout/benchPlan';
import type { PlanDocument } from '$core/document/schema';
import { closeDb, getDb } from '$store/database';
import { getTrial } from '$store/trials';
import { FastClock, Hand, lastsFor } from '../../standins/hand';
import { DEMO_SHOP, VirtualPiece } from '../../core/practice/virtualShop';
import { personOf, piecesOf, type Client } from './client';

interface Made {
	id: string;
	ways: { name: string; job: string; value: string }[];
	welding: number[];
}

describe('trials', () => {
	let planner: Client, welder: Client, inspector: Client;
	beforeAll(async () => {
		[planner, welder, inspector] = [await personOf('planner'), await personOf('welder'), await personOf('inspector')];
	});
	afterAll(closeDb);
	const wish = {
		name: 'Bar or none',
		kind: 'butt',
		material: '1.4301',
		thicknessMm: 1.5,
		difference: 'bar',
		ways: ['copper', 'none'],
		feature: 'width-1',
		matters: 0.2,
		each: 2
	};
	const planOf = async (job: string) => (await planner.get(`/api/jobs/${job}/plan`)).body.plan as { state: string; document: PlanDocument };
	const featureOf = async () => {
		const made = await planner.post('/api/coupons', { kind: 'butt', material: '1.4301', thicknessMm: 1.5 });
		return (await planOf(made.body.job.id)).document.features.find((f) => f.kind === 'length')!.id;
	};
	let trial: Made;

	it('is made with a job each way, issued, and an order of one of each in every round', async () => {
		wish.feature = await featureOf();
		const made = await planner.post('/api/trials', wish);
		expect(made.status).toBe(201);
		trial = made.body.trial as Made;
		expect(trial.ways.map((w) => w.value)).toEqual(['copper', 'none']);
		expect([...trial.welding.slice(0, 2)].sort()).toEqual([0, 1]);
		expect([...trial.welding.slice(2)].sort()).toEqual([0, 1]);
		const plans = await Promise.all(trial.ways.map((w) => planOf(w.job)));
		expect(plans.map((p) => p.state)).toEqual(['issued', 'issued']);
		expect(plans.map((p) => p.document.holdDowns.length)).toEqual([1, 0]);
		// in everything else they are the same
		const rest = plans.map((p) => JSON.stringify({ ...p.document, holdDowns: [] }));
		expect(rest[0]).toBe(rest[1]);
		for (const w of trial.ways) expect(await piecesOf(w.job)).toHaveLength(2);
		expect(String((await welder.get('/trials')).body)).toContain(`/trials/${trial.id}`);
	}, 120_000);

	it('what cannot be a trial is refused by name, and nothing is made', async () => {
		const before = (await planner.get('/api/jobs')).body.jobs.length;
		const faults = async (over: object) =>
			((await planner.post('/api/trials', { ...wish, ...over })).body.faults ?? []).map((f: { field: string }) => f.field);
		expect(await faults({ ways: ['copper', 'copper'] })).toEqual(['ways.1.value']);
		expect(await faults({ ways: ['copper'] })).toEqual(['ways']);
		expect(await faults({ each: 1 })).toEqual(['each']);
		expect(await faults({ difference: 'moon' })).toEqual(['difference']);
		expect(await faults({ feature: 'no-such' })).toEqual(['feature']);
		expect(await faults({ matters: 0 })).toEqual(['matters']);
		expect((await welder.post('/api/trials', wish)).status).toBe(403);
		expect((await planner.get('/api/jobs')).body.jobs.length).toBe(before);
	}, 120_000);

	it('a simulated hand welds one and reads it: every step, the arc by the protocol, readings marked, and the trial has them', async () => {
		const { job } = trial.ways[1];
		const [piece] = await piecesOf(job);
		const { document: plan } = await planOf(job);
		const device = await planner.post('/api/devices', { kind: 'arc', name: `Arc log of trial ${trial.id}`, isSimulated: true });
		expect((await welder.send('PATCH', `/api/devices/${device.body.id}`, { piece })).status).toBe(200);
		const said: string[] = [];
		const metal = new VirtualPiece(plan, DEMO_SHOP, { seed: 4, depth: 'quick' });
		const clock = new FastClock(500, lastsFor(plan, benchPlan(plan).steps));
		const base = process.env.SARTA_URL!;
		await new Hand({ base, piece, plan, metal, welder, inspector, arcToken: device.body.token, clock, seed: 4, say: (l) => said.push(l) }).weldOut();
		const { events } = (await welder.get(`/api/pieces/${piece}/events`)).body as {
			events: { kind: string; data?: { what?: string; source?: string } }[];
		};
		expect(events.at(-1)!.kind).toBe('finished');
		const set = events.filter((e) => e.data?.what === 'as-set');
		expect(set).toHaveLength(plan.runs.length);
		expect(set[0].data!.source).toContain('simulated');
		expect(said.length).toBeGreaterThan(plan.runs.length + plan.features.length);
		const csv = String((await welder.get(`/api/trials/${trial.id}/readings.csv`)).body);
		const rows = csv.trim().split('\r\n');
		expect(rows).toHaveLength(5);
		expect(rows[0]).toContain(wish.feature);
		expect(rows.filter((r) => r.includes('No bar') && r.includes('welded'))).toHaveLength(1);
		const record = (await planner.get(`/api/jobs/${job}/record`)).body;
		expect(JSON.stringify(record)).toContain('(simulated)');
	}, 240_000);

	it('one of its ways goes into the plan of an open job in the same sheet, as a draft, and into no other', async () => {
		const parameters = { widthsMm: [100, 100], lengthMm: 200, material: '1.4301', thicknessMm: 1.5 };
		const open = async (over: object) =>
			(
				await planner.post('/api/jobs', {
					name: 'Panel to be barred',
					quantity: 1,
					family: { kind: 'butt-panel', parameters: { ...parameters, ...over } }
				})
			).body.job.id as string;
		const job = await open({});
		const before = await planOf(job);
		const adopt = (c: Client, way: number, of = job) => c.post(`/api/trials/${trial.id}/adopt`, { job: of, way });
		expect((await adopt(welder, 0)).status).toBe(403);
		expect((await adopt(planner, 7)).body.faults[0].field).toBe('way');
		expect((await adopt(planner, 0, '00000000-0000-4000-8000-000000000000')).status).toBe(404);
		// it has no bar already
		expect((await adopt(planner, 1)).body.message).toMatch(/has it so already/);
		expect((await planOf(job)).document).toEqual(before.document);
		expect((await adopt(planner, 0)).status).toBe(200);
		const after = await planOf(job);
		expect(after.document.holdDowns).toMatchObject([{ kind: 'bar', material: 'copper' }]);
		expect({ ...after.document, holdDowns: [] }).toEqual({ ...before.document, holdDowns: [] });
	}, 120_000);
	it('is concluded once, by a planner', async () => {
		const conclude = (c: Client, conclusion: string) => c.post(`/api/trials/${trial.id}/conclude`, { conclusion });
		expect((await conclude(welder, 'Bar.')).status).toBe(403);
		expect((await conclude(planner, '')).status).toBe(400);
		expect((await conclude(planner, 'We take the bar.')).status).toBe(200);
		expect((await conclude(planner, 'No, we do not.')).status).toBe(422);
		// its page waits for a forecast of both ways: the flow of trials looks at it
		expect(await getTrial(getDb(), trial.id)).toMatchObject({ conclusion: 'We take the bar.', concluder: 'Test planner' });
		expect((await welder.get('/trials/00000000-0000-4000-8000-000000000000')).status).toBe(404);
	}, 240_000);
});
