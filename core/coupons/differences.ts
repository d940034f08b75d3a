/**
 * What two ways of a trial may differ in, one thing at a time: what is asked of each way, and what it changes in the plan of the coupon.
 * Everything else of the plan stays as it is.
 */
import { barUnder } from './coupons';
import { FaultError } from '../document/faults';
import type { PlanDocument } from '../document/schema';
import { ROOT_CARE, type RootCare } from '../document/words';
import { pathLength } from '../geometry/polyline';
import { usualClamps } from '../holds/usual';
import { orderPattern } from '../schools/orderPattern';
import { DEFAULT_TACKS } from '../schools/tacks';
import { tackPattern } from '../schools/tackPattern';

export const DIFFERENCES = ['material', 'heat', 'pulse', 'bar', 'purge', 'clamp', 'order', 'tacks', 'filler', 'gap'] as const;
export type Difference = (typeof DIFFERENCES)[number];

/** Of each way: a number in a unit, or one of some words. */
export type Asks =
	{ label: string; unit: 'A' | 'mm' | 'Hz'; least: number; most: number; zero?: string } | { label: string; words: Record<string, string> };

interface DifferenceRecord {
	name: string;
	asks: Asks | 'material';
	/** a way's name, for a value that is allowed */
	named(value: string): string;
	/** the plan changed in this alone */
	change(plan: PlanDocument, value: string): PlanDocument;
}

const BARS = { copper: 'Copper bar under the seam', none: 'No bar' };
const ROOT: Record<RootCare, string> = {
	none: 'Root open to the air',
	bar: 'Root on the bar',
	purge: 'Root purged',
	both: 'Root on the bar and purged'
};
const RUNS = { straight: 'Straight through', 'back-step': 'Back-stepped', skip: 'Skipped round' };
const CLAMPED = { free: 'Lying free', clamped: 'Clamped along the seam' };
const STEP_MM = 50;

const settingsOf = (plan: PlanDocument, over: Partial<PlanDocument['settings'][number]>): PlanDocument => ({
	...plan,
	settings: plan.settings.map((s) => ({ ...s, ...over }))
});
const welded = (plan: PlanDocument) => plan.joints.filter((j) => plan.runs.some((r) => r.joint === j.id));

export const DIFFERENCE: Record<Difference, DifferenceRecord> = {
	material: {
		name: 'the metal',
		asks: 'material',
		named: (v) => v,
		change: (plan, material) => ({ ...plan, parts: plan.parts.map((p) => ({ ...p, material })) })
	},
	heat: {
		name: 'the current',
		asks: { label: 'Current', unit: 'A', least: 5, most: 400 },
		named: (v) => `${v} A`,
		change: (plan, v) => settingsOf(plan, { ampsA: Number(v), volts: undefined })
	},
	pulse: {
		name: 'the pulse',
		asks: { label: 'Pulses a second', unit: 'Hz', least: 0, most: 5000, zero: 'steady' },
		named: (v) => (Number(v) ? `${v} pulses a second` : 'Steady current'),
		change: (plan, v) => ({ ...plan, settings: plan.settings.map((s) => (Number(v) ? pulsed(s, Number(v)) : steady(s))) })
	},
	bar: {
		name: 'the bar',
		asks: { label: 'Bar', words: BARS },
		named: (v) => BARS[v as keyof typeof BARS],
		change: (plan, v) => ({
			...plan,
			holdDowns: [...plan.holdDowns.filter((h) => h.kind !== 'bar'), ...(v === 'copper' ? welded(plan).map(barUnder) : [])]
		})
	},
	purge: {
		name: 'what keeps the air off the root',
		asks: { label: 'Root', words: Object.fromEntries(ROOT_CARE.filter((c) => c === 'none' || c === 'purge').map((c) => [c, ROOT[c]])) },
		named: (v) => ROOT[v as RootCare],
		change: (plan, v) => ({ ...plan, root: { ...plan.root, care: v as RootCare } })
	},
	clamp: {
		name: 'clamps',
		asks: { label: 'Held', words: CLAMPED },
		named: (v) => CLAMPED[v as keyof typeof CLAMPED],
		change: (plan, v) => ({
			...plan,
			holdDowns: [
				...plan.holdDowns.filter((h) => h.kind !== 'clamp'),
				...(v === 'clamped' ? welded(plan).flatMap((j) => usualClamps(j, (i) => `clamp-${j.id}-${i + 1}`)) : [])
			]
		})
	},
	order: {
		name: 'the order of the runs',
		asks: { label: 'Runs', words: RUNS },
		named: (v) => RUNS[v as keyof typeof RUNS],
		change: (plan, v) => {
			if (v === 'straight') {
				const runs = welded(plan).map((j) => ({ ...plan.runs.find((r) => r.joint === j.id)!, fromMm: 0, toMm: pathLength(j.a.path) }));
				return { ...plan, runs };
			}
			const pattern = v === 'skip' ? 'skip-round' : 'back-step';
			return { ...plan, runs: orderPattern(plan, { pattern, runLengthMm: STEP_MM }) };
		}
	},
	tacks: {
		name: 'the spacing of the tacks',
		asks: { label: 'Between tacks', unit: 'mm', least: 5, most: 500 },
		named: (v) => `Tacks every ${v} mm`,
		change: (plan, v) => ({ ...plan, tacks: tackPattern(plan, { ...DEFAULT_TACKS, locateMm: Number(v), closeMm: Number(v) }) })
	},
	filler: {
		name: 'the wire',
		asks: { label: 'Wire', unit: 'mm', least: 0, most: 4, zero: 'none' },
		named: (v) => (Number(v) ? `Wire of ${v} mm` : 'Without wire'),
		change: (plan, v) => settingsOf(plan, { fillerMm: Number(v) || undefined, ...(Number(v) ? {} : { fillerGrade: undefined }) })
	},
	gap: {
		name: 'the gap',
		asks: { label: 'Gap', unit: 'mm', least: 0, most: 3, zero: 'edges touching' },
		named: (v) => (Number(v) ? `Gap of ${v} mm` : 'Edges touching'),
		change: (plan, v) => ({ ...plan, joints: plan.joints.map((j) => (j.stock ? j : { ...j, gapMm: Number(v) })) })
	}
};

type Settings = PlanDocument['settings'][number];
/** As much current in the mean: only the pulse differs. Peak half as high again for two fifths of the time (own estimate of a usual shape). */
const pulsed = (s: Settings, pulsesPerSecond: number): Settings => {
	const mean = s.current === 'pulsed' ? s.ampsA / PEAK : s.ampsA;
	const onFraction = 0.4;
	const backgroundA = Number(((mean * (1 - PEAK * onFraction)) / (1 - onFraction)).toFixed(1));
	return { ...s, current: 'pulsed', ampsA: Number((PEAK * mean).toFixed(1)), backgroundA, onFraction, pulsesPerSecond };
};
const PEAK = 1.5;
const steady = (s: Settings): Settings => {
	if (s.current === 'steady') return s;
	const { backgroundA: _b, pulsesPerSecond: _p, onFraction: _f, ...rest } = s;
	return { ...rest, current: 'steady', ampsA: Number((s.ampsA / PEAK).toFixed(1)) };
};

/** @throws FaultError naming the way whose value is not allowed */
export function checkWays(difference: Difference, values: readonly string[], materials: readonly string[]): void {
	const { asks, name } = DIFFERENCE[difference];
	const faults = values.flatMap((value, i) => {
		const allowed = notAllowed(asks, value, materials);
		return allowed ? [{ field: `ways.${i}.value`, value, allowed }] : [];
	});
	values.forEach((value, i) => {
		if (values.indexOf(value) < i)
			faults.push({ field: `ways.${i}.value`, value, allowed: `another than way ${values.indexOf(value) + 1}: the ways differ in ${name}` });
	});
	if (faults.length) throw new FaultError(faults);
}
function notAllowed(asks: DifferenceRecord['asks'], value: string, materials: readonly string[]): string | undefined {
	if (asks === 'material') return materials.includes(value) ? undefined : `one of ${materials.join(', ')}`;
	if ('words' in asks) return value in asks.words ? undefined : `one of ${Object.keys(asks.words).join(', ')}`;
	const v = Number(value);
	const fits = value.trim() !== '' && ((v >= asks.least && v <= asks.most) || (v === 0 && !!asks.zero));
	return fits ? undefined : `${asks.least} to ${asks.most} ${asks.unit}`;
}
