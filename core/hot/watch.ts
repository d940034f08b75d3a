/**
 * One seam of a plan watched while it is welded: what the page, the bench and the tack advisor ask. A pair that opens ahead of the arc is
 * worked out with the softest and the stiffest hot metal too, for nobody has measured it: its gap is a range.
 */
import type { KernelFactory } from '../linalg/kernel/kernel';
import type { PlanDocument } from '../document/schema';
import { formatLength, type LengthUnit } from '../units/length';
import type { MaterialGroup } from '../materials/grades';
import type { Around } from './around';
import { gapLimitOf } from './gapLimit';
import { marchSeam, type HotMarch } from './march';
import { VISCOSITY } from './metal';
import { evenTacks, groupOf, hotSeamOf, type HotChange } from './ofPlan';
import { gapAhead, meanOver, runsOf, stationsOf, worstGap, type HotRunResult } from './results';

/** A film keeps this many pictures of the time that the arc burns, and of the cooling. */
const PICTURES = 90;

export interface FilmPicture {
	s: number;
	/** mm; null while no arc burns */
	arcMm: number | null;
	/** °C by node */
	temperature: Float32Array;
	/** mm between the edges and state of the seam by station */
	gap: Float32Array;
	state: Uint8Array;
}

export interface WatchedTack {
	atMm: number;
	tensionMpa: number;
	/** plastic strain beside it before the arc was near */
	strain: number;
	/** melted before there was anything to hold */
	isUseless: boolean;
	/** strained beyond a third of what its metal stretches before it breaks */
	mayBreak: boolean;
}

export interface Watched {
	lengthMm: number;
	/** mm: node columns along, node rows across (negative: the other sheet; one sheet and its mirror where none is) */
	x: Float64Array;
	y: Float64Array;
	/** row of the seam on the first sheet; 0 where there is no second: its mirror image is meant */
	seamRow: number;
	/** stainless: heat leaves a tint */
	isTinted: boolean;
	runs: HotRunResult[];
	/** mm, largest gap ahead of any arc, and where the arc stood; as worked out, and lowest and highest over the range of the hot metal */
	gapMm: number;
	gapAtMm: number;
	gapRange: readonly [number, number];
	/** mm that are too many */
	gapLimitMm: number;
	/** kN over the middle, mm of closing at start, middle and end */
	forceKn: number;
	closingMm: readonly [number, number, number];
	/** mm, width of the pool */
	poolMm: number;
	tacks: WatchedTack[];
	/** gap ahead by where the arc stood, run by run */
	ahead: { run: number; arcMm: number; gapMm: number }[];
	stations: { at: Float64Array; closingMm: Float64Array; middles: Float64Array; forceN: Float64Array };
	film: FilmPicture[];
	notes: string[];
	/** every step of every march came into balance */
	isBalanced: boolean;
}

/** A tack that melts before this much of the seam is welded has held nothing, mm. */
const USELESS_MM = 15;
/** A stress below this is not worth a word, MPa. */
const SAID_MPA = 10;
/** Stretch at which weld metal breaks at least: EN ISO 3581 (19 9 L 30 %, 22 9 3 N L 20 %), EN ISO 636 (20 %), EN ISO 18273 metal in 5083 some 17 % (all from memory). A tack is small and sharp-ended: a third of it is taken. */
const STRETCHES: Record<MaterialGroup, number> = { austenitic: 0.3, duplex: 0.2, 'carbon-steel': 0.2, aluminium: 0.17 };
const TACK_SHARE = 1 / 3;

export interface WatchOptions {
	kernel?: KernelFactory;
	/** the piece; the seam by itself, with free edges, where it is not known */
	around?: Around;
	onShare?: (share: number) => void;
	/** without pictures: figures only */
	isFilmed?: boolean;
}

/** @throws Refusal where the seam cannot be watched */
export function watchSeam(plan: PlanDocument, joint: string, change: HotChange = {}, options: WatchOptions = {}): Watched {
	const { seam, notes, poolMm } = hotSeamOf(plan, joint, change, { around: options.around });
	const filmed = options.isFilmed ?? true;
	const share = (from: number, to: number) => (p: number) => options.onShare?.(from + (to - from) * p);
	const m = marchSeam(seam, { kernel: options.kernel, onStep: share(0, 0.4), fieldEvery: filmed ? 1 : undefined });
	const s = stationsOf(m);
	const runs = runsOf(m, s);
	const worst = worstGap(runs);
	const gapLimitMm = gapLimitOf(plan, joint, seam);
	const marches = [m];
	let gapRange: [number, number] = [worst.gapAheadMm, worst.gapAheadMm];
	if (worst.gapAheadMm > gapLimitMm)
		for (const [i, viscosity] of [VISCOSITY.low, VISCOSITY.high].entries()) {
			const other = marchSeam(hotSeamOf(plan, joint, change, { model: { viscosity }, around: options.around }).seam, {
				kernel: options.kernel,
				onStep: share(0.4 + 0.3 * i, 0.7 + 0.3 * i)
			});
			marches.push(other);
			const gap = worstGap(runsOf(other)).gapAheadMm;
			gapRange = [Math.min(gapRange[0], gap), Math.max(gapRange[1], gap)];
		}
	options.onShare?.(1);
	const L = seam.lengthMm;
	const breaksAt = TACK_SHARE * Math.min(...materialsOf(plan, joint).map((g) => STRETCHES[g]));
	const middle = (v: Float64Array, at: Float64Array) => meanOver(at, v, 0.3 * L, 0.7 * L);
	return {
		lengthMm: L,
		x: m.grid.x,
		y: m.grid.y,
		seamRow: m.grid.seamRow,
		isTinted: materialsOf(plan, joint).some((g) => g === 'austenitic' || g === 'duplex'),
		runs,
		gapMm: worst.gapAheadMm,
		gapAtMm: worst.gapAheadAtMm,
		gapRange,
		gapLimitMm,
		forceKn: middle(s.forceN, s.middles) / 1000,
		closingMm: [s.closingMm[0], middle(s.closingMm, s.at), s.closingMm[s.closingMm.length - 1]],
		poolMm,
		tacks: m.tacks.map((t) => ({
			atMm: t.atMm,
			tensionMpa: t.tensionMpa,
			strain: t.strain,
			isUseless: t.isMelted && t.livedMm < USELESS_MM,
			mayBreak: t.strain > breaksAt
		})),
		ahead: m.moments.flatMap((x) => (x.arcMm === null ? [] : [{ run: x.run, arcMm: x.arcMm, gapMm: gapAhead(m, x) }])),
		stations: { at: s.at, closingMm: s.closingMm, middles: s.middles, forceN: s.forceN },
		film: filmed ? filmOf(m) : [],
		notes,
		isBalanced: marches.every((x) => x.numerics.openSteps === 0 && x.numerics.openHeat === 0)
	};
}

function filmOf(m: HotMarch): FilmPicture[] {
	const every = Math.max(1, Math.round(m.fields.length / PICTURES));
	return m.fields.flatMap((f, k) =>
		k % every && k !== m.fields.length - 1
			? []
			: [{ s: f.s, arcMm: f.arcMm, temperature: f.temperature, gap: Float32Array.from(m.moments[k].gap), state: m.moments[k].state }]
	);
}

/** What was seen, in sentences, in a person's unit. */
export function saidOf(w: Watched, unit: LengthUnit): string[] {
	const out: string[] = [];
	const mm = (v: number) => formatLength(v, unit);
	const at = (v: number) => formatLength(v, unit, 0);
	const placesOf = (tacks: readonly WatchedTack[]) =>
		tacks
			.slice(0, MOST_NAMED)
			.map((t) => at(t.atMm))
			.join(', ') + (tacks.length > MOST_NAMED ? ` and ${tacks.length - MOST_NAMED} more` : '');
	if (w.poolMm === 0) out.push('This arc melts nothing: more heat, or less speed. What follows takes the edges to be joined all the same.');
	if (w.gapMm > w.gapLimitMm) {
		const [low, high] = w.gapRange;
		out.push(
			`Ahead of the arc the edges part by ${mm(w.gapMm)} (${mm(low)} to ${mm(high)} by how soft the hot metal is), most with the arc at ${at(w.gapAtMm)}: more than ${mm(w.gapLimitMm)}. Tack or wedge it there.`
		);
	} else out.push(`Ahead of the arc the edges stay together: ${mm(w.gapMm)} at most, within ${mm(w.gapLimitMm)}.`);
	const useless = w.tacks.filter((t) => t.isUseless);
	if (useless.length)
		out.push(
			`${useless.length === 1 ? 'The tack' : 'The tacks'} at ${placesOf(useless)} ${useless.length === 1 ? 'melts' : 'melt'} before holding anything.`
		);
	const most = w.tacks.reduce<WatchedTack | undefined>((a, b) => (!a || b.tensionMpa > a.tensionMpa ? b : a), undefined);
	if (most && most.tensionMpa >= SAID_MPA) out.push(`The tack at ${at(most.atMm)} bears most, ${most.tensionMpa.toFixed(0)} MPa across.`);
	const yielded = w.tacks.filter((t) => t.mayBreak);
	if (yielded.length)
		out.push(
			`At ${placesOf(yielded)} the metal beside the tack stretches by ${(100 * Math.max(...yielded.map((t) => t.strain))).toFixed(0)} %: it may crack. Tack longer there, or closer.`
		);
	out.push(
		`Cold, the edges have closed by ${mm(w.closingMm[0])} at 0, ${mm(w.closingMm[1])} in the middle, ${mm(w.closingMm[2])} at ${at(w.lengthMm)}.`
	);
	return out;
}

const MOST_NAMED = 3;

const materialsOf = (plan: PlanDocument, jointId: string): MaterialGroup[] => {
	const joint = plan.joints.find((j) => j.id === jointId)!;
	return [joint.a, joint.b].map((side) => groupOf(plan, side.part));
};

/** Ways to tack that the advisor tries on a seam, fewest first. */
export interface TackTrial {
	/** mm at most between two; 0: the two ends only */
	spacingMm: number;
	tacks: number[];
	watched: Watched;
	isEnough: boolean;
}

/** Distances that are tried, mm; 0: the two ends. */
const SPACINGS = [0, 150, 75, 40, 20] as const;

/**
 * Tries the seam with ever more tacks until the edges stay together ahead of the arc and none of them may break.
 * @param tell called with each as it is known
 */
export function adviseTacks(plan: PlanDocument, joint: string, tell: (trial: TackTrial) => void, options: WatchOptions = {}): void {
	const { seam } = hotSeamOf(plan, joint, {}, { around: options.around });
	const seen = new Set<number>();
	const trials = SPACINGS.map((spacing) => ({ spacing, tacks: evenTacks(seam.lengthMm, spacing) })).filter(
		({ tacks }) => !seen.has(tacks.length) && seen.add(tacks.length)
	);
	for (const [i, { spacing, tacks }] of trials.entries()) {
		const watched = watchSeam(plan, joint, { tacks }, { ...options, isFilmed: false, onShare: (p) => options.onShare?.((i + p) / trials.length) });
		const isEnough = watched.gapRange[1] <= watched.gapLimitMm && !watched.tacks.some((t) => t.mayBreak);
		tell({ spacingMm: spacing, tacks, watched, isEnough });
		if (isEnough) break;
	}
	options.onShare?.(1);
}
