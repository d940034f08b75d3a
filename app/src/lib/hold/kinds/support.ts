import { untilCold } from '$core/holds/usual';
import { DARK, HOLDS_WAY, ON_PART, PLACE, threePlaces, type HoldPage } from './kind';

export const support: HoldPage<'support'> = {
	make: ({ part, unique }) =>
		threePlaces(part).map((at, i) => ({
			id: `${unique('support')}-${i}`,
			name: `Support ${i + 1} under ${part.name}`,
			kind: 'support',
			part: part.id,
			at,
			holds: 'normal',
			stiffnessNPerMm: 5000,
			life: untilCold()
		})),
	fields: [ON_PART, HOLDS_WAY, PLACE],
	draw: (h) => [{ by: 'places', shape: 'cone', places: [h], lift: -4, colour: DARK }]
};
