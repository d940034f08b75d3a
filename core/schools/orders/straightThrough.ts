import { away } from './laying';
import { ALWAYS } from '../always';
import type { OrderSchool } from './school';

export const straightThrough: OrderSchool = {
	name: 'Straight through: each seam in one direction, seam after seam',
	isIntermittent: false,
	whyNot: ALWAYS,
	lay: (l) => l.asListed.flatMap((s) => l.pieces(s).map(away))
};
