import { whole } from './laying';
import { ALWAYS } from '../always';
import type { OrderSchool } from './school';

export const oneHit: OrderSchool = {
	name: 'One hit per seam, opposite seams in turn',
	isIntermittent: false,
	whyNot: ALWAYS,
	lay: (l) => l.seams.flatMap((s) => whole(l, s))
};
