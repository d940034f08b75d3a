import { back, inTurn, splitSeam } from './laying';
import type { OrderSchool } from './school';

/** The two halves in turn from the middle, each run laid back towards it: what is still open is always at the free ends. */
export const middleOut: OrderSchool = {
	name: 'From the middle outwards, both halves in turn',
	isIntermittent: false,
	whyNot: (seams, { runLengthMm }) =>
		seams.some((s) => splitSeam(s.lengthMm, runLengthMm).length >= 3)
			? undefined
			: 'No seam here is three runs long, so there is no middle to start from: take shorter runs or another school.',
	lay: (l) =>
		l.seams.flatMap((s) => {
			const list = l.pieces(s);
			const half = list.length >> 1;
			const near = list
				.slice(0, half)
				.reverse()
				.map((piece) => ({ piece, away: true }));
			return inTurn([list.slice(half).map(back), near]);
		})
};
