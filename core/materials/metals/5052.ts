import { aluminium, conductivity5xxx } from './aluminium';
import { aluminiumTable } from './tables';

export const metal = aluminium({
	id: '5052',
	name: 'Aluminium 5052',
	proofStrength: 90,
	lambda: 0.138,
	conductivity: conductivity5xxx,
	proof: aluminiumTable(1, 0.96, 0.82, 0.68, 0.23, 0.11, 0),
	filler: '5356',
	usual: ['5356', '5554'],
	why: 'common for 5xxx grades'
});
