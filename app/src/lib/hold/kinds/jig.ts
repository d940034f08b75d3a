import { tenth, untilCold } from '$core/holds/usual';
import { pathLength } from '$core/geometry/polyline';
import { DARK, HOLDS_WAY, STRETCH, type HoldPage } from './kind';

export const jig: HoldPage<'jig'> = {
	make: ({ joint, unique }) =>
		joint
			? [
					{
						id: unique('jig'),
						name: `Jig on ${joint.name}`,
						kind: 'jig',
						joint: joint.id,
						fromMm: 0,
						toMm: tenth(pathLength(joint.a.path)),
						holds: 'normal',
						stiffnessNPerMm: 5000,
						life: untilCold()
					}
				]
			: [],
	fields: [...STRETCH, HOLDS_WAY],
	draw: (h) => [{ by: 'seam-line', joint: h.joint, fromMm: h.fromMm, toMm: h.toMm, lift: 4, thick: 1.6, colour: DARK }]
};
