/** Everything that leaves for the bench, of every family: made, of the right kind, and holding what it must. */
import { inflateSync } from 'node:zlib';
import DxfParser from 'dxf-parser';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { FAMILY_DEFAULTS, MADE_FAMILIES } from '$core/families';
import { pathLength } from '$core/geometry/polyline';
import type { PlanDocument } from '$core/document/schema';
import { closeDb } from '$store/database';
import { BASE, newJob, personOf, TROUGH, type Client } from './client';

let planner: Client;
beforeAll(async () => void (planner = await personOf('planner')));
afterAll(closeDb);

const planOf = async (job: string) => (await planner.get(`/api/jobs/${job}/plan`)).body.plan.document as PlanDocument;
async function bytes(path: string): Promise<{ type: string; data: Buffer }> {
	const r = await fetch(BASE + path, { headers: planner.session() });
	expect(r.status, path).toBe(200);
	return { type: r.headers.get('content-type') ?? '', data: Buffer.from(await r.arrayBuffer()) };
}
/** Pages, and every drawing stream unpacked. */
function pdf(data: Buffer) {
	const text = data.toString('latin1');
	expect(text.startsWith('%PDF-')).toBe(true);
	expect(text.trimEnd().endsWith('%%EOF')).toBe(true);
	const streams = [...text.matchAll(/<<([^>]*)>>\s*stream\r?\n/g)].flatMap((m) => {
		const length = Number(/\/Length (\d+)/.exec(m[1])?.[1] ?? 0);
		const from = m.index + m[0].length;
		if (!m[1].includes('/FlateDecode')) return [];
		try {
			return [inflateSync(data.subarray(from, from + length)).toString('latin1')];
		} catch {
			return [];
		}
	});
	return { pages: [...text.matchAll(/\/Type \/Page\b(?!s)/g)].length, streams };
}
const PDFS = ['run-sheet', 'fit-up-sheet', 'hold-sheet', 'marks-sheet', 'cutting-list', 'traveller', 'strips'] as const;

describe('sheets of every family', () => {
	it.each(MADE_FAMILIES)('%s', { timeout: 120_000 }, async (kind) => {
		const r = await planner.post('/api/jobs', { name: `Sheets ${kind}`, quantity: 2, family: { kind, parameters: FAMILY_DEFAULTS[kind] } });
		expect(r.status).toBe(201);
		const job = r.body.job.id as string;
		const plan = await planOf(job);
		const pages: Record<string, number> = {};
		for (const name of PDFS) {
			const { type, data } = await bytes(`/api/jobs/${job}/${name}.pdf`);
			expect(type).toBe('application/pdf');
			const made = pdf(data);
			pages[name] = made.pages;
			expect(made.pages, name).toBeGreaterThanOrEqual(1);
			expect(
				made.streams.some((s) => /\bTj|\bTJ/.test(s)),
				`${name} has words`
			).toBe(true);
		}
		// the traveller is a cover and its four chapters, each as long as its own sheet or shorter by its heading
		expect(pages.traveller).toBeGreaterThanOrEqual(5);

		const csv = (await bytes(`/api/jobs/${job}/cutting-list.csv`)).data.toString('utf8').trim().split(/\r?\n/);
		const cut = plan.parts;
		expect(csv.length).toBeGreaterThanOrEqual(2);
		expect(csv.length - 1).toBeLessThanOrEqual(cut.length);

		const dxf = new DxfParser().parseSync((await bytes(`/api/jobs/${job}/blanks.dxf`)).data.toString('utf8'))!;
		expect(dxf.entities.length).toBeGreaterThan(0);
		const etched = new DxfParser().parseSync((await bytes(`/api/jobs/${job}/etched-blanks.dxf`)).data.toString('utf8'))!;
		const layers = new Set(etched.entities.map((e) => e.layer));
		expect(layers.size).toBeGreaterThan(new Set(dxf.entities.map((e) => e.layer)).size);
		expect(etched.entities.every((e) => JSON.stringify(e).indexOf('null') < 0)).toBe(true);

		for (const j of plan.joints.filter((x) => !x.stock).slice(0, 4)) {
			const svg = (await bytes(`/api/jobs/${job}/strips/${j.id}.svg`)).data.toString('utf8');
			// at full size: its width is stated in millimetres and holds the seam
			const width = Number(/width="([\d.]+)mm"/.exec(svg)?.[1]);
			expect(width, j.name).toBeGreaterThanOrEqual(pathLength(j.a.path) - 0.01);
			expect(svg).not.toMatch(/NaN|undefined/);
		}
	});
});

describe('sheets of a job that is not there or not ready', () => {
	it('an unknown job and an unknown seam are not found; nobody signed in gets nothing', async () => {
		const job = await newJob(planner, 'One seam asked for');
		for (const path of ['/api/jobs/00000000-0000-4000-8000-000000000000/traveller.pdf', `/api/jobs/${job}/strips/no-such-seam.svg`])
			expect((await planner.get(path)).status).toBe(404);
		expect((await fetch(`${BASE}/api/jobs/${job}/traveller.pdf`)).status).toBe(401);
	});
	it('a plan without tacks, runs or checks still prints what there is', { timeout: 60_000 }, async () => {
		const job = (await planner.post('/api/jobs', { name: 'Bare', quantity: 1, family: TROUGH })).body.job.id as string;
		const base = (await planner.get(`/api/jobs/${job}/plan`)).body.plan;
		const plan = { ...base.document, tacks: [], runs: [], features: [], holdDowns: [], fitUp: { ...base.document.fitUp, checks: [] } };
		const put = await planner.send('PUT', `/api/jobs/${job}/plan`, { revision: base.revision, version: base.version, plan });
		expect(put.status, JSON.stringify(put.body)).toBe(200);
		for (const name of PDFS) expect(pdf((await bytes(`/api/jobs/${job}/${name}.pdf`)).data).pages).toBeGreaterThanOrEqual(1);
	});
});
