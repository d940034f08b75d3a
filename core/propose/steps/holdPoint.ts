/** A stop once it is tacked, where the forecast cannot promise a feature: what is wrong then can still be cut loose. */
import type { ProposalDesk } from '../desk';

/** @param unsure names of features whose band reaches beyond their limits */
export function decideHoldPoint(desk: ProposalDesk, unsure: readonly string[]): void {
	if (!unsure.length || desk.given.holdPoints?.some((h) => h.at === 'tacked')) return;
	const id = free(desk.given.holdPoints?.map((h) => h.id) ?? []);
	desk.add({
		id: 'hold-point',
		kind: 'hold-point',
		what: 'Work waits when tacked: fit-up looked at and signed by an inspector',
		why: `The band of ${unsure.slice(0, 3).join(', ')}${unsure.length > 3 ? ` and ${unsure.length - 3} more` : ''} reaches beyond the limit. Read as tacked, what is off can still be cut loose and set again.`,
		isSilent: true,
		change: {
			holdPoints: [{ id, kind: 'fit-up', at: 'tacked', signs: 'inspector', wanted: `Read as tacked: ${unsure.slice(0, 3).join(', ')}`.slice(0, 200) }]
		}
	});
}
function free(taken: readonly string[]): string {
	let n = 1;
	while (taken.includes(`fit-up-${n}`)) n++;
	return `fit-up-${n}`;
}
