/** A root that takes up air where it is welded through wants gas, or a bar along it. */
import { findMaterial } from '../../materials/grades';
import { metalOf } from '../../materials/hot';
import type { ProposalDesk } from '../desk';

export function decideRoot(desk: ProposalDesk): void {
	const { given } = desk;
	if ((given.root?.care ?? 'none') !== 'none') return;
	const through = given.joints.filter((j) => {
		const part = given.parts.find((p) => p.id === j.a.part)!;
		return !j.stock && j.penetration === 'full' && metalOf(findMaterial(part.material, given.materials)).welding.needsRootGas;
	});
	if (!through.length) return;
	desk.add({
		id: 'root',
		kind: 'root',
		what: 'Root purged while its seams are welded',
		why: `${through.length === 1 ? `“${through[0].name}” is` : `${through.length} seams are`} welded through in a metal whose root sugars in air (common practice, no source). A bar along the whole root does it too.`,
		isSilent: true,
		change: { rootCare: 'purge' }
	});
}
