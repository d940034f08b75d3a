/** Joints set out of true, as little as does it, so that the piece pulls true. */
import { isRefusal } from '../../refusal/refusal';
import { solvePresets } from '../../search/presets';
import type { ProposalDesk } from '../desk';

export function decidePresets(desk: ProposalDesk): void {
	const { goals, factors, kernel } = desk.options;
	try {
		const advice = solvePresets(desk.plan, goals, { factors, kernel, stop: () => desk.stopped });
		if (!advice.joints.length) return;
		desk.add({
			id: 'presets',
			kind: 'preset',
			what: `Set over before tacking: ${advice.joints.map((j) => `“${j.name}” ${j.toDeg.toFixed(1)}°`).join(', ')}`,
			why: 'The seams pull it back to true: least squares on the forecast itself. Try it on a coupon first.',
			change: { presets: advice.change.presets }
		});
	} catch (e) {
		// a piece without a joint that can turn has nothing to set over
		if (!isRefusal(e)) throw e;
	}
}
