import { backStepped } from './laying';
import { ALWAYS } from '../always';
import type { OrderSchool } from './school';

export const backStep: OrderSchool = {
	name: 'Back-step per seam, opposite seams in turn',
	isIntermittent: false,
	whyNot: ALWAYS,
	lay: (l) => l.seams.flatMap((s) => backStepped(l, s))
};
