/** Weld orders by school. Every pattern is a starting order that stays editable; run lengths are common practice, no source. */
import type { PlanDocument, Run } from './schema';
import { datumIsNear, oppositeInTurn, seamsInSpace, trueCorner, type SeamInSpace } from './space';

export const ORDER_PATTERNS = ['straight-through', 'back-step', 'skip-round'] as const;
export type OrderPattern = (typeof ORDER_PATTERNS)[number];

export interface OrderRule {
	pattern: OrderPattern;
	runLengthMm: number;
}

export const DEFAULT_ORDER: OrderRule = { pattern: 'back-step', runLengthMm: 50 };

export const ORDER_WORDS: Record<OrderPattern, string> = {
	'straight-through': 'Straight through: each seam in one direction, seam after seam',
	'back-step': 'Back-step per seam, opposite seams in turn',
	'skip-round': 'Skip round: one run, then another seam each time'
};

/** Bounds of equal runs of about the length asked for. */
export function splitSeam(lengthMm: number, runLengthMm: number): [number, number][] {
	const n = Math.max(1, Math.round(lengthMm / runLengthMm));
	const bound = (i: number) => (i === n ? lengthMm : Math.round((lengthMm * i * 10) / n) / 10);
	return Array.from({ length: n }, (_, i) => [bound(i), bound(i + 1)]);
}

/** 0..n-1 so that neighbours are laid far apart in time: ends, then middles of the gaps that are left. */
export function spreadOrder(n: number): number[] {
	const out: number[] = [];
	const open: [number, number][] = [[0, n - 1]];
	const taken = new Set<number>();
	const take = (i: number) => {
		if (i < 0 || i >= n || taken.has(i)) return;
		taken.add(i);
		out.push(i);
	};
	take(0);
	take(n - 1);
	for (let q = 0; q < open.length && out.length < n; q++) {
		const [lo, hi] = open[q];
		const mid = (lo + hi) >> 1;
		take(mid);
		if (mid - lo > 1) open.push([lo, mid]);
		if (hi - mid > 1) open.push([mid, hi]);
	}
	for (let i = 0; i < n; i++) take(i);
	return out;
}

/** @param joints seams to lay, or all; @returns new runs for those seams in weld order */
export function orderPattern(plan: PlanDocument, rule: OrderRule, joints?: readonly string[]): Run[] {
	const all = seamsInSpace(plan);
	const corner = trueCorner(plan, all);
	const seams = oppositeInTurn(
		all.filter((s) => !s.joint.stock && (!joints || joints.includes(s.joint.id))),
		corner
	);
	const runs: Run[] = [];
	const run = (s: SeamInSpace, from: number, to: number, index: number) =>
		runs.push({ id: `r-${s.joint.id}-${index + 1}`, joint: s.joint.id, fromMm: from, toMm: to, pass: 1 });
	/** runs of a seam from the end nearer the true corner */
	const pieces = (s: SeamInSpace) => {
		const list = splitSeam(s.lengthMm, rule.runLengthMm);
		return datumIsNear(s, corner) ? list.map(([a, b]) => ({ near: a, far: b })) : list.map(([a, b]) => ({ near: b, far: a })).reverse();
	};
	switch (rule.pattern) {
		case 'straight-through':
			for (const s of [...seams].sort((p, q) => all.indexOf(p) - all.indexOf(q))) pieces(s).forEach((p, i) => run(s, p.near, p.far, i));
			break;
		case 'back-step':
			// progress away from the corner, each run laid back towards it
			for (const s of seams) pieces(s).forEach((p, i) => run(s, p.far, p.near, i));
			break;
		case 'skip-round': {
			const queues = seams.map((s) => {
				const list = pieces(s);
				return { s, list, order: spreadOrder(list.length) };
			});
			for (let round = 0; queues.some((q) => round < q.order.length); round++)
				for (const q of queues) {
					if (round >= q.order.length) continue;
					const i = q.order[round];
					run(q.s, q.list[i].near, q.list[i].far, i);
				}
			break;
		}
	}
	// the joint that takes up the error of the rest comes last
	const last = (r: Run) => r.joint === plan.fitUp.adjustingJoint;
	return [...runs.filter((r) => !last(r)), ...runs.filter(last)];
}
