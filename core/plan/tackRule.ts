/** Tacks planned by a rule that the seam keeps: used, read back, and used again when a seam gets another length. */
import { pathLength } from '../geometry/polyline';
import { Refusal } from '../refusal/refusal';
import type { Joint, PlanDocument, Tack, TackRule } from './schema';
import { DEFAULT_TACKS, tackPattern } from './tackPatterns';

export const ruleOf = (joint: Pick<Joint, 'tackRule'>): TackRule => joint.tackRule ?? DEFAULT_TACKS;

/** All tacks that locate before any that close up, in the order given otherwise. */
const byStage = (tacks: readonly Tack[]): Tack[] => [...tacks.filter((t) => t.stage === 1), ...tacks.filter((t) => t.stage !== 1)];

/**
 * Plans the tacks of these seams (or all) by a rule, in place, and keeps the rule with them.
 * @throws RangeError where the rule does not apply: nothing is changed then
 */
export function useTackRule(plan: PlanDocument, rule: TackRule, joints?: readonly string[]): void {
	const fresh = tackPattern(plan, rule, joints);
	const others = joints ? plan.tacks.filter((t) => !joints.includes(t.joint)) : [];
	plan.tacks = byStage([...others, ...fresh]);
	for (const j of plan.joints) if (!joints || joints.includes(j.id)) j.tackRule = { ...rule };
}

/** Two tacks this near each other are one, mm. */
const SAME_MM = 0.6;
const isSame = (p: Tack, q: Tack) => Math.abs(p.stationMm - q.stationMm) < SAME_MM && Math.abs(p.lengthMm - q.lengthMm) < 1e-6 && p.stage === q.stage;

/** Tacks of a seam that its rule did not put there: moved, added or given another length by hand. */
export function byHand(plan: PlanDocument, joint: string): Tack[] {
	const j = plan.joints.find((x) => x.id === joint)!;
	let rule: Tack[];
	try {
		// planned before there were runs to keep clear of, or after
		rule = [plan, { ...plan, runs: [] }].flatMap((p) => tackPattern(p, ruleOf(j), [joint]));
	} catch (e) {
		if (!(e instanceof Refusal)) throw e;
		return plan.tacks.filter((t) => t.joint === joint); // its rule no longer applies: all of them stand by themselves
	}
	return plan.tacks.filter((t) => t.joint === joint && !rule.some((r) => isSame(r, t)));
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
		const key = JSON.stringify(ruleOf(now.joints.find((j) => j.id === id)!));
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
		const hand = byHand(before, id);
		const fits = hand.filter((t) => t.stationMm + t.lengthMm / 2 <= length);
		if (fits.length < hand.length)
			notes.push(
				`${hand.length - fits.length} tack${hand.length - fits.length > 1 ? 's' : ''} set by hand on “${joint.name}” lay beyond its new end and went.`
			);
		const { closeMm } = ruleOf(joint);
		fresh = [
			...fresh.filter((t) => t.joint !== id || fits.every((h) => Math.abs(h.stationMm - t.stationMm) >= closeMm / 2)),
			...fits.map((t) => ({ ...t, id: `${t.id}-kept` }))
		];
	}
	return { tacks: byStage(fresh), notes };
}
