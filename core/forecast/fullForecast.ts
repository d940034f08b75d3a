/**
 * The third depth behind the door: non-linear at every stage. Values by step and at the end are those of the staged
 * non-linear solution; bands keep the widths of the final shape, laid about them.
 */
import { featureKind } from '../features';
import { priorFactors } from '../factors/factors';
import { findMaterial } from '../materials/grades';
import { MOMENTS, type Moment } from '../document/words';
import { fullStages } from '../staging/fullDepth';
import { FinalShape } from '../staging/finalShape';
import { scalesOf } from './analysis';
import { verdictOf } from '../features/verdict';
import { drawn, finalForecast, probesAt, reader, type FinalOptions } from './finalForecast';
import { gridOutOfFlat } from './outOfFlat';
import { isUnsure, type Band, type FeatureForecast, type Forecast, type QuickForecast } from './forecast';

export const FULL_METHOD = {
	name: 'Full',
	words:
		'Joined tack by tack and run by run, in equilibrium at every stage of the non-linear shell; then released and laid down under its weight. It knows waves from the first run on. It does not know what the hot metal does to a gap ahead of the arc, and takes the sheet as flat before welding.'
};

export interface FullForecast {
	result: Forecast;
	/** displacement by step, 3 per node of the quick forecast's drawing */
	steps: Float32Array[];
	other?: Float32Array;
}

export function fullForecast(cold: QuickForecast, options: FinalOptions = {}): FullForecast {
	const clock = options.clock ?? (() => 0);
	const progress = options.progress ?? (() => {});
	const factors = options.factors ?? priorFactors();
	const t0 = clock();
	const quick = cold.warmed();
	const { analysis: a } = quick;
	const { plan } = a;
	const final = finalForecast(quick, { ...options, progress: (s) => progress(0.25 * s) });
	final.result.features.forEach((f, i) => (f.quick = cold.result.features[i].predicted));
	const densities = plan.parts.map((p) => findMaterial(p.material, plan.materials).density);
	const grid = gridOutOfFlat(plan, a.mesh);
	const stepwise = (posture: typeof plan.posture) => new FinalShape(plan, a.mesh, a.sheets, densities, a.condensed, undefined, posture, grid);
	const jig = stepwise('three-points');
	const laying = plan.posture === 'three-points' ? jig : stepwise(plan.posture);
	const full = fullStages(plan, a.mesh.seams, a.condensed, a.events, jig, laying, scalesOf(factors.mean), (s) => progress(0.25 + 0.75 * s));
	const read = reader(a);
	const known = new Map(full.marks.map((m) => [m.id, m.state]));
	const about = (value: number, b: Band, form: boolean): Band => ({
		predicted: value,
		low: Math.max(form ? 0 : -Infinity, value - (b.predicted - b.low)),
		high: value + (b.high - b.predicted)
	});
	const warnings = [...final.result.warnings];
	if (full.stopped) warnings.unshift(`Full: ${full.stopped} Later values are those of the final shape.`);
	const features = final.result.features.map((f, k): FeatureForecast => {
		const plain = plan.features[k];
		const form = !featureKind(f).isSigned;
		const moments = { ...f.moments };
		for (const moment of MOMENTS as readonly Moment[]) {
			const state = known.get(a.markOf(plain, moment));
			if (state) moments[moment] = about(read(plain, state), f.moments[moment], form);
		}
		const last = moments.unclamped;
		// two ways to the end: where they part, the band holds both
		const low = Math.min(last.low, f.predicted);
		const high = Math.max(last.high, f.predicted);
		return {
			...f,
			...last,
			low,
			high,
			springback: f.springback === undefined ? undefined : last.predicted - moments.cold.predicted,
			moments: { ...moments, unclamped: { ...last, low, high } },
			verdict: full.stopped ? 'in doubt' : verdictOf(f.tolerance, low, high, isUnsure(a)),
			history: a.staged.marks.map((m, i) => {
				const state = known.get(m.id);
				return state ? read(plain, state) : f.history[i];
			}),
			finalShape: f.predicted
		};
	});
	const steps = a.staged.marks.flatMap((m) => (known.has(m.id) ? [drawn(a, known.get(m.id)!)] : []));
	return {
		steps,
		other: final.other,
		result: {
			...final.result,
			depth: 'full',
			method: { ...final.result.method, ...FULL_METHOD },
			features,
			probes: known.has('unclamped') ? probesAt(a, known.get('unclamped')!) : final.result.probes,
			warnings,
			full: { stopped: full.stopped, solutions: full.solutions, iterations: full.iterations },
			timings: [...final.result.timings, { name: 'full', ms: clock() - t0 }]
		}
	};
}
