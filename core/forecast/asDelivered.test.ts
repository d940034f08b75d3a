/** Sheet that was not flat: the band's slope against the piece solved anew with such sheet, and what is asked of which panel. */
import { describe, expect, it } from 'vitest';
import { deeply } from '../testing/deeply';
import { FAMILY_DEFAULTS } from '../families';
import { newPlan } from '../families/newPlan';
import { kernelFactory } from '../linalg/kernel/kernel';
import { assemblyMesh } from '../mesh/assemblyMesh';
import { ForecastCache } from './analysis';
import { bumpsOf, FLATNESS_MM_PER_M } from './asDelivered';
import { finalForecast } from './finalForecast';
import { forecast } from './forecast';

const trough = () => {
	const plan = newPlan('open-trough', { ...FAMILY_DEFAULTS['open-trough'], lengthMm: 400, widthMm: 240, depthMm: 120, rimFlangeMm: 0 }).plan!;
	plan.meshSizeMm = 40;
	return plan;
};
const final = (plan: ReturnType<typeof trough>) => finalForecast(forecast(plan, { cache: new ForecastCache(kernelFactory(WebAssembly)) })).result;

describe('sheet that was not flat before', () => {
	it('moves the band by what the piece does when it is solved with such sheet', () => {
		const plan = newPlan('butt-panel', { ...FAMILY_DEFAULTS['butt-panel'], widthsMm: [150, 150], lengthMm: 300 }).plan!;
		plan.meshSizeMm = 30;
		const [blank] = plan.parts;
		blank.flatnessMmPerM = 1;
		plan.parts[1].flatnessMmPerM = 0;
		// little heat: below buckling the answer is in proportion
		for (const s of plan.settings) s.ampsA *= 0.45;
		const of = (heightMm: number) => {
			const n = 60;
			const wave = (i: number) => Math.sin((Math.PI * i) / (n - 1));
			const heightsMm = Array.from({ length: n * n }, (_, k) => heightMm * wave(k % n) * wave(Math.floor(k / n)));
			return final({ ...plan, shape: { weightless: true, outOfFlat: [{ part: blank.id, nx: n, ny: n, heightsMm }] } } as typeof plan);
		};
		const height = 0.3;
		const h = 0.015;
		const [up, down, flat] = [of(h), of(-h), final({ ...plan, shape: { weightless: true } } as typeof plan)];
		let seen = 0;
		flat.features.forEach((f, k) => {
			const [u, d] = [up, down].map((r) => r.features[k].predicted - f.predicted);
			// a form error turns round at nothing: there no slope is one
			if (Math.abs(u + d) > 0.1 * Math.abs(u - d)) return;
			const solved = ((u - d) / 2) * (height / h);
			const part = f.bandParts!.find((p) => p.label.includes(blank.name));
			if (Math.abs(solved) < 0.02) return;
			seen++;
			expect(Math.abs(part!.high / Math.abs(solved) - 1), f.name).toBeLessThan(0.03);
		});
		expect(seen).toBeGreaterThan(0);
	}, 60_000);
	it('is asked of every panel that is wide and flat, to its height; what was measured stands instead, and nothing of sheet that is flat', () => {
		const plan = trough();
		const mesh = assemblyMesh(plan);
		const bumps = bumpsOf(plan, mesh);
		expect(bumps.length).toBeGreaterThan(3);
		const highest = (b: (typeof bumps)[number]) =>
			Math.max(...[0, 1, 2].map((d) => b.bump.filter((_, i) => i % 3 === d).reduce((m, v) => Math.max(m, Math.abs(v)), 0)));
		// 400 mm of floor: its middle node or the one beside it
		expect(highest(bumps[0])).toBeGreaterThan(0.85 * 0.4 * FLATNESS_MM_PER_M);
		expect(highest(bumps[0])).toBeLessThan(0.41 * FLATNESS_MM_PER_M);
		for (const { bump } of bumps)
			for (const s of mesh.seams) for (const k of [...s.a, ...s.b]) for (let d = 0; d < 3; d++) expect(bump[3 * k + d]).toBe(0);
		plan.parts.forEach((p) => (p.flatnessMmPerM = 3));
		expect(highest(bumpsOf(plan, mesh)[0]) / highest(bumps[0])).toBeCloseTo(3, 9);
		plan.parts.forEach((p) => (p.flatnessMmPerM = 0));
		expect(bumpsOf(plan, mesh)).toEqual([]);
		// a rolled wall is no flat panel; its flat end is one
		const cylinder = newPlan('cylinder', FAMILY_DEFAULTS.cylinder).plan!;
		const rolled = cylinder.parts.filter((p) => p.roll).map((p) => p.name);
		expect(rolled.length).toBeGreaterThan(0);
		for (const b of bumpsOf(cylinder, assemblyMesh(cylinder))) for (const name of rolled) expect(b.label).not.toContain(name);
	});
	deeply(
		'wavier sheet has wider bands and the same value',
		() => {
			const [as, wavy] = [0, 4].map((flatnessMmPerM) => {
				const plan = trough();
				plan.parts.forEach((p) => (p.flatnessMmPerM = flatnessMmPerM));
				return final(plan).features.find((f) => f.kind === 'flatness')!;
			});
			expect(wavy.predicted).toBe(as.predicted);
			expect(wavy.high - wavy.low).toBeGreaterThan(1.2 * (as.high - as.low));
		},
		60_000
	);
});
