/** Tack plans by school. Every pattern is a starting plan that stays editable; figures are common practice, no source. */
import type { PlanDocument, Tack } from './schema';
import { datumIsNear, nearEnd, seamsInSpace, trueCorner, type SeamInSpace } from './space';

export const TACK_PATTERNS = ['two-stage', 'corners-and-middles'] as const;
export type TackPattern = (typeof TACK_PATTERNS)[number];

export interface TackRule {
	pattern: TackPattern;
	/** distance of the tacks that locate, mm */
	locateMm: number;
	/** distance of the tacks that close up, mm */
	closeMm: number;
	lengthMm: number;
	fusionOnly: boolean;
	/** clear of each end of a seam, mm */
	endClearMm: number;
}

export const DEFAULT_TACKS: TackRule = { pattern: 'two-stage', locateMm: 75, closeMm: 20, lengthMm: 5, fusionOnly: true, endClearMm: 6 };

/** Even spacing of at most `pitch` between two stations, both ends included. */
function evenly(from: number, to: number, pitch: number): number[] {
	const n = Math.max(1, Math.ceil((to - from) / pitch - 1e-9));
	return Array.from({ length: n + 1 }, (_, i) => from + ((to - from) * i) / n);
}

const round = (mm: number) => Math.round(mm * 2) / 2;

/**
 * @param joints seams to tack, or all. Order: from the true corner outwards, seam by seam, each from its near end;
 * all tacks that locate come before any that close up.
 * @returns new tacks for those seams; tacks of other seams are left to the caller
 */
export function tackPattern(plan: PlanDocument, rule: TackRule, joints?: readonly string[]): Tack[] {
	const all = seamsInSpace(plan);
	const corner = trueCorner(plan, all);
	// the joint that takes up the error of the rest comes last
	const last = (s: SeamInSpace) => (s.joint.id === plan.fitUp.adjustingJoint ? 1 : 0);
	const seams = all
		.filter((s) => !s.joint.stock && (!joints || joints.includes(s.joint.id)))
		.sort((p, q) => last(p) - last(q) || nearEnd(p, corner) - nearEnd(q, corner));
	const stage1: Tack[] = [];
	const stage2: Tack[] = [];
	const tack = (s: SeamInSpace, station: number, stage: 1 | 2, index: number): Tack => ({
		id: `t-${s.joint.id}-${stage}-${index + 1}`,
		joint: s.joint.id,
		stationMm: round(station),
		lengthMm: rule.lengthMm,
		stage,
		fusionOnly: rule.fusionOnly
	});
	for (const s of seams) {
		const clear = Math.min(rule.endClearMm, s.lengthMm / 4);
		const [from, to] = [clear, s.lengthMm - clear];
		const walk = (stations: number[]) => (datumIsNear(s, corner) ? stations : [...stations].reverse());
		if (rule.pattern === 'corners-and-middles') {
			walk([from, s.lengthMm / 2, to]).forEach((x, i) => stage1.push(tack(s, x, 1, i)));
			continue;
		}
		const locate = evenly(from, to, rule.locateMm);
		walk(locate).forEach((x, i) => stage1.push(tack(s, x, 1, i)));
		const between = locate.slice(1).flatMap((x, i) => evenly(locate[i], x, rule.closeMm).slice(1, -1));
		walk(between).forEach((x, i) => stage2.push(tack(s, x, 2, i)));
	}
	return [...stage1, ...stage2];
}
