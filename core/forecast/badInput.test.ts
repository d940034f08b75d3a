/** What cannot be solved is said in the planner's words; nothing runs without end, nothing is not a number. */
import { describe, expect, it } from 'vitest';
import { deeply } from '../testing/deeply';
import { FAMILY_DEFAULTS } from '../families';
import { newPlan } from '../families/newPlan';
import { kernelFactory } from '../linalg/kernel/kernel';
import type { Clamp, PlanDocument } from '../document/schema';
import { readPlan } from '../reading/readPlan';
import { exampleJobs } from '../../cli/exampleJobs';
import { ForecastCache } from './analysis';
import { finalForecast } from './finalForecast';
import { forecast } from './forecast';
import { fullForecast } from './fullForecast';

const kernel = kernelFactory(WebAssembly);
const panel = (): PlanDocument => ({
	...newPlan('butt-panel', { ...FAMILY_DEFAULTS['butt-panel'], widthsMm: [120, 120], lengthMm: 240 }).plan!,
	meshSizeMm: 40
});
const quickOf = (plan: PlanDocument) => forecast(plan, { cache: new ForecastCache(kernel) });
const clean = (r: unknown) => expect(JSON.stringify(r)).not.toMatch(/NaN|null/);

describe('bad input to the deeper depths', () => {
	it('a part tied to nothing is named, with what to do', () => {
		const plan = { ...panel(), tacks: [], runs: [] };
		expect(() => finalForecast(quickOf(plan))).toThrow(/Part “Blank 2” is tied to “Blank 1” by no tack and no run.*Tack or weld a seam of it/);
	});
	it('a seam welded without a tack is said, and still ends', () => {
		const r = finalForecast(quickOf({ ...panel(), tacks: [] })).result;
		expect(r.warnings.join(' ')).toMatch(/“Seam 1” is welded without a tack/);
		clean(r);
	});
	it('a heat that would melt the panel ends, says how far it came and what to change', () => {
		const plan = panel();
		plan.settings[0] = { ...plan.settings[0], ampsA: 400, speedMmPerS: 0.5 };
		const r = finalForecast(quickOf(plan)).result;
		expect(r.warnings.join(' ')).toMatch(/burn through/);
		if (!r.finalShape!.converged) expect(r.warnings[0]).toMatch(/found up to \d+ % of the load and not beyond/);
		clean(r);
	}, 240_000);
	it('a pull no sheet could bear is named, and nothing is inside by it, found or not', () => {
		const plan = panel();
		plan.joints[0].response = { tendonForceN: 4_000_000, transverseShrinkageMm: 0, angularChangeRad: 0 };
		const r = fullForecast(quickOf(plan)).result;
		expect(r.warnings.join(' ')).toMatch(/“Seam 1”: a pull of 4000 kN is more than the \d+ kN at which the whole of the sheet beside it yields/);
		for (const f of r.features) expect(f.verdict).not.toBe('inside');
		clean(r);
	}, 240_000);
	it('a clamp without stiffness is refused by name before anything is computed', () => {
		const plan = panel();
		const clamp: Clamp = {
			id: 'c',
			name: 'C',
			kind: 'clamp',
			joint: 's1',
			stationMm: 100,
			holds: 'all',
			stiffnessNPerMm: 0,
			life: { on: 'start', off: 'when-cold' }
		};
		plan.holdDowns.push(clamp);
		expect(JSON.stringify(readPlan(JSON.parse(JSON.stringify(plan))).faults)).toMatch(/stiffnessNPerMm/);
	});
	deeply(
		'a strongback put on and taken off at depth lets the piece spring back and does not drift away',
		() => {
			const plan = { ...exampleJobs().find((e) => e.file === 'lap-with-strongback.json')!.plan, meshSizeMm: 30 };
			const r = fullForecast(quickOf(plan)).result;
			expect(r.full!.stopped).toBe('');
			clean(r);
		},
		240_000
	);
});
