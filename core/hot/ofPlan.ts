/** One seam of a plan as the moving-arc model takes it: its two sheets laid into one plane, its tacks, its runs in their order with what passes between them, its bar. */
import type { Joint, PlanDocument, Run, WeldSettings } from '../document/schema';
import { BETWEEN_RUNS_S, settingsOf } from '../forecast/schedule';
import { isClosed, pathLength } from '../geometry/polyline';
import { dot } from '../geometry/vec';
import { STILL_AIR } from '../heat/air';
import { arcEnergy } from '../heat/arcEnergy';
import { blocksOf } from '../holds';
import { JOINTS } from '../joints';
import { findMaterial } from '../materials/grades';
import { assemblyMesh } from '../mesh/assemblyMesh';
import type { SeamMesh } from '../mesh/seamMesh';
import { Refusal } from '../refusal/refusal';
import { responseInput } from '../response/forPlan';
import { blockMetal, CONTACT_VALUES, poolWidth, type ResponseInput } from '../response/weldResponse';
import type { Around } from './around';
import { arcMetal, type ArcModel } from './metal';
import { isEven, type WarmthByRun } from './warmth';
import { pulseOf } from './pulse';
import { burningSteps, MOST_STEPS, ORDINARY_ARC, type ArcRun, type ArcTack, type BackBar, type HotSeam, type HotSheet } from './seam';

/** Sheet farther from the seam than this takes no part while the arc passes, mm. */
const WIDEST = 150;
/** mm along the seam: so many cells, no finer and no coarser; a long seam has more of them, but never more than MOST. The arc goes half a cell a step. */
const CELLS = 60;
const FINEST = 2.5;
const COARSEST = 5;
const MOST_CELLS = 180;
/** Sheets whose widths differ by less than this share are taken as alike. */
const ALIKE = 0.1;

/** What is changed of the plan before it is watched: another way to weld the same seam. */
export interface HotChange {
	/** tacks by station, mm, in place of the plan's */
	tacks?: readonly number[];
	/** the same runs from their other ends, last first */
	isTurned?: boolean;
	/** one run from end to end, or back-stepped in so many */
	runs?: 'one' | number;
	/** without the bar */
	noBar?: boolean;
	/** of the plan's heat */
	heat?: number;
}

export interface SeamAsPlanned {
	seam: HotSeam;
	/** mm, width of the pool by the field that travels with the arc: finer beside it than this mesh (response/weldResponse.ts) */
	poolMm: number;
	/** N/mm per mm, in steps: how the rest of the piece holds its edges; 0 where they are free */
	heldNmm2: number;
	/** what is left out of this seam in particular */
	notes: string[];
}

export interface SeamOptions {
	/** another hot metal than the usual */
	model?: Partial<ArcModel>;
	/** the piece it is a seam of; by itself, with free edges, where it is not known */
	around?: Around;
}

/** @throws Refusal where the seam cannot be laid into one plane, or has no run */
export function hotSeamOf(plan: PlanDocument, jointId: string, change: HotChange = {}, options: SeamOptions = {}): SeamAsPlanned {
	const { model, around } = options;
	const heat = change.heat ?? 1;
	const joint = plan.joints.find((j) => j.id === jointId);
	if (!joint) throw new Refusal('This seam is not in the plan.', { field: 'joint', value: jointId, allowed: 'a seam of the plan' });
	const own = plan.runs.filter((r) => r.joint === jointId);
	if (!own.length)
		throw new Refusal(`No run is laid on seam “${joint.name}”: plan its runs on Order.`, { field: 'runs', value: '0', allowed: 'at least one run' });
	const lengthMm = pathLength(joint.a.path);
	const settings = settingsOf(plan, own[0]);
	const bar = blocksOf(plan).find((h) => h.joint === jointId && Math.abs(h.offsetMm ?? 0) < h.widthMm / 2);
	const input = responseInput(plan, joint, settings, bar);
	refuseUnlessFlat(joint, input.sheets, around?.seams ?? assemblyMesh(plan).seams);
	const heldNmm2 = gripOf(around?.held.get(jointId) ?? 0);
	const warmth = around?.warmth?.get(jointId) ?? [];
	const sheets = sheetsOf(input.sheets, heldNmm2, warmth, model);
	const alongMm = Math.max(lengthMm / MOST_CELLS, Math.min(COARSEST, Math.max(FINEST, lengthMm / CELLS)));
	const seam: HotSeam = {
		lengthMm,
		sheets,
		heat: arcEnergy(atHeat(settings, heat)).netHeat,
		speed: settings.speedMmPerS,
		pulse: pulseOf(settings),
		runs: changed(runsOf(plan, own, lengthMm, heat, warmth), change, lengthMm),
		tacks: tacksOf(plan, jointId, change),
		welded: [],
		gapMm: joint.gapMm,
		bar: bar && !change.noBar ? barOf(bar, lengthMm) : undefined,
		startC: plan.ambientC,
		ambientC: plan.ambientC,
		air: STILL_AIR,
		arc: ORDINARY_ARC,
		mesh: { alongMm, stepS: alongMm / (2 * settings.speedMmPerS), firstMm: 1.5 }
	};
	const isTooLong = burningSteps(seam) > MOST_STEPS;
	return {
		seam: isTooLong ? asMean(seam) : seam,
		poolMm: poolWidth({ ...input, settings: atHeat(settings, heat) }),
		heldNmm2,
		notes: [
			...notesOf(plan, joint, alongMm, around && heldNmm2, warmth),
			...(own.some((r) => settingsOf(plan, r).current === 'pulsed') ? [pulseWords(seam, isTooLong)] : [])
		]
	};
}

/** @throws Refusal by the seam's name where its two sheets cannot be laid into one plane */
function refuseUnlessFlat(joint: Joint, sheets: readonly { isFace?: boolean }[], seams: readonly SeamMesh[]): void {
	if (sheets.some((s) => s.isFace))
		throw new Refusal(
			`Seam “${joint.name}” runs on the face of a sheet: its two sheets cannot be laid into one plane, so the hot depth cannot watch it.`,
			{ field: 'joint', value: joint.type, allowed: 'seams along two edges' }
		);
	if (isStacked(seams, joint.id))
		throw new Refusal(`At seam “${joint.name}” one sheet lies on the other and only their edges are fused: they do not part in one plane.`, {
			field: 'joint',
			value: joint.type,
			allowed: 'seams whose two sheets go off to different sides'
		});
}

/** One sheet where both are alike, and its mirror image is meant; two where they are not. */
function sheetsOf(given: ResponseInput['sheets'], heldNmm2: number, warmth: WarmthByRun, model?: Partial<ArcModel>): HotSeam['sheets'] {
	// a spring at each outer edge: one after the other they are half as stiff
	const grips = heldNmm2 ? [{ fromSeamMm: Infinity, along: 0, across: 2 * heldNmm2, isReleased: false }] : [];
	const [a, b] = given.map((s): HotSheet => ({
		widthMm: Math.min(WIDEST, s.widthMm ?? WIDEST),
		thicknessMm: s.thicknessMm,
		metal: arcMetal(s.material, model),
		grips
	}));
	const isAlike = a.thicknessMm === b.thicknessMm && given[0].material === given[1].material && Math.abs(a.widthMm / b.widthMm - 1) < ALIKE;
	if (warmth.some((w) => w && !isEven(w))) return [a, b];
	return isAlike ? [a] : [a, b];
}

const tacksOf = (plan: PlanDocument, jointId: string, { tacks }: HotChange): ArcTack[] =>
	tacks?.map((atMm) => ({ atMm, lengthMm: TACK_MM })) ??
	plan.tacks.filter((t) => t.joint === jointId).map((t) => ({ atMm: t.stationMm, lengthMm: t.lengthMm }));

/** A bar of the plan, as far as the seam goes, grooved under its root. */
function barOf(bar: ReturnType<typeof blocksOf>[number], lengthMm: number): BackBar {
	const metal = blockMetal(bar);
	return {
		contact: CONTACT_VALUES[bar.contact],
		halfWidthMm: bar.widthMm / 2,
		grooveMm: GROOVE,
		thicknessMm: bar.thicknessMm,
		heatCapacity: metal.rhoC,
		conductivity: metal.conductivity,
		lifted: [
			[0, bar.fromMm / lengthMm],
			[bar.toMm / lengthMm, 1]
		]
	};
}

/** Below this the edges are free, above it they are held, N/mm per mm; between them in thirds of a decade, so that like seams share an answer. */
const [SOFT, STIFF] = [1, 1e5];
export const gripOf = (held: number): number => (held < SOFT ? 0 : 10 ** (Math.round(3 * Math.log10(Math.min(held, STIFF))) / 3));

/** Both sheets go off to the same side of the seam, by more than this share. */
const STACKED = 0.7;

function isStacked(seams: readonly SeamMesh[], jointId: string): boolean {
	const { frames } = seams.find((s) => s.joint.id === jointId)!;
	const { outA, outB } = frames[frames.length >> 1];
	return dot(outA, outB) > STACKED;
}

/** The same settings with so many times the current: its heat goes with it. */
const atHeat = (s: WeldSettings, times: number): WeldSettings => ({
	...s,
	ampsA: s.ampsA * times,
	backgroundA: s.backgroundA === undefined ? undefined : s.backgroundA * times
});

/** mm to each side of the seam that a bar is grooved under it, so that the root can melt (common practice, no source) */
const GROOVE = 3;
const END_MM = 0.1;
/** mm of a tack that is tried and not planned */
export const TACK_MM = 6;

/** The seam's runs, with the time that the welder is elsewhere or waits between them. */
function runsOf(plan: PlanDocument, own: readonly Run[], lengthMm: number, heat: number, warmth: WarmthByRun): ArcRun[] {
	const first = settingsOf(plan, own[0]);
	/** settings of its own, where a run has other ones than the first */
	const otherwise = (run: Run): Pick<ArcRun, 'heat' | 'speed' | 'pulse'> => {
		const settings = settingsOf(plan, run);
		return settings === first ? {} : { heat: arcEnergy(atHeat(settings, heat)).netHeat, speed: settings.speedMmPerS, pulse: pulseOf(settings) };
	};
	// a seam's end is typed to a hundredth, its length is worked out: what lies a hair beyond it is the end
	const onSeam = (v: number) => (Math.abs(v - lengthMm) < END_MM ? lengthMm : v);
	let waitS = 0;
	const out: ArcRun[] = [];
	for (const run of plan.runs) {
		waitS += run.waitBeforeS ?? 0;
		if (own.includes(run)) {
			out.push({ fromMm: onSeam(run.fromMm), toMm: onSeam(run.toMm), waitS: out.length ? waitS : 0, warmth: warmth[out.length], ...otherwise(run) });
			waitS = 0;
		} else waitS += Math.abs(run.toMm - run.fromMm) / settingsOf(plan, run).speedMmPerS;
		waitS += BETWEEN_RUNS_S;
	}
	return out;
}

function changed(runs: ArcRun[], change: HotChange, lengthMm: number): ArcRun[] {
	let out = runs;
	const { warmth } = runs[0];
	if (change.runs === 'one') out = [{ fromMm: 0, toMm: lengthMm, waitS: 0, warmth }];
	else if (change.runs) {
		const n = change.runs;
		out = Array.from({ length: n }, (_, i) => ({
			fromMm: (lengthMm * (i + 1)) / n,
			toMm: (lengthMm * i) / n,
			waitS: i ? BETWEEN_RUNS_S : 0,
			warmth: i ? undefined : warmth
		}));
	}
	if (!change.isTurned) return out;
	return out.map((_, i) => {
		const r = out[out.length - 1 - i];
		return { ...r, fromMm: r.toMm, toMm: r.fromMm, waitS: out[i].waitS, warmth: out[i].warmth };
	});
}

/** Cells above this are longer than the arc's own heat, mm. */
const COARSE_MM = 6;

export const groupOf = (plan: PlanDocument, part: string) => findMaterial(plan.parts.find((p) => p.id === part)!.material, plan.materials).group;

function notesOf(plan: PlanDocument, joint: Joint, alongMm: number, heldNmm2: number | undefined, warmth: WarmthByRun): string[] {
	const out = [
		heldNmm2
			? `Flat: no bow, no angle. The rest of the piece and its clamps hold the edges against closing with ${Number(heldNmm2.toPrecision(2))} N/mm on each mm of seam.`
			: heldNmm2 === 0
				? 'Flat: no bow, no angle. Nothing of the rest of the piece holds the edges by then: they are free.'
				: 'Flat and alone: no bow, no angle; the rest of the piece is left out, so the edges are free.'
	];
	out.push(...warmWords(plan.ambientC, warmth));
	out.push('Every seam opens a little in its last 20 mm, as the end tack melts: that is left out of the gap, and closed with wire.');
	const bars = blocksOf(plan).filter((h) => h.joint === joint.id);
	if (bars.length) out.push(`A bar under it is taken to be grooved ${2 * GROOVE} mm wide below the root.`);
	for (const b of bars.filter((h) => h.widthMm <= 2 * GROOVE || !(h.toMm > h.fromMm)))
		out.push(`“${b.name}” touches nowhere: it is no wider than that groove, or has no length. The seam is watched as if it were not there.`);
	if (JOINTS[joint.type].isCorner) out.push('Its two sheets stand at a corner: they are laid flat.');
	if (isClosed(joint.a.path)) out.push('The seam is a ring: it is laid out straight, with two ends that the ring does not have.');
	if (joint.penetration !== 'full') out.push('The weld does not go through: the heat is taken as even through the sheet all the same.');
	if (alongMm > COARSE_MM) out.push(`A long seam: its cells are ${alongMm.toFixed(0)} mm, too coarse for more than a direction.`);
	if ([joint.a, joint.b].some((side) => groupOf(plan, side.part) === 'carbon-steel'))
		out.push('Carbon steel swells as it turns hard on cooling; that is not in it, so take its gap and closing as a direction only.');
	return out;
}

/** Pulses of a long seam are too many to follow: their mean. */
const asMean = (seam: HotSeam): HotSeam => ({ ...seam, pulse: undefined, runs: seam.runs.map((r) => ({ ...r, pulse: undefined })) });

function pulseWords(seam: HotSeam, isTooLong: boolean): string {
	const isSlow = seam.pulse !== undefined || seam.runs.some((r) => r.pulse);
	if (!isSlow) return 'Pulses as quick as these count as their mean.';
	return isTooLong ? 'Its slow pulses are too many to follow: they count as their mean.' : 'Its slow pulses are followed one by one.';
}

/** How warm other seams have left it, and by how much they warm it later. */
function warmWords(ambientC: number, [first, ...later]: WarmthByRun): string[] {
	const most = (list: WarmthByRun) => Math.round(Math.max(ambientC, ...list.flatMap((w) => (w ? w.profiles.flatMap((p) => p.sides.flat()) : []))));
	return [
		...(first ? [`Other seams have left the metal here at up to ${most([first])} °C before its first arc.`] : []),
		...(later.some(Boolean) ? [`Between its runs other seams warm it by up to ${most(later) - ambientC} K.`] : [])
	];
}

/** Stations of tacks that are no farther apart than `spacing`, from end to end; 0: the two ends only. */
export function evenTacks(lengthMm: number, spacingMm: number): number[] {
	const end = Math.min(TACK_MM, lengthMm / 8) / 2;
	const bays = spacingMm > 0 ? Math.max(1, Math.ceil((lengthMm - 2 * end) / spacingMm)) : 1;
	return Array.from({ length: bays + 1 }, (_, i) => end + ((lengthMm - 2 * end) * i) / bays);
}
