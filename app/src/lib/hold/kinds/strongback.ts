import { untilCold } from '$core/holds/usual';
import { layoutBox } from '$core/mesh/assemblyMesh';
import { E_STEEL, GREY, placeInside, type HoldPage } from './kind';
import { BAR_SECTIONS, barOf } from '$core/holds/sections';

/** A section that is none of the list's. */
const OWN = 'own';

export const strongback: HoldPage<'strongback'> = {
	make({ part, unique }) {
		const box = layoutBox(part.outline);
		const { at, depth } = placeInside(part);
		const reach = 0.8 * depth;
		const wide = box.x1 - box.x0 > box.y1 - box.y0;
		const path: [number, number][] = wide
			? [
					[at[0] - reach, at[1]],
					[at[0] + reach, at[1]]
				]
			: [
					[at[0], at[1] - reach],
					[at[0], at[1] + reach]
				];
		return [
			{
				id: unique('strongback'),
				name: `Strongback on ${part.name}`,
				kind: 'strongback',
				part: part.id,
				path,
				...BAR_SECTIONS[0].section,
				eModulusMPa: E_STEEL,
				pitchMm: 50,
				life: untilCold()
			}
		];
	},
	fields: [
		{
			is: 'choice',
			name: 'areaMm2',
			label: 'Bar',
			items: [{ value: OWN, name: 'of my own, by its figures' }, ...BAR_SECTIONS.map((b) => ({ value: b.id, name: b.name }))],
			read: (h) => barOf(h)?.id ?? OWN,
			change(h, id) {
				const bar = BAR_SECTIONS.find((b) => b.id === id);
				// on the side it was on
				if (bar) Object.assign(h, { ...bar.section, offsetMm: h.offsetMm < 0 ? -bar.section.offsetMm : bar.section.offsetMm });
			}
		},
		{ is: 'place', name: 'path.0', label: 'One end' },
		{ is: 'place', name: 'path.1', label: 'Other end' },
		{ is: 'number', name: 'iOutMm4', label: 'Stiffness I', unit: 'mm⁴', min: 1, max: 1e10, hint: 'out of the sheet' },
		{ is: 'length', name: 'offsetMm', label: 'Height of its middle', min: -500, max: 500 },
		{ is: 'length', name: 'pitchMm', label: 'Fixed every', min: 5, max: 5000 }
	],
	draw: (h) => [{ by: 'line', ends: h.path.map((at) => ({ part: h.part, at })), liftMm: h.offsetMm, thick: 1.8, colour: GREY }]
};
