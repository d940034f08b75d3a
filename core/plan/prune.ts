/** What hangs on parts, joints and points that are gone goes with them, and is named: nothing is left that speaks of nothing. */
import type { AnyFeature, PlanDocument } from '../document/schema';
import { featureKind } from '../features';
import { holdKind } from '../holds';
import { pathLength } from '../geometry/polyline';
import type { Vec2 } from '../geometry/vec';
import { followLives } from '../sequence/lives';
import { followAssembly } from '../sequence/precedence';

/** Points this near are one, mm. */
const SAME_MM = 0.5;

/** Takes parts off, with everything that hangs on them, in place. @returns what went beside them, in the planner's words */
export function takeOff(plan: PlanDocument, parts: readonly string[]): string[] {
	const gone = new Set(parts);
	for (const j of plan.joints) {
		const [a, b] = [gone.has(j.a.part), gone.has(j.b.part)];
		if (a === b) continue;
		// a hole that was cut for it is closed again
		const stays = a ? j.b : j.a;
		const host = plan.parts.find((p) => p.id === stays.part);
		if (host) host.holes = host.holes.filter((hole) => !isRim(hole, stays.path));
	}
	plan.parts = plan.parts.filter((p) => !gone.has(p.id));
	if (plan.family?.additions) plan.family.additions = plan.family.additions.filter((a) => !gone.has(a.id) && !gone.has(a.part));
	return prune(plan);
}

const isRim = (hole: readonly Vec2[], path: readonly Vec2[]) =>
	path.length > 3 && path.every((p) => hole.some((q) => Math.hypot(p[0] - q[0], p[1] - q[1]) < SAME_MM));

/** @returns in the planner's words what went; in place */
export function prune(plan: PlanDocument): string[] {
	const notes: string[] = [];
	const parts = new Set(plan.parts.map((p) => p.id));
	const went = (names: readonly string[], one: string, many: string) => {
		if (names.length)
			notes.push(
				`${names.length === 1 ? one : `${names.length} ${many}`} went with what ${names.length === 1 ? 'it' : 'they'} sat on: ${names.map((n) => `“${n}”`).join(', ')}.`
			);
	};
	const keep = <T>(list: readonly T[], stays: (x: T) => boolean): [T[], T[]] => [list.filter(stays), list.filter((x) => !stays(x))];

	const [joints, oldJoints] = keep(plan.joints, (j) => parts.has(j.a.part) && parts.has(j.b.part));
	plan.joints = joints;
	const seams = new Set(joints.map((j) => j.id));
	plan.tacks = plan.tacks.filter((t) => seams.has(t.joint));
	plan.runs = plan.runs.filter((r) => seams.has(r.joint));
	plan.points = plan.points.filter((p) => parts.has(p.part));
	const points = new Set(plan.points.map((p) => p.id));
	for (const h of plan.holdDowns) if ('parts' in h) h.parts = h.parts.filter((p) => parts.has(p));
	const [holds, oldHolds] = keep(plan.holdDowns, (h) =>
		'joint' in h
			? seams.has(h.joint)
			: holdKind(h).parts(h).length > 0 &&
				holdKind(h)
					.parts(h)
					.every((p) => parts.has(p))
	);
	plan.holdDowns = holds;
	const [features, oldFeatures] = keep(plan.features, (f) => stands(f, parts, points));
	plan.features = features;
	const [probes, oldProbes] = keep(plan.probes, (p) => parts.has(p.part));
	plan.probes = probes;
	if (plan.datum && ![plan.datum.origin, plan.datum.axis, plan.datum.plane].every((id) => points.has(id))) {
		delete plan.datum;
		notes.push('The datum went with its points: shapes are laid over the drawing by best fit.');
	}
	if (plan.shape?.outOfFlat) plan.shape.outOfFlat = plan.shape.outOfFlat.filter((g) => parts.has(g.part));
	pruneFitUp(plan, parts, seams);

	went(
		oldJoints.filter((j) => !j.stock).map((j) => j.name),
		'One seam',
		'seams, with their tacks and runs,'
	);
	went(
		oldHolds.map((h) => h.name),
		'A hold-down',
		'hold-downs'
	);
	went(
		oldFeatures.map((f) => f.name),
		'A feature',
		'features'
	);
	went(
		oldProbes.map((p) => p.name),
		'A watched place',
		'watched places'
	);
	notes.push(...followLives(plan.holdDowns, plan.runs), ...followAssembly(plan));
	return notes;
}

/** Is everything a feature looks at still there? */
function stands(f: AnyFeature, parts: ReadonlySet<string>, points: ReadonlySet<string>): boolean {
	let all = true;
	featureKind(f).check(f, {
		add: () => undefined,
		named: (ids) => (all &&= ids.every((id) => points.has(id))),
		onPart: (part) => (all &&= parts.has(part))
	});
	return all;
}

function pruneFitUp(plan: PlanDocument, parts: ReadonlySet<string>, seams: ReadonlySet<string>) {
	const { fitUp } = plan;
	fitUp.order = fitUp.order?.map((s) => ({ ...s, parts: s.parts.filter((p) => parts.has(p)) })).filter((s) => s.parts.length);
	if (!fitUp.order || fitUp.order.length < 2) delete fitUp.order;
	if (fitUp.adjustingJoint && !seams.has(fitUp.adjustingJoint)) delete fitUp.adjustingJoint;
	if (fitUp.trueJoint && !seams.has(fitUp.trueJoint)) {
		const longest = [...plan.joints].filter((j) => !j.stock).sort((p, q) => pathLength(q.a.path) - pathLength(p.a.path))[0];
		if (longest) fitUp.trueJoint = longest.id;
		else delete fitUp.trueJoint;
	}
	if (fitUp.separable) fitUp.separable = fitUp.separable.filter((p) => parts.has(p));
	if (fitUp.cutReadings) fitUp.cutReadings = fitUp.cutReadings.filter((r) => parts.has(r.part));
	if (fitUp.bendReadings)
		fitUp.bendReadings = fitUp.bendReadings.filter((r) => plan.parts.find((p) => p.id === r.part)?.bends.some((b) => b.id === r.bend));
}
