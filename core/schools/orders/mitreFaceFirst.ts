import { layMitres, noMitre } from './mitre';
import type { OrderSchool } from './school';

export const mitreFaceFirst: OrderSchool = {
	name: 'Mitre: one face first, outside, other face, inside fillet last',
	isIntermittent: false,
	whyNot: noMitre,
	lay: (l) =>
		layMitres(l, (c, along, insideOut) => [
			...c.faces.slice(0, 1).flatMap(insideOut),
			...c.outside.flatMap(along),
			...c.faces.slice(1).flatMap(insideOut),
			...c.inside.flatMap(along)
		])
};
