/**
 * Tack plans by school: where the tacks go (spacing) and which comes first (order). Every pattern is a starting plan that
 * stays editable; figures are common practice, no source.
 */
import { distance, type Vec3 } from '../geometry/vec';
import { spreadOrder } from './orderPatterns';
import type { PlanDocument, Tack, TackRule } from './schema';
import { holeDistance, isCurved, planeFirst, weldedSeams } from './seamShape';
import { datumIsNear, nearEnd, trueCorner, type SeamInSpace } from './space';
import type { TackOrder, TackPattern } from './words';
import { Refusal } from '../refusal/refusal';

export const TACK_WORDS: Record<TackPattern, string> = {
	'two-stage': 'Two stages: locate, then close up',
	'corners-and-middles': 'Corners and middles only',
	'long-tacks': 'Long tacks, close together',
	stitch: 'Stitches: short rows instead of single tacks'
};
export const TACK_ADVICE: Record<TackPattern, string> = {
	'two-stage': 'For a seam that wants to open: a few to locate, look again, then close up.',
	'corners-and-middles': 'For a light-tight fit on a backing bar. Quick, and leaves the seam free to move ahead of the arc.',
	'long-tacks': 'For stiff, restrained work, where a short tack would crack or pull out.',
	stitch: 'Where single tacks crack (aluminium of the 5xxx grades, springy work): a row of three that share the load.'
};
export const TACK_ORDER_WORDS: Record<TackOrder, string> = {
	'from-true-corner': 'From the true corner to the free end',
	'curve-first': 'Curved seams first, then to the free end',
	'one-plane-first': 'One plane true, then the other',
	'opposite-ends': 'Opposite sides and opposite ends in turn',
	bisection: 'Ends, middle, then halves of what is left'
};

const SHARED = { order: 'from-true-corner', flush: false, endClearMm: 6, otherClearMm: 4 } as const;

/** What each school starts from. */
export const TACK_STARTS: Record<TackPattern, TackRule> = {
	'two-stage': { ...SHARED, pattern: 'two-stage', locateMm: 75, closeMm: 20, lengthMm: 5, fusionOnly: true },
	'corners-and-middles': { ...SHARED, pattern: 'corners-and-middles', locateMm: 75, closeMm: 20, lengthMm: 5, fusionOnly: true },
	'long-tacks': { ...SHARED, pattern: 'long-tacks', locateMm: 35, closeMm: 20, lengthMm: 10, fusionOnly: false },
	stitch: { ...SHARED, pattern: 'stitch', locateMm: 75, closeMm: 8, lengthMm: 5, fusionOnly: false }
};
export const DEFAULT_TACKS: TackRule = TACK_STARTS['two-stage'];

/** Tacks of one stitch. */
const STITCH = 3;

/** Even spacing of at most `pitch` between two stations, both ends included. */
function evenly(from: number, to: number, pitch: number): number[] {
	const n = Math.max(1, Math.ceil((to - from) / pitch - 1e-9));
	return Array.from({ length: n + 1 }, (_, i) => from + ((to - from) * i) / n);
}

const round = (mm: number) => Math.round(mm * 2) / 2;

/** @returns why a school or an order rule does not apply to these seams, or undefined */
export function tacksDoNotApply(plan: PlanDocument, rule: TackRule, joints?: readonly string[]): string | undefined {
	const { all, seams } = weldedSeams(plan, joints);
	if (!seams.length) return 'There is no seam to tack here.';
	if (rule.order === 'curve-first') {
		const curved = seams.filter(isCurved);
		if (!curved.length) return 'No seam here is curved: take another order.';
		if (curved.length === seams.length) return 'Every seam here is curved, so none can come after the curves: take another order.';
	}
	if (rule.order === 'one-plane-first' && !planeFirst(seams, trueCorner(plan, all)))
		return 'No plane through the true corner holds some of these seams but not all: take another order, or another true corner.';
	if (rule.pattern === 'stitch' && rule.closeMm * (STITCH - 1) + rule.lengthMm >= rule.locateMm)
		return `A stitch of ${STITCH} tacks ${rule.closeMm} mm apart is as long as the ${rule.locateMm} mm from stitch to stitch: set them wider.`;
	return undefined;
}

/** Moves a station off what it must keep clear of, as little as may be; where nothing within half the pitch is clear it stays. */
function clearStation(station: number, from: number, to: number, reach: number, isClear: (x: number) => boolean): number {
	if (isClear(station)) return station;
	for (let d = 0.5; d <= reach; d += 0.5) for (const x of [station - d, station + d]) if (x >= from - 1e-9 && x <= to + 1e-9 && isClear(x)) return x;
	return station;
}

/**
 * @param joints seams to tack, or all. All tacks that locate come before any that close up.
 * @returns new tacks for those seams; tacks of other seams are left to the caller
 * @throws RangeError where the school does not apply
 */
export function tackPattern(plan: PlanDocument, rule: TackRule, joints?: readonly string[]): Tack[] {
	const { all, seams } = weldedSeams(plan, joints);
	if (!seams.length) return [];
	const why = tacksDoNotApply(plan, rule, joints);
	if (why) throw new Refusal(why);
	const corner = trueCorner(plan, all);
	const placed: { seam: SeamInSpace; station: number; stage: 1 | 2 }[] = [];
	for (const seam of seams) {
		const half = rule.lengthMm / 2;
		const clear = Math.min(Math.max(rule.endClearMm, half), seam.lengthMm / 4);
		const [from, to] = [clear, seam.lengthMm - clear];
		const holes = holeDistance(plan, seam);
		const bounds = plan.runs
			.filter((r) => r.joint === seam.joint.id)
			.flatMap((r) => [r.fromMm, r.toMm])
			.filter((b) => b > from && b < to);
		const isClear = (x: number) => holes(x) >= half + rule.otherClearMm && bounds.every((b) => Math.abs(b - x) >= half + rule.otherClearMm);
		const put = (stations: number[], stage: 1 | 2, pitch: number) =>
			stations.forEach((x) => placed.push({ seam, station: clearStation(x, from, to, pitch / 2, isClear), stage }));
		if (rule.pattern === 'corners-and-middles') {
			put([from, seam.lengthMm / 2, to], 1, seam.lengthMm / 4);
			continue;
		}
		if (rule.pattern === 'stitch') {
			const span = (rule.closeMm * (STITCH - 1)) / 2;
			const inner = Math.min(span, (to - from) / 2);
			evenly(from + inner, to - inner, rule.locateMm).forEach((x) => {
				for (let k = 0; k < STITCH; k++)
					placed.push({ seam, station: Math.min(to, Math.max(from, x + (k - (STITCH - 1) / 2) * rule.closeMm)), stage: 1 });
			});
			continue;
		}
		const locate = evenly(from, to, rule.locateMm);
		put(locate, 1, rule.locateMm);
		if (rule.pattern === 'two-stage')
			put(
				locate.slice(1).flatMap((x, i) => evenly(locate[i], x, rule.closeMm).slice(1, -1)),
				2,
				rule.closeMm
			);
	}
	const counts = new Map<string, number>();
	return ([1, 2] as const)
		.flatMap((stage) =>
			inOrder(
				plan,
				rule.order,
				seams,
				placed.filter((p) => p.stage === stage),
				corner
			)
		)
		.map(({ seam, station, stage }) => {
			const key = `${seam.joint.id}-${stage}`;
			const n = (counts.get(key) ?? 0) + 1;
			counts.set(key, n);
			return {
				id: `t-${key}-${n}`,
				joint: seam.joint.id,
				stationMm: round(station),
				lengthMm: rule.lengthMm,
				stage,
				fusionOnly: rule.fusionOnly,
				...(rule.flush ? { flush: true } : {})
			};
		});
}

function inOrder<T extends { seam: SeamInSpace; station: number }>(
	plan: PlanDocument,
	order: TackOrder,
	seams: readonly SeamInSpace[],
	tacks: readonly T[],
	corner: Vec3
): T[] {
	// the joint that takes up the error of the rest comes last
	const last = (s: SeamInSpace) => (s.joint.id === plan.fitUp.adjustingJoint ? 1 : 0);
	const outwards = (list: readonly SeamInSpace[]) => [...list].sort((p, q) => last(p) - last(q) || nearEnd(p, corner) - nearEnd(q, corner));
	const walk = (s: SeamInSpace) => {
		const own = tacks.filter((t) => t.seam === s).sort((p, q) => p.station - q.station);
		return datumIsNear(s, corner) ? own : own.reverse();
	};
	switch (order) {
		case 'from-true-corner':
			return outwards(seams).flatMap(walk);
		case 'curve-first': {
			const curved = seams.filter(isCurved);
			return [...outwards(curved), ...outwards(seams.filter((s) => !curved.includes(s)))].flatMap(walk);
		}
		case 'one-plane-first': {
			const { first, then } = planeFirst(seams, corner)!;
			return [...outwards(first), ...outwards(then)].flatMap(walk);
		}
		case 'bisection':
			return outwards(seams).flatMap((s) => {
				const own = walk(s);
				return spreadOrder(own.length).map((i) => own[i]);
			});
		case 'opposite-ends': {
			// each next tack is the one farthest from the last; of those as far, one on another seam
			const open = outwards(seams).flatMap(walk);
			const held = open.filter((t) => last(t.seam));
			const left = open.filter((t) => !last(t.seam));
			const out: T[] = [];
			while (left.length) {
				const before = out[out.length - 1];
				const at = before?.seam.at(before.station);
				const far = (t: T) => (at ? distance(t.seam.at(t.station), at) + (t.seam === before.seam ? 0 : 1) : 0);
				let best = 0;
				for (let i = 1; i < left.length; i++) if (far(left[i]) > far(left[best]) + 1e-6) best = i;
				out.push(...left.splice(best, 1));
			}
			return [...out, ...held];
		}
	}
}
