/** What the welder is told of edges that part: against a pair that is known to open, and one that cannot. */
import { describe, expect, it } from 'vitest';
import type { PlanDocument } from '../document/schema';
import { FAMILY_DEFAULTS } from '../families';
import { newPlan } from '../families/newPlan';
import { ForecastCache } from '../forecast/cache';
import { forecast } from '../forecast/forecast';
import { gapsAhead } from '../hot/ahead';
import { evenTacks } from '../hot/ofPlan';
import { kernelFactory } from '../linalg/kernel/kernel';
import { aheadWords } from './aheadWords';

const kernel = kernelFactory(WebAssembly);
const of = (plan: PlanDocument) => gapsAhead(forecast(plan, { cache: new ForecastCache(kernel) }), kernel);

describe('what the welder is told', () => {
	it('a pair tacked at both ends: wedge it, and where; tacked closely: nothing, and nothing is worked out', () => {
		const plan = newPlan('butt-panel', { ...FAMILY_DEFAULTS['butt-panel'], widthsMm: [120, 120], lengthMm: 240 }).plan!;
		const [run] = plan.runs;
		const one = { ...plan, runs: [{ ...run, id: 'one', fromMm: 0, toMm: 240, pass: 1 }] };
		const tacked = (spacing: number) => ({
			...one,
			tacks: evenTacks(240, spacing).map((stationMm, i) => ({ ...plan.tacks[0], id: `t${i}`, stationMm, lengthMm: 6 }))
		});
		const told = of(tacked(0));
		expect(Object.keys(told)).toEqual(['one']);
		expect(told.one.gapMm).toBeGreaterThan(0.1);
		expect(aheadWords(told.one, 'mm')).toMatch(/stand about 0\.\d+ mm apart, most when you come to \d+ mm: wedge/);
		expect(of(tacked(40))).toEqual({});
	});
});
