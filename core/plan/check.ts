/** What class-validator cannot see: references, geometry and order of one plan. Every fault names the field and what is allowed. */
import { featureKind } from '../features';
import { inTheWay } from '../holds/checks';
import { holdKind } from '../holds';
import { isInside, pathLength, ringArea, segmentDistance, selfCrosses } from '../geometry/polyline';
import type { Vec2 } from '../geometry/vec';
import { GRADES } from '../materials/grades';
import { shown, type Fault } from '../document/faults';
import type { PlanDocument } from '../document/schema';
import { HOLD_POINT } from './holdPoint';
import { Timeline } from '../sequence/timeline';

/** Two lengths that should agree may differ by this share (trimming, rounding). */
const LENGTH_MATCH = 0.02;
/** A point this far outside its part is still taken for its edge, mm. */
const EDGE_SLACK_MM = 0.05;

class Findings {
	readonly faults: Fault[] = [];
	add(field: string, value: unknown, allowed: string) {
		if (this.faults.length < 200) this.faults.push({ field, value: shown(value), allowed });
	}
}

export function checkPlan(plan: PlanDocument): Fault[] {
	const found = new Findings();
	checkIds(plan, found);
	checkParts(plan, found);
	// the rest reads the parts: with a broken one it would only add noise
	if (found.faults.length === 0) {
		checkJoints(plan, found);
		checkHoldDowns(plan, found);
		checkTacksAndRuns(plan, found);
		checkFeatures(plan, found);
		checkShape(plan, found);
	}
	checkHoldPoints(plan, found);
	return found.faults;
}

function checkShape(plan: PlanDocument, found: Findings) {
	(plan.shape?.outOfFlat ?? []).forEach((g, i) => {
		const at = `shape.outOfFlat[${i}]`;
		if (!plan.parts.some((p) => p.id === g.part)) found.add(`${at}.part`, g.part, 'must be a part of this plan');
		if (g.heightsMm.length !== g.nx * g.ny) found.add(`${at}.heightsMm`, g.heightsMm.length, `must hold nx x ny = ${g.nx * g.ny} heights`);
	});
}

function checkHoldPoints(plan: PlanDocument, found: Findings) {
	const ids = new Set<string>();
	(plan.holdPoints ?? []).forEach((h, i) => {
		const { moments } = HOLD_POINT[h.kind];
		if (!moments.includes(h.at)) found.add(`holdPoints[${i}].at`, h.at, `must be one of ${moments.join(', ')} for ${h.kind}`);
		if (ids.has(h.id)) found.add(`holdPoints[${i}].id`, h.id, 'must be used once only');
		ids.add(h.id);
	});
}

function checkIds(plan: PlanDocument, found: Findings) {
	for (const list of ['parts', 'points', 'joints', 'holdDowns', 'settings', 'tacks', 'runs', 'features', 'probes', 'materials'] as const) {
		const seen = new Set<string>();
		plan[list].forEach((x: { id: string }, i: number) => {
			if (seen.has(x.id)) found.add(`${list}[${i}].id`, x.id, 'must be used once only');
			seen.add(x.id);
		});
	}
}

const onOrIn = (p: Vec2, outline: readonly Vec2[]) =>
	isInside(p, outline) || outline.some((q, i) => segmentDistance(p, q, outline[(i + 1) % outline.length]) <= EDGE_SLACK_MM);

function checkParts(plan: PlanDocument, found: Findings) {
	plan.parts.forEach((part, i) => {
		const at = `parts[${i}]`;
		if (![...GRADES, ...plan.materials].some((m) => m.id === part.material))
			found.add(`${at}.material`, part.material, `must be one of ${GRADES.map((g) => g.id).join(', ')} or a material of this plan`);
		const xs = part.outline.map((p) => p[0]);
		const ys = part.outline.map((p) => p[1]);
		const w = Math.max(...xs) - Math.min(...xs);
		const h = Math.max(...ys) - Math.min(...ys);
		if (!(Math.abs(ringArea(part.outline)) > 1)) found.add(`${at}.outline`, `${w} x ${h} mm`, 'must enclose an area: sizes are positive');
		else if (selfCrosses(part.outline)) found.add(`${at}.outline`, 'an outline that crosses itself', 'must not cross itself');
		if (part.thicknessMm > Math.min(w, h) / 2)
			found.add(
				`${at}.thicknessMm`,
				part.thicknessMm,
				`must be at most half the smallest side (${(Math.min(w, h) / 2).toFixed(2)} mm): this is a sheet tool`
			);
		part.holes.forEach((hole, k) => {
			if (!hole.every((p) => onOrIn(p, part.outline))) found.add(`${at}.holes[${k}]`, 'a hole beyond the outline', 'must lie inside the outline');
			else if (selfCrosses(hole) || !(Math.abs(ringArea(hole)) > 0.1))
				found.add(`${at}.holes[${k}]`, 'a hole that crosses itself or has no area', 'must be a simple ring');
		});
		part.bends.forEach((b, k) => {
			if (pathLength([b.from, b.to]) < 1) found.add(`${at}.bends[${k}]`, 'a bend of no length', 'must be a line at least 1 mm long');
			else if (!onOrIn(b.from, part.outline) || !onOrIn(b.to, part.outline))
				found.add(`${at}.bends[${k}]`, [b.from, b.to], 'must run from edge to edge of the outline');
		});
		if ([part.roll, part.cone, part.bends.length || undefined].filter((v) => v !== undefined).length > 1)
			found.add(`${at}.roll`, 'a part shaped in two ways', 'must be bent, rolled or coned, one of them');
		(part.crossBreaks ?? []).forEach((b, k) => {
			if (part.roll || part.cone) found.add(`${at}.crossBreaks[${k}]`, b.id, 'a rolled part takes no cross-break');
			else if (selfCrosses(b.corners) || !(Math.abs(ringArea(b.corners)) > 1))
				found.add(`${at}.crossBreaks[${k}].corners`, b.id, 'must be four corners in order round a field');
			else if (!b.corners.every((p) => onOrIn(p, part.outline))) found.add(`${at}.crossBreaks[${k}].corners`, b.id, 'must lie on the part');
		});
		if (part.cone && isInside(part.cone.apex, part.outline)) found.add(`${at}.cone.apex`, part.cone.apex, 'must lie outside the sector');
		const { x, y } = part.frame;
		const cross = Math.hypot(x[1] * y[2] - x[2] * y[1], x[2] * y[0] - x[0] * y[2], x[0] * y[1] - x[1] * y[0]);
		if (!(cross > 1e-6 * Math.hypot(...x) * Math.hypot(...y)) || Math.hypot(...x) < 1e-9 || Math.hypot(...y) < 1e-9)
			found.add(`${at}.frame`, [x, y], 'x and y must be two different directions');
	});
}

function checkJoints(plan: PlanDocument, found: Findings) {
	plan.joints.forEach((joint, i) => {
		const at = `joints[${i}]`;
		if (!plan.settings.some((s) => s.id === joint.settings)) found.add(`${at}.settings`, joint.settings, 'must be the id of one of the settings');
		const lengths: number[] = [];
		for (const key of ['a', 'b'] as const) {
			const side = joint[key];
			const part = plan.parts.find((p) => p.id === side.part);
			if (!part) {
				found.add(`${at}.${key}.part`, side.part, 'must be the id of a part');
				continue;
			}
			const length = pathLength(side.path);
			if (!(length >= 2)) found.add(`${at}.${key}.path`, `${length.toFixed(2)} mm`, 'a seam must be at least 2 mm long');
			else if (side.path.some((p, k) => k > 0 && pathLength([side.path[k - 1], p]) < 1e-3))
				found.add(`${at}.${key}.path`, 'a point given twice', 'each point must differ from the one before');
			else lengths.push(length);
			const outside = side.path.find(
				(p) =>
					!onOrIn(p, part.outline) ||
					part.holes.some((h) => isInside(p, h) && !h.some((q, k) => segmentDistance(p, q, h[(k + 1) % h.length]) <= EDGE_SLACK_MM))
			);
			if (outside) found.add(`${at}.${key}.path`, outside, `must lie on part “${part.name}”`);
		}
		if (lengths.length === 2 && Math.abs(lengths[0] - lengths[1]) > LENGTH_MATCH * Math.max(...lengths))
			found.add(
				`${at}.b.path`,
				`${lengths[1].toFixed(1)} mm against ${lengths[0].toFixed(1)} mm`,
				'both sides of a seam must be the same length within 2 %'
			);
	});
}

function checkHoldDowns(plan: PlanDocument, found: Findings) {
	const timeline = new Timeline(plan);
	plan.holdDowns.forEach((h, i) => {
		const at = `holdDowns[${i}]`;
		const on = timeline.onOf(h);
		const off = timeline.offOf(h);
		const words = 'must be start, after-tacks, before-run:ID, after-run:ID, before-step:ID (a later step of the assembly), when-cold or stays';
		if (on === undefined) found.add(`${at}.life.on`, h.life.on, words);
		if (off === undefined) found.add(`${at}.life.off`, h.life.off, words);
		if (on !== undefined && off !== undefined && off <= on) found.add(`${at}.life.off`, h.life.off, `must come after it goes on (${h.life.on})`);
		const there = plan.holdDowns.slice(0, i).find((o) => {
			const [from, to] = [timeline.onOf(o), timeline.offOf(o)];
			const meet = [on, off, from, to].every((v) => v !== undefined) && on! < to! && from! < off!;
			return meet && inTheWay(o, h);
		});
		if (there) found.add(at, h.name, `cannot go where “${there.name}” is: change that one, or take it off first`);
		holdKind(h).check(h, {
			plan,
			add: (field, value, allowed) => found.add(`${at}.${field}`, value, allowed),
			seamLength(joint) {
				const seam = plan.joints.find((j) => j.id === joint);
				if (!seam) found.add(`${at}.joint`, joint, 'must be the id of a joint');
				return seam && pathLength(seam.a.path);
			},
			liesOn(partField, id, field, place, mayBeOverHole) {
				const part = plan.parts.find((p) => p.id === id);
				if (!part) found.add(`${at}.${partField}`, id, 'must be the id of a part');
				else if (!onOrIn(place, part.outline) || (!mayBeOverHole && part.holes.some((r) => isInside(place, r))))
					found.add(`${at}.${field}`, place, `must lie on part “${part.name}”`);
				else return true;
				return false;
			}
		});
	});
}

function checkTacksAndRuns(plan: PlanDocument, found: Findings) {
	const lengthOf = new Map(plan.joints.map((j) => [j.id, pathLength(j.a.path)]));
	const stock = new Set(plan.joints.filter((j) => j.stock).map((j) => j.id));
	const nameOf = (id: string) => plan.joints.find((j) => j.id === id)?.name ?? id;
	plan.tacks.forEach((t, i) => {
		const length = lengthOf.get(t.joint);
		if (length === undefined) found.add(`tacks[${i}].joint`, t.joint, 'must be the id of a joint');
		else if (stock.has(t.joint)) found.add(`tacks[${i}].joint`, t.joint, 'is a seam of the stock itself: it is welded already');
		else if (t.stationMm > length + EDGE_SLACK_MM)
			found.add(`tacks[${i}].stationMm`, t.stationMm, `must be on seam “${nameOf(t.joint)}”, 0 to ${length.toFixed(1)} mm`);
	});
	const laid = new Map<string, { from: number; to: number; index: number }[]>();
	plan.runs.forEach((r, i) => {
		const length = lengthOf.get(r.joint);
		if (length === undefined) {
			found.add(`runs[${i}].joint`, r.joint, 'must be the id of a joint');
			return;
		}
		if (stock.has(r.joint)) found.add(`runs[${i}].joint`, r.joint, 'is a seam of the stock itself: it is welded already');
		if (r.settings !== undefined && !plan.settings.some((s) => s.id === r.settings))
			found.add(`runs[${i}].settings`, r.settings, 'must be the id of one of the settings');
		const from = Math.min(r.fromMm, r.toMm);
		const to = Math.max(r.fromMm, r.toMm);
		if (to > length + EDGE_SLACK_MM)
			found.add(`runs[${i}].${r.toMm >= r.fromMm ? 'toMm' : 'fromMm'}`, to, `seam “${nameOf(r.joint)}” ends at ${length.toFixed(1)} mm`);
		if (to - from < 1) found.add(`runs[${i}].toMm`, r.toMm, 'a run must be at least 1 mm long');
		const key = `${r.joint}/${r.pass}`;
		const others = laid.get(key) ?? [];
		const clash = others.find((o) => Math.min(o.to, to) - Math.max(o.from, from) > 0.5);
		if (clash)
			found.add(
				`runs[${i}]`,
				`${r.fromMm} to ${r.toMm} mm`,
				`overlaps run ${clash.index + 1} on seam “${nameOf(r.joint)}”: give it another pass or other stations`
			);
		others.push({ from, to, index: i });
		laid.set(key, others);
	});
}

function checkFeatures(plan: PlanDocument, found: Findings) {
	const points = new Map(plan.points.map((p) => [p.id, p]));
	const onPart = (partId: string, at: Vec2, field: string) => {
		const part = plan.parts.find((p) => p.id === partId);
		if (!part) found.add(field.replace(/\.at$/, '.part'), partId, 'must be the id of a part');
		else if (!onOrIn(at, part.outline)) found.add(field, at, `must lie on part “${part.name}”`);
	};
	plan.points.forEach((p, i) => onPart(p.part, p.at, `points[${i}].at`));
	plan.probes.forEach((p, i) => onPart(p.part, p.at, `probes[${i}].at`));
	const named = (ids: readonly string[], field: string) =>
		ids.forEach((id, k) => {
			if (!points.has(id)) found.add(`${field}[${k}]`, id, 'must be the id of a named point');
			else if (ids.indexOf(id) !== k) found.add(`${field}[${k}]`, id, 'must differ from the others');
		});
	plan.features.forEach((f, i) => {
		const at = `features[${i}]`;
		if (f.tolerance.lower === undefined && f.tolerance.upper <= 0)
			found.add(`${at}.tolerance.upper`, f.tolerance.upper, 'must be above 0: nothing can be made without a tolerance');
		if (f.tolerance.lower !== undefined && !(f.tolerance.upper > f.tolerance.lower))
			found.add(`${at}.tolerance.upper`, f.tolerance.upper, `must be above the lower limit (${f.tolerance.lower})`);
		featureKind(f).check(f, {
			add: (field, value, allowed) => found.add(`${at}.${field}`, value, allowed),
			named: (ids, field) => named(ids, `${at}.${field}`),
			onPart: (part, place, field) => onPart(part, place, `${at}.${field}`)
		});
	});
	if (plan.datum) named([plan.datum.origin, plan.datum.axis, plan.datum.plane], 'datum');
	if (plan.fitUp.trueJoint !== undefined && !plan.joints.some((j) => j.id === plan.fitUp.trueJoint))
		found.add('fitUp.trueJoint', plan.fitUp.trueJoint, 'must be the id of a joint');
	checkFitUp(plan, found);
}

function checkFitUp({ fitUp, parts, joints }: PlanDocument, found: Findings) {
	const part = (id: string, field: string) => {
		const p = parts.find((x) => x.id === id);
		if (!p) found.add(field, id, 'must be the id of a part');
		return p;
	};
	if (fitUp.adjustingJoint !== undefined) {
		const joint = joints.find((j) => j.id === fitUp.adjustingJoint);
		if (!joint) found.add('fitUp.adjustingJoint', fitUp.adjustingJoint, 'must be the id of a joint');
		else if (joint.stock) found.add('fitUp.adjustingJoint', fitUp.adjustingJoint, 'is a seam of the stock itself and cannot take up anything');
	}
	fitUp.separable?.forEach((id, i) => part(id, `fitUp.separable[${i}]`));
	fitUp.cutReadings?.forEach((r, i) => part(r.part, `fitUp.cutReadings[${i}].part`));
	fitUp.bendReadings?.forEach((r, i) => {
		const p = part(r.part, `fitUp.bendReadings[${i}].part`);
		if (p && !p.bends.some((b) => b.id === r.bend)) found.add(`fitUp.bendReadings[${i}].bend`, r.bend, `must be the id of a bend of “${p.name}”`);
	});
	const seen = new Set<string>();
	fitUp.order?.forEach((step, i) =>
		step.parts.forEach((id, k) => {
			part(id, `fitUp.order[${i}].parts[${k}]`);
			if (seen.has(id)) found.add(`fitUp.order[${i}].parts[${k}]`, id, 'must come on at one step only');
			seen.add(id);
		})
	);
}
