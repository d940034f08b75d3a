/** Which school of weld order, with the heat that each run leaves to the next and the flips it takes; the final shape then tells. */
import { orderDoesNotApply, orderPattern } from '../../schools/orderPattern';
import { ORDER_PATTERNS, ORDER_SCHOOLS } from '../../schools/orders';
import { orderIsTied } from '../../search/orderModel';
import { feasibleOrder, precedenceOf } from '../../search/precedence';
import { usualLength } from '../../search/table';
import { assemblyMesh } from '../../mesh/assemblyMesh';
import { isRefusal } from '../../refusal/refusal';
import type { PlanDocument, Run } from '../../document/schema';
import { decided, type Decision } from '../decision';
import type { ProposalDesk } from '../desk';

/** Intermittent welds are another joint than the one that was asked for. */
const LEAVES_SEAM_OPEN: readonly string[] = ['chained', 'staggered'];

export function decideOrder(desk: ProposalDesk): void {
	const { plan } = desk;
	if (plan.runs.length > 1 && orderIsTied(plan)) return;
	const now = desk.price(desk.weigh(plan));
	const tried: { decision: Decision; price: number }[] = [];
	const mesh = assemblyMesh(plan);
	for (const pattern of ORDER_PATTERNS) {
		const rule = { pattern, runLengthMm: usualLength(plan.runs) };
		if (desk.stopped) return;
		if (LEAVES_SEAM_OPEN.includes(pattern) || orderDoesNotApply(plan, rule)) continue;
		const runs = allowed(plan, orderPattern(plan, rule), mesh);
		if (!runs) continue;
		const decision: Decision = {
			id: `order-${pattern}`,
			kind: 'order',
			what: `Weld order: ${ORDER_SCHOOLS[pattern].name.toLowerCase()}, ${runs.length === 1 ? 'one run' : `${runs.length} runs`}`,
			why: 'Of the schools that apply here it costs least, features, waits and flips together; the first three by the quick method were weighed by the final shape.',
			change: { runs }
		};
		tried.push({ decision, price: desk.price(desk.weigh(decided(plan, [decision]))) });
	}
	const best = bestOf(
		desk,
		tried.sort((p, q) => p.price - q.price).map((t) => t.decision),
		now
	);
	if (best) desk.add(best);
}

/** Schools that lead by the quick method are weighed by the final shape: it sees what they do to waves and dishing. */
const WEIGHED = 3;
/** @param inTurn best first by the quick method @returns what is better than the order there is */
function bestOf(desk: ProposalDesk, inTurn: readonly Decision[], quickNow: number): Decision | undefined {
	const { plan } = desk;
	const finalNow = plan.runs.length && !desk.stopped ? desk.weighFinal(plan) : undefined;
	if (finalNow) {
		let [best, least]: [Decision | undefined, number] = [undefined, desk.price(finalNow)];
		for (const d of inTurn.slice(0, WEIGHED)) {
			const weighed = desk.stopped ? undefined : desk.weighFinal(decided(plan, [d]));
			const price = weighed ? desk.price(weighed) : Infinity;
			if (price < least) [best, least] = [d, price];
		}
		return best;
	}
	// no final shape to go by
	const [first] = inTurn;
	return first && (!plan.runs.length || desk.price(desk.weigh(decided(plan, [first]))) < quickNow) ? first : undefined;
}

function allowed(plan: PlanDocument, runs: Run[], mesh: ReturnType<typeof assemblyMesh>): Run[] | undefined {
	try {
		return feasibleOrder(runs, precedenceOf({ ...plan, runs }, mesh));
	} catch (e) {
		if (!isRefusal(e)) throw e;
		return undefined;
	}
}
