import { untilCold } from '$core/holds/usual';
import { distance } from '$core/geometry/vec';
import { spaceOf } from '$core/layout/space';
import type { Part } from '$core/document/schema';
import { E_STEEL, GREY, ON_PART, PLACE, placeInside, threePlaces, type HoldPage } from './kind';
import { barSection } from './sections';

export const brace: HoldPage<'brace'> = {
	make({ plan, part, unique }) {
		const s = barSection(20, 5);
		// to the part that lies farthest off, or across this one
		const base = placeInside(part).at;
		const three = threePlaces(part);
		const here = spaceOf(part)(base);
		const away = (p: Part) => distance(spaceOf(p)(placeInside(p).at), here);
		const other = plan.parts.filter((p) => p.id !== part.id).reduce<Part | undefined>((b, p) => (!b || away(p) > away(b) ? p : b), undefined);
		return [
			{
				id: unique('brace'),
				name: `Brace on ${part.name}`,
				kind: 'brace',
				part: part.id,
				at: other ? base : three[0],
				partB: (other ?? part).id,
				atB: other ? placeInside(other).at : three[1],
				areaMm2: s.areaMm2,
				iMm4: s.iInMm4,
				eModulusMPa: E_STEEL,
				life: untilCold()
			}
		];
	},
	fields: [
		ON_PART,
		{ is: 'number', name: 'areaMm2', label: 'Section', unit: 'mm²', min: 1, max: 1e6 },
		PLACE,
		{ is: 'part', name: 'partB', label: 'To part' },
		{ is: 'place', name: 'atB', label: 'Far place' }
	],
	draw: (h) => [
		{
			by: 'line',
			ends: [
				{ part: h.part, at: h.at },
				{ part: h.partB, at: h.atB }
			],
			liftMm: 0,
			thick: 1.8,
			colour: GREY
		}
	]
};
