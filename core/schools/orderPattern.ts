/** Runs laid by a school of weld order, round the runs that are locked. */
import { weldedSeams } from '../layout/seamShape';
import { datumIsNear, oppositeInTurn, trueCorner, type SeamInSpace } from '../layout/space';
import type { PlanDocument, Run } from '../document/schema';
import { Refusal } from '../refusal/refusal';
import { runsInOrder } from '../sequence/precedence';
import { ORDER_SCHOOLS, type OrderRule } from './orders';
import { splitSeam } from './orders/laying';
import type { Layout, Piece } from './orders/school';

/** @returns why a school does not apply to these seams, or undefined */
export function orderDoesNotApply(plan: PlanDocument, rule: OrderRule, joints?: readonly string[]): string | undefined {
	const { seams } = weldedSeams(plan, joints);
	return seams.length ? ORDER_SCHOOLS[rule.pattern].whyNot(seams, rule) : 'There is no seam to weld here.';
}

/**
 * @param joints seams to lay, or all. Locked runs of these seams stay as they are and where they are in the order.
 * @returns new runs for those seams in weld order
 * @throws Refusal where the school does not apply
 */
export function orderPattern(plan: PlanDocument, rule: OrderRule, joints?: readonly string[]): Run[] {
	const { all, seams: given } = weldedSeams(plan, joints);
	if (!given.length) return [];
	const why = orderDoesNotApply(plan, rule, joints);
	if (why) throw new Refusal(why);
	const corner = trueCorner(plan, all);
	const seams = oppositeInTurn(given, corner);
	const locked = plan.runs.filter((r) => r.locked && seams.some((s) => s.joint.id === r.joint));
	const layout: Layout = {
		plan,
		settings: rule,
		seams,
		asListed: all.filter((s) => seams.includes(s)),
		pieces: (seam, bounds = splitSeam(seam.lengthMm, rule.runLengthMm)) => piecesOf(seam, bounds, locked, datumIsNear(seam, corner))
	};
	const runs = ORDER_SCHOOLS[rule.pattern].lay(layout).map(({ piece, away }): Run => ({
		id: freshId(piece, locked),
		joint: piece.seam.joint.id,
		fromMm: away ? piece.near : piece.far,
		toMm: away ? piece.far : piece.near,
		pass: 1
	}));
	// step by step of the assembly; in each the joint that takes up the error of the rest comes last
	return withLocked(runsInOrder(plan, runs), locked, plan.runs);
}

function piecesOf(seam: SeamInSpace, bounds: readonly [number, number][], locked: readonly Run[], fromDatum: boolean): Piece[] {
	const own = locked.filter((r) => r.joint === seam.joint.id);
	const list = bounds.flatMap((b) => without(b, own));
	const ends = fromDatum ? list.map(([a, b]) => ({ near: a, far: b })) : list.map(([a, b]) => ({ near: b, far: a })).reverse();
	return ends.map((p, index) => ({ seam, ...p, index }));
}

const freshId = ({ seam, index }: Piece, locked: readonly Run[]) => {
	let id = `r-${seam.joint.id}-${index + 1}`;
	while (locked.some((r) => r.id === id)) id += 'x';
	return id;
};

/** A stretch less what locked runs cover; scraps under 2 mm are left to their neighbours. */
function without([from, to]: readonly [number, number], locked: readonly Run[]): [number, number][] {
	let open: [number, number][] = [[from, to]];
	for (const r of locked) {
		const [lo, hi] = [Math.min(r.fromMm, r.toMm), Math.max(r.fromMm, r.toMm)];
		open = open.flatMap(([a, b]): [number, number][] =>
			hi <= a || lo >= b
				? [[a, b]]
				: [
						[a, lo],
						[hi, b]
					]
		);
	}
	return open.filter(([a, b]) => b - a >= (to - from < 2 ? 0 : 2));
}

/** New runs of some seams in the plan's order: where the first of the old ones stood, or where the assembly allows; locked runs keep their places among all. */
export function putInOrder(plan: PlanDocument, fresh: readonly Run[], joints: readonly string[]): Run[] {
	const before = plan.runs;
	const rest = before.filter((r) => !joints.includes(r.joint));
	const first = before.findIndex((r) => joints.includes(r.joint));
	const at = first < 0 ? rest.length : first;
	const next = [...rest.slice(0, at), ...fresh, ...rest.slice(at)];
	return withLocked(
		runsInOrder(
			plan,
			next.filter((r) => !r.locked)
		),
		before.filter((r) => r.locked),
		before
	);
}

/** Puts locked runs back at the places they had among all runs. */
function withLocked(fresh: Run[], locked: readonly Run[], before: readonly Run[]): Run[] {
	const out = [...fresh];
	for (const r of locked) out.splice(Math.min(out.length, before.indexOf(r)), 0, r);
	return out;
}
