import { austenitic, austeniticCurves } from './austenitic';
import { hundreds } from './tables';

/** EN 1993-1-2:2005 table C.1, grade 1.4301: proof strength over its value at 20 °C (from memory). */
export const PROOF_14301 = hundreds(100, 0.82, 0.68, 0.64, 0.6, 0.54, 0.49, 0.4, 0.27, 0.14, 0.06, 0.03, 0);

export const metal = austenitic({
	id: '1.4301',
	name: '304 (1.4301)',
	density: 7900,
	proofStrength: 230,
	curves: austeniticCurves(PROOF_14301),
	filler: '308L',
	usual: ['308L', '308', '309L', '316L']
});
