/** Model form as a band of its own: what the other end of the range would do, against a forecast with that very force given. */
import { describe, expect, it } from 'vitest';
import { FAMILY_DEFAULTS } from '../families';
import { newPlan } from '../families/newPlan';
import { comparePlans } from './compare';
import { ForecastCache, scalesOf } from './analysis';
import { finalForecast } from './finalForecast';
import { forecast } from './forecast';
import { formParts, MODEL_FORMS } from './modelForm';
import { priorFactors, Z90 } from '../factors/factors';

const plan = () => {
	const p = newPlan('stiffened-plate', { ...FAMILY_DEFAULTS['stiffened-plate'] }).plan!;
	p.meshSizeMm = 25;
	return p;
};

describe('model form', () => {
	it('at the end of its range each form adds what the same forces, scaled, add', () => {
		const a = forecast(plan()).analysis;
		const scales = scalesOf(priorFactors().mean);
		const parts = formParts(a);
		expect(parts.map((p) => p.form)).toEqual(expect.arrayContaining(MODEL_FORMS.map((_, i) => i)));
		for (const f of a.plan.features) {
			const at = (k: number, z: number) => a.sampler(f, 'unclamped', [parts[k].added])(scales, [parts[k].more(z)]);
			const base = a.sampler(f, 'unclamped', [])(scales, []);
			parts.forEach((part, k) => {
				// one end only: the other way a form adds nothing
				const up = part.more(1) !== 0 ? 1 : -1;
				expect(at(k, -up)).toBeCloseTo(base, 12);
				// runs: tacks are not in any run's response
				const owners = [...a.staged.added].filter(([owner]) => a.responses.some((x) => x.runs.has(owner)));
				const byHand = a.featureAt(
					f,
					'unclamped',
					scales,
					owners.map(([owner, v]) => {
						const r = a.responses.find((x) => x.runs.has(owner))!.response;
						const end = MODEL_FORMS[part.form].range(r)[up > 0 ? 1 : 0] - 1;
						return [v.map((w, i) => (i === 0 || i === 3 ? w : w.map(() => 0))), end] as const;
					})
				);
				expect(at(k, up * Z90)).toBeCloseTo(byHand, 6);
			});
		}
	});
	it('a force that was given is not doubted; others have wider bands for it, and the final shape names the part', () => {
		const own = plan();
		const given = plan();
		const q = forecast(own);
		for (const j of given.joints) j.response = { tendonForceN: q.analysis.responses.find((r) => r.joint === j.id)!.response.tendonForceN };
		expect(formParts(forecast(given).analysis)).toHaveLength(0);
		// an angle alone says nothing of the force
		const turned = plan();
		for (const j of turned.joints) j.response = { angularChangeRad: 0.02 };
		expect(formParts(forecast(turned).analysis).length).toBeGreaterThan(0);
		const shape = finalForecast(q).result;
		const labels = new Set(shape.features.flatMap((f) => f.bandParts!.map((p) => p.label)));
		expect([...labels].some((l) => MODEL_FORMS.some((m) => m.label === l))).toBe(true);
	});
	it('where the shop has seen forecasts of a kind err, its bands widen by that, the factors’ part not; other kinds stay', () => {
		const q = forecast(plan());
		const bare = finalForecast(q, { factors: priorFactors() }).result.features;
		const seen = finalForecast(q, { factors: { ...priorFactors(), form: { flatness: 2 } } }).result.features;
		bare.forEach((f, i) => {
			const wide = (x: typeof f) => x.high - x.low;
			if (f.kind !== 'flatness') return expect(seen[i]).toEqual(f);
			expect(seen[i]).toMatchObject({ predicted: f.predicted, errs: 2 });
			expect(wide(seen[i])).toBeGreaterThan(1.05 * wide(f));
			// no more than all of it twice
			expect(wide(seen[i])).toBeLessThanOrEqual(2 * wide(f));
		});
	});
	it('a plan against itself differs by nothing: the same model is wrong in both', () => {
		const c = comparePlans(plan(), plan(), priorFactors(), { now: new ForecastCache(), then: new ForecastCache() });
		for (const f of c.features) expect(Math.max(Math.abs(f.difference.low), Math.abs(f.difference.high))).toBeLessThan(1e-12);
	});
});
