import { PROOF_14301 } from './1.4301';
import { austenitic, austeniticCurves } from './austenitic';

export const metal = austenitic({
	id: '1.4307',
	name: '304L (1.4307)',
	density: 7900,
	proofStrength: 220,
	curves: austeniticCurves(PROOF_14301),
	filler: '308L',
	usual: ['308L', '309L', '316L']
});
