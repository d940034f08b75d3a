/** Families are generators of plans and nothing more: what they make is ordinary parts, joints, points and features. */
import { pathLength } from '../geometry/polyline';
import { findMaterial } from '../materials/grades';
import { checkPlan } from '../plan/check';
import { copyOf } from '../plan/copy';
import { shown, type Fault } from '../plan/faults';
import { DEFAULT_ORDER, orderPattern } from '../plan/orderPatterns';
import { METALS } from '../materials/metals';
import type { AnyFeature, AnyHoldDown, Datum, Joint, NamedPoint, Part, PlanDocument, PrepCheck, WeldSettings } from '../plan/schema';
import { DEFAULT_TACKS, tackPattern } from '../plan/tackPatterns';
import { retacked } from '../plan/tackRule';
import type { FamilyKind } from '../plan/words';
import { buttPanel } from './buttPanel';
import { suitablePosture } from './suitablePosture';
import { CATALOGUE, isAsked, type MadeFamily } from './catalogue';
import type { FamilyParameters } from './defaults';
import { enclosure } from './enclosure';
import { mitredFrame } from './mitredFrame';
import { openTrough } from './openTrough';
import { lapPanel, patchedPanel, stiffenedPlate } from './plates';
import { collar, cylinder, manifold } from './round';

export interface Generated {
	parts: Part[];
	joints: Joint[];
	points: NamedPoint[];
	features: AnyFeature[];
	datum: Datum;
	trueJoint: string;
	/** what the family puts on it to be held or handled by */
	holdDowns?: AnyHoldDown[];
	checks?: PrepCheck[];
}

/** Values of a family's fields, each checked against its definition. */
function readFields(kind: MadeFamily, given: FamilyParameters, faults: Fault[]): FamilyParameters {
	const out: FamilyParameters = {};
	const fault = (name: string, allowed: string) => faults.push({ field: `family.parameters.${name}`, value: shown(given[name]), allowed });
	const def = CATALOGUE[kind];
	const known = new Set(['thicknessMm', 'material', ...def.fields.map((f) => f.name)]);
	for (const name of Object.keys(given)) if (!known.has(name)) fault(name, 'this field is not known here');
	for (const f of def.fields) {
		// a piece made before a field was known takes its default
		const v = given[f.name] ?? (f.when || !(f.name in given) ? def.defaults[f.name] : undefined);
		out[f.name] = v;
		// what is not asked now keeps what it was: the default, or a value that was right when it was asked
		if (!isAsked(f, given) && v === def.defaults[f.name]) continue;
		const unit = f.kind === 'angle' ? '°' : f.kind === 'count' ? '' : ' mm';
		if (f.kind === 'flag') {
			if (typeof v !== 'boolean') fault(f.name, 'must be true or false');
		} else if (f.kind === 'word') {
			if (typeof v !== 'string' || !Object.keys(f.options).includes(v)) fault(f.name, `must be one of: ${Object.keys(f.options).join(', ')}`);
		} else if (f.kind === 'lengths') {
			const fine =
				Array.isArray(v) && v.length >= f.atLeast && v.length <= f.atMost && v.every((x) => typeof x === 'number' && x >= f.min && x <= f.max);
			if (!fine) fault(f.name, `must be ${f.atLeast === f.atMost ? f.atLeast : `${f.atLeast} to ${f.atMost}`} numbers from ${f.min} to ${f.max} mm`);
		} else if (!(typeof v === 'number' && v >= f.min && v <= f.max) || (f.kind === 'count' && !Number.isInteger(v)))
			fault(f.name, `must be a ${f.kind === 'count' ? 'whole number' : 'number'} from ${f.min} to ${f.max}${unit}`);
	}
	return out;
}

/** each is given what its catalogue asks for, checked */
const MAKERS: Record<MadeFamily, (p: never) => Generated> = {
	'open-trough': openTrough,
	enclosure,
	'butt-panel': buttPanel,
	'lap-panel': lapPanel,
	'patched-panel': patchedPanel,
	'stiffened-plate': stiffenedPlate,
	cylinder,
	collar,
	manifold,
	'mitred-frame': mitredFrame
};

/** @returns the family's own values, and what is wrong with them by themselves */
function readFamily(kind: MadeFamily, given: FamilyParameters, materials?: PlanDocument['materials']): { read: FamilyParameters; faults: Fault[] } {
	const faults: Fault[] = [];
	const { thicknessMm } = given;
	if (!(typeof thicknessMm === 'number' && thicknessMm >= 0.3 && thicknessMm <= 12))
		faults.push({ field: 'family.parameters.thicknessMm', value: shown(thicknessMm), allowed: 'must be a number from 0.3 to 12 mm' });
	if (typeof given.material !== 'string')
		faults.push({ field: 'family.parameters.material', value: shown(given.material), allowed: 'must be the name of a grade' });
	else
		try {
			findMaterial(given.material, materials);
		} catch (e) {
			faults.push({ field: 'family.parameters.material', value: shown(given.material), allowed: (e as Error).message });
		}
	return { read: readFields(kind, given, faults), faults };
}

/** What is wrong with the sizes a plan says it was made from: a file is refused for them as for anything else. */
export function familyFaults({ family, materials }: Pick<PlanDocument, 'family' | 'materials'>): Fault[] {
	return family && family.kind !== 'free' ? readFamily(family.kind, family.parameters, materials).faults : [];
}

/** @returns what the family makes, or what is wrong with its parameters */
export function generate(
	kind: FamilyKind,
	given: FamilyParameters,
	plan?: Pick<PlanDocument, 'materials'>
): { made: Generated; faults: [] } | { made?: undefined; faults: Fault[] } {
	if (kind === 'free') return { faults: [{ field: 'family.kind', value: kind, allowed: 'a free assembly has no generator: edit its job file' }] };
	const { read, faults } = readFamily(kind, given, plan?.materials);
	if (faults.length) return { faults };
	const material = given.material as string;
	const { thicknessMm } = given;
	const smallest = Math.min(...CATALOGUE[kind].sizes.flatMap((n) => read[n] as number | number[]));
	if ((thicknessMm as number) > smallest / 2)
		faults.push({
			field: 'family.parameters.thicknessMm',
			value: shown(thicknessMm),
			allowed: `must be at most half the smallest side (${smallest / 2} mm)`
		});
	for (const { field, fits, allowed } of FITS[kind] ?? []) {
		const p = { ...read, thicknessMm } as Record<string, number>;
		if (!fits(p)) faults.push({ field: `family.parameters.${field}`, value: shown(read[field]), allowed: allowed(p) });
	}
	if (faults.length) return { faults };
	return { made: MAKERS[kind]({ ...read, thicknessMm, material } as never), faults: [] };
}

interface Fit {
	field: string;
	fits: (p: Record<string, number>) => boolean;
	allowed: (p: Record<string, number>) => string;
}
const most = (
	field: string,
	limit: (p: Record<string, number>) => number,
	what: string,
	when: (p: Record<string, number>) => boolean = () => true
): Fit => ({
	field,
	fits: (p) => !when(p) || p[field] <= limit(p),
	allowed: (p) => `must be at most ${Math.floor(limit(p))} mm: ${what}`
});
/** What is left out with 0 must otherwise be large enough to be cut, bent and welded. */
const noneOr = (field: string, least: (p: Record<string, number>) => number): Fit => ({
	field,
	fits: (p) => !p[field] || p[field] >= least(p),
	allowed: (p) => `must be 0 for none, or at least ${Math.ceil(least(p))} mm`
});
/** So many of them along the length that a hand and a torch still go between. */
const LEAST_BAY = 25;
const apart = (field: string, what: string): Fit => ({
	field,
	fits: (p) => p[field] === 0 || p.lengthMm / (p[field] + 1) >= LEAST_BAY,
	allowed: (p) => `must be at most ${Math.max(0, Math.floor(p.lengthMm / LEAST_BAY) - 1)}: ${what} at least ${LEAST_BAY} mm apart on this length`
});
/** A handling stick wants this much patch under it, mm. */
const STICK_PATCH = 40;
/** What must fit into what. */
const FITS: Partial<Record<MadeFamily, Fit[]>> = {
	'open-trough': [
		most(
			'baffleHeightMm',
			(p) => p.depthMm,
			'a baffle stands inside',
			(p) => p.baffles > 0
		),
		noneOr('rimFlangeMm', (p) => Math.max(3, 2 * p.thicknessMm)),
		noneOr('portMm', (p) => Math.max(12, 6 * p.thicknessMm)),
		noneOr('sumpMm', (p) => Math.max(30, 10 * p.thicknessMm)),
		most('portMm', (p) => 0.7 * Math.min(p.widthMm, p.depthMm), 'the port must leave wall round it'),
		most(
			'sumpMm',
			(p) => Math.min(0.35 * p.widthMm, 0.35 * p.lengthMm, (0.6 * p.lengthMm) / (p.baffles + 1)),
			'the sump must leave floor round it, in the last bay'
		),
		{
			field: 'baffleHeightMm',
			fits: (p) => p.baffles === 0 || p.baffleHeightMm >= 2 * p.thicknessMm,
			allowed: (p) => `must be at least ${2 * p.thicknessMm} mm, twice the thickness`
		},
		apart('baffles', 'bays'),
		apart('stiffeners', 'stiffeners')
	],
	enclosure: [
		most('flangeMm', (p) => 0.3 * Math.min(p.widthMm, p.heightMm), 'the flange must leave an opening'),
		noneOr('standOffMm', (p) => Math.max(3, 2 * p.thicknessMm)),
		most('standOffMm', (p) => 0.7 * p.depthMm, 'the plate stands inside')
	],
	'lap-panel': [most('overlapMm', (p) => 0.5 * Math.min(...(p.widthsMm as unknown as number[])), 'the sheets must reach beyond the lap')],
	'patched-panel': [
		{
			field: 'patchMm',
			fits: (p) => !p.stick || p.patchMm >= STICK_PATCH,
			allowed: () => `must be at least ${STICK_PATCH} mm for a handling stick to be tacked across it`
		},
		{
			field: 'patchLengthMm',
			fits: (p) => !p.stick || String(p.shape) !== 'rectangular' || p.patchLengthMm >= STICK_PATCH,
			allowed: () => `must be at least ${STICK_PATCH} mm for a handling stick to be tacked across it`
		},
		most('patchMm', (p) => 0.8 * (String(p.shape) === 'round' ? Math.min(p.widthMm, p.lengthMm) : p.widthMm), 'the panel must reach round the patch'),
		most(
			'patchLengthMm',
			(p) => 0.8 * p.lengthMm,
			'the panel must reach round the patch',
			(p) => String(p.shape) === 'rectangular'
		)
	],
	cylinder: [
		noneOr('portMm', (p) => Math.max(12, 6 * p.thicknessMm)),
		most('portMm', (p) => 0.6 * Math.min(p.diameterMm, p.lengthMm / p.courses), 'the port must leave wall round it')
	],
	collar: [most('standMm', (p) => 0.5 * p.ductLengthMm, 'the ring sits on the duct')],
	manifold: [most('socketMm', (p) => Math.min(0.8 * p.tubeMm, (0.8 * p.lengthMm) / (p.sockets + 1)), 'sockets must fit on the tube, side by side')],
	'mitred-frame': [most('sideMm', (p) => 0.35 * Math.min(p.lengthMm, p.widthMm), 'the frame must leave an opening')]
};

/** A starting point by the amp-per-thou rule, five sixths of it for thin sheet (common practice, no source). */
export function startingSettings(thicknessMm: number, material: string): WeldSettings {
	// a shop's own metal: the filler its supplier names
	const welding = METALS.find((m) => m.id === material)?.welding;
	return {
		id: 'main',
		name: 'Main seams',
		process: 'TIG',
		current: 'steady',
		ampsA: Math.max(8, Math.round(((thicknessMm / 0.0254) * 5) / 6)),
		volts: 10,
		speedMmPerS: 2.5,
		...(welding ? { fillerGrade: welding.filler } : {}),
		fillerMm: 1.2,
		gas: welding?.gas ?? 'Argon',
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

/** Sizes that are each allowed may still not make a piece: said of the sizes, for the planner gave those and nothing else. */
function togetherFaults(plan: PlanDocument): Fault[] {
	const words = new Set(
		checkPlan(plan).map((f) => {
			const part = plan.parts[Number(/^parts\[(\d+)\]/.exec(f.field)?.[1] ?? -1)];
			const joint = plan.joints[Number(/^joints\[(\d+)\]/.exec(f.field)?.[1] ?? -1)];
			const hold = plan.holdDowns[Number(/^holdDowns\[(\d+)\]/.exec(f.field)?.[1] ?? -1)];
			return `${hold ? `“${hold.name}”: ` : part ? `part “${part.name}”: ` : joint ? `seam “${joint.name}”: ` : ''}${f.allowed}`;
		})
	);
	return words.size
		? [{ field: 'family.parameters', value: 'these sizes together', allowed: `must make a sound piece (${[...words].slice(0, 3).join('; ')})` }]
		: [];
}

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
		family: { kind, parameters: copyOf(parameters) },
		materials: [],
		parts: m.parts,
		points: m.points,
		joints: m.joints,
		holdDowns: m.holdDowns ?? [],
		settings: [startingSettings(m.parts[0].thicknessMm, m.parts[0].material)],
		tacks: [],
		runs: [],
		features: m.features,
		probes: [],
		datum: m.datum,
		posture: 'three-points',
		fitUp: { trueJoint: m.trueJoint, trueEnd: 'datum', checks: [...STANDARD_CHECKS, ...(m.checks ?? [])].map((c) => ({ ...c })) },
		interpassLimitC: 150,
		ambientC: 20
	};
	plan.posture = suitablePosture(plan);
	plan.tacks = tackPattern(plan, DEFAULT_TACKS);
	plan.runs = orderPattern(plan, DEFAULT_ORDER);
	const unsound = togetherFaults(plan);
	return unsound.length ? { faults: unsound } : { plan, faults: [] };
}

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
	const on = 'part' in h ? ['partB' in h ? [h.part, h.partB] : [h.part]].flat() : [];
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
