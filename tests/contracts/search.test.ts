/** Searches and advice as tasks against the running worker; what goes out to the steel; procedures with their versions. */
import { createHash } from 'node:crypto';
import DxfParser from 'dxf-parser';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { count } from 'drizzle-orm';
import { FAMILY_DEFAULTS } from '$core/families';
import { closeDb, getDb } from '$store/database';
import { hotAnswers } from '$store/schema';
import { Client, newJob, personOf } from './client';

let planner: Client;
let welder: Client;
beforeAll(async () => {
	[planner, welder] = [await personOf('planner'), await personOf('welder')];
});
afterAll(closeDb);

async function smallJob(
	change: (plan: Record<string, unknown> & { runs: { id: string; joint: string }[]; holdDowns: unknown[] }) => void = () => {}
) {
	const job = await newJob(planner, `Search tray ${createHash('sha1').update(String(Math.random())).digest('hex').slice(0, 6)}`);
	const { plan } = (await planner.get(`/api/jobs/${job}/plan`)).body;
	const document = { ...plan.document, meshSizeMm: 40, runs: plan.document.runs.slice(0, 5) };
	change(document);
	const saved = (await planner.send('PUT', `/api/jobs/${job}/plan`, { revision: plan.revision, version: plan.version, plan: document })).body;
	return { job, base: { revision: saved.revision, version: saved.version } };
}
async function until(id: string, states: string[], seconds: number) {
	const seen: unknown[] = [];
	for (let k = 0; k < 4 * seconds; k++) {
		const { task } = (await planner.get(`/api/tasks/${id}`)).body;
		if (task.partial) seen.push(task.partial);
		if (states.includes(task.state)) return { task, seen };
		await new Promise((r) => setTimeout(r, 250));
	}
	throw new Error(`task ${id} is not ${states.join(' or ')} after ${seconds} s`);
}

describe('a search as a task', () => {
	it('runs, says where it is, gives a table, and is found again with whether its plan still stands', async () => {
		const { job, base } = await smallJob();
		const asked = { ...base, kind: 'order-search', goals: { restarts: 0, weights: [], time: 0.05, heat: 0.02, flip: 0.02, mayReverse: true } };
		expect((await welder.post(`/api/jobs/${job}/tasks`, asked)).status).toBe(403);
		const made = await planner.post(`/api/jobs/${job}/tasks`, asked);
		expect(made.status).toBe(201);
		const { task, seen } = await until(made.body.task.id, ['done', 'failed'], 110);
		expect([task.state, task.message]).toEqual(['done', '']);
		expect(seen.some((p) => typeof (p as { phase?: string }).phase === 'string')).toBe(true);
		const result = (await welder.get(`/api/tasks/${task.id}/result`)).body;
		expect(result.rows.map((r: { id: string }) => r.id)).toEqual(expect.arrayContaining(['now', 'search', 'back-step', 'skip-round']));
		expect(result.rows.every((r: { cells: { value: number }[] }) => r.cells.every((c) => Number.isFinite(c.value)))).toBe(true);
		const found = (await welder.get(`/api/jobs/${job}/tasks?kind=order-search`)).body;
		expect([found.task.id, found.ofThisPlan]).toEqual([task.id, true]);
		// the plan moves on: the answer is still there, and said to be of an older state
		const { plan } = (await planner.get(`/api/jobs/${job}/plan`)).body;
		await planner.send('PUT', `/api/jobs/${job}/plan`, { revision: plan.revision, version: plan.version, plan: { ...plan.document, ambientC: 18 } });
		expect((await welder.get(`/api/jobs/${job}/tasks?kind=order-search`)).body.ofThisPlan).toBe(false);
	}, 240_000);
	it('what its arcs came to is kept, and the next job that is like it looks it up', async () => {
		const kept = async () => (await getDb().select({ n: count() }).from(hotAnswers))[0].n;
		const searched = async () => {
			// one seam, two runs: a butt panel
			const job = (
				await planner.post('/api/jobs', {
					name: 'Watched twice',
					quantity: 1,
					family: { kind: 'butt-panel', parameters: { ...FAMILY_DEFAULTS['butt-panel'], widthsMm: [80, 80], lengthMm: 120 } }
				})
			).body.job.id as string;
			const { plan } = (await planner.get(`/api/jobs/${job}/plan`)).body;
			const [run] = plan.document.runs;
			const document = {
				...plan.document,
				meshSizeMm: 60,
				runs: [0, 1].map((i) => ({ ...run, id: `half-${i}`, fromMm: 60 * i, toMm: 60 * (i + 1) }))
			};
			const saved = (await planner.send('PUT', `/api/jobs/${job}/plan`, { revision: plan.revision, version: plan.version, plan: document })).body;
			const { body } = await planner.post(`/api/jobs/${job}/tasks`, {
				revision: saved.revision,
				version: saved.version,
				kind: 'order-search',
				full: true,
				goals: { restarts: 0, weights: [] }
			});
			const { task } = await until(body.task.id, ['done', 'failed'], 200);
			expect([task.state, task.message]).toEqual(['done', '']);
			const { rows } = (await planner.get(`/api/tasks/${task.id}/result`)).body;
			return rows.map((r: { name: string; hotCost: number }) => [r.name, r.hotCost]);
		};
		await getDb().delete(hotAnswers);
		const first = await searched();
		const had = await kept();
		expect(had).toBeGreaterThan(0);
		expect(await searched()).toEqual(first);
		expect(await kept()).toBe(had);
	}, 480_000);
	it('stopped, it keeps what it has found', async () => {
		const { job, base } = await smallJob((p) => (p.meshSizeMm = 18));
		const { body } = await planner.post(`/api/jobs/${job}/tasks`, {
			...base,
			kind: 'order-search',
			full: true,
			goals: { restarts: 20, weights: [] }
		});
		for (let k = 0; k < 200; k++) {
			const { task } = (await planner.get(`/api/tasks/${body.task.id}`)).body;
			if (task.state !== 'queued' && task.partial?.phase === 'Searching') break;
			await new Promise((r) => setTimeout(r, 150));
		}
		await planner.post(`/api/tasks/${body.task.id}/cancel`);
		const { task } = await until(body.task.id, ['cancelled', 'done'], 60);
		const result = (await planner.get(`/api/tasks/${task.id}/result`)).body;
		expect(result.rows.map((r: { kind: string }) => r.kind)).toEqual(expect.arrayContaining(['now', 'search']));
		if (task.state === 'cancelled') expect(result.stopped).toBe(true);
	}, 240_000);
	it('refuses goals and plans that make no sense, naming them', async () => {
		const { job, base } = await smallJob();
		const bad = await planner.post(`/api/jobs/${job}/tasks`, {
			...base,
			kind: 'order-search',
			goals: { restarts: 99, weights: [{ id: 'x', weight: -1 }] }
		});
		expect(bad.status).toBe(400);
		expect(bad.body.faults.map((f: { field: string }) => f.field)).toEqual(expect.arrayContaining(['goals.restarts', 'goals.weights[0].weight']));
		expect((await planner.post(`/api/jobs/${job}/tasks`, { ...base, kind: 'divination' })).status).toBe(400);
		expect((await planner.get(`/api/jobs/${job}/tasks?kind=divination`)).status).toBe(422);
		const tied = await smallJob((p) => {
			p.holdDowns = [
				{
					id: 'b',
					name: 'Bar of the day',
					kind: 'bar',
					life: { on: 'start', off: `after-run:${p.runs[1].id}` },
					joint: p.runs[0].joint,
					fromMm: 0,
					toMm: 40,
					material: 'copper',
					widthMm: 30,
					thicknessMm: 8,
					contact: 'tight'
				}
			];
		});
		const refused = await planner.post(`/api/jobs/${tied.job}/tasks`, { ...tied.base, kind: 'order-search' });
		expect([refused.status, refused.body.message]).toEqual([422, expect.stringMatching(/Bar of the day.* goes off between two runs/)]);
	});
	it('presets and hold-downs answer with changes that can be taken over', async () => {
		const { job, base } = await smallJob();
		for (const kind of ['presets', 'hold-advice']) {
			const { body } = await planner.post(`/api/jobs/${job}/tasks`, { ...base, kind, goals: { weights: [] } });
			const { task } = await until(body.task.id, ['done', 'failed'], 110);
			expect([kind, task.state, task.message]).toEqual([kind, 'done', '']);
			const result = (await welder.get(`/api/tasks/${task.id}/result`)).body;
			expect(result.before.every(Number.isFinite)).toBe(true);
			expect(result.words.length).toBeGreaterThan(20);
			expect(typeof result.change).toBe('object');
		}
	}, 230_000);
});

describe('what goes out', () => {
	it('traveller and strips as PDF, one strip as SVG, etched blanks as DXF that a second reader reads', async () => {
		const { job } = await smallJob();
		for (const name of ['traveller', 'strips']) {
			const r = await fetch(`${process.env.SARTA_URL}/api/jobs/${job}/${name}.pdf`);
			expect(r.status).toBe(401);
			const mine = await welder.get(`/api/jobs/${job}/${name}.pdf`);
			expect([mine.status, mine.headers.get('content-type')]).toEqual([200, 'application/pdf']);
			expect(String(mine.body).startsWith('%PDF')).toBe(true);
		}
		const { plan } = (await planner.get(`/api/jobs/${job}/plan`)).body;
		const svg = await welder.get(`/api/jobs/${job}/strips/${plan.document.joints[0].id}.svg`);
		expect([svg.status, svg.headers.get('content-type')]).toEqual([200, 'image/svg+xml']);
		expect((await welder.get(`/api/jobs/${job}/strips/nowhere.svg`)).status).toBe(404);
		const dxf = await welder.get(`/api/jobs/${job}/etched-blanks.dxf`);
		const layers = new Set(new DxfParser().parseSync(String(dxf.body))!.entities.map((e) => e.layer));
		expect(layers).toEqual(
			new Set(
				['OUTLINE', 'BENDS', 'ETCH_TACKS', 'ETCH_RUNS', 'ETCH_NAMES', 'PIECE_SEAMS', 'PIECE_DATA'].filter((l) => l !== 'BENDS' || layers.has('BENDS'))
			)
		);
	});
	it('says what other pieces would have laid next', async () => {
		const { job } = await smallJob();
		const r = await welder.get(`/api/jobs/${job}/other-runs`);
		expect(r.status).toBe(200);
		for (const p of r.body.pieces) for (const run of p.runs) expect(run.arcS).toBeGreaterThan(0);
	});
});

describe('procedures', () => {
	it('keep every version, print, and refuse a change made on an older one', async () => {
		const { job } = await smallJob();
		const { plan } = (await planner.get(`/api/jobs/${job}/plan`)).body;
		const settings = plan.document.settings[0];
		const name = `Corner ${job.slice(0, 8)}`;
		const { procedure } = (await planner.post('/api/procedures', { name, settings })).body;
		const saved = await planner.send('PATCH', `/api/procedures/${procedure.id}`, {
			version: procedure.version,
			settings: { ...settings, ampsA: settings.ampsA + 3 }
		});
		expect(saved.status).toBe(200);
		expect((await planner.send('PATCH', `/api/procedures/${procedure.id}`, { version: procedure.version, settings })).status).toBe(409);
		const { versions } = (await welder.get(`/api/procedures/${procedure.id}`)).body;
		expect(versions.map((v: { version: number; settings: { ampsA: number } }) => [v.version, v.settings.ampsA])).toEqual([
			[2, settings.ampsA + 3],
			[1, settings.ampsA]
		]);
		const pdf = await welder.get(`/api/procedures/${procedure.id}/sheet.pdf`);
		expect([pdf.status, String(pdf.body).startsWith('%PDF')]).toEqual([200, true]);
	});
});
