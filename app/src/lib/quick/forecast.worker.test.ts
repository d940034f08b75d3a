/** What the page's worker answers, asked as the page asks it: figures first, the rest after, and nothing for a question that is overtaken. */
import { beforeAll, describe, expect, it, vi } from 'vitest';
import { FAMILY_DEFAULTS } from '$core/families';
import { newPlan } from '$core/families/newPlan';
import type { Forecast } from '$core/forecast/forecast';
import { priorFactors } from '$core/factors/factors';
import type { PlanDocument } from '$core/document/schema';
import type { QuickApi } from './protocol';

const exposed = vi.hoisted(() => ({ api: undefined as unknown, moved: [] as number[] }));
vi.mock('comlink', () => ({
	expose: (api: unknown) => (exposed.api = api),
	transfer: (x: unknown, buffers: ArrayBuffer[]) => {
		exposed.moved.push(buffers.length);
		return x;
	}
}));
let api: QuickApi;
beforeAll(async () => {
	await import('./forecast.worker');
	api = exposed.api as QuickApi;
});
const trough = (): PlanDocument => {
	const { plan } = newPlan('open-trough', { ...FAMILY_DEFAULTS['open-trough'], lengthMm: 200, widthMm: 120, depthMm: 60, rimFlangeMm: 0 });
	// over the wire it is plain data
	return JSON.parse(JSON.stringify({ ...plan!, meshSizeMm: 30 })) as PlanDocument;
};
const ask = (plan: PlanDocument) => {
	const seen: { first?: Forecast; hadHeat?: boolean; progress: number[] } = { progress: [] };
	const answer = api.forecast(
		plan,
		priorFactors(),
		(p) => seen.progress.push(p),
		(r) => {
			seen.first = r;
			seen.hadHeat = r.schedule !== undefined;
		}
	);
	return { seen, answer };
};

describe('the forecast’s worker', () => {
	it('draws a piece: nodes, triangles, seams with their places and how the piece may lie for each', () => {
		const g = api.geometry(trough());
		if (!g.ok) throw new Error(g.message);
		expect(g.data.xyz.length % 3).toBe(0);
		expect(Math.max(...g.data.tri)).toBeLessThan(g.data.xyz.length / 3);
		expect(g.data.triPart.length).toBe(g.data.tri.length / 3);
		expect(g.data.positions.length).toBe(g.data.seams.length);
		for (const s of g.data.seams) {
			expect(s.points.length).toBe(3 * s.stations.length);
			expect(s.stations[s.stations.length - 1]).toBeCloseTo(s.lengthMm, 6);
		}
	});
	it('gives the figures first, without the heat, and then shapes and heat; progress only ever grows', async () => {
		const { seen, answer } = ask(trough());
		const out = await answer;
		if (!out?.ok) throw new Error('no answer');
		expect(seen.hadHeat).toBe(false);
		expect(seen.first!.features.map((f) => f.predicted)).toEqual(out.data.result.features.map((f) => f.predicted));
		expect(out.data.result.schedule!.runs.length).toBe(trough().runs.length);
		expect(out.data.shapes.steps.length).toBe(out.data.result.steps.length);
		expect(seen.progress).toEqual([...seen.progress].sort((p, q) => p - q));
		expect(exposed.moved[exposed.moved.length - 1]).toBe(3 + out.data.shapes.steps.length);
	});
	it('a question that is overtaken ends with nothing; the newer one is answered as if it had been alone', async () => {
		const plan = trough();
		const later = { ...plan, runs: [...plan.runs].reverse() };
		const [first, second] = [ask(plan), ask(later)];
		expect(await first.answer).toBeUndefined();
		const out = await second.answer;
		const alone = await ask(later).answer;
		if (!out?.ok || !alone?.ok) throw new Error('no answer');
		expect(out.data.result.features).toEqual(alone.data.result.features);
		expect(out.data.result.schedule).toEqual(alone.data.result.schedule);
	});
	it('an edit of the order meets the condensed model again; one of the shape does not', async () => {
		const plan = trough();
		await ask(plan).answer;
		const again = await ask({ ...plan, runs: [...plan.runs].reverse() }).answer;
		const thicker = trough();
		thicker.parts.forEach((p) => (p.thicknessMm = 2));
		const other = await ask(thicker).answer;
		if (!again?.ok || !other?.ok) throw new Error('no answer');
		expect([again.data.result.reusedModel, other.data.result.reusedModel]).toEqual([true, false]);
	});
	it('a plan it cannot work on is refused in words, and the next one is worked on', async () => {
		const broken = trough();
		broken.meshSizeMm = 0.5;
		const { answer } = ask({ ...broken, meshSizeMm: 1 });
		const out = await answer;
		expect(out).toMatchObject({ ok: false });
		expect(!out!.ok && out!.message).toMatch(/mesh size of about/);
		expect((await ask(trough()).answer)?.ok).toBe(true);
	});
	it('a plan beside itself differs by nothing', () => {
		const out = api.compare(trough(), trough(), priorFactors());
		if (!out.ok) throw new Error(out.message);
		for (const f of out.data.features)
			expect([f.difference.predicted, f.difference.low, f.difference.high].every((v) => Math.abs(v) < 1e-9)).toBe(true);
	});
	it('writes the deck that the command line writes: nodes, sheets and a stage for each run', () => {
		const plan = trough();
		const out = api.deck(plan, priorFactors(), 'Trough');
		expect(out.ok).toBe(true);
		const deck = out.ok ? out.data : '';
		expect(deck).toMatch(/^\*NODE/im);
		expect(deck.match(/^\*STEP/gim)!.length).toBeGreaterThan(1);
		expect(deck).not.toMatch(/NaN|undefined/);
	});
});
