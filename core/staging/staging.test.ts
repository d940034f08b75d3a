import { describe, expect, it } from 'vitest';
import { deeply } from '../testing/deeply';
import { FAMILY_DEFAULTS } from '../families';
import { newPlan } from '../families/newPlan';
import { analyse, ForecastCache, scalesOf } from '../forecast/analysis';
import { forecast } from '../forecast/forecast';
import { orderPattern } from '../schools/orderPattern';
import { DEFAULT_TACKS } from '../schools/tacks';
import { tackPattern } from '../schools/tackPattern';
import type { Clamp, PlanDocument } from '../document/schema';

const panel = (change: object = {}): PlanDocument => {
	const made = newPlan('butt-panel', { ...FAMILY_DEFAULTS['butt-panel'], widthsMm: [120, 120], lengthMm: 240, ...change });
	if (!made.plan) throw new Error(JSON.stringify(made.faults));
	return { ...made.plan, meshSizeMm: 20 };
};
const one = scalesOf([0, 0, 0, 0]);
const value = (plan: PlanDocument, id: string, mark = 'unclamped') => {
	const a = analyse(plan, new ForecastCache());
	return a.featureAt(
		plan.features.find((f) => f.id === id)!,
		mark,
		one
	);
};
const clamp = (stationMm: number, on: string, off: string): Clamp => ({
	id: `c${stationMm}`,
	name: `C${stationMm}`,
	kind: 'clamp',
	joint: 's1',
	stationMm,
	holds: 'all',
	stiffnessNPerMm: 1e5,
	life: { on, off }
});

describe('staged assembly on the condensed model', () => {
	it('two routes to one number: condensed outputs and the full shape agree, and the residual of rigid motion is nothing', () => {
		const { result } = forecast(panel());
		expect(result.consistencyMm).toBeLessThan(1e-5);
	});

	it('a butt panel narrows by its transverse shrinkage, which nothing restrains', () => {
		const plan = panel();
		plan.joints[0].response = { tendonForceN: 0, transverseShrinkageMm: 0.4, angularChangeRad: 0 };
		expect(value(plan, 'width')).toBeCloseTo(-0.4, 4);
	});

	it('a free butt joint turns by its angular change, and an opposite preset cancels it', () => {
		const plan = panel();
		plan.joints[0].response = { tendonForceN: 0, transverseShrinkageMm: 0, angularChangeRad: 0.01 };
		const turned = value(plan, 'angle-1');
		expect(Math.abs(turned)).toBeCloseTo((0.01 * 180) / Math.PI, 2);
		plan.joints[0].presetDeg = (0.01 * 180) / Math.PI;
		expect(Math.abs(value(plan, 'angle-1'))).toBeLessThan(1e-3);
	});

	it('the angular change closes towards the weld side: welded from the back it turns the other way', () => {
		const plan = panel();
		plan.joints[0].response = { tendonForceN: 0, transverseShrinkageMm: 0, angularChangeRad: 0.01 };
		plan.probes = [{ id: 'p', name: 'P', part: 'blank-2', at: [120, 120] }];
		const lift = (p: PlanDocument) => forecast(p).result.probes[0].displacement[2];
		const front = lift(plan);
		plan.joints[0].weldSide = 'back';
		// datum on the first corners of both blanks: the far edge rises towards the weld
		expect(Math.sign(front)).toBe(-Math.sign(lift(plan)));
	});

	deeply('a tendon force shortens a narrow strip as a bar under end load (F L / E A, Hooke), mesh or width of triangles aside', () => {
		const shorten = (meshSizeMm: number) => {
			const plan = { ...panel({ widthsMm: [20, 20], lengthMm: 800 }), meshSizeMm };
			plan.tacks = tackPattern(plan, { ...DEFAULT_TACKS, locateMm: 20, closeMm: 5 });
			plan.joints[0].response = { tendonForceN: 5000, transverseShrinkageMm: 0, angularChangeRad: 0 };
			plan.features = [{ id: 'l', name: 'Length', kind: 'length', points: ['c-bl', 'c-tl'], tolerance: { upper: 1, lower: -1, source: 'typed' } }];
			return value(plan, 'l');
		};
		const hooke = (-5000 * 800) / (200e3 * 40 * 1.5);
		expect(Math.abs(shorten(10) / hooke - 1)).toBeLessThan(0.06);
		expect(Math.abs(shorten(7) / hooke - 1)).toBeLessThan(0.06);
	});

	it('clamps put on after everything is tacked close and taken off cold leave no trace in a linear piece', () => {
		const plan = panel();
		plan.tacks = tackPattern(plan, { ...DEFAULT_TACKS, locateMm: 40, closeMm: 10 });
		const free = value(plan, 'angle-1');
		plan.holdDowns = [clamp(40, 'after-tacks', 'when-cold'), clamp(200, 'after-tacks', 'when-cold')];
		expect(Math.abs(value(plan, 'angle-1') - free)).toBeLessThan(1e-4 * Math.max(1, Math.abs(free)));
	});

	it('while they are on they hold: the seam bows less cold than unclamped', () => {
		const plan = panel();
		plan.holdDowns = [40, 120, 200].map((s) => ({ ...clamp(s, 'start', 'when-cold'), holds: 'all' as const }));
		const a = analyse(plan, new ForecastCache());
		const bow = plan.features.find((f) => f.id === 'bow-1')!;
		expect(a.featureAt(bow, 'cold', one)).toBeLessThan(a.featureAt(bow, 'unclamped', one));
	});

	it('order matters while the seam is open ahead of the arc, and not at all once every place is tacked', () => {
		const plan = panel();
		plan.tacks = tackPattern(plan, { ...DEFAULT_TACKS, pattern: 'corners-and-middles' }).slice(0, 1);
		const straight = { ...plan, runs: orderPattern(plan, { pattern: 'straight-through', runLengthMm: 240 }) };
		const spread = { ...plan, runs: orderPattern(plan, { pattern: 'skip-round', runLengthMm: 30 }) };
		const apart = (p: PlanDocument, q: PlanDocument) => Math.max(...plan.features.map((f) => Math.abs(value(p, f.id) - value(q, f.id))));
		expect(apart(straight, spread)).toBeGreaterThan(1e-3);
		const close = tackPattern(plan, { ...DEFAULT_TACKS, locateMm: 40, closeMm: 8 });
		expect(apart({ ...straight, tacks: close }, { ...spread, tacks: close })).toBeLessThan(1e-4);
	});

	it('does not depend on the order in which parts and joints are listed', () => {
		const plan = panel({ widthsMm: [120, 90, 120] });
		const turned = { ...plan, parts: [...plan.parts].reverse(), joints: [...plan.joints].reverse() };
		for (const f of plan.features) expect(value(turned, f.id)).toBeCloseTo(value(plan, f.id), 4);
	});

	it('the same input gives the same output, bit for bit, from a fresh or a used cache', () => {
		const plan = panel();
		const cache = new ForecastCache();
		const first = JSON.stringify(forecast(plan, { cache }).result.features);
		expect(JSON.stringify(forecast(plan, { cache }).result.features)).toBe(first);
		expect(JSON.stringify(forecast(plan).result.features)).toBe(first);
	});

	it('a bar behind the seam lowers the angle and the bow; the band holds the prediction', () => {
		const plan = panel();
		const free = forecast(plan).result;
		plan.holdDowns = [
			{
				id: 'bar',
				name: 'Bar',
				kind: 'bar',
				joint: 's1',
				fromMm: 0,
				toMm: 240,
				material: 'copper',
				widthMm: 40,
				thicknessMm: 10,
				contact: 'tight',
				life: { on: 'start', off: 'when-cold' }
			}
		];
		const held = forecast(plan).result;
		const of = (r: typeof free, id: string) => Math.abs(r.features.find((f) => f.id === id)!.predicted);
		expect(of(held, 'angle-1')).toBeLessThan(0.6 * of(free, 'angle-1'));
		expect(of(held, 'bow-1')).toBeLessThan(0.6 * of(free, 'bow-1'));
		for (const f of [...free.features, ...held.features]) {
			expect(f.low).toBeLessThanOrEqual(f.predicted);
			expect(f.high).toBeGreaterThanOrEqual(f.predicted);
			expect([f.low, f.high, ...f.history, ...f.influence.map((i) => i.value)].every(Number.isFinite)).toBe(true);
		}
	});
});
