import { aluminium, conductivity6xxx } from './aluminium';
import { aluminiumTable } from './tables';

export const metal = aluminium({
	id: '6061',
	name: 'Aluminium 6061-T6',
	proofStrength: 240,
	lambda: 0.167,
	conductivity: conductivity6xxx,
	proof: aluminiumTable(0.95, 0.91, 0.79, 0.55, 0.31, 0.1, 0),
	filler: '4043',
	usual: ['4043', '5356'],
	why: '6xxx cracks without a silicon filler'
});
