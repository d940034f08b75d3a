/** Mitred corners, opposite ones in turn; the two schools differ in which seam of a corner comes first. */
import { distance } from '../../geometry/vec';
import { centreOf, mitredCorners, type MitredCorner } from '../../layout/seamShape';
import type { SeamInSpace } from '../../layout/space';
import { othersBackStepped, whole } from './laying';
import type { Laid, Layout, OrderSchool } from './school';

function oppositeCorners(corners: readonly MitredCorner[]): MitredCorner[] {
	const middle = (c: MitredCorner) => c.faces[0].middle;
	const left = [...corners];
	const out: MitredCorner[] = [];
	while (left.length) {
		const last = out[out.length - 1];
		const pick =
			last && out.length % 2 === 1
				? left.reduce((best, c) => (distance(middle(c), middle(last)) > distance(middle(best), middle(last)) + 1e-6 ? c : best), left[0])
				: left[0];
		out.push(pick);
		left.splice(left.indexOf(pick), 1);
	}
	return out;
}

export const noMitre: OrderSchool['whyNot'] = (seams) => {
	const corners = mitredCorners(seams);
	if (!corners.length) return 'No mitred corner here: two members that meet along faces.';
	return corners.some((c) => c.inside.length || c.outside.length)
		? undefined
		: 'These mitres have faces only (flat bar): there is no outside or inside seam to set apart.';
};

/** @param order the seams of one corner in the order they are laid; `insideOut` lays a face from its inner end outwards */
export function layMitres(
	l: Layout,
	order: (c: MitredCorner, along: (s: SeamInSpace) => Laid[], insideOut: (s: SeamInSpace) => Laid[]) => Laid[]
): Laid[] {
	const corners = oppositeCorners(mitredCorners(l.seams));
	const done = new Set(corners.flatMap((c) => [...c.outside, ...c.faces, ...c.inside]));
	const centre = centreOf(l.seams);
	const insideOut = (s: SeamInSpace) =>
		l.pieces(s, [[0, s.lengthMm]]).map((piece): Laid => ({ piece, away: distance(s.at(piece.near), centre) <= distance(s.at(piece.far), centre) }));
	return [...corners.flatMap((c) => order(c, (s) => whole(l, s), insideOut)), ...othersBackStepped(l, done)];
}
