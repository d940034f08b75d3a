import { austenitic, austeniticCurves } from './austenitic';
import { hundreds } from './tables';

export const metal = austenitic({
	id: '1.4404',
	name: '316L (1.4404)',
	density: 8000,
	proofStrength: 240,
	// EN 1993-1-2:2005 table C.1, grade 1.4401 / 1.4404 (from memory)
	curves: austeniticCurves(hundreds(100, 0.88, 0.76, 0.71, 0.66, 0.63, 0.61, 0.51, 0.4, 0.19, 0.1, 0.07, 0)),
	filler: '316L',
	usual: ['316L', '318']
});
