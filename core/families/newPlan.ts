/** A whole first plan from a family. */
import { copyOf } from '../document/copy';
import { shown, type Fault } from '../document/faults';
import type { PlanDocument, PrepCheck, WeldSettings } from '../document/schema';
import type { FamilyKind } from '../document/words';
import { METALS } from '../materials/metals';
import { rampsFor } from '../response/settingsAdvice';
import { checkPlan } from '../plan/check';
import { orderPattern } from '../schools/orderPattern';
import { DEFAULT_ORDER } from '../schools/orders';
import { tackPattern } from '../schools/tackPattern';
import { DEFAULT_TACKS } from '../schools/tacks';
import { CATALOGUE } from '.';
import type { FamilyParameters, Generated } from './family';
import { readFamily } from './readSizes';
import { suitablePosture } from './suitablePosture';

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
	for (const { field, fits, allowed } of CATALOGUE[kind].fits) {
		const p = { ...read, thicknessMm } as Record<string, number>;
		if (!fits(p)) faults.push({ field: `family.parameters.${field}`, value: shown(read[field]), allowed: allowed(p) });
	}
	if (faults.length) return { faults };
	return { made: CATALOGUE[kind].make({ ...read, thicknessMm, material } as never), faults: [] };
}

/** A starting point by the amp-per-thou rule, five sixths of it for thin sheet (common practice, no source). */
export function startingSettings(thicknessMm: number, material: string): WeldSettings {
	// a shop's own metal: the filler its supplier names
	const welding = METALS.find((m) => m.id === material)?.welding;
	const ampsA = Math.max(8, Math.round(((thicknessMm / 0.0254) * 5) / 6));
	return {
		id: 'main',
		name: 'Main seams',
		process: 'TIG',
		current: 'steady',
		...(welding ? { polarity: welding.polarity } : {}),
		ampsA,
		...rampsFor(ampsA),
		volts: 10,
		speedMmPerS: 2.5,
		...(welding ? { fillerGrade: welding.filler } : {}),
		fillerMm: 1.2,
		gas: welding?.gas ?? 'Argon',
		gasLPerMin: 8,
		postFlowS: 6
	};
}

export const STANDARD_CHECKS: readonly PrepCheck[] = [
	{ id: 'film', text: 'Protective film peeled back wider than the tint band on both sides' },
	{ id: 'clean', text: 'Edges deburred and wiped clean; no marker ink in the seam' },
	{ id: 'touch', text: 'Edges touch along the whole seam, or the gap is noted', onceSetUp: true },
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
		fitUp: {
			trueJoint: m.trueJoint,
			trueEnd: 'datum',
			checks: [...STANDARD_CHECKS, ...(m.checks ?? [])].map((c) => ({ ...c })),
			...(m.order ? { order: m.order } : {})
		},
		interpassLimitC: 150,
		ambientC: 20
	};
	plan.posture = suitablePosture(plan);
	plan.tacks = tackPattern(plan, DEFAULT_TACKS);
	plan.runs = orderPattern(plan, DEFAULT_ORDER);
	const unsound = togetherFaults(plan);
	return unsound.length ? { faults: unsound } : { plan, faults: [] };
}
