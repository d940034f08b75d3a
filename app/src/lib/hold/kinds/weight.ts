import { untilCold } from '$core/holds/usual';
import { DARK, ON_PART, PLACE, placeInside, type HoldPage } from './kind';

export const weight: HoldPage<'weight'> = {
	make: ({ part, unique }) => [
		{ id: unique('weight'), name: `Weight on ${part.name}`, kind: 'weight', part: part.id, at: placeInside(part).at, massKg: 10, life: untilCold() }
	],
	fields: [ON_PART, { is: 'number', name: 'massKg', label: 'Weight', unit: 'kg', min: 0.1, max: 2000 }, PLACE],
	draw: (h) => [{ by: 'places', shape: 'drum', places: [h], lift: 4, colour: DARK }]
};
