import { usualBar } from '$core/holds/usual';
import type { Bar } from '$core/document/schema';
import { CONTACT, STRETCH, type HoldPage } from './kind';

const COLOURS = { copper: '#b0693c', brass: '#b9a04a', aluminium: '#a3adb5', own: '#a3adb5' };
const isOwn = (b: Bar) => b.material === 'own' && b.metal !== undefined;

export const bar: HoldPage<'bar'> = {
	make: ({ joint, unique }) => (joint ? [usualBar(joint, unique('bar'))] : []),
	fields: [
		...STRETCH,
		{
			is: 'choice',
			name: 'material',
			label: 'Metal',
			items: [
				{ value: 'copper', name: 'copper' },
				{ value: 'aluminium', name: 'aluminium' },
				{ value: 'brass', name: 'brass' },
				{ value: 'own', name: 'a lump of our own' }
			],
			change(b, v) {
				b.material = v as Bar['material'];
				if (v === 'own') b.metal ??= { conductivity: 0.05, rhoC: 0.0038 };
				else delete b.metal;
			}
		},
		CONTACT,
		{ is: 'number', name: 'metal.conductivity', label: 'Conductivity', unit: 'W/m.K', min: 1, max: 500, times: 1000, when: isOwn },
		{
			is: 'number',
			name: 'metal.rhoC',
			label: 'Heat capacity',
			unit: 'MJ/m³.K',
			min: 0.5,
			max: 10,
			times: 1000,
			hint: 'density times specific heat',
			when: isOwn
		},
		{ is: 'length', name: 'widthMm', label: 'Width', min: 2, max: 500 },
		{ is: 'length', name: 'thicknessMm', label: 'Thickness', min: 1, max: 200 },
		{ is: 'length', name: 'offsetMm', label: 'Middle from the seam', min: -300, max: 300, hint: '0 behind it; minus on sheet A, plus on B' }
	],
	draw: (h) => [{ by: 'seam-line', joint: h.joint, fromMm: h.fromMm, toMm: h.toMm, lift: -3, thick: 2.4, colour: COLOURS[h.material] }]
};
