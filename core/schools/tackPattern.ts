/** Tacks planned by a school and an order. Every pattern is a starting plan that stays editable. */
import type { PlanDocument, Tack, TackRule } from '../document/schema';
import { holeDistance, twoSided, weldedSeams } from '../layout/seamShape';
import { trueCorner, type SeamInSpace } from '../layout/space';
import { Refusal } from '../refusal/refusal';
import { Assembly } from '../sequence/assembly';
import { tacksInOrder } from '../sequence/precedence';
import { TACK_ORDER_KINDS } from './tackOrders';
import { TACK_SCHOOLS } from './tacks';
import type { TackPlace } from './tacks/school';

/** @returns why a school or an order rule does not apply to these seams, or undefined */
export function tacksDoNotApply(plan: PlanDocument, rule: TackRule, joints?: readonly string[]): string | undefined {
	const { all, seams } = weldedSeams(plan, joints);
	if (!seams.length) return 'There is no seam to tack here.';
	return TACK_ORDER_KINDS[rule.order].whyNot(seams, trueCorner(plan, all)) ?? TACK_SCHOOLS[rule.pattern].whyNot(seams, rule, all);
}

/**
 * @param joints seams to tack, or all. Step by step of the assembly; in each, tacks that locate come before any that close up.
 * @returns new tacks for those seams; tacks of other seams are left to the caller
 * @throws Refusal where the school does not apply
 */
export function tackPattern(plan: PlanDocument, rule: TackRule, joints?: readonly string[]): Tack[] {
	const { all, seams } = weldedSeams(plan, joints);
	if (!seams.length) return [];
	const why = tacksDoNotApply(plan, rule, joints);
	if (why) throw new Refusal(why);
	const seconds = new Set(twoSided(all).map(([, q]) => q.joint.id));
	const places = seams.flatMap((seam) => placesOn(plan, rule, seam, seconds.has(seam.joint.id)));
	const assembly = new Assembly(plan);
	const ordered = assembly.steps.flatMap((_, step) =>
		([1, 2] as const).flatMap((stage) =>
			TACK_ORDER_KINDS[rule.order].order({
				seams: seams.filter((s) => assembly.ofJoint(s.joint.id) === step),
				tacks: places.filter((p) => p.stage === stage && assembly.ofJoint(p.seam.joint.id) === step),
				corner: trueCorner(plan, all),
				isLast: (s) => s.joint.id === plan.fitUp.adjustingJoint
			})
		)
	);
	const counts = new Map<string, number>();
	const tacks = ordered.map(({ seam, station, stage }): Tack => {
		const key = `${seam.joint.id}-${stage}`;
		const n = (counts.get(key) ?? 0) + 1;
		counts.set(key, n);
		return {
			id: `t-${key}-${n}`,
			joint: seam.joint.id,
			stationMm: Math.round(station * 2) / 2,
			lengthMm: rule.lengthMm,
			stage,
			fusionOnly: rule.fusionOnly,
			...(rule.flush ? { flush: true } : {})
		};
	});
	return tacksInOrder(plan, tacks);
}

/** A school's places on one seam, moved clear of its ends, of holes and of where runs meet. */
function placesOn(plan: PlanDocument, rule: TackRule, seam: SeamInSpace, isSecondSide: boolean): (TackPlace & { seam: SeamInSpace })[] {
	const half = rule.lengthMm / 2;
	const clear = Math.min(Math.max(rule.endClearMm, half), seam.lengthMm / 4);
	const [from, to] = [clear, seam.lengthMm - clear];
	const holes = holeDistance(plan, seam);
	const bounds = plan.runs
		.filter((r) => r.joint === seam.joint.id)
		.flatMap((r) => [r.fromMm, r.toMm])
		.filter((b) => b > from && b < to);
	const isClear = (x: number) => holes(x) >= half + rule.otherClearMm && bounds.every((b) => Math.abs(b - x) >= half + rule.otherClearMm);
	return TACK_SCHOOLS[rule.pattern]
		.places({ seam, from, to, isSecondSide }, rule)
		.map((p) => ({ ...p, seam, station: clearStation(p.station, from, to, p.reach, isClear) }));
}

/** Moves a station off what it must keep clear of, as little as may be; where nothing within reach is clear it stays. */
function clearStation(station: number, from: number, to: number, reach: number, isClear: (x: number) => boolean): number {
	if (reach <= 0 || isClear(station)) return station;
	for (let d = 0.5; d <= reach; d += 0.5) for (const x of [station - d, station + d]) if (x >= from - 1e-9 && x <= to + 1e-9 && isClear(x)) return x;
	return station;
}
