/** New sizes for a plan of a family: what still fits is kept, what goes is named. */
import { holdKind } from '../holds';
import { copyOf } from '../document/copy';
import type { Fault } from '../document/faults';
import type { AnyHoldDown, Part, PlanDocument } from '../document/schema';
import type { FamilyKind } from '../document/words';
import { pathLength } from '../geometry/polyline';
import { orderPattern } from '../schools/orderPattern';
import { DEFAULT_ORDER } from '../schools/orders';
import { retacked } from '../schools/tackRule';
import type { FamilyParameters } from './family';
import { generate } from './newPlan';

export interface Regenerated {
	plan: PlanDocument;
	/** what had to change, in words, for the planner */
	notes: string[];
}

/**
 * New sizes for a plan of a family. Seams that keep their name keep gap, preset, settings and side; features keep the
 * tolerances that were typed. Tacks, runs and hold-downs of a seam that changed its length are planned anew and said so.
 */
export function regenerate(
	plan: PlanDocument,
	kind: FamilyKind,
	parameters: FamilyParameters
): (Regenerated & { faults: [] }) | { plan?: undefined; faults: Fault[] } {
	const g = generate(kind, parameters, plan);
	if (!g.made) return { faults: g.faults };
	const m = g.made;
	const notes: string[] = [];
	const oldLength = new Map(plan.joints.map((j) => [j.id, pathLength(j.a.path)]));
	const joints = m.joints.map((j) => {
		const old = plan.joints.find((o) => o.id === j.id);
		return old
			? {
					...j,
					gapMm: old.gapMm,
					gapMeasured: old.gapMeasured,
					presetDeg: old.presetDeg,
					penetration: old.penetration,
					filler: old.filler,
					weldSide: old.weldSide,
					settings: old.settings,
					...kept(old, ['response', 'intermittent', 'weldSizeMm', 'tackRule'])
				}
			: j;
	});
	const same = (id: string) => {
		const now = joints.find((j) => j.id === id);
		return now !== undefined && Math.abs((oldLength.get(id) ?? -1) - pathLength(now.a.path)) < 0.05;
	};
	const features = m.features.map((f) => {
		const old = plan.features.find((o) => o.id === f.id && o.kind === f.kind);
		return old && old.tolerance.source === 'typed' ? { ...f, tolerance: old.tolerance } : f;
	});
	const next: PlanDocument = {
		...plan,
		family: { kind, parameters: copyOf(parameters) },
		parts: m.parts.map((p) => {
			const old = plan.parts.find((o) => o.id === p.id);
			// a heat number is of a sheet: another metal or thickness is another sheet
			const isSame = old && old.material === p.material && old.thicknessMm === p.thicknessMm;
			return old ? { ...p, ...kept(old, isSame ? ['heatNumber', 'film', 'grain'] : ['film', 'grain']) } : p;
		}),
		joints,
		points: m.points,
		features,
		probes: plan.probes.filter((p) => m.parts.some((x) => x.id === p.part)),
		datum: m.datum,
		holdDowns: plan.holdDowns.filter((h) => ('joint' in h ? same(h.joint) : sitsStill(h, plan.parts, m.parts))),
		fitUp: { ...plan.fitUp, trueJoint: joints.some((j) => j.id === plan.fitUp.trueJoint) ? plan.fitUp.trueJoint : m.trueJoint }
	};
	notes.push(...whatWent(plan, next));
	const changed = joints.filter((j) => !same(j.id)).map((j) => j.id);
	const keepTacks = plan.tacks.filter((t) => same(t.joint));
	const keepRuns = plan.runs.filter((r) => same(r.joint));
	if (changed.length) {
		// the old runs of a changed seam go, locked or not: their stations mean nothing on it
		next.runs = keepRuns;
		const fresh = retacked(plan, next, changed);
		notes.push(...fresh.notes);
		next.tacks = [...keepTacks, ...fresh.tacks]
			.map((t, i) => ({ t, i }))
			.sort((p, q) => p.t.stage - q.t.stage || p.i - q.i)
			.map((x) => x.t);
		next.runs = [...keepRuns, ...orderPattern(next, DEFAULT_ORDER, changed)];
		// lives that named a run that is gone fall back to the whole weld-out
		const ids = new Set(next.runs.map((r) => r.id));
		next.holdDowns = next.holdDowns.map((h) => ({ ...h, life: { on: lifeOr(h.life.on, ids, 'start'), off: lifeOr(h.life.off, ids, 'when-cold') } }));
		notes.push(`Tacks and runs were planned anew on ${changed.length} seam${changed.length > 1 ? 's' : ''} whose length changed.`);
	}
	return { plan: next, notes, faults: [] };
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
	const probes = gone(plan.probes, next.probes);
	if (probes.length) notes.push(`No longer watched, for its part is gone: ${list(probes.map((p) => p.name))}.`);
	const unmarked = plan.parts.filter((p) => p.heatNumber && !next.parts.find((n) => n.id === p.id)?.heatNumber);
	if (unmarked.length) notes.push(`Heat numbers to be entered anew, for the sheet is another: ${list(unmarked.map((p) => p.name))}.`);
	return notes;
}

const lifeOr = (word: string, runs: Set<string>, otherwise: string) => {
	const m = /^(?:before|after)-run:(.+)$/.exec(word);
	return m && !runs.has(m[1]) ? otherwise : word;
};
