/** Families are generators of plans and nothing more: what they make is ordinary parts, joints, points and features. */
import { pathLength } from '../geometry/polyline';
import { findMaterial } from '../materials/grades';
import { shown, type Fault } from '../plan/faults';
import { DEFAULT_ORDER, orderPattern } from '../plan/orderPatterns';
import type { AnyFeature, Datum, Joint, NamedPoint, Part, PlanDocument, WeldSettings } from '../plan/schema';
import { DEFAULT_TACKS, tackPattern } from '../plan/tackPatterns';
import type { FamilyKind } from '../plan/words';
import { buttPanel } from './buttPanel';
import type { FamilyParameters } from './defaults';
import { openTrough, TROUGH_BODIES, type TroughBody } from './openTrough';

export interface Generated {
	parts: Part[];
	joints: Joint[];
	points: NamedPoint[];
	features: AnyFeature[];
	datum: Datum;
	trueJoint: string;
}

class Reader {
	readonly faults: Fault[] = [];
	constructor(private readonly given: FamilyParameters) {}
	number(name: string, min: number, max: number): number {
		const v = this.given[name];
		if (typeof v === 'number' && v >= min && v <= max) return v;
		this.faults.push({ field: `family.parameters.${name}`, value: shown(v), allowed: `must be a number from ${min} to ${max} mm` });
		return min;
	}
	numbers(name: string, min: number, max: number, atLeast: number, atMost: number): number[] {
		const v = this.given[name];
		if (Array.isArray(v) && v.length >= atLeast && v.length <= atMost && v.every((x) => x >= min && x <= max)) return v;
		this.faults.push({
			field: `family.parameters.${name}`,
			value: shown(v),
			allowed: `must be ${atLeast} to ${atMost} numbers from ${min} to ${max} mm`
		});
		return [min, min];
	}
	word<T extends string>(name: string, values: readonly T[]): T {
		const v = this.given[name];
		if (values.includes(v as T)) return v as T;
		this.faults.push({ field: `family.parameters.${name}`, value: shown(v), allowed: `must be one of: ${values.join(', ')}` });
		return values[0];
	}
}

/** @returns what the family makes, or what is wrong with its parameters */
export function generate(
	kind: FamilyKind,
	given: FamilyParameters,
	plan?: Pick<PlanDocument, 'materials'>
): { made: Generated; faults: [] } | { made?: undefined; faults: Fault[] } {
	const r = new Reader(given);
	if (kind === 'free') return { faults: [{ field: 'family.kind', value: kind, allowed: 'a free assembly has no generator: edit its job file' }] };
	const thicknessMm = r.number('thicknessMm', 0.3, 12);
	const material = String(given.material);
	try {
		findMaterial(material, plan?.materials);
	} catch (e) {
		r.faults.push({ field: 'family.parameters.material', value: shown(given.material), allowed: (e as Error).message });
	}
	let make: () => Generated;
	if (kind === 'open-trough') {
		const p = {
			lengthMm: r.number('lengthMm', 20, 4000),
			widthMm: r.number('widthMm', 20, 4000),
			depthMm: r.number('depthMm', 10, 2000),
			rimFlangeMm: r.number('rimFlangeMm', 0, 200),
			bendRadiusMm: r.number('bendRadiusMm', 0, 50),
			body: r.word<TroughBody>('body', TROUGH_BODIES),
			thicknessMm,
			material
		};
		const smallest = Math.min(p.lengthMm, p.widthMm, p.depthMm);
		if (!r.faults.length && thicknessMm > smallest / 2)
			r.faults.push({
				field: 'family.parameters.thicknessMm',
				value: shown(thicknessMm),
				allowed: `must be at most half the smallest side (${smallest / 2} mm)`
			});
		make = () => openTrough(p);
	} else {
		const p = { widthsMm: r.numbers('widthsMm', 10, 4000, 2, 8), lengthMm: r.number('lengthMm', 20, 4000), thicknessMm, material };
		const smallest = Math.min(...p.widthsMm, p.lengthMm);
		if (!r.faults.length && thicknessMm > smallest / 2)
			r.faults.push({
				field: 'family.parameters.thicknessMm',
				value: shown(thicknessMm),
				allowed: `must be at most half the smallest side (${smallest / 2} mm)`
			});
		make = () => buttPanel(p);
	}
	return r.faults.length ? { faults: r.faults } : { made: make(), faults: [] };
}

/** A starting point by the amp-per-thou rule, five sixths of it for thin sheet (common practice, no source). */
export function startingSettings(thicknessMm: number, material: string): WeldSettings {
	return {
		id: 'main',
		name: 'Main seams',
		process: 'TIG',
		current: 'steady',
		ampsA: Math.max(8, Math.round(((thicknessMm / 0.0254) * 5) / 6)),
		volts: 10,
		speedMmPerS: 2.5,
		fillerGrade: material === '1.4404' ? '316L' : '308L',
		fillerMm: 1.2,
		gas: 'Argon',
		gasLPerMin: 8,
		postFlowS: 6
	};
}

export const STANDARD_CHECKS: readonly { id: string; text: string }[] = [
	{ id: 'film', text: 'Protective film peeled back wider than the tint band on both sides' },
	{ id: 'clean', text: 'Edges deburred and wiped clean; no marker ink in the seam' },
	{ id: 'touch', text: 'Edges touch along the whole seam, or the gap is noted' },
	{ id: 'extraction', text: 'Fume extraction on; bare skin covered' }
];

/** A whole first plan from a family: tacked, ordered and ready to forecast. */
export function newPlan(
	kind: Exclude<FamilyKind, 'free'>,
	parameters: FamilyParameters
): { plan: PlanDocument; faults: [] } | { plan?: undefined; faults: Fault[] } {
	const g = generate(kind, parameters);
	if (!g.made) return { faults: g.faults };
	const m = g.made;
	const plan: PlanDocument = {
		format: 'sarta-plan',
		version: 1,
		family: { kind, parameters: structuredCopy(parameters) },
		materials: [],
		parts: m.parts,
		points: m.points,
		joints: m.joints,
		holdDowns: [],
		settings: [startingSettings(m.parts[0].thicknessMm, m.parts[0].material)],
		tacks: [],
		runs: [],
		features: m.features,
		probes: [],
		datum: m.datum,
		posture: 'three-points',
		fitUp: { trueJoint: m.trueJoint, trueEnd: 'datum', checks: STANDARD_CHECKS.map((c) => ({ ...c })) },
		interpassLimitC: 150,
		ambientC: 20
	};
	plan.tacks = tackPattern(plan, DEFAULT_TACKS);
	plan.runs = orderPattern(plan, DEFAULT_ORDER);
	return { plan, faults: [] };
}

const structuredCopy = <T>(v: T): T => JSON.parse(JSON.stringify(v)) as T;

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
					...(old.response ? { response: old.response } : {})
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
		family: { kind, parameters: structuredCopy(parameters) },
		parts: m.parts.map((p) => {
			const old = plan.parts.find((o) => o.id === p.id);
			return old?.heatNumber && old.material === p.material ? { ...p, heatNumber: old.heatNumber } : p;
		}),
		joints,
		points: m.points,
		features,
		probes: plan.probes.filter((p) => m.parts.some((x) => x.id === p.part)),
		datum: m.datum,
		holdDowns: plan.holdDowns.filter((h) => ('joint' in h ? same(h.joint) : false)),
		fitUp: { ...plan.fitUp, trueJoint: joints.some((j) => j.id === plan.fitUp.trueJoint) ? plan.fitUp.trueJoint : m.trueJoint }
	};
	const dropped = plan.holdDowns.length - next.holdDowns.length;
	if (dropped) notes.push(`${dropped} hold-down${dropped > 1 ? 's were' : ' was'} taken off: the seams they sat on have changed.`);
	const changed = joints.filter((j) => !same(j.id)).map((j) => j.id);
	const keepTacks = plan.tacks.filter((t) => same(t.joint));
	const keepRuns = plan.runs.filter((r) => same(r.joint));
	if (changed.length) {
		next.tacks = [...keepTacks, ...tackPattern(next, DEFAULT_TACKS, changed)]
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

const lifeOr = (word: string, runs: Set<string>, otherwise: string) => {
	const m = /^(?:before|after)-run:(.+)$/.exec(word);
	return m && !runs.has(m[1]) ? otherwise : word;
};
