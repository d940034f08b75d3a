import { ringsInRow } from '../../layout/seamShape';
import { away, endsInTurn, othersBackStepped } from './laying';
import { ringQuarters } from './rings';
import type { OrderSchool } from './school';

/** One pair of opposite quarters on every ring, from alternate ends; then the crossing pair, the other way round. */
export const crossHatch: OrderSchool = {
	name: 'Row of rings cross-hatched: ends in turn, opposite quarters',
	isIntermittent: false,
	whyNot: (seams) =>
		ringsInRow(seams) ? undefined : 'Cross-hatching is for three or more rings in a row, such as sockets on a tube: there are none here.',
	lay(l) {
		const row = ringsInRow(l.seams)!;
		const turn = endsInTurn(row.length).map((i) => ringQuarters(l, row[i]));
		const first = turn.flatMap((q) => q.slice(0, 2));
		const second = [...turn].reverse().flatMap((q) => q.slice(2));
		return [...first.map(away), ...second.map(away), ...othersBackStepped(l, new Set(row))];
	}
};
