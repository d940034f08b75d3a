import { aluminium, conductivity5xxx } from './aluminium';
import { aluminiumTable } from './tables';

export const metal = aluminium({
	id: '5083',
	name: 'Aluminium 5083',
	proofStrength: 125,
	lambda: 0.117,
	conductivity: conductivity5xxx,
	proof: aluminiumTable(1, 0.98, 0.9, 0.75, 0.4, 0.22, 0),
	filler: '5356',
	usual: ['5356', '5183'],
	why: 'common for 5xxx grades'
});
