/**
 * When a piece is cool enough, by the clock of what was really done: the assembly's heat (core/heat/assembly) with each arc where it was and
 * when it went out, instead of the plan's times. A pause for coffee has been a wait; a thermometer's word goes before the model's.
 */
import type { PlanDocument } from '../document/schema';
import { weldOutHeat, type Film, type HeatedRun } from '../heat/assembly';
import type { AssemblyMesh } from '../mesh/assemblyMesh';
import { BETWEEN_RUNS_S, FAN_FILM, heatProblem, MEASURE_ABOVE_AIR } from './schedule';

/** What a thermometer showed beside the next run, °C, at a time of the piece's clock. */
export interface MetalReading {
	atS: number;
	metalC: number;
}

export interface HeatClock {
	/** s of the piece's clock from which the next run's length is at or below the interpass limit; nothing where no run is next */
	readyS?: number;
	/** s of the piece's clock from which all of it is cool enough to measure */
	coolS: number;
	/** from which a hand may stay on all of it: what holds it comes off without it springing further as it cools (common practice, no source) */
	unclampS: number;
	/** from which it may be filled: cold, and an hour after the last arc (common practice, no source) */
	fillS: number;
	/** what a reading says against the model: rise read over rise computed; 1 without a reading */
	ratio: number;
	/** arcs that were tapped closer together than they take: taken as ended before their taps */
	bunched: string[];
	/** within four hours, by itself */
	isLimitReached: boolean;
}

/** Hand-warm, K above the air; and a cup of tea and more before water goes in, s. */
export const UNCLAMP_ABOVE_AIR = 30;
export const FILL_AFTER_S = 3600;
/** Nearer to the air than this no thermometer tells how near: such a reading counts as this much, K (own estimate). */
const LEAST_RISE_K = 3;

/**
 * @param plan as run: what lies stands first among its runs, in the order it was laid
 * @param endedS of each that lies, when its arc went out, s of the piece's own clock; none: everything is cool
 * @param next the run that is next @param reading the last one after the last arc
 * @param fanS when a fan was tapped, s of the same clock: it blows over all of it from then to the next arc, or until it is cold
 */
export function heatClock(
	plan: PlanDocument,
	mesh: AssemblyMesh,
	endedS: readonly number[],
	next?: string,
	reading?: MetalReading,
	fanS: readonly number[] = []
): HeatClock {
	if (!endedS.length)
		return { readyS: next === undefined ? undefined : 0, coolS: 0, unclampS: 0, fillS: 0, ratio: 1, bunched: [], isLimitReached: true };
	const laid = plan.runs.slice(0, endedS.length);
	const probe = plan.runs.find((r) => r.id === next);
	// the probe's arc is never lit for what is asked: it stands for where the limit is looked at
	const { solver, runs: heated } = heatProblem({ ...plan, runs: probe ? [...laid, probe] : laid }, mesh);
	const { gaps, bunched } = gapsOf(
		endedS,
		heated.map((h) => h.arcS),
		laid.map((r) => r.id)
	);
	const timed = laid.map((_, i): HeatedRun => {
		const pauseS = Math.min(gaps[i], BETWEEN_RUNS_S);
		// a fan of the plan's waits is no fan that was there
		return { ...heated[i], pauseS, waitS: gaps[i] - pauseS, film: i ? fanFrom(fanS, endedS[i - 1], endedS[i]) : undefined };
	});
	const ended = endedS[endedS.length - 1];
	const fan = fanFrom(fanS, ended, Infinity);
	const place = probe && { ...heated[laid.length], film: fan };
	const ratio = place && reading && reading.atS >= ended ? ratioOf(solver, timed, place, reading, ended, plan.ambientC) : 1;
	const over = (k: number) => plan.ambientC + k / ratio;
	const cooledS = (k: number) => ended + weldOutHeat(solver, timed, [], over(k), fan).coolS;
	const coolS = cooledS(MEASURE_ABOVE_AIR);
	const out: HeatClock = {
		coolS,
		unclampS: cooledS(UNCLAMP_ABOVE_AIR),
		fillS: Math.max(coolS, ended + FILL_AFTER_S),
		ratio,
		bunched,
		isLimitReached: true
	};
	if (!place) return out;
	const wait = weldOutHeat(solver, [...timed, { ...place, waitS: undefined, limitC: over(place.limitC - plan.ambientC) }], [], Infinity).runs[
		laid.length
	];
	// read at or below the limit it is ready, whatever is computed
	const isRead = reading && reading.atS >= ended && reading.metalC <= plan.interpassLimitC;
	const readyS = ended + BETWEEN_RUNS_S + wait.waitS;
	return {
		...out,
		readyS: isRead ? Math.min(readyS, reading.atS) : readyS,
		isLimitReached: wait.limitReached
	};
}

/**
 * From the end of each arc to the start of the next, s. An arc was out when it was tapped as done, and before the next was lit: where taps
 * are closer together than the arcs between them take, what was tapped earlier ended earlier than its tap, and is named.
 */
function gapsOf(endedS: readonly number[], arcS: readonly number[], ids: readonly string[]): { gaps: number[]; bunched: string[] } {
	const bunched: string[] = [];
	const gaps = endedS.map(() => 0);
	let start = Infinity;
	for (let i = endedS.length - 1; i >= 0; i--) {
		if (endedS[i] > start + 1e-6) bunched.unshift(ids[i]);
		const end = Math.min(endedS[i], start);
		if (i + 1 < endedS.length) gaps[i + 1] = start - end;
		start = end - arcS[i];
	}
	return { gaps, bunched };
}

/** The fan between two arcs: from its first tap after the one before; a second tap changes nothing. */
function fanFrom(fanS: readonly number[], afterS: number, beforeS: number): Film | undefined {
	const first = Math.min(...fanS.filter((t) => t >= afterS && t < beforeS));
	return Number.isFinite(first) ? { all: FAN_FILM, own: FAN_FILM, fromS: first - afterS } : undefined;
}

/** How much of the rise that the model has at the reading's time the thermometer found. */
function ratioOf(
	solver: Parameters<typeof weldOutHeat>[0],
	timed: readonly HeatedRun[],
	place: HeatedRun,
	reading: MetalReading,
	ended: number,
	ambientC: number
): number {
	const { hottestC } = weldOutHeat(solver, [...timed, { ...place, pauseS: 0, waitS: reading.atS - ended }], [], Infinity).runs[timed.length];
	const model = hottestC - ambientC;
	return model < LEAST_RISE_K ? 1 : Math.max(LEAST_RISE_K, reading.metalC - ambientC) / model;
}
