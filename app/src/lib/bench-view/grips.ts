/** What of a plan can be taken hold of on the piece, where it may go, and what moving it changes. */
import type { Joint, Part, PlanDocument } from '$core/document/schema';
import { pathLength } from '$core/geometry/polyline';
import type { Vec2 } from '$core/geometry/vec';
import { boundRange, moveBound, type RunEnd } from '$core/schools/orderEdit';
import { holdPage } from '$lib/hold/kinds';
import type { HoldField } from '$lib/hold/kinds/kind';

export type Editing = 'tacks' | 'runs' | 'holds' | 'none';

interface Owned {
	/** what it belongs to */
	of: 'tack' | 'run' | 'hold-down';
	owner: string;
	name: string;
	/** the field that says where it is; of a run, which bound */
	field: string;
}
/** A place along a seam, mm from its datum, and how far it may go. */
export interface SeamGrip extends Owned {
	on: 'seam';
	joint: string;
	atMm: number;
	range: readonly [number, number];
}
/** A place on a part's flat layout, mm. */
export interface PartGrip extends Owned {
	on: 'part';
	part: string;
	at: Vec2;
	/** one end of several: it stays on its part */
	stays: boolean;
}
export type Grip = SeamGrip | PartGrip;
/** Where the pointer says. */
export type Pointed = { on: 'seam'; joint: string; stationMm: number } | { on: 'part'; part: string; at: Vec2 };

export const isSameGrip = (a: Grip, b: Grip) => a.owner === b.owner && a.field === b.field;

const seamLength = (plan: PlanDocument, joint: string) => {
	const j = plan.joints.find((x) => x.id === joint);
	return j ? pathLength(j.a.path) : 0;
};

/** What lies at `path.1` of a thing; the thing itself where no way is given. */
const reached = (from: unknown, way: string): unknown =>
	way ? way.split('.').reduce<unknown>((at, step) => (at as Record<string, unknown>)[step], from) : from;
const isWithin = (field: string) => field.includes('.');

type AnyField = HoldField<never>;
/** Stations and places of a hold-down, as its own page lists them. */
const placing = (kind: PlanDocument['holdDowns'][number]['kind']) =>
	(holdPage(kind).fields as readonly AnyField[]).filter((f) => f.is === 'station' || f.is === 'place');

/** @param selected the one thing chosen: of runs only its bounds can be taken hold of */
export function gripsOf(plan: PlanDocument, editing: Editing, selected?: string): Grip[] {
	if (editing === 'tacks')
		return plan.tacks.map((t) => ({
			of: 'tack',
			owner: t.id,
			name: 'Tack',
			field: 'stationMm',
			on: 'seam',
			joint: t.joint,
			atMm: t.stationMm,
			range: [0, seamLength(plan, t.joint)]
		}));
	if (editing === 'runs') {
		const run = plan.runs.find((r) => r.id === selected);
		if (!run) return [];
		return (['low', 'high'] as const).flatMap((end): Grip[] => {
			const range = boundRange(plan.runs, run.id, end, seamLength(plan, run.joint));
			const atMm = end === 'low' ? Math.min(run.fromMm, run.toMm) : Math.max(run.fromMm, run.toMm);
			const name = `${end === 'low' ? 'Lower' : 'Upper'} bound of run ${plan.runs.indexOf(run) + 1}`;
			return range ? [{ of: 'run', owner: run.id, name, field: end, on: 'seam', joint: run.joint, atMm, range }] : [];
		});
	}
	if (editing !== 'holds') return [];
	return plan.holdDowns.flatMap((h) =>
		placing(h.kind).flatMap((f): Grip[] => {
			const own = { of: 'hold-down', owner: h.id, name: h.name, field: f.name } as const;
			const value = reached(h, f.name);
			if (f.is === 'place' && 'part' in h) return [{ ...own, on: 'part', part: h.part, at: value as Vec2, stays: isWithin(f.name) }];
			if (f.is !== 'station' || !('joint' in h)) return [];
			const whole = seamLength(plan, h.joint);
			const range: [number, number] =
				f.name === 'fromMm' && 'toMm' in h ? [0, h.toMm - SHORTEST] : f.name === 'toMm' && 'fromMm' in h ? [h.fromMm + SHORTEST, whole] : [0, whole];
			return [{ ...own, on: 'seam', joint: h.joint, atMm: value as number, range }];
		})
	);
}
/** A stretch drawn together from both ends is left this long, mm. */
const SHORTEST = 5;

/** Puts what was taken hold of where it was let go; a draft is changed in place. */
export function moveGrip(draft: PlanDocument, grip: Grip, to: Pointed): void {
	if (grip.of === 'run') {
		if (to.on === 'seam') draft.runs = moveBound(draft.runs, grip.owner, grip.field as RunEnd, to.stationMm);
		return;
	}
	const owner = (grip.of === 'tack' ? draft.tacks : draft.holdDowns).find((x) => x.id === grip.owner) as unknown as
		Record<string, unknown> | undefined;
	if (!owner) return;
	const steps = grip.field.split('.');
	const last = steps.pop()!;
	const holder = reached(owner, steps.join('.')) as Record<string, unknown>;
	holder[last] = to.on === 'seam' ? to.stationMm : to.at;
	if (to.on === 'part') owner.part = to.part;
}

/** How far a bar or jig reaches each way from where the pointer puts it, mm. */
const EACH_WAY = 50;

/** A new hold-down put where the pointer is: its own stations or place are set to it. */
export function putAt<T extends PlanDocument['holdDowns'][number]>(made: T, plan: PlanDocument, to: Pointed): T {
	const out = structuredClone(made) as T & Record<string, unknown>;
	const stations = placing(made.kind).filter((f) => f.is === 'station');
	if (to.on === 'part') Object.assign(out, { part: to.part, at: to.at });
	else if (stations.length === 1) Object.assign(out, { [stations[0].name]: to.stationMm });
	else {
		const whole = Math.floor(seamLength(plan, to.joint) * 10) / 10;
		Object.assign(out, { fromMm: Math.max(0, to.stationMm - EACH_WAY), toMm: Math.min(whole, to.stationMm + EACH_WAY) });
	}
	return out;
}

/** Can one be put by pointing? Those that lie along a line or under whole parts are put on by their form. */
export const isPutByPointing = (kind: PlanDocument['holdDowns'][number]['kind']) =>
	placing(kind).length > 0 && !placing(kind).some((f) => isWithin(f.name));

/** A place along a seam to whole millimetres; near a 10 mm mark, an end or the middle it takes that. @param reachMm how near is near */
export function snapStation(mm: number, wholeMm: number, reachMm: number): number {
	const marks = [0, wholeMm / 2, wholeMm, Math.round(mm / 10) * 10].filter((m) => m >= 0 && m <= wholeMm);
	const near = marks.reduce((p, q) => (Math.abs(q - mm) < Math.abs(p - mm) ? q : p));
	const taken = Math.abs(near - mm) <= reachMm ? near : Math.round(mm);
	// a seam's end is not a whole millimetre: no further than what is measured
	return Math.floor(Math.max(0, Math.min(wholeMm, taken)) * 10) / 10;
}

/** A place on a part to whole millimetres; near a corner, the middle of an edge or the centre of a hole it takes that. */
export function snapPlace(part: Pick<Part, 'outline' | 'holes'>, at: Vec2, reachMm: number): Vec2 {
	const middle = (p: Vec2, q: Vec2): Vec2 => [(p[0] + q[0]) / 2, (p[1] + q[1]) / 2];
	const centre = (ring: readonly Vec2[]): Vec2 => [0, 1].map((d) => ring.reduce((s, p) => s + p[d], 0) / ring.length) as unknown as Vec2;
	const marks: Vec2[] = [
		...part.outline,
		...part.outline.map((p, i) => middle(p, part.outline[(i + 1) % part.outline.length])),
		...part.holes.map(centre)
	];
	const away = (p: Vec2) => Math.hypot(p[0] - at[0], p[1] - at[1]);
	const near = marks.reduce((p, q) => (away(q) < away(p) ? q : p));
	return away(near) <= reachMm ? near : [Math.round(at[0]), Math.round(at[1])];
}

/** Said beside the pointer. */
export const pointedWords = (to: Pointed, joints: readonly Joint[], parts: readonly Part[], length: (mm: number) => string): string =>
	to.on === 'seam'
		? `${joints.find((j) => j.id === to.joint)?.name ?? ''}, ${length(to.stationMm)}`
		: `${parts.find((p) => p.id === to.part)?.name ?? ''}, ${length(to.at[0])} / ${length(to.at[1])}`;
