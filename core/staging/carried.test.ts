/** A lid is laid on the piece as it lies by then. */
import { describe, expect, it } from 'vitest';
import { deeply } from '../testing/deeply';
import type { PlanDocument } from '../document/schema';
import { FAMILY_DEFAULTS } from '../families';
import { newPlan } from '../families/newPlan';
import { forecast } from '../forecast/forecast';
import { analyse, ForecastCache, scalesOf } from '../forecast/analysis';
import { priorFactors } from '../factors/factors';
import { OrderModel } from '../search/orderModel';
import { norm, sub } from '../geometry/vec';
import { assemblyMesh } from '../mesh/assemblyMesh';
import { nodeAt } from '../shell/model';
import { nearestPair } from './condense';
import { laidOn, restsOf } from './carried';

const plan: PlanDocument = newPlan('open-trough', {
	...FAMILY_DEFAULTS['open-trough'],
	lengthMm: 240,
	widthMm: 160,
	depthMm: 90,
	rimFlangeMm: 0,
	lid: true
}).plan!;
// an end set well out of true: the rim is some millimetres away from where it is drawn when the lid comes on
plan.joints.find((j) => j.id === 'bl')!.presetDeg = 2;
plan.joints.find((j) => j.id === 'lf')!.presetDeg = 2;
plan.joints.find((j) => j.id === 'lb')!.presetDeg = 2;
const mesh = assemblyMesh(plan);

/** Of the lid's tacks: how far it stands off the rim and how far it slid along it against the drawing, at most, mm. */
function offRim(move: ArrayLike<number>) {
	const off = plan.tacks
		.filter((t) => t.joint.startsWith('lid'))
		.map((t) => {
			const seam = mesh.seams.find((s) => s.joint.id === t.joint)!;
			const i = nearestPair(seam, t.stationMm);
			return sub(nodeAt(move as Float64Array, seam.b[i]), nodeAt(move as Float64Array, seam.a[i]));
		});
	return { lifted: Math.max(...off.map((v) => Math.abs(v[2]))), inPlane: Math.max(...off.map((v) => Math.hypot(v[0], v[1]))) };
}
/** how far the rim itself is from where it is drawn, by the same measure, at most */
const rimMoved = (move: ArrayLike<number>) =>
	Math.max(...mesh.seams.filter((s) => s.joint.id.startsWith('lid')).flatMap((s) => [...s.a].map((k) => norm(nodeAt(move as Float64Array, k)))));

describe('a lid on a box that has moved', () => {
	const quick = forecast(plan);
	const at = quick.result.steps.findIndex((s) => s.id === 'as-tacked:lid');
	it('rests on each of its seams, and on nothing where all comes on at once', () => {
		const rests = restsOf(plan, mesh);
		const lid = mesh.parts.findIndex((p) => p.part.id === 'lid');
		expect(rests.every((r) => r.part === lid)).toBe(true);
		expect(rests.length).toBe(12);
		expect(restsOf({ ...plan, fitUp: { ...plan.fitUp, order: undefined } }, mesh)).toEqual([]);
		expect(laidOn(plan, mesh)).toMatchObject([{ part: lid }]);
	});
	it('a rib on one line is located by its fit-up angle, a lid on four seams by its rests', () => {
		const ribbed: PlanDocument = newPlan('stiffened-plate', { ...FAMILY_DEFAULTS['stiffened-plate'] }).plan!;
		const [plate, rib] = ribbed.parts.map((p) => p.id);
		ribbed.fitUp.order = [
			{ id: 'plate', name: 'Plate', parts: [plate] },
			{ id: 'rib', name: 'Rib', parts: [rib] }
		];
		const m = assemblyMesh(ribbed);
		expect(restsOf(ribbed, m).length).toBeGreaterThan(0);
		expect(laidOn(ribbed, m)).toEqual([]);
	});
	it('is tacked where the rim lies by then: pressed down all round, slid no farther than the rim has moved', () => {
		expect(quick.result.steps[at].label).toBe('“Lid” tacked');
		const move = quick.shapes().steps[at];
		expect(rimMoved(move)).toBeGreaterThan(1.5);
		expect(offRim(move).lifted).toBeLessThan(0.1);
		expect(offRim(move).inPlane).toBeLessThan(rimMoved(move));
	});
	deeply('the search’s columns say the same as the staging, with the lid’s tacks between the runs', () => {
		const a = analyse(plan, new ForecastCache());
		const scales = scalesOf(priorFactors().mean);
		const model = new OrderModel(a, scales);
		const y = model.outputs(model.columns(plan.runs.map((_, run) => ({ run, reversed: false }))));
		const staged = a.combined('unclamped', scales);
		const largest = Math.max(...staged.map(Math.abs));
		expect(largest).toBeGreaterThan(0.5);
		for (let i = 0; i < y.length; i++) expect(Math.abs(y[i] - staged[i])).toBeLessThan(1e-6 * largest);
		// gone back to the beginning and walked again it is the same walk
		const again = model.outputs(model.columns(plan.runs.map((_, run) => ({ run, reversed: false }))));
		expect([...again]).toEqual([...y]);
	});
});
