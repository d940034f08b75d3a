import { untilCold } from '$core/holds/usual';
import { CONTACT, GREY, type HoldPage } from './kind';
import { isFlatSheet } from '$core/holds/holding-table';

export const holdingTable: HoldPage<'holding-table'> = {
	make({ plan, part, unique }) {
		if (!isFlatSheet(part)) return [];
		// every flat sheet that lies in the plane of the chosen one
		const level = (p: typeof part) => JSON.stringify([p.frame.x, p.frame.y, p.frame.origin[2]]);
		return [
			{
				id: unique('table'),
				name: 'Vacuum table',
				kind: 'holding-table',
				parts: plan.parts.filter((p) => isFlatSheet(p) && level(p) === level(part)).map((p) => p.id),
				by: 'vacuum',
				material: 'aluminium',
				thicknessMm: 20,
				contact: 'fair',
				pitchMm: 100,
				stiffnessNPerMm: 5000,
				life: untilCold()
			}
		];
	},
	fields: [
		{ is: 'parts', name: 'parts', label: 'Holds' },
		{
			is: 'choice',
			name: 'by',
			label: 'Holds by',
			items: [
				{ value: 'vacuum', name: 'vacuum' },
				{ value: 'magnet', name: 'magnets' }
			]
		},
		{
			is: 'choice',
			name: 'material',
			label: 'Top of',
			items: [
				{ value: 'aluminium', name: 'aluminium' },
				{ value: 'steel', name: 'steel' }
			]
		},
		CONTACT,
		{ is: 'length', name: 'thicknessMm', label: 'Thickness of the top', min: 2, max: 200 },
		{ is: 'length', name: 'pitchMm', label: 'Holds every', min: 20, max: 500 }
	],
	draw: (h) => [{ by: 'top', parts: h.parts, thickMm: h.thicknessMm, colour: GREY }]
};
