/** Tacks planned by a rule that the seam keeps: used, read back, and used again when a seam gets another length. */
import { pathLength } from '../geometry/polyline';
import { Refusal } from '../refusal/refusal';
import type { PlanDocument, Tack, TackRule } from '../document/schema';
import { TACK_PATTERNS } from '../document/words';
import { DEFAULT_TACKS, tackStart } from './tacks';
import { tacksInOrder } from '../sequence/precedence';
import { tackPattern } from './tackPattern';

/** Two tacks this near each other are one, mm. */
const SAME_MM = 0.6;
const isSame = (p: Tack, q: Tack) => Math.abs(p.stationMm - q.stationMm) < SAME_MM && Math.abs(p.lengthMm - q.lengthMm) < 1e-6 && p.stage === q.stage;

/**
 * The rule a seam's tacks follow: the one kept with it; where a plan of before keeps none, the school's first rule that puts its tacks
 * where they are; the product's own first rule where none does.
 */
export function ruleOf(plan: PlanDocument, joint: string): TackRule {
	const kept = plan.joints.find((j) => j.id === joint)?.tackRule;
	if (kept) return kept;
	const own = plan.tacks.filter((t) => t.joint === joint);
	const follows = (rule: TackRule) =>
		placesOf(plan, rule, joint).some((places) => places.length === own.length && own.every((t) => places.some((p) => isSame(p, t))));
	return (own.length && TACK_PATTERNS.map(tackStart).find(follows)) || DEFAULT_TACKS;
}

/**
 * Plans the tacks of these seams (or all) by a rule, in place, and keeps the rule with them.
 * @throws RangeError where the rule does not apply: nothing is changed then
 */
export function useTackRule(plan: PlanDocument, rule: TackRule, joints?: readonly string[]): void {
	const fresh = tackPattern(plan, rule, joints);
	const others = joints ? plan.tacks.filter((t) => !joints.includes(t.joint)) : [];
	plan.tacks = tacksInOrder(plan, [...others, ...fresh]);
	for (const j of plan.joints) if (!joints || joints.includes(j.id)) j.tackRule = { ...rule };
}

/** Where a rule puts a seam's tacks: keeping clear of the runs there are, or planned before there were any. Nowhere where it does not apply. */
function placesOf(plan: PlanDocument, rule: TackRule, joint: string): Tack[][] {
	try {
		return [plan, { ...plan, runs: [] }].map((p) => tackPattern(p, rule, [joint]));
	} catch (e) {
		if (!(e instanceof Refusal)) throw e;
		return [];
	}
}

/** Tacks of a seam that its rule did not put there: moved, added or given another length by hand. */
export function byHand(plan: PlanDocument, joint: string): Tack[] {
	const places = placesOf(plan, ruleOf(plan, joint), joint).flat();
	return plan.tacks.filter((t) => t.joint === joint && !places.some((r) => isSame(r, t)));
}

/**
 * The tacks of seams that got another length: by their own rules, with what was set by hand kept at its distance from the datum end
 * where that still lies on the seam (a tack of the rule that it stands in for is left out).
 * @param now the plan with its new sizes @returns the new tacks, and in words what could not be kept
 */
export function retacked(before: PlanDocument, now: PlanDocument, changed: readonly string[]): { tacks: Tack[]; notes: string[] } {
	const notes: string[] = [];
	const rules = new Map<string, string[]>();
	for (const id of changed) {
		const key = JSON.stringify(
			now.joints.find((j) => j.id === id)!.tackRule ?? (before.joints.some((j) => j.id === id) ? ruleOf(before, id) : DEFAULT_TACKS)
		);
		rules.set(key, [...(rules.get(key) ?? []), id]);
	}
	let fresh: Tack[] = [];
	for (const [key, ids] of rules) {
		try {
			fresh.push(...tackPattern(now, JSON.parse(key) as TackRule, ids));
		} catch (e) {
			if (!(e instanceof Refusal)) throw e;
			notes.push(
				`The tack rule of ${ids.length} seam${ids.length > 1 ? 's' : ''} does not apply to the new sizes (${e.message}): planned by the first rule instead.`
			);
			fresh.push(...tackPattern(now, DEFAULT_TACKS, ids));
		}
	}
	for (const id of changed) {
		const old = before.joints.find((j) => j.id === id);
		if (!old) continue;
		const joint = now.joints.find((j) => j.id === id)!;
		const length = pathLength(joint.a.path);
		const own = before.tacks.filter((t) => t.joint === id);
		const all = byHand(before, id);
		// nothing of it follows a rule, and none is kept: planned anew whole, as the note on the seam's new length says
		const hand = all.length === own.length && !old.tackRule ? [] : all;
		const fits = hand.filter((t) => t.stationMm + t.lengthMm / 2 <= length);
		if (fits.length < hand.length)
			notes.push(
				`${hand.length - fits.length} tack${hand.length - fits.length > 1 ? 's' : ''} set by hand on “${joint.name}” lay beyond its new end and went.`
			);
		const { closeMm } = ruleOf(before, id);
		fresh = [
			...fresh.filter((t) => t.joint !== id || fits.every((h) => Math.abs(h.stationMm - t.stationMm) >= closeMm / 2)),
			...fits.map((t, i) => ({ ...t, id: `t-${id}-hand-${i + 1}` }))
		];
	}
	return { tacks: tacksInOrder(now, fresh), notes };
}
