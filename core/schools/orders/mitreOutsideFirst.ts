import { layMitres, noMitre } from './mitre';
import type { OrderSchool } from './school';

export const mitreOutsideFirst: OrderSchool = {
	name: 'Mitre: outside first, faces from inside out, inside fillet last',
	isIntermittent: false,
	whyNot: noMitre,
	lay: (l) => layMitres(l, (c, along, insideOut) => [...c.outside.flatMap(along), ...c.faces.flatMap(insideOut), ...c.inside.flatMap(along)])
};
