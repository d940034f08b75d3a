import { austenitic, austeniticCurves } from './austenitic';
import { hundreds } from './tables';

export const metal = austenitic({
	id: '1.4541',
	name: '321 (1.4541)',
	density: 7900,
	proofStrength: 220,
	// EN 1993-1-2:2005 table C.1, grade 1.4571 (from memory): both are stabilised with titanium
	curves: austeniticCurves(
		hundreds(100, 0.89, 0.83, 0.77, 0.72, 0.69, 0.66, 0.59, 0.5, 0.28, 0.15, 0.075, 0),
		'EN 1993-1-2:2005 Annex C (1.4571 taken for 1.4541, by analogy)'
	),
	filler: '347',
	usual: ['347', '308L', '321']
});
