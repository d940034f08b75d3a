import { isInside } from '../geometry/polyline';
import type { Vec2 } from '../geometry/vec';
import type { Bolts, Part } from '../document/schema';
import { NO_BLOCKS, NO_LINE, type HoldKind } from './hold';

/** A bolt's head and washer bear this far beyond its hole, mm. */
const BEARS_MM = 2;

/** Where a bolt presses: round its hole, on what sheet there is. */
function bearing(part: Part, centre: Vec2, holeMm: number): Vec2[] {
	const r = holeMm / 2 + BEARS_MM;
	const round: Vec2[] = [
		[centre[0] + r, centre[1]],
		[centre[0], centre[1] + r],
		[centre[0] - r, centre[1]],
		[centre[0], centre[1] - r]
	];
	return round.filter((p) => isInside(p, part.outline) && part.holes.every((h) => !isInside(p, h)));
}

const spotsOf = (h: Bolts, parts: readonly Part[]) => {
	const part = parts.find((p) => p.id === h.part);
	if (!part) return [];
	return h.places.flatMap((c, i) => {
		const round = bearing(part, c, h.holeMm);
		return round.map((at, k) => ({ id: `${h.id}/${i}/${k}`, part: h.part, at, share: round.length }));
	});
};

export const bolts: HoldKind<'bolts'> = {
	name: 'Bolts to a block',
	on: 'part',
	spots: (h, plan) => spotsOf(h, plan.parts).map(({ id, part, at }) => ({ id, part, at })),
	parts: (h) => [h.part],
	line: NO_LINE,
	hands: (h) => h.places.map((at) => ({ part: h.part, at, side: 'either' })),
	grips: (h, plan) =>
		spotsOf(h, plan.parts).map(({ id, share }) => ({ by: 'spot', spot: id, directions: 'all', stiffnessNPerMm: h.stiffnessNPerMm / share })),
	// the block takes heat too, from a face that touches it nobody knows how well: left out, and said in docs/theory/depths.md
	blocks: NO_BLOCKS,
	isGripUncertain: true,
	check(h, c) {
		h.places.forEach((at, i) => {
			if (!c.liesOn('part', h.part, `places[${i}]`, at, true)) return;
			const part = c.plan.parts.find((p) => p.id === h.part);
			if (part && bearing(part, at, h.holeMm).length < 2)
				c.add(`places[${i}]`, at, `needs sheet round it to bear on: a hole of ${h.holeMm} mm here comes too near to an edge`);
		});
	},
	where: (h, w) => `${w.part(h.part)}: ${h.places.length} bolts through holes of ${w.length(h.holeMm)}, drawn down on the block crosswise`
};
