/** Where the three depths agree and where they part, and what a tradesman would check. Small pieces, coarse meshes. */
import { describe, expect, it } from 'vitest';
import { withoutSlow } from '../testing/deeply';
import { FAMILY_DEFAULTS } from '../families';
import { newPlan } from '../families/newPlan';
import { kernelFactory } from '../linalg/kernel/kernel';
import { priorFactors } from '../factors/factors';
import { findMaterial } from '../materials/grades';
import type { PlanDocument } from '../document/schema';
import { WHAT_IFS } from '../search/whatIf';
import { nodeAt } from '../shell/model';
import { FinalShape } from '../staging/finalShape';
import { ForecastCache, scalesOf } from './analysis';
import { comparePlans } from './compare';
import { finalForecast, finalValues } from './finalForecast';
import { add, rotate, type Vec3 } from '../geometry/vec';
import { forecast, type Forecast } from './forecast';
import { seenFromDatum } from '../linalg/rigid';
import { fullForecast } from './fullForecast';

const kernel = kernelFactory(WebAssembly);
const cache = () => new ForecastCache(kernel);
const quickOf = (plan: PlanDocument) => forecast(plan, { cache: cache() });
const panel = (change: object = {}, mesh = 25): PlanDocument => {
	const made = newPlan('butt-panel', { ...FAMILY_DEFAULTS['butt-panel'], widthsMm: [120, 120], lengthMm: 240, ...change });
	if (!made.plan) throw new Error(JSON.stringify(made.faults));
	return { ...made.plan, meshSizeMm: mesh };
};
const given = (plan: PlanDocument, force: number, shrinkage = 0, angle = 0) => {
	const p = structuredClone(plan);
	for (const j of p.joints) j.response = { tendonForceN: force, transverseShrinkageMm: shrinkage, angularChangeRad: angle };
	return p;
};
const value = (r: Forecast, id: string) => r.features.find((f) => f.id === id)!;

describe('quick, final shape and full', () => {
	it('agree where nothing buckles: a small pull on a small panel, weight aside', () => {
		// thick sheet: weight bends it by microns
		const plan = given(panel({ thicknessMm: 6 }), 5000, 0.3, 0.004);
		const quick = quickOf(plan);
		const full = fullForecast(quick).result;
		const final = finalForecast(quick).result;
		for (const id of ['width', 'angle-1']) {
			const [q, f, u] = [quick.result, final, full].map((r) => value(r, id).predicted);
			expect(Math.abs(f - q), id).toBeLessThan(0.03 * Math.abs(q) + 2e-3);
			expect(Math.abs(u - q), id).toBeLessThan(0.03 * Math.abs(q) + 2e-3);
		}
		expect(final.finalShape!.lowestFactors[0]).toBeGreaterThan(1.5);
	});
	it('part past buckling: the quick depth knows no waves, the other two do, and agree within their bands', () => {
		const plan = given(panel({ thicknessMm: 1 }), 12_000, 0.2, 0.01);
		const quick = quickOf(plan);
		const final = finalForecast(quick).result;
		const full = fullForecast(quick).result;
		expect(final.finalShape).toMatchObject({ converged: true });
		expect(final.finalShape!.lowestFactors[0]).toBeLessThan(1);
		expect(full.full!.stopped).toBe('');
		const [q, f, u] = [quick.result, final, full].map((r) => value(r, 's1-straightness') ?? r.features.find((x) => x.kind === 'straightness')!);
		expect(f.predicted).toBeGreaterThan(1.5 * q.predicted);
		expect(u.predicted).toBeGreaterThan(f.low);
		expect(u.predicted).toBeLessThan(f.high);
		expect(final.margins[0].words).toMatch(/will wave: \d+\.\d times past its limit/);
		expect(full.depth).toBe('full');
		expect(JSON.stringify([final, full])).not.toMatch(/NaN|null/);
	});
	it('the same input gives the same answer, bit for bit', () => {
		const plan = panel();
		const run = () => {
			const r = finalForecast(quickOf(plan)).result;
			return JSON.stringify([r.features, r.margins, r.finalShape]);
		};
		expect(run()).toBe(run());
	});
	it('compiled and TypeScript kernels agree on the final shape to 1e-6 of its size', () => {
		const plan = given(panel({ thicknessMm: 1.5 }, 40), 6000, 0.2, 0.01);
		const of = (c: ForecastCache) => finalForecast(forecast(plan, { cache: c })).shape;
		const [a, b] = [of(new ForecastCache()), of(cache())];
		const size = Math.max(...a.map(Math.abs));
		a.forEach((v, i) => expect(Math.abs(v - b[i]) / size).toBeLessThan(1e-6));
	});
	const quickly: readonly string[] = ['open-trough', 'corner-panel', 'collar', 'butt-panel'];
	it.each(withoutSlow(Object.keys(FAMILY_DEFAULTS) as (keyof typeof FAMILY_DEFAULTS)[], (family) => !quickly.includes(family)))(
		'a new piece is found to the end as it is offered: %s',
		(family) => {
			const { plan } = newPlan(family, FAMILY_DEFAULTS[family]);
			expect(finalValues(quickOf(plan!), priorFactors()).words).toBe('');
			// panels that lie many times past their limit take long
		},
		240_000
	);
	it('a mirrored plan gives the mirrored shape: welded from the back, the panel goes the other way', () => {
		const plan = given(panel({ thicknessMm: 1.5 }, 40), 9000, 0, 0.004);
		const back = structuredClone(plan);
		for (const j of back.joints) j.weldSide = 'back';
		const of = (p: PlanDocument) => {
			const quick = quickOf(p);
			const { analysis: a } = quick;
			const density = p.parts.map(() => findMaterial('1.4301').density);
			const model = new FinalShape(p, a.mesh, a.sheets, density, a.condensed, a.staged, 'three-points');
			model.weighs = false; // weight would tell up from down
			const { state } = model.solve(model.pull(a.staged.marks[a.staged.marks.length - 1], scalesOf([0, 0, 0, 0])));
			return Array.from({ length: a.mesh.nodeCount }, (_, k) => nodeAt(state.x, k)[2] - nodeAt(a.mesh.xyz, k)[2]);
		};
		const [front, other] = [of(plan), of(back)];
		const size = Math.max(...front.map(Math.abs));
		expect(size).toBeGreaterThan(0.5);
		front.forEach((z, i) => expect(Math.abs(z + other[i]) / size).toBeLessThan(1e-4));
	});
	it('does not depend on the order in which parts and joints are listed', () => {
		const plan = given(panel({ widthsMm: [120, 100, 120] }, 40), 3000, 0.2, 0.005);
		const turned = { ...plan, parts: [...plan.parts].reverse(), joints: [...plan.joints].reverse() };
		const [a, b] = [plan, turned].map((p) => finalForecast(quickOf(p)).result);
		for (const f of a.features) expect(Math.abs(value(b, f.id).predicted - f.predicted), f.id).toBeLessThan(2e-3 * Math.abs(f.predicted) + 2e-4);
	});
});

describe('weight and posture', () => {
	it('a 1.5 mm sheet 600 mm long on three points sags by some millimetres, flat on the bench by nothing', () => {
		// no weld at all: two blanks tacked, weight only
		const plan = given({ ...panel({ lengthMm: 600, widthsMm: [60, 60] }, 40), runs: [] }, 0);
		const sag = (posture: PlanDocument['posture']) => {
			const r = finalForecast(quickOf({ ...plan, posture })).result;
			return r.features.find((f) => f.kind === 'straightness')!.predicted;
		};
		expect(sag('three-points')).toBeGreaterThan(0.5);
		expect(sag('flat-on-bench')).toBeLessThan(0.02);
	});
});

describe('what a tradesman would check (common practice, no source)', () => {
	const flat = (plan: PlanDocument) => finalForecast(quickOf(plan)).result.features.find((f) => f.kind === 'flatness')!.predicted;
	const base = panel({ thicknessMm: 1.5, lengthMm: 300 }, 30);
	it('a clamped copper bar behind the seam leaves the panel flat where the free one warps', () => {
		const bar = WHAT_IFS.find((w) => w.id === 'bar')!.apply(base, base.joints[0].id);
		expect(flat(bar)).toBeLessThan(0.6 * flat(base));
	});
	it('less heat pulls less', () => {
		const less = WHAT_IFS.find((w) => w.id === 'less-heat')!.apply(base, '');
		const [a, b] = [quickOf(base), quickOf(less)];
		expect(b.result.seams[0].tendonForceN).toBeLessThan(a.result.seams[0].tendonForceN);
		expect(flat(less)).toBeLessThan(flat(base));
	});
	it('stainless moves more than carbon steel on the same piece', () => {
		const steel = structuredClone(base);
		for (const p of steel.parts) p.material = 'S235';
		expect(flat(steel)).toBeLessThan(flat(base));
	});
	it('a bigger gap pulls more across', () => {
		const gap = structuredClone(base);
		gap.joints[0].gapMm = 1;
		expect(Math.abs(value(quickOf(gap).result, 'width').predicted)).toBeGreaterThan(Math.abs(value(quickOf(base).result, 'width').predicted));
	});
});

describe('two plans side by side', () => {
	const plan = panel();
	it('a plan beside itself differs by nothing, with no band', () => {
		const c = comparePlans(plan, plan, undefined, { now: cache(), then: cache() });
		for (const f of c.features) expect([f.difference.predicted, f.difference.low, f.difference.high].map(Math.abs)).toEqual([0, 0, 0]);
	});
	it('shared errors cancel: the difference to five sixths of the heat is surer than either value', () => {
		const then = WHAT_IFS.find((w) => w.id === 'less-heat')!.apply(plan, '');
		const c = comparePlans(plan, then, undefined, { now: cache(), then: cache() });
		const width = c.features.find((f) => f.id === 'width')!;
		const own = value(quickOf(plan).result, 'width');
		expect(width.difference.high - width.difference.low).toBeLessThan(0.5 * (own.high - own.low));
	});
	it('what does not apply says why', () => {
		const bar = WHAT_IFS.find((w) => w.id === 'bar')!;
		const once = bar.apply(plan, plan.joints[0].id);
		expect(() => bar.apply(once, plan.joints[0].id)).toThrow(/has a bar already/);
		expect(() => WHAT_IFS.find((w) => w.id === 'half-runs')!.apply({ ...plan, runs: [] }, '')).toThrow(/no runs/);
	});
});

describe('probes at depth', () => {
	it('seen from a 3-2-1 datum, a shape that is only moved and turned has not moved', () => {
		const p: [Vec3, Vec3, Vec3] = [
			[0, 0, 0],
			[100, 0, 0],
			[0, 80, 0]
		];
		const turn = (v: Vec3): Vec3 => add(rotate(rotate(v, [0, 0, 1], 0.7), [1, 0, 0], -0.4), [5, -3, 11]);
		const seen = seenFromDatum(p, p.map(turn) as [Vec3, Vec3, Vec3], turn([30, 40, 7]));
		seen.forEach((v, d) => expect(v).toBeCloseTo([30, 40, 7][d], 9));
	});
	it('small deflections: the final shape’s probes are those of the quick depth', () => {
		const plan = given(panel({ thicknessMm: 6 }), 3000, 0.3, 0.004);
		plan.probes = [{ id: 'p', name: 'P', part: 'blank-2', at: [100, 120] }];
		const quick = quickOf(plan);
		const final = finalForecast(quick).result;
		const [a, b] = [quick.result, final].map((r) => r.probes[0].displacement);
		const size = Math.hypot(...a);
		a.forEach((v, d) => expect(Math.abs(v - b[d])).toBeLessThan(0.05 * size + 2e-3));
	});
});

describe('a plan with hardly anything in it', () => {
	const bare = (change: (p: PlanDocument) => void) => {
		const plan = panel({ thicknessMm: 3 }, 60);
		plan.holdDowns = [];
		change(plan);
		return plan;
	};
	const one = (p: PlanDocument) => (p.runs = [{ id: 'one', joint: p.joints[0].id, fromMm: 0, toMm: 240, pass: 1 }]);
	it('one run on one seam, nothing held: every depth answers; tacks alone do too', { timeout: 120_000 }, () => {
		for (const change of [one, (p: PlanDocument) => (p.runs = []), (p: PlanDocument) => (one(p), (p.tacks = []))]) {
			const quick = quickOf(bare(change));
			// full once: it walks through final shape itself
			for (const r of [quick.result, change === one ? fullForecast(quick).result : finalForecast(quick).result])
				for (const f of r.features) {
					expect(Number.isFinite(f.predicted), `${r.depth} ${f.name}`).toBe(true);
					expect(f.notFound ?? false).toBe(false);
				}
		}
	});
	it('nothing joined at all: the deeper depths say why, in words', () => {
		const quick = quickOf(bare((p) => (p.tacks = p.runs = [])));
		for (const deeper of [finalForecast, fullForecast])
			expect(() => deeper(quick)).toThrow(/“Blank 2” is tied to “Blank 1” by no tack and no run.*Tack or weld a seam of it/);
	});
});
