/** What changes a run's response, each by itself: heat left by earlier runs, bars that touch well or badly, clamps, gaps, filler. */
import { describe, expect, it } from 'vitest';
import { deeply, deepSuite } from '../testing/deeply';
import { FAMILY_DEFAULTS } from '../families';
import { newPlan } from '../families/newPlan';
import { priorFactors } from '../factors/factors';
import { kernelFactory } from '../linalg/kernel/kernel';
import { assemblyMesh } from '../mesh/assemblyMesh';
import { orderPattern } from '../schools/orderPattern';
import type { OrderPattern } from '../schools/orders';
import type { PlanDocument } from '../document/schema';
import { WHAT_IFS } from '../search/whatIf';
import { weldResponse } from '../response/weldResponse';
import { findMaterial } from '../materials/grades';
import { EdgeContacts } from '../equilibrium/contact';
import { ForecastCache, scalesOf } from './analysis';
import { finalForecast } from './finalForecast';
import { forecast } from './forecast';
import { norm, scale } from '../geometry/vec';
import { FinalShape } from '../staging/finalShape';
import { fullStages } from '../staging/fullDepth';
import type { Staged } from '../staging/stage';
import { nearestPair } from '../staging/condense';
import { jointDirections } from '../staging/weldBook';
import { profileAt, residualProfile } from './residual';
import { weldOut } from './schedule';

const kernel = kernelFactory(WebAssembly);
const quickOf = (plan: PlanDocument) => forecast(plan, { cache: new ForecastCache(kernel) });
const panel = (change: object = {}, mesh = 30): PlanDocument => {
	const made = newPlan('butt-panel', { ...FAMILY_DEFAULTS['butt-panel'], widthsMm: [120, 120], lengthMm: 240, ...change });
	if (!made.plan) throw new Error(JSON.stringify(made.faults));
	return { ...made.plan, meshSizeMm: mesh };
};

describe('heat that earlier runs have left', () => {
	// a second run straight after the first, beside where it ended: no waiting
	const warm = (): PlanDocument => {
		const p = { ...panel(), interpassLimitC: 600 };
		p.runs = p.runs.map((r) => ({ ...r, waitBeforeS: 0 }));
		return p;
	};
	it('is highest at the seam and falls to the sides, and the first run finds cold metal', () => {
		const plan = warm();
		const mesh = assemblyMesh(plan);
		const { startFields } = weldOut(plan, mesh);
		expect(residualProfile(mesh, plan.runs[0], startFields[0], plan.ambientC).rise).toBeLessThan(0.5);
		const second = residualProfile(mesh, plan.runs[1], startFields[1], plan.ambientC);
		expect(second.rise).toBeGreaterThan(20);
		for (const side of second.sides) expect(side[0]).toBeGreaterThan(side[side.length - 1]);
		const at = profileAt(second);
		expect(at(-1e-9)).toBeCloseTo(second.sides[0][0], 6);
		expect(at(500)).toBe(second.sides[1][second.sides[1].length - 1]);
		expect(at(15)).toBeCloseTo((second.sides[1][1] + second.sides[1][2]) / 2, 9);
	});
	/** two seams 40 mm apart, each in one run, one straight after the other */
	const beside = (waitBeforeS = 0): PlanDocument => {
		const p = { ...panel({ widthsMm: [100, 40, 100] }), interpassLimitC: 600 };
		return { ...p, runs: orderPattern(p, { pattern: 'one-hit', runLengthMm: 50 }).map((r) => ({ ...r, waitBeforeS })) };
	};
	const othersOf = (p: PlanDocument) =>
		quickOf(p)
			.warmed()
			.analysis.responses.flatMap((r) => [...r.runs.values()]);
	it('of other seams changes the force of the runs after, is said in the breakdown, and is nothing where the piece cools between runs', () => {
		const hot = quickOf(beside()).warmed();
		const factors = hot.analysis.responses.flatMap((r) => [...r.runs.values()]);
		expect(factors).toHaveLength(2);
		expect(factors.filter((f) => f === 1)).toHaveLength(1);
		for (const f of factors) expect(Math.abs(f - 1)).toBeLessThan(0.5);
		expect(hot.result.seams.some((s) => s.parts.some((p) => /Heat left by other seams/.test(p.label)))).toBe(true);
		expect(othersOf(beside(3000))).toEqual([1, 1]);
	});
	it('of its own seam is not counted besides: a section keeps all its heat, and what flowed in from the run beside it is that heat again', () => {
		expect(othersOf(warm()).every((f) => f === 1)).toBe(true);
	});
	it('so order matters within a seam: stepped runs with a pause pull less than one run, and the less the longer it is (common practice, no source)', () => {
		const plan = panel();
		const pull = (pattern: OrderPattern, waitBeforeS: number) => {
			const runs = orderPattern(plan, { pattern, runLengthMm: 40 }).map((r) => ({ ...r, waitBeforeS }));
			const warmed = quickOf({ ...plan, runs }).warmed();
			const factors = [...warmed.analysis.responses[0].cut.values()];
			expect(factors).toHaveLength(runs.length);
			expect(warmed.result.seams[0].parts.some((p) => /Runs that begin and end/.test(p.label))).toBe(true);
			return factors.reduce((s, f) => s + f, 0) / factors.length;
		};
		const one = pull('one-hit', 0);
		// some per cent with short pauses, a third and more where each is left to go cold; the trade says a third
		for (const pattern of ['back-step', 'skip-round'] as const) {
			const [soon, cold] = [pull(pattern, 15), pull(pattern, 1200)];
			expect(soon, pattern).toBeLessThan(one);
			expect(cold, pattern).toBeLessThan(soon);
			expect(cold, pattern).toBeGreaterThan(0.5 * one);
		}
	});
	it('an arc so weak that nothing yields has no pull, and its runs are not asked what they keep of it', () => {
		const p = panel();
		const weak = {
			...p,
			parts: p.parts.map((x) => ({ ...x, thicknessMm: 6 })),
			settings: p.settings.map((s) => ({ ...s, ampsA: 5, volts: 8, speedMmPerS: 8 }))
		};
		const [response] = quickOf(weak).warmed().analysis.responses;
		expect(response.response.yieldsToMm).toBe(0);
		expect(response.response.tendonForceN).toBe(0);
		expect(response.cut.size).toBe(0);
	});
	it('the quick depth takes cold metal and its history is not touched by warming', () => {
		const quick = quickOf(warm());
		const before = JSON.stringify(quick.result.features);
		quick.warmed();
		expect(JSON.stringify(quick.result.features)).toBe(before);
		expect(quick.result.seams[0].parts.some((p) => /Heat left/.test(p.label))).toBe(false);
	});
});

describe('bands know bars, clamps and gaps', () => {
	const bar = () => WHAT_IFS.find((w) => w.id === 'bar')!.apply(panel(), panel().joints[0].id);
	const partsOf = (plan: PlanDocument) => finalForecast(quickOf(plan)).result.features.flatMap((f) => f.bandParts!.map((p) => p.label));
	it('a bar that touches badly takes less: the force falls with contact', () => {
		const quick = quickOf(bar());
		const change = [...quick.analysis.barContact().values()][0];
		expect(change.half).toBeGreaterThan(0.05);
		expect(change.twice).toBeLessThan(-0.05);
		expect(quickOf(panel()).analysis.barContact().size).toBe(0);
	});
	it('contact of the bar stands in the band’s make-up, and only where there is a bar', () => {
		expect(partsOf(bar()).some((l) => /touches/.test(l))).toBe(true);
		expect(partsOf(panel()).some((l) => /touches/.test(l))).toBe(false);
	});
	it('softer clamps hold the bow down less: the staging can be done anew with other stiffness', () => {
		const plan = panel();
		const clamp = (station: number) => ({
			id: `k${station}`,
			name: 'Clamp',
			kind: 'clamp' as const,
			joint: 's1',
			stationMm: station,
			holds: 'normal' as const,
			stiffnessNPerMm: 1000,
			life: { on: 'start', off: 'when-cold' }
		});
		const quick = quickOf({ ...plan, holdDowns: [0, 120, 240].map(clamp) });
		const last = quick.analysis.staged.marks.length - 1;
		const bow = (s: Staged, mark: number) => Math.max(...s.marks[mark].byAction[3].map(Math.abs));
		const soft = quick.analysis.restaged(0.01);
		expect(quick.analysis.restaged(1).marks).toEqual(quick.analysis.staged.marks);
		// cold and still clamped: the stiff clamps hold the bow down, the soft ones let it rise
		expect(bow(soft, last - 1)).toBeGreaterThan(1.05 * bow(quick.analysis.staged, last - 1));
	});
	it('a gap that was not measured widens the band of the width, at the quick depth too', () => {
		// a shop that knows its factors and a force that is given: what is left is scatter from seam to seam, and the gap
		const known = () => {
			const p = panel();
			p.joints[0].response = { tendonForceN: 30_000 };
			return p;
		};
		const measured = known();
		measured.joints[0].gapMeasured = true;
		const factors = { ...priorFactors(), covariance: priorFactors().covariance.map((v) => 1e-8 * v) };
		const widthOf = (p: PlanDocument) => {
			const f = forecast(p, { cache: new ForecastCache(kernel), factors }).result.features.find((x) => x.id === 'width')!;
			return f.high - f.low;
		};
		expect(widthOf(known())).toBeGreaterThan(widthOf(measured));
	});
});

describe('fusion or filler', () => {
	const of = (change: object) => {
		const plan = panel();
		return weldResponse({
			joint: { ...plan.joints[0], ...change },
			settings: plan.settings[0],
			sheets: [0, 1].map(() => ({ material: findMaterial('1.4301'), thicknessMm: 1.5, widthMm: 120 })),
			ambientC: 20
		});
	};
	it('a fillet acts by its heat alone: under the same arc two tees in solid elements shrank less with the heavier leg (tests/verification/coupons.json)', () => {
		const [none, fed] = [of({ type: 'tee', weldSizeMm: 3 }), of({ type: 'tee', weldSizeMm: 3, filler: true })];
		expect(fed.transverseShrinkageMm).toBe(none.transverseShrinkageMm);
		expect(none.parts.some((p) => p.label === 'Fusion only')).toBe(true);
	});
	it('fusion across an open gap is warned of, by the seam’s name', () => {
		expect(of({ gapMm: 0.5 }).warnings.some((w) => /“Seam 1”.*add filler/.test(w))).toBe(true);
		expect(of({ gapMm: 0.5, filler: true }).warnings.some((w) => /fused without filler/.test(w))).toBe(false);
	});
});

deepSuite('edges not joined yet', () => {
	deeply('press on each other ahead of the run and do not pass through, in the full depth', () => {
		const plan = panel();
		// tacked at the two ends only: the first run closes the edges ahead of it
		plan.tacks = [plan.tacks[0], plan.tacks[plan.tacks.length - 1]];
		plan.joints[0].response = { tendonForceN: 2000, transverseShrinkageMm: 0.6, angularChangeRad: 0 };
		const { analysis: a } = quickOf(plan);
		const densities = plan.parts.map(() => findMaterial('1.4301').density);
		const model = new FinalShape(plan, a.mesh, a.sheets, densities, a.condensed, undefined, 'three-points');
		const full = fullStages(plan, a.mesh.seams, a.condensed, a.events, model, model, scalesOf([0, 0, 0, 0]), () => {});
		expect(full.stopped).toBe('');
		const seam = a.mesh.seams[0];
		const run = plan.runs[0];
		const state = full.marks.find((m) => m.id === run.id)!.state;
		const joined = plan.tacks.map((t) => nearestPair(seam, t.stationMm));
		const depths = [...seam.stations.keys()]
			.filter((i) => !joined.includes(i) && seam.reach[i][0] > Math.max(run.fromMm, run.toMm))
			.map((i) => {
				const { shrink } = jointDirections(plan, seam, i);
				const closing = scale(shrink, 1 / norm(shrink));
				const contact = { a: seam.a[i], b: seam.b[i], arm: seam.frames[i].offset, closing, gap: plan.joints[0].gapMm, stiffness: 1, on: true };
				return EdgeContacts.depth(contact, state);
			});
		expect(depths.length).toBeGreaterThan(2);
		// they do touch, and sink in by no more than a hundredth
		expect(Math.max(...depths)).toBeGreaterThan(0);
		expect(Math.max(...depths)).toBeLessThan(0.01);
	});
});
