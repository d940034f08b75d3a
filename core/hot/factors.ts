/**
 * What the moving arc says of a plan's seams, as factors on what the section says of an endless seam: on the pull, run by run, and on
 * the shrinkage across, place by place. The section knows neither ends, nor tacks, nor what was welded before in the same seam; the
 * arc knows all of them, but only flat. So each gives what it can (docs/theory/hot.md).
 */
import type { PlanDocument } from '../document/schema';
import type { KernelFactory } from '../linalg/kernel/kernel';
import { isRefusal } from '../refusal/refusal';
import type { HotFactors, SeamFactors } from '../response/arcFactors';
import { pathLength } from '../geometry/polyline';
import type { Around } from './around';
import { marchSeam, type HotMarch } from './march';
import { ArcMetal, VISCOSITY, type ArcModel } from './metal';
import { METAL_RANGE } from './metalRange';
import { hotSeamOf } from './ofPlan';
import { meanOver, runsOf, stationsOf, valueAt, worstGap } from './results';
import { arcOf, type HotSeam, type HotSheet } from './seam';
import { gapLimitOf } from './gapLimit';

export interface FactorOptions {
	kernel?: KernelFactory;
	progress?: (share: number) => void;
	/** the piece; each seam by itself where nothing is said */
	around?: Around;
	/** marched with other plausible hot metals too: each pair's pull and closing, and its gap where that is too wide */
	isRanged?: boolean;
}

/** The seam that the section stands for: joined from the start, so long that its middle knows nothing of its ends, mm. */
const ENDLESS_MM = 300;
/** The share of it, and of any seam, that is read as its middle. */
const MIDDLE = [0.3, 0.7] as const;
/** Places by which the factor across is kept, shares of the length. */
const PLACES = 13;

/** Waits to this many s: hotter or colder than that tells no seam from another. */
const WAIT_S = 5;
/** After this long a run's own seam is cold, s. */
const COLD_S = 600;

const round3 = (v: number) => Number(v.toPrecision(3));

/** The seam as it is watched: rounded, so that like seams of a piece are worked out once and the answer does not hang on which came first. */
export function roundedSeam(seam: HotSeam): HotSeam {
	const mm = (v: number) => Math.round(v);
	const sheets = seam.sheets.map((s): HotSheet => ({ ...s, widthMm: mm(s.widthMm) }));
	const lengthMm = mm(seam.lengthMm);
	const onSeam = (v: number) => Math.min(lengthMm, mm(v));
	return {
		...seam,
		lengthMm,
		sheets: sheets as unknown as HotSeam['sheets'],
		heat: round3(seam.heat),
		runs: seam.runs.map((r) => ({
			fromMm: onSeam(r.fromMm),
			toMm: onSeam(r.toMm),
			waitS: WAIT_S * Math.round(Math.min(r.waitS, COLD_S) / WAIT_S),
			...(r.warmth && { warmth: r.warmth }),
			...(r.heat === undefined ? {} : { heat: round3(r.heat), speed: r.speed, pulse: r.pulse })
		})),
		tacks: seam.tacks.map((t) => ({ atMm: mm(t.atMm), lengthMm: mm(t.lengthMm) }))
	};
}

/** The same metal and bar, and a run's arc, on a seam without ends, tacks or edges that part. */
const endless = (seam: HotSeam, { heat, speed }: ReturnType<typeof arcOf>, coarser: number): HotSeam => ({
	...seam,
	heat,
	speed,
	// the section knows the mean of a pulsed current and nothing else
	pulse: undefined,
	lengthMm: ENDLESS_MM,
	runs: [{ fromMm: 0, toMm: ENDLESS_MM, waitS: 0 }],
	tacks: [],
	welded: [],
	isOnePiece: true,
	gapMm: 0,
	sheets: seam.sheets.map((s) => ({ ...s, grips: [] })) as unknown as HotSeam['sheets'],
	bar: seam.bar && { ...seam.bar, lifted: undefined },
	mesh: { ...seam.mesh, alongMm: (coarser * ENDLESS_MM) / ENDLESS_CELLS, stepS: (coarser * ENDLESS_MM) / ENDLESS_CELLS / (2 * speed) }
});
const ENDLESS_CELLS = 60;

/** mm that the metal has shrunk across at each node column of a march, less what the edges stood apart when they were joined. */
function shrunkAcross(m: HotMarch): { at: Float64Array; mm: Float64Array } {
	const s = stationsOf(m);
	const gaps = m.joinedGap;
	const mm = Float64Array.from(s.middles, (_, i) => {
		const [p, q] = [gaps[i], gaps[i + 1]].map((g) => (Number.isNaN(g) ? 0 : g));
		return -s.acrossMm[i] - (p + q) / 2 + m.seam.gapMm;
	});
	return { at: s.middles, mm };
}

/**
 * What is written with answers that outlive a program: raise it whenever the march, the metal or how they are read here changes, or old
 * answers are taken for new ones.
 */
export const HOT_MODEL = 'hot/1';

/** Answers kept elsewhere, between jobs, by the seam's own words. */
export interface SaidStore {
	get(key: string): Said | undefined;
	put(key: string, said: Said): void;
}

/** Answers by rounded seam: marches of one plan, and of the next one. */
export class HotMemory {
	private readonly known = new Map<string, HotMarch>();
	constructor(
		private readonly kernel?: KernelFactory,
		private readonly kept?: SaidStore
	) {}

	private readonly said = new Map<string, Said>();
	/** mm of seam that were asked about, each like one once; found or known */
	askedMm = 0;

	/**
	 * What marches of a seam came to, without the marches: a new order of runs that a seam has had before costs a look-up.
	 * @param what of it, where it is not all
	 */
	saidOf(seam: HotSeam, heldNmm2: number, make: () => Said, what = ''): Said {
		const key = `${keyOf(seam)}/${heldNmm2}${what}`;
		let found = this.said.get(key);
		if (found) return found;
		found = this.kept?.get(key);
		if (!found) {
			found = make();
			// what is no number is a fault of the moment, and not for other jobs
			if ([...found.force, ...found.across, found.gapMm].every(Number.isFinite)) this.kept?.put(key, found);
		}
		this.askedMm += seam.lengthMm;
		this.said.set(key, found);
		return found;
	}

	march(seam: HotSeam, onStep?: (share: number) => void): HotMarch {
		const key = keyOf(seam);
		let found = this.known.get(key);
		if (!found) {
			found = marchSeam(seam, { kernel: this.kernel, onStep });
			if (this.known.size >= MOST_KEPT) this.known.clear();
			this.known.set(key, found);
		}
		onStep?.(1);
		return found;
	}
}
const MOST_KEPT = 40;

const keyOf = (seam: HotSeam) => JSON.stringify(seam, (_, v: unknown) => (v instanceof ArcMetal ? markOf(v) : v === Infinity ? 'edge' : v));

/** What tells one metal from another, of all that is tabled. */
const markOf = ({ model, melts, e20, proof20, proof, growth, conductivity, heat }: ArcMetal) => [
	model,
	melts,
	e20,
	proof20,
	...[proof, growth, conductivity, heat].map((t) => t.at(600))
];

/** Factors of every seam that is welded; one that cannot be watched is named and keeps what the section says. */
export function hotFactors(plan: PlanDocument, options: FactorOptions & { memory?: HotMemory } = {}): HotFactors {
	const memory = options.memory ?? new HotMemory(options.kernel);
	const joints = plan.joints.filter((j) => plan.runs.some((r) => r.joint === j.id));
	const out: HotFactors = { seams: [], leftOut: [] };
	const ends = METAL_RANGE.map(({ label, ends: models }) => ({ label, seams: models.map((): SeamFactors[] => []) }));
	const whole = joints.reduce((s, j) => s + ENDLESS_MM + pathLength(j.a.path), 0);
	let before = 0;
	for (const joint of joints) {
		const share = (from: number, mm: number) => (p: number) => options.progress?.(Math.min(1, (from + p * mm) / whole));
		const lengthMm = pathLength(joint.a.path);
		try {
			const { seam: planned, heldNmm2 } = hotSeamOf(plan, joint.id, {}, { around: options.around });
			const seam = roundedSeam(planned);
			const said = memory.saidOf(seam, heldNmm2, () => watched(seam, memory, [share(before, ENDLESS_MM), share(before + ENDLESS_MM, lengthMm)]));
			const others = options.isRanged && said.gapMm > gapLimitOf(plan, joint.id, seam) ? otherGaps(plan, joint.id, memory, options.around) : [];
			const gaps = [said.gapMm, ...others];
			const found = { gapRange: [Math.min(...gaps), Math.max(...gaps)] as const, heldNmm2, isWarm: options.around?.warmth !== undefined };
			out.seams.push({ ...factorsOf(plan, joint.id, lengthMm, said), ...found });
			if (options.isRanged)
				otherMetals(plan, joint.id, memory, said, options.around).forEach((models, i) =>
					models.forEach((other, k) => ends[i].seams[k].push({ ...factorsOf(plan, joint.id, lengthMm, other), ...found }))
				);
		} catch (e) {
			if (!isRefusal(e)) throw e;
			out.leftOut.push({ joint: joint.id, words: e.message });
		}
		before += ENDLESS_MM + lengthMm;
	}
	options.progress?.(1);
	return options.isRanged ? { ...out, ends } : out;
}

/** A seam's march against its endless ones. */
function watched(seam: HotSeam, memory: HotMemory, onStep: readonly ((p: number) => void)[] = [], coarser = 1): Said {
	const plain = seam.runs.map((r, i) => readEndless(memory.march(endless(seam, arcOf(seam, r), coarser), i ? undefined : onStep[0])));
	return saidBy(memory.march(seam, onStep[1]), plain);
}

/** How much coarser the marches are that only tell how far two metals differ: what is common to both falls out. */
const COARSER = 2;
const coarse = (s: HotSeam): HotSeam => ({
	...s,
	mesh: { ...s.mesh, alongMm: Math.min(COARSER * s.mesh.alongMm, s.lengthMm / 10), stepS: COARSER * s.mesh.stepS, firstMm: COARSER * s.mesh.firstMm }
});

/**
 * What a seam comes to at each end of what is not known of hot metal (METAL_RANGE): what it came to, and how far a coarse march with
 * that metal differs from a coarse one with the usual metal. Both are cold: how warm a seam begins changes little of the difference,
 * and like seams share it so.
 */
function otherMetals(plan: PlanDocument, joint: string, memory: HotMemory, said: Said, around?: Around): Said[][] {
	const ask = (model: Partial<ArcModel>): Said => {
		const { seam: planned, heldNmm2 } = hotSeamOf(plan, joint, {}, { around: around && { ...around, warmth: undefined }, model });
		const seam = coarse(roundedSeam(planned));
		return memory.saidOf(seam, heldNmm2, () => watched(seam, memory, [], COARSER), '/coarse');
	};
	const usual = ask({});
	return METAL_RANGE.map(({ ends }) =>
		ends.map((model) => {
			const other = ask(model);
			const by = (field: 'force' | 'across') => said[field].map((v, i) => v + other[field][i] - usual[field][i]);
			return { ...said, force: by('force'), across: by('across') };
		})
	);
}

/** mm, the largest gap ahead with the softest and with the stiffest hot metal: nobody has measured it. */
function otherGaps(plan: PlanDocument, joint: string, memory: HotMemory, around?: Around): number[] {
	return [VISCOSITY.low, VISCOSITY.high].map((viscosity) => {
		const { seam: planned, heldNmm2 } = hotSeamOf(plan, joint, {}, { around, model: { viscosity } });
		const seam = roundedSeam(planned);
		const make = (): Said => {
			const m = memory.march(seam);
			return { force: [], across: [], gapMm: worstGap(runsOf(m)).gapAheadMm, isBalanced: isBalanced(m) };
		};
		return memory.saidOf(seam, heldNmm2, make, '/gap').gapMm;
	});
}

interface Endless {
	/** N and mm over its middle */
	force: number;
	across: number;
	isBalanced: boolean;
}

function readEndless(m: HotMarch): Endless {
	const p = stationsOf(m);
	const [from, to] = MIDDLE.map((f) => f * ENDLESS_MM);
	const whole = shrunkAcross(m);
	return { force: meanOver(p.middles, p.forceN, from, to), across: meanOver(whole.at, whole.mm, from, to), isBalanced: isBalanced(m) };
}

const isBalanced = ({ numerics }: HotMarch): boolean => numerics.openSteps === 0 && numerics.openHeat === 0;

/** What a seam's march came to against the section, without names: by run of its first pass, and at even shares of the length. */
export interface Said {
	force: number[];
	across: number[];
	gapMm: number;
	isBalanced: boolean;
}

/** @param plain what the section stands for, run by run */
function saidBy(m: HotMarch, plain: readonly Endless[]): Said {
	const { at, mm } = shrunkAcross(m);
	const results = runsOf(m);
	/** of the run whose weld lies at a place: the last one over it */
	const plainAt = (x: number) => m.seam.runs.reduce((found, r, k) => ((r.fromMm - x) * (r.toMm - x) <= 0 ? plain[k] : found), plain[0]);
	// each place stands for the stretch round it: a cell's own value swings at the joints of runs
	const half = m.seam.lengthMm / (2 * (PLACES - 1));
	return {
		force: results.map((r, i) => r.forceN / plain[i].force),
		across: Array.from({ length: PLACES }, (_, i) => {
			const x = (m.seam.lengthMm * i) / (PLACES - 1);
			const mean = meanOver(at, mm, x - half, x + half);
			return (Number.isNaN(mean) ? valueAt(at, mm, x) : mean) / plainAt(x).across;
		}),
		gapMm: worstGap(results).gapAheadMm,
		isBalanced: isBalanced(m) && plain.every((p) => p.isBalanced)
	};
}

function factorsOf(plan: PlanDocument, joint: string, lengthMm: number, said: Said): Omit<SeamFactors, 'gapRange' | 'heldNmm2' | 'isWarm'> {
	const own = plan.runs.filter((r) => r.joint === joint);
	return {
		joint,
		force: Object.fromEntries(own.flatMap((r, i) => (r.pass === 1 ? [[r.id, said.force[i]]] : []))),
		stations: said.across.map((across, i) => ({ atMm: (lengthMm * i) / (PLACES - 1), across })),
		gapMm: said.gapMm,
		isBalanced: said.isBalanced
	};
}
