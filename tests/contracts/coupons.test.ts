/** Coupons as a shop makes them: one request from a wish to a piece that waits at the bench; and what its page says. */
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { closeDb } from '$store/database';
import { personOf, type Client } from './client';

describe('coupons', () => {
	let planner: Client, welder: Client;
	beforeAll(async () => {
		[planner, welder] = [await personOf('planner'), await personOf('welder')];
	});
	afterAll(closeDb);
	const wish = { kind: 'butt', material: '1.4301', thicknessMm: 1.5 };

	it('a wish becomes a job of one piece with its plan issued', async () => {
		const made = await planner.post('/api/coupons', wish);
		expect(made.status).toBe(201);
		const { id, coupon, quantity } = made.body.job;
		expect([coupon, quantity]).toEqual(['butt', 1]);
		const { plan } = (await planner.get(`/api/jobs/${id}/plan`)).body;
		expect(plan.state).toBe('issued');
		const page = await welder.get(`/coupons/${id}`);
		expect(page.status).toBe(200);
		for (const words of ['Butt pair', 'Begin at the bench', 'mm × 200 mm']) expect(String(page.body)).toContain(words);
		// the list knows it as a coupon, and no other job
		expect(String((await welder.get('/coupons')).body)).toContain(`/coupons/${id}`);
		const jobs = (await planner.get('/api/jobs')).body.jobs as { id: string; coupon: string | null }[];
		expect(jobs.find((j) => j.id === id)!.coupon).toBe('butt');
	}, 120_000);
	it('a coupon on a bar has its bar', async () => {
		const made = await planner.post('/api/coupons', { ...wish, kind: 'butt-on-bar' });
		const { document } = (await planner.get(`/api/jobs/${made.body.job.id}/plan`)).body.plan;
		expect(document.holdDowns).toMatchObject([{ kind: 'bar', material: 'copper' }]);
	}, 120_000);
	it('what it cannot be is said, and nothing is made', async () => {
		const before = (await planner.get('/api/jobs')).body.jobs.length;
		expect((await planner.post('/api/coupons', { ...wish, kind: 'star' })).body.faults[0].field).toBe('kind');
		expect((await planner.post('/api/coupons', { ...wish, thicknessMm: 0.1 })).status).toBe(400);
		const unknown = await planner.post('/api/coupons', { ...wish, material: 'unobtainium' });
		expect(unknown.status).toBe(422);
		expect(unknown.body.message).toContain('“unobtainium” is not known');
		expect((await planner.post('/api/coupons', { ...wish, job: '00000000-0000-4000-8000-000000000000' })).status).toBe(404);
		expect((await welder.post('/api/coupons', wish)).status).toBe(403);
		expect((await planner.get('/api/jobs')).body.jobs.length).toBe(before);
	}, 120_000);
	it('a job that is none has no coupon page', async () => {
		const made = await planner.post('/api/jobs', {
			name: 'Small panel',
			quantity: 1,
			family: { kind: 'butt-panel', parameters: { widthsMm: [100, 100], lengthMm: 200, material: '1.4301', thicknessMm: 1.5 } }
		});
		expect((await welder.get(`/coupons/${made.body.job.id}`)).status).toBe(404);
	});
});
