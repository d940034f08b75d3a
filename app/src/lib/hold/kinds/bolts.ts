import { untilCold } from '$core/holds/usual';
import { ringMiddle } from '$core/geometry/polyline';
import type { Vec2 } from '$core/geometry/vec';
import { DARK, threePlaces, type HoldPage } from './kind';

/** Bolts of a round hole: the middle of each hole, and how wide it is. */
function boltHoles(holes: readonly (readonly Vec2[])[]): { at: Vec2; mm: number }[] {
	return holes.flatMap((h) => {
		const at = ringMiddle(h);
		const radii = h.map((p) => Math.hypot(p[0] - at[0], p[1] - at[1]));
		const [least, most] = [Math.min(...radii), Math.max(...radii)];
		return most < 20 && most - least < 0.2 ? [{ at, mm: 2 * most }] : [];
	});
}

export const bolts: HoldPage<'bolts'> = {
	make({ part, unique }) {
		const holes = boltHoles(part.holes);
		return [
			{
				id: unique('bolts'),
				name: `Bolts of ${part.name}`,
				kind: 'bolts',
				part: part.id,
				places: holes.length > 1 ? holes.map((h) => h.at) : threePlaces(part),
				holeMm: holes.length > 1 ? Math.round(10 * holes[0].mm) / 10 : 8,
				stiffnessNPerMm: 100_000,
				life: untilCold()
			}
		];
	},
	fields: [{ is: 'length', name: 'holeMm', label: 'Holes', min: 2, max: 40 }],
	draw: (h) => [{ by: 'places', shape: 'drum', places: h.places.map((at) => ({ part: h.part, at })), lift: 1, colour: DARK }]
};
