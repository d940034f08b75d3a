/** What the trade says of tees, tacks and order (common practice, no source), as far as the quick depth shows it. */
import { describe, expect, it } from 'vitest';
import { exampleJobs } from '../../cli/exampleJobs';
import { FAMILY_DEFAULTS } from '../families';
import { newPlan } from '../families/newPlan';
import { pathLength } from '../geometry/polyline';
import { kernelFactory } from '../linalg/kernel/kernel';
import { orderPattern } from '../schools/orderPattern';
import type { PlanDocument } from '../document/schema';
import { ForecastCache } from './analysis';
import { forecast } from './forecast';

const kernel = kernelFactory(WebAssembly);
const of = (plan: PlanDocument) => forecast(plan, { cache: new ForecastCache(kernel) }).result;

/** the tee of the examples with a fillet on both sides; tacks by a rule, runs on the sides named */
function tee(tackSide: (i: number) => 'f' | 'g', sides: readonly ('f' | 'g')[]): PlanDocument {
	const plan = structuredClone(exampleJobs().find((e) => e.file === 'tee.json')!.plan);
	const [front] = plan.joints;
	plan.meshSizeMm = 20;
	plan.joints = [front, { ...structuredClone(front), id: 'g', name: 'Fillet, back', weldSide: 'back' }];
	plan.tacks = plan.tacks.map((t, i) => ({ ...t, joint: tackSide(i) }));
	const runs = plan.runs;
	plan.runs = sides.flatMap((s) => runs.map((r) => ({ ...r, id: `${s}-${r.id}`, joint: s })));
	return plan;
}
const lean = (plan: PlanDocument) => of(plan).features.find((f) => f.id === 'lean')!;

describe('a tee', () => {
	it('is pulled over by tacks on one side, and hardly by tacks on alternate sides', () => {
		const oneSide = Math.abs(lean(tee(() => 'f', [])).moments['as-tacked'].predicted);
		const alternate = Math.abs(lean(tee((i) => (i % 2 ? 'g' : 'f'), [])).moments['as-tacked'].predicted);
		// tacks are small spots: they turn it by hundredths of a degree
		expect(oneSide).toBeGreaterThan(0.02);
		expect(alternate).toBeLessThan(0.2 * oneSide);
	});
	it('the first weld moves it most; the second brings the lean back (all of it here, a part in the trade) and curls the plate further', () => {
		const [first, second] = [lean(tee(() => 'f', ['f'])), lean(tee(() => 'g', ['g']))];
		const [both, turned] = [lean(tee(() => 'f', ['f', 'g'])), lean(tee(() => 'g', ['g', 'f']))];
		const moved = Math.abs(first.predicted - first.moments['as-tacked'].predicted);
		expect(Math.abs(both.predicted - first.predicted)).toBeLessThan(0.3 * moved);
		// the angle is read to the front half of the plate: to the back half it is the mirror image's
		const leans = (front: number, back: number) => Math.abs(front - back) / 2;
		expect(leans(both.predicted, turned.predicted)).toBeLessThan(0.5 * leans(first.predicted, second.predicted));
		expect(both.predicted + turned.predicted).toBeLessThan(1.5 * (first.predicted + second.predicted));
	});
	it('leans towards the side that is welded, and the plate curls up to the web from either side', () => {
		const front = lean(tee(() => 'f', ['f'])).predicted;
		const back = lean(tee(() => 'g', ['g'])).predicted;
		// the angle is measured to the front half of the plate: the lean turns round with the side, the curl does not
		expect((front - back) / 2).toBeLessThan(-0.2);
		// two tees in solid elements curl by 1.5 to 1.7 degrees (tests/verification/coupons.json)
		expect((front + back) / 2).toBeLessThan(-0.3);
	});
});

describe('order and tacks on a butt panel', () => {
	const panel = () => ({ ...newPlan('butt-panel', { ...FAMILY_DEFAULTS['butt-panel'], widthsMm: [150, 150], lengthMm: 400 }).plan!, meshSizeMm: 20 });
	const ends = (p: PlanDocument) => ({ ...p, tacks: p.tacks.slice(0, 1).concat(p.tacks.slice(-1)) });
	const twistOrSquare = (p: PlanDocument) => {
		const r = of(p);
		return r.features.find((f) => f.kind === 'length')!;
	};
	it('order does next to nothing in this method, tacked close or at the ends only (said in docs/theory/depths.md: the trade finds otherwise)', () => {
		const straight = (p: PlanDocument) => ({ ...p, runs: orderPattern(p, { pattern: 'straight-through', runLengthMm: 50 }) });
		const back = (p: PlanDocument) => ({ ...p, runs: orderPattern(p, { pattern: 'back-step', runLengthMm: 50 }) });
		const open = Math.abs(twistOrSquare(straight(ends(panel()))).predicted - twistOrSquare(back(ends(panel()))).predicted);
		const close = panel();
		close.tacks = Array.from({ length: 41 }, (_, i) => ({ id: `t${i}`, joint: 's1', stationMm: 10 * i, lengthMm: 5, stage: 1, fusionOnly: true }));
		const shut = Math.abs(twistOrSquare(straight(close)).predicted - twistOrSquare(back(close)).predicted);
		expect(open).toBeLessThan(1e-3);
		expect(shut).toBeLessThan(1e-6);
	});
	it('two end tacks cut the free movement of a butt pair while it is welded', () => {
		const none = { ...panel(), tacks: [] };
		const angle = (p: PlanDocument) =>
			Math.max(
				...of(p)
					.features.find((f) => f.kind === 'angle')!
					.history.map(Math.abs)
			);
		// a pair that nothing holds folds about its seam behind the arc; held at both ends it keeps what the metal does of itself
		expect(angle(ends(panel()))).toBeLessThan(0.85 * angle(none));
	});
	it('the cleaner fit pulls less: no gap against a millimetre', () => {
		const gap = panel();
		for (const j of gap.joints) j.gapMm = 1;
		expect(Math.abs(twistOrSquare(gap).predicted)).toBeGreaterThan(Math.abs(twistOrSquare(panel()).predicted));
	});
});

describe('tacks and order on pieces of several seams', () => {
	/** at both ends of each seam, and between them no farther apart than `spacing` */
	const tacked = (family: 'mitred-frame' | 'open-trough', spacing: number): PlanDocument => {
		const plan = newPlan(family, FAMILY_DEFAULTS[family]).plan!;
		const tacks = plan.joints.flatMap((j) => {
			const [like] = plan.tacks.filter((t) => t.joint === j.id);
			if (!like) return [];
			const length = pathLength(j.a.path);
			const bays = Math.max(1, Math.ceil((length - 6) / spacing));
			return Array.from({ length: bays + 1 }, (_, i) => ({ ...like, id: `${j.id}-${i}`, stationMm: 3 + ((length - 6) * i) / bays, lengthMm: 6 }));
		});
		return { ...plan, tacks: tacks.sort((p, q) => p.stage - q.stage) };
	};
	const outOfSquare = (p: PlanDocument) => Math.abs(of(p).features.find((f) => f.kind === 'squareness')!.predicted);
	it.each(['mitred-frame', 'open-trough'] as const)('%s: tacked closely it stays squarer than with two tacks a seam', (family) => {
		expect(outOfSquare(tacked(family, 20))).toBeLessThan(0.5 * outOfSquare(tacked(family, Infinity)));
	});
	it('a mitred frame by its own school, outside corners first, stays squarer than seam after seam', () => {
		const plan = tacked('mitred-frame', 20);
		const through = { ...plan, runs: orderPattern(plan, { pattern: 'straight-through', runLengthMm: 50 }) };
		expect(outOfSquare(plan)).toBeLessThan(0.5 * outOfSquare(through));
	});
});

describe('metals beside each other', () => {
	const panelOf = (material: string) => {
		const p = { ...newPlan('butt-panel', { ...FAMILY_DEFAULTS['butt-panel'], widthsMm: [150, 150], lengthMm: 300 }).plan!, meshSizeMm: 25 };
		for (const part of p.parts) part.material = material;
		return of(p).seams[0];
	};
	it('stainless pulls harder and narrows more than carbon steel under the same arc', () => {
		const [stainless, steel] = [panelOf('1.4301'), panelOf('S235')];
		expect(stainless.tendonForceN).toBeGreaterThan(steel.tendonForceN);
		expect(stainless.transverseShrinkageMm).toBeGreaterThan(steel.transverseShrinkageMm);
	});
	it('every grade gives a response with its parts named and no number that is none', () => {
		for (const grade of ['1.4301', '1.4307', '1.4404', '1.4541', 'S235', '5052', '5083', '6061']) {
			const s = panelOf(grade);
			expect(s.tendonForceN, grade).toBeGreaterThan(0);
			expect(s.parts.length, grade).toBeGreaterThan(3);
			expect(JSON.stringify(s), grade).not.toMatch(/NaN|null/);
		}
	});
});
