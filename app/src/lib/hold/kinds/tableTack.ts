import { untilCold } from '$core/holds/usual';
import { DARK, ON_PART, PLACE, threePlaces, type HoldPage } from './kind';

export const tableTack: HoldPage<'table-tack'> = {
	make: ({ part, unique }) =>
		threePlaces(part).map((at, i) => ({
			id: `${unique('table-tack')}-${i}`,
			name: `Table tack ${i + 1} on ${part.name}`,
			kind: 'table-tack',
			part: part.id,
			at,
			stiffnessNPerMm: 50_000,
			life: untilCold()
		})),
	fields: [ON_PART, PLACE],
	draw: (h) => [{ by: 'places', shape: 'ball', places: [h], lift: -1, colour: DARK }]
};
