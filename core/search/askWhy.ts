/**
 * Why is a thing in the plan, and what if it were not: the plans without it, moved, turned or halved, to be held against the plan as it
 * stands. What each makes of the features is for the forecast to say.
 */
import type { AnyHoldDown, PlanDocument } from '../document/schema';
import { pathLength } from '../geometry/polyline';
import { checkPlan } from '../plan/check';
import { isRefusal } from '../refusal/refusal';
import { moveRuns, reverseRuns } from '../schools/orderEdit';
import { brokenRule } from '../sequence/precedence';

/** What a person points at. */
export interface PointedAt {
	kind: 'hold-down' | 'tack' | 'run' | 'joint';
	id: string;
}
/** Another plan in one respect. */
export interface Other {
	id: string;
	/** as it would be, in words that go after “if it were” */
	label: string;
	plan: PlanDocument;
}

/** mm a thing is moved to see what its place is worth */
const MOVED = 20;

/** Only such as could be carried out. */
export function othersOf(plan: PlanDocument, at: PointedAt): Other[] {
	const made = MAKE[at.kind](plan, at.id);
	return made.filter((o) => !checkPlan(o.plan).length && !(brokenRule(o.plan) && !brokenRule(plan)));
}

const MAKE: Record<PointedAt['kind'], (plan: PlanDocument, id: string) => Other[]> = {
	'hold-down': (plan, id) => {
		const h = plan.holdDowns.find((x) => x.id === id);
		if (!h) return [];
		const instead = (other: AnyHoldDown): PlanDocument => ({ ...plan, holdDowns: plan.holdDowns.map((x) => (x.id === id ? other : x)) });
		const out: Other[] = [{ id: 'without', label: 'not there', plan: { ...plan, holdDowns: plan.holdDowns.filter((x) => x.id !== id) } }];
		if (h.kind === 'bar') {
			const middle = (h.fromMm + h.toMm) / 2;
			out.push({ id: 'half', label: 'half as long', plan: instead({ ...h, toMm: middle }) });
		}
		if (h.kind === 'clamp') {
			const length = lengthOf(plan, h.joint);
			for (const by of [-MOVED, MOVED])
				if (h.stationMm + by > 0 && h.stationMm + by < length)
					out.push({
						id: `moved${by}`,
						label: `${MOVED} mm ${by < 0 ? 'nearer the datum' : 'farther on'}`,
						plan: instead({ ...h, stationMm: h.stationMm + by })
					});
		}
		if (h.life.off === 'when-cold')
			out.push({ id: 'early', label: 'off after tacking', plan: instead({ ...h, life: { ...h.life, off: 'after-tacks' } }) });
		return out;
	},
	tack: (plan, id) => {
		const t = plan.tacks.find((x) => x.id === id);
		if (!t) return [];
		return [
			{ id: 'without', label: 'not there', plan: { ...plan, tacks: plan.tacks.filter((x) => x.id !== id) } },
			{ id: 'twice', label: 'twice as long', plan: { ...plan, tacks: plan.tacks.map((x) => (x.id === id ? { ...x, lengthMm: 2 * x.lengthMm } : x)) } }
		];
	},
	run: (plan, id) => {
		const ids = new Set([id]);
		const last = plan.runs.length - 1;
		const at = plan.runs.findIndex((r) => r.id === id);
		if (at < 0) return [];
		const out: Other[] = [{ id: 'turned', label: 'laid the other way', plan: { ...plan, runs: reverseRuns(plan.runs, ids) } }];
		for (const [to, label] of [
			[0, 'the first of all'],
			[last, 'the last of all']
		] as const)
			if (at !== to)
				out.push(...attempt(() => ({ id: `at${to}`, label, plan: { ...plan, runs: moveRuns(plan.runs, ids, to === 0 ? 0 : last + 1) } })));
		return out;
	},
	joint: (plan, id) => {
		const j = plan.joints.find((x) => x.id === id);
		if (!j || j.stock) return [];
		const out: Other[] = [];
		if (j.presetDeg)
			out.push({ id: 'no-preset', label: 'set true', plan: { ...plan, joints: plan.joints.map((x) => (x.id === id ? { ...x, presetDeg: 0 } : x)) } });
		const own = plan.holdDowns.filter((h) => 'joint' in h && h.joint === id);
		if (own.length) out.push({ id: 'free', label: 'held by nothing', plan: { ...plan, holdDowns: plan.holdDowns.filter((h) => !own.includes(h)) } });
		const runs = plan.runs.filter((r) => r.joint === id);
		if (runs.length > 1) {
			const [first] = runs;
			const whole = { ...first, fromMm: 0, toMm: lengthOf(plan, id) };
			const rest = plan.runs.filter((r) => r.joint !== id || r === first);
			out.push({ id: 'one-hit', label: 'welded in one go', plan: { ...plan, runs: rest.map((r) => (r === first ? whole : r)) } });
		}
		return out;
	}
};

const lengthOf = (plan: PlanDocument, joint: string) => pathLength(plan.joints.find((j) => j.id === joint)!.a.path);
function attempt(make: () => Other): Other[] {
	try {
		return [make()];
	} catch (e) {
		if (!isRefusal(e)) throw e;
		return [];
	}
}
