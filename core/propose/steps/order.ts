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
			what: `Weld order: ${ORDER_SCHOOLS[pattern].name.toLowerCase()}, ${runs.length} runs`,
			why: 'Of the schools that apply here it costs least, features, waits and flips together.',
			change: { runs }
		};
		tried.push({ decision, price: desk.price(desk.weigh(decided(plan, [decision]))) });
	}
	const [best] = tried.sort((p, q) => p.price - q.price);
	if (best && (!plan.runs.length || best.price < now)) desk.add(best.decision);
}

function allowed(plan: PlanDocument, runs: Run[], mesh: ReturnType<typeof assemblyMesh>): Run[] | undefined {
	try {
		return feasibleOrder(runs, precedenceOf({ ...plan, runs }, mesh));
	} catch (e) {
		if (!isRefusal(e)) throw e;
		return undefined;
	}
}
