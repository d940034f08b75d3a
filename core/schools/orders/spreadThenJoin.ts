import { away, splitSeam, spreadOrder } from './laying';
import type { OrderSchool } from './school';

/** Every other run far apart first, on all seams; then the gaps between are joined. */
export const spreadThenJoin: OrderSchool = {
	name: 'Spread, then join the dots',
	isIntermittent: false,
	whyNot: (seams, { runLengthMm }) =>
		seams.some((s) => splitSeam(s.lengthMm, runLengthMm).length >= 4)
			? undefined
			: 'No seam here is four runs long, so there is nothing to spread: take shorter runs or another school.',
	lay(l) {
		const lists = l.seams.map((s) => l.pieces(s));
		const every = (odd: 0 | 1) =>
			lists.flatMap((list) => {
				const own = list.filter((_, i) => i % 2 === odd);
				return spreadOrder(own.length).map((i) => away(own[i]));
			});
		return [...every(0), ...every(1)];
	}
};
