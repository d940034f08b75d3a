/** Rings laid in quarters, each against the one opposite. */
import type { SeamInSpace } from '../../layout/space';
import type { Layout, Piece } from './school';

export function ringQuarters(l: Layout, ring: SeamInSpace): Piece[] {
	const quarter = ring.lengthMm / 4;
	const list = l.pieces(
		ring,
		[0, 1, 2, 3].map((i): [number, number] => [i * quarter, (i + 1) * quarter])
	);
	// locked runs can leave other than four: in their own order then
	return list.length === 4 ? [0, 2, 1, 3].map((i) => list[i]) : list;
}
