/**
 * One seam as the moving arc meets it: both sheets laid into one plane, held flat, `x` along the seam from its zero end and `y` across
 * it. What is given, and what cannot be worked out and is refused by name.
 */
import { Refusal } from '../refusal/refusal';
import type { ArcMetal } from './metal';
import type { Pulse } from './pulse';
import type { Warmth } from './warmth';

/** Springs to the ground on a line along the seam, N/mm per mm of line: a clamp, a frame, the rest of the piece. */
export interface Grip {
	/** mm from the seam; Infinity: the sheet's outer edge */
	fromSeamMm: number;
	along: number;
	across: number;
	/** taken off when all is cold, before the result is read */
	isReleased: boolean;
}

export interface HotSheet {
	widthMm: number;
	thicknessMm: number;
	metal: ArcMetal;
	grips: readonly Grip[];
}

/** One run of the arc: from one station to the other, after a wait. */
export interface ArcRun {
	fromMm: number;
	toMm: number;
	waitS: number;
	/** its own net J per mm and mm/s, where they are not the seam's */
	heat?: number;
	speed?: number;
	pulse?: Pulse;
	/** what other seams have brought since the run before; tacks were laid cold */
	warmth?: Warmth;
}

export interface ArcTack {
	atMm: number;
	lengthMm: number;
}

export interface BackBar {
	/** W/mm2.K between sheet and bar */
	contact: number;
	/** mm to each side of the seam */
	halfWidthMm: number;
	/** mm to each side of the seam where it does not touch: its groove */
	grooveMm?: number;
	/** mm; 0: it stays at the start temperature */
	thicknessMm: number;
	/** J/mm3.K and W/mm.K */
	heatCapacity: number;
	conductivity: number;
	/** shares of the seam's length where it does not touch */
	lifted?: readonly (readonly [from: number, to: number])[];
}

export interface HotSeam {
	lengthMm: number;
	/** one: a sheet and its mirror image, exact for two that are alike and held alike; two: the sheet at y > 0 and the one at y < 0 */
	sheets: readonly [HotSheet] | readonly [HotSheet, HotSheet];
	/** net J per mm, into both sheets together */
	heat: number;
	/** mm/s */
	speed: number;
	/** how the power goes with time, where the current pulses slowly */
	pulse?: Pulse;
	runs: readonly ArcRun[];
	tacks: readonly ArcTack[];
	/** stretches that are welded already, mm */
	welded: readonly (readonly [fromMm: number, toMm: number])[];
	/** a bead on a plate: there are no edges that could part */
	isOnePiece?: boolean;
	/** mm between the edges at the start */
	gapMm: number;
	bar?: BackBar;
	startC: number;
	/** °C and W/mm2.K of the air, one face */
	ambientC: number;
	air: number;
	/** mm, half axes of the arc's ellipse: ahead, behind, across */
	arc: { ahead: number; behind: number; across: number };
	mesh: HotMesh;
}

export interface HotMesh {
	/** mm along the seam */
	alongMm: number;
	/** s while an arc burns; grows when none does */
	stepS: number;
	/** mm of the first cell across */
	firstMm: number;
	/** how much wider each row of cells is than the one before; 1.35 where nothing is said */
	growth?: number;
}

export const ORDINARY_ARC = { ahead: 3, behind: 6, across: 3 } as const;

/** What a run is welded with. */
export const arcOf = (seam: HotSeam, run: ArcRun): { heat: number; speed: number; pulse?: Pulse } => ({
	heat: run.heat ?? seam.heat,
	speed: run.speed ?? seam.speed,
	pulse: run.heat === undefined ? seam.pulse : run.pulse
});

/** Steps that a slow pulse is taken in. */
const STEPS_A_PULSE = 4;
/** Longest step while a run burns, s. */
export function longestStep(seam: HotSeam, run: ArcRun): number {
	const { speed, pulse } = arcOf(seam, run);
	// as far a step, however fast it goes
	return Math.min((seam.mesh.stepS * seam.speed) / speed, pulse ? pulse.periodS / STEPS_A_PULSE : Infinity);
}
/** Steps in which all runs of a seam burn. */
export const burningSteps = (seam: HotSeam): number =>
	seam.runs.reduce((sum, r) => sum + Math.abs(r.toMm - r.fromMm) / arcOf(seam, r).speed / longestStep(seam, r), 0);

/** Limits of what the model can speak of, and of what it can be asked to do. */
const LENGTH = [20, 2000] as const;
const THICKNESS = [0.5, 6] as const;
const SPEED = [0.3, 25] as const;
export const MOST_STEPS = 4000;

function within(field: string, what: string, value: number, [low, high]: readonly [number, number], unit: string) {
	if (value >= low && value <= high) return;
	const allowed = `${low} to ${high} ${unit}`;
	throw new Refusal(`The hot depth is for ${what} of ${allowed}; here it is ${Number(value.toPrecision(4))} ${unit}.`, {
		field,
		value: String(value),
		allowed
	});
}

/** @throws Refusal that names what the moving-arc model cannot take */
export function checkSeam(s: HotSeam): void {
	within('lengthMm', 'seams', s.lengthMm, LENGTH, 'mm');
	const arcs = [s, ...s.runs.map((r) => arcOf(s, r))];
	for (const { speed } of arcs) within('speed', 'travel speeds', speed, SPEED, 'mm/s');
	for (const sheet of s.sheets) {
		within('thicknessMm', 'sheet', sheet.thicknessMm, THICKNESS, 'mm');
		within('widthMm', 'sheets this wide:', sheet.widthMm, [15, 5000], 'mm');
	}
	if (!arcs.every(({ heat }) => heat > 0))
		throw new Refusal('The arc brings no heat: set current, voltage and speed.', {
			field: 'heat',
			value: String(arcs.find(({ heat }) => !(heat > 0))!.heat),
			allowed: 'more than 0 J/mm'
		});
	if (!s.runs.length) throw new Refusal('No run is laid on this seam.', { field: 'runs', value: '0', allowed: 'at least one run' });
	for (const r of s.runs) {
		for (const at of [r.fromMm, r.toMm])
			if (!(at >= -1e-6 && at <= s.lengthMm + 1e-6))
				throw new Refusal('A run leaves the seam.', { field: 'runs', value: String(at), allowed: `0 to ${s.lengthMm} mm` });
		if (Math.abs(r.toMm - r.fromMm) < s.mesh.alongMm)
			throw new Refusal('A run is shorter than the model can see.', {
				field: 'runs',
				value: String(Math.abs(r.toMm - r.fromMm)),
				allowed: `at least ${s.mesh.alongMm} mm`
			});
		if (!(r.waitS >= 0 && r.waitS < 1e5))
			throw new Refusal('A wait before a run cannot be taken.', { field: 'runs', value: String(r.waitS), allowed: '0 to 100,000 s' });
	}
	if (!(s.gapMm >= 0 && s.gapMm <= 5))
		throw new Refusal('The gap at the start cannot be taken.', { field: 'gapMm', value: String(s.gapMm), allowed: '0 to 5 mm' });
	const isHeld = s.sheets.some((sheet) => sheet.grips.some((g) => g.across > 0));
	if (!s.tacks.length && !s.welded.length && !s.isOnePiece && !isHeld)
		throw new Refusal('Nothing holds the two sheets together or in their place: tack them, or clamp them.', {
			field: 'tacks',
			value: '0',
			allowed: 'a tack, a clamp or a welded stretch'
		});
	const arcS = s.runs.reduce((sum, r) => sum + Math.abs(r.toMm - r.fromMm) / arcOf(s, r).speed, 0);
	if (burningSteps(s) > MOST_STEPS)
		throw new Refusal('Seam and speed ask for more steps than the model is given.', {
			field: 'mesh.stepS',
			value: String(s.mesh.stepS),
			allowed: `at least ${(arcS / MOST_STEPS).toFixed(2)} s`
		});
}
