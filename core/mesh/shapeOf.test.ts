/** The keys say a change exactly where the thing they stand for changes: too blind, and an old answer is shown; too wary, and every edit waits. */
import { describe, expect, it } from 'vitest';
import { FAMILY_DEFAULTS } from '../families';
import { newPlan } from '../families/newPlan';
import { ForecastCache } from '../forecast/analysis';
import { forecast } from '../forecast/forecast';
import { kernelFactory } from '../linalg/kernel/kernel';
import type { AnyHoldDown, PlanDocument } from '../document/schema';
import { assemblyMesh } from './assemblyMesh';
import { meshOf, pieceOf, shapeOf } from './shapeOf';

const base = (): PlanDocument => {
	const plan = newPlan('butt-panel', { ...FAMILY_DEFAULTS['butt-panel'], widthsMm: [90, 110], lengthMm: 200 }).plan!;
	return { ...plan, meshSizeMm: 30 };
};
const life = { on: 'start', off: 'stays' } as const;
const hold = (h: object) => (p: PlanDocument) => void p.holdDowns.push({ id: 'h', name: 'Held', life, ...h } as AnyHoldDown);
const middle = (p: PlanDocument) => p.parts[0].outline.reduce<[number, number]>((s, q) => [s[0] + q[0] / 4, s[1] + q[1] / 4], [0, 0]);

type Edit = (p: PlanDocument) => void;
/** what each edit changes: the piece, only its mesh, only the condensed model, or nothing that is worked out from its shape */
const EDITS: [string, Edit, 'piece' | 'mesh' | 'model' | 'none'][] = [
	['another thickness', (p) => void (p.parts[0].thicknessMm = 3), 'piece'],
	['a sheet moved in space', (p) => void (p.parts[1].frame.origin[2] += 1), 'piece'],
	['another mesh size', (p) => void (p.meshSizeMm = 25), 'piece'],
	['a tack moved', (p) => void (p.tacks[1].stationMm += 5), 'mesh'],
	['a tack taken out', (p) => void p.tacks.splice(1, 1), 'mesh'],
	['a support put on', (p) => hold({ kind: 'support', part: p.parts[0].id, at: middle(p), holds: 'normal', stiffnessNPerMm: 5000 })(p), 'mesh'],
	['a clamp on the seam', (p) => hold({ kind: 'clamp', joint: p.joints[0].id, stationMm: 100, holds: 'normal', stiffnessNPerMm: 5000 })(p), 'model'],
	['another metal', (p) => void (p.parts[0].material = 'S235'), 'model'],
	['a named point moved', (p) => void (p.points[0].at[0] += 1), 'model'],
	['a feature taken out', (p) => void p.features.pop(), 'model'],
	[
		'a bar under the seam',
		(p) => hold({ kind: 'bar', joint: p.joints[0].id, fromMm: 0, toMm: 200, material: 'copper', widthMm: 40, thicknessMm: 10, contact: 'tight' })(p),
		'none'
	],
	['a heat number', (p) => void (p.parts[0].heatNumber = 'H-4711'), 'none'],
	['other film', (p) => void (p.parts[0].film = 'both'), 'none'],
	['other names', (p) => [...p.parts, ...p.points, ...p.features, ...p.joints].forEach((x) => (x.name += ' again')), 'none'],
	['a wider tolerance', (p) => void (p.features[0].tolerance.upper = 44), 'none'],
	['a gap', (p) => void (p.joints[0].gapMm = 0.4), 'none'],
	['the order turned about', (p) => void p.runs.reverse(), 'none'],
	['more current', (p) => void (p.settings[0].ampsA += 5), 'none'],
	['a longer tack', (p) => void (p.tacks[0].lengthMm += 2), 'none']
];

describe.each(EDITS)('%s', (_, edit, what) => {
	const [plan, then] = [base(), base()];
	edit(then);
	const meshes = [plan, then].map((p) => assemblyMesh(p));
	const isSame = (key: (p: PlanDocument) => string) => key(plan) === key(then);

	it('is told by the keys it belongs to and by no other', () => {
		expect([isSame(pieceOf), isSame(meshOf), isSame(shapeOf)]).toEqual(
			{ piece: [0, 0, 0], mesh: [1, 0, 0], model: [1, 1, 0], none: [1, 1, 1] }[what].map(Boolean)
		);
		// the mesh itself says the same: equal keys, equal points
		if (isSame(meshOf)) expect(meshes[1].xyz).toEqual(meshes[0].xyz);
		else if (what === 'mesh') expect(meshes[1].xyz).not.toEqual(meshes[0].xyz);
	});
	it('gives the same forecast on a model kept as on a new one', () => {
		const kernel = kernelFactory(WebAssembly);
		const cache = new ForecastCache(kernel);
		forecast(plan, { cache });
		const kept = forecast(then, { cache }).result;
		const fresh = forecast(then, { cache: new ForecastCache(kernel) }).result;
		expect(kept.reusedModel).toBe(what === 'none');
		expect(kept.features.map((f) => f.predicted)).toEqual(fresh.features.map((f) => f.predicted));
		expect(kept.warnings).toEqual(fresh.warnings);
	});
});
