/** A fan where the waits for the interpass ceiling are worth switching it on. */
import { decided } from '../decision';
import type { Decision } from '../decision';
import type { ProposalDesk } from '../desk';

/** Less than this saved is not worth a fan, min (own estimate). */
const LEAST_MIN = 2;

export function decideCooling(desk: ProposalDesk): void {
	const { plan } = desk;
	if (plan.runs.some((r) => r.cooling && r.cooling !== 'still')) return;
	const fan: Decision = {
		id: 'fan',
		kind: 'cooling',
		what: 'A fan on the piece in every wait',
		why: '',
		change: { fan: true }
	};
	const saved = desk.weigh(plan).minutes - desk.weigh(decided(plan, [fan])).minutes;
	if (saved < LEAST_MIN) return;
	desk.add({
		...fan,
		why: `The waits under ${plan.interpassLimitC} °C get ${saved.toFixed(0)} min shorter. Off while the arc burns: it blows the gas away.`
	});
}
