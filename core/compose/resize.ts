/** New sizes for a plan of a family: what still fits is kept, what goes is named. */
import { featureKind } from '../features';
import type { Vec2 } from '../geometry/vec';
import { holdKind } from '../holds';
import { copyOf } from '../document/copy';
import type { Fault } from '../document/faults';
import type { AnyFeature, AnyHoldDown, AssemblyStep, FamilyAddition, Joint, NamedPoint, Part, PlanDocument } from '../document/schema';
import type { FamilyKind } from '../document/words';
import { pathLength } from '../geometry/polyline';
import { checkPlan } from '../plan/check';
import { layoutBox } from '../mesh/assemblyMesh';
import { prune } from '../plan/prune';
import { readvise } from '../response/readvise';
import { Refusal } from '../refusal/refusal';
import { orderPattern } from '../schools/orderPattern';
import { DEFAULT_ORDER } from '../schools/orders';
import { retacked } from '../schools/tackRule';
import { runsInOrder, tacksInOrder } from '../sequence/precedence';
import type { FamilyParameters, Generated } from '../families/family';
import { generate } from '../families/newPlan';
import { asKept, putOn } from './add';
import { placeFromEdges, placeInLayout } from './panels';

export interface Regenerated {
	plan: PlanDocument;
	/** what had to change, in words, for the planner */
	notes: string[];
}

/**
 * New sizes for a plan of a family. Seams that keep their name keep gap, preset, settings and side; what the planner changed against the
 * family's own (features, hold-downs, checks, steps) stays changed; what was added is made again in its place. Tacks, runs and hold-downs
 * of a seam that changed its length are planned anew and said so.
 */
export function regenerate(
	plan: PlanDocument,
	kind: FamilyKind,
	parameters: FamilyParameters
): (Regenerated & { faults: [] }) | { plan?: undefined; faults: Fault[] } {
	const g = generate(kind, parameters, plan);
	if (!g.made) return { faults: g.faults };
	const notes: string[] = [];
	const additions = plan.family?.additions ?? [];
	const m = withAdditions(g.made, plan, additions, notes);
	// what the family gave before, so that the planner's own changes can be told from it
	const before = plan.family && generate(plan.family.kind, plan.family.parameters, plan).made;
	const next: PlanDocument = {
		...plan,
		family: { kind, parameters: copyOf(parameters), ...(m.additions.length ? { additions: m.additions } : {}) },
		parts: m.parts.map((p) => keptPart(p, plan)),
		joints: m.joints.map((j) => keptJoint(j, plan, before?.joints)),
		points: merged(movedPoints(plan, before, m.parts), before?.points, m.points, (_, now) => now),
		features: merged(movedFeatures(plan, before, m.parts), before?.features, m.features, (old, now) => keptFeature(old, now, before?.features)),
		datum: m.datum,
		fitUp: {
			...plan.fitUp,
			trueJoint: m.joints.some((j) => j.id === plan.fitUp.trueJoint) ? plan.fitUp.trueJoint : m.trueJoint,
			checks: merged(plan.fitUp.checks, before?.checks, m.checks ?? [], (old) => old),
			order: mergedOrder(plan.fitUp.order, before?.order, m.order, plan, m.parts)
		}
	};
	if (!next.fitUp.order) delete next.fitUp.order;
	const oldLength = new Map(plan.joints.map((j) => [j.id, pathLength(j.a.path)]));
	const same = (id: string) => {
		const now = next.joints.find((j) => j.id === id);
		return now !== undefined && Math.abs((oldLength.get(id) ?? -1) - pathLength(now.a.path)) < 0.05;
	};
	const given = new Set((m.holdDowns ?? []).map((h) => h.id));
	next.holdDowns = merged(plan.holdDowns, before?.holdDowns, m.holdDowns ?? [], (old, now) => ({ ...now, life: old.life, name: old.name })).filter(
		(h) => (given.has(h.id) ? true : 'joint' in h ? same(h.joint) : sitsStill(h, plan.parts, m.parts))
	);
	const changed = next.joints.filter((j) => !same(j.id)).map((j) => j.id);
	// the old tacks and runs of a changed seam go, locked or not: their stations mean nothing on it
	next.tacks = plan.tacks.filter((t) => same(t.joint));
	next.runs = plan.runs.filter((r) => same(r.joint));
	if (changed.length) {
		const fresh = retacked(plan, next, changed);
		notes.push(...fresh.notes);
		next.tacks = tacksInOrder(next, [...next.tacks, ...fresh.tacks]);
		next.runs = runsInOrder(next, [...next.runs, ...orderPattern(next, DEFAULT_ORDER, changed)]);
		notes.push(`Tacks and runs were planned anew on ${changed.length} seam${changed.length > 1 ? 's' : ''} whose length changed.`);
	}
	// what still speaks of something that is gone goes too
	const left = copyOf(next);
	const pruned = [...prune(left), ...offTheSheet(left)];
	notes.push(...readvise(left, plan));
	notes.unshift(...whatWent(plan, left), ...pruned);
	return { plan: left, notes, faults: [] };
}

/** What the family makes with what was put on it since, each in its place; what does not fit any more is named and left off. */
function withAdditions(
	made: Generated,
	plan: PlanDocument,
	additions: readonly FamilyAddition[],
	notes: string[]
): Generated & { additions: FamilyAddition[] } {
	const built: PlanDocument = { ...plan, ...copyOf({ parts: made.parts, joints: made.joints }) };
	const kept: FamilyAddition[] = [];
	for (const a of additions) {
		const before = copyOf({ parts: built.parts, joints: built.joints });
		try {
			putOn(built, asKept(built, a), a.id, a.name);
			kept.push(a);
		} catch (e) {
			if (!(e instanceof Refusal)) throw e;
			Object.assign(built, before);
			notes.push(`“${a.name}” does not fit the new sizes and was left off: ${e.message}.`);
		}
	}
	return { ...made, parts: built.parts, joints: built.joints, additions: kept };
}

function keptPart(p: Part, plan: PlanDocument): Part {
	const old = plan.parts.find((o) => o.id === p.id);
	// a heat number is of a sheet: another metal or thickness is another sheet
	const isSame = old && old.material === p.material && old.thicknessMm === p.thicknessMm;
	return old ? { ...p, ...kept(old, isSame ? ['heatNumber', 'film', 'grain'] : ['film', 'grain']) } : p;
}

/** The way a place on a part's layout goes with it to new sizes: it keeps its distances from the nearer edges of its panel. */
function follower(plan: PlanDocument, parts: readonly Part[]): (part: string, at: Vec2) => Vec2 {
	return (id, at) => {
		const [old, now] = [plan.parts, parts].map((list) => list.find((p) => p.id === id));
		if (!old || !now) return at;
		// round a rolled sheet a quarter stays a quarter
		if (old.roll || old.cone) {
			const [a, b] = [layoutBox(old.outline), layoutBox(now.outline)];
			return [b.x0 + ((at[0] - a.x0) / (a.x1 - a.x0)) * (b.x1 - b.x0), b.y0 + ((at[1] - a.y0) / (a.y1 - a.y0)) * (b.y1 - b.y0)];
		}
		try {
			return placeInLayout(now, placeFromEdges(old, at));
		} catch (e) {
			// its panel is gone: what stands on nothing is taken off and named afterwards
			if (!(e instanceof Refusal)) throw e;
			return at;
		}
	};
}

/** Places that a person named move with the edges they are nearest to; the family's own are made again. */
function movedPoints(plan: PlanDocument, before: Generated | undefined, parts: readonly Part[]): NamedPoint[] {
	const to = follower(plan, parts);
	const made = new Set(before?.points.map((p) => p.id));
	return plan.points.map((p) => (made.has(p.id) ? p : { ...p, at: to(p.part, p.at) }));
}
function movedFeatures(plan: PlanDocument, before: Generated | undefined, parts: readonly Part[]): AnyFeature[] {
	const to = follower(plan, parts);
	const made = new Set(before?.features.map((f) => f.id));
	return plan.features.map((f) => {
		if (made.has(f.id)) return f;
		const [place] = featureKind(f).places(f, plan);
		return featureKind(f).relaid(f as never, (at) => to(place.part, at)) as AnyFeature;
	});
}

/** A typed tolerance, another name and other faces of a tape are the planner's and stay. */
function keptFeature(old: AnyFeature, now: AnyFeature, before: readonly AnyFeature[] | undefined): AnyFeature {
	if (old.kind !== now.kind) return now;
	const made = before?.find((f) => f.id === old.id);
	const out = { ...now };
	if (old.tolerance.source === 'typed') out.tolerance = old.tolerance;
	if (made && old.name !== made.name) out.name = old.name;
	const over = 'over' in old ? old.over : undefined;
	if (made && over !== ('over' in made ? made.over : undefined)) (out as { over?: typeof over }).over = over;
	return out;
}

/** Features whose places lie on no sheet at the new sizes go, and are named; in place. */
function offTheSheet(plan: PlanDocument): string[] {
	const faults = checkPlan(plan);
	const at = (list: string) => new Set(faults.flatMap((f) => new RegExp(`^${list}\\[(\\d+)\\]`).exec(f.field)?.[1] ?? []).map(Number));
	const [points, features] = [at('points'), at('features')];
	if (!points.size && !features.size) return [];
	const went = plan.features.filter((_, i) => features.has(i)).map((f) => f.name);
	plan.features = plan.features.filter((_, i) => !features.has(i));
	plan.points = plan.points.filter((_, i) => !points.has(i));
	return [...(went.length ? [`Features that do not fit the new sizes were left off: ${went.map((n) => `“${n}”`).join(', ')}.`] : []), ...prune(plan)];
}

/** What the planner set about a seam stays; what is still as the family made it follows the family. */
function keptJoint(j: Joint, plan: PlanDocument, before: readonly Joint[] | undefined): Joint {
	const old = plan.joints.find((o) => o.id === j.id);
	if (!old) return j;
	const made = before?.find((o) => o.id === j.id);
	const out = { ...j, ...kept(old, ['response', 'intermittent', 'weldSizeMm', 'tackRule']) };
	const keep = <K extends keyof Joint>(key: K) => {
		if (!made || old[key] !== made[key]) out[key] = old[key];
	};
	(['gapMm', 'gapMeasured', 'presetDeg', 'penetration', 'filler', 'weldSide', 'settings'] as const).forEach(keep);
	return out;
}

/** Three ways: what the planner took out of the family's own stays out, what was added stays, what the family brings now comes on. */
function merged<T extends { id: string }>(
	plan: readonly T[],
	before: readonly T[] | undefined,
	now: readonly T[],
	update: (old: T, now: T) => T
): T[] {
	const has = (list: readonly T[] | undefined, id: string) => list?.some((x) => x.id === id) ?? false;
	const theirs = now.flatMap((n) => {
		const old = plan.find((x) => x.id === n.id);
		return old ? [update(old, n)] : has(before, n.id) ? [] : [n];
	});
	return [...theirs, ...plan.filter((x) => !has(now, x.id) && !has(before, x.id))];
}

/** The planner's steps, with parts that are new put where the family puts them. */
function mergedOrder(
	plan: readonly AssemblyStep[] | undefined,
	before: readonly AssemblyStep[] | undefined,
	now: readonly AssemblyStep[] | undefined,
	old: PlanDocument,
	parts: readonly Part[]
): AssemblyStep[] | undefined {
	if (JSON.stringify(plan) === JSON.stringify(before)) return now && [...now];
	const steps = (plan ?? []).map((s) => ({ ...s, parts: s.parts.filter((p) => parts.some((x) => x.id === p)) }));
	for (const step of now ?? []) {
		const fresh = step.parts.filter((p) => !old.parts.some((x) => x.id === p));
		if (!fresh.length) continue;
		const own = steps.find((s) => s.id === step.id);
		if (own) own.parts.push(...fresh);
		else steps.push({ ...step, parts: fresh });
	}
	return steps.length ? steps : undefined;
}

/** Those of the fields that are set. */
function kept<T, K extends keyof T>(old: T, fields: readonly K[]): Partial<Pick<T, K>> {
	return Object.fromEntries(fields.flatMap((f) => (old[f] === undefined ? [] : [[f, old[f]]]))) as Partial<Pick<T, K>>;
}

/** A hold-down placed on parts stays where all of them keep their shape. */
function sitsStill(h: AnyHoldDown, before: readonly Part[], now: readonly Part[]): boolean {
	const on = holdKind(h).parts(h);
	const shape = (list: readonly Part[], id: string) => JSON.stringify(list.filter((p) => p.id === id).map((p) => [p.outline, p.holes, p.bends]));
	return on.length > 0 && on.every((id) => now.some((p) => p.id === id) && shape(before, id) === shape(now, id));
}

/** By name, what new sizes took away: hold-downs, typed tolerances, places that were watched, heat numbers. */
function whatWent(plan: PlanDocument, next: PlanDocument): string[] {
	const notes: string[] = [];
	const list = (names: readonly string[]) => names.map((n) => `“${n}”`).join(', ');
	const gone = <T extends { id: string }>(before: readonly T[], now: readonly { id: string }[]) =>
		before.filter((b) => !now.some((n) => n.id === b.id));
	const holds = gone(plan.holdDowns, next.holdDowns);
	if (holds.length)
		notes.push(
			`${holds.length} hold-down${holds.length > 1 ? 's were' : ' was'} taken off, for what ${holds.length > 1 ? 'they' : 'it'} sat on has changed: ${list(holds.map((h) => h.name))}.`
		);
	const judged = gone(
		plan.features.filter((f) => f.tolerance.source === 'typed'),
		next.features
	);
	if (judged.length) notes.push(`No longer on the piece, with the limit that was typed: ${list(judged.map((f) => f.name))}.`);
	const unmarked = plan.parts.filter((p) => p.heatNumber && !next.parts.find((n) => n.id === p.id)?.heatNumber);
	if (unmarked.length) notes.push(`Heat numbers to be entered anew, for the sheet is another: ${list(unmarked.map((p) => p.name))}.`);
	return notes;
}
