import { NO_BLOCKS, NO_LINE, placeOf, type HoldKind } from './hold';

/** N/mm: a weight lies on the sheet, soft against a clamp (own choice; until the sheet lifts it, it holds as a support would). */
export const WEIGHT_STIFFNESS = 1000;

export const weight: HoldKind<'weight'> = {
	name: 'Weight',
	on: 'part',
	spots: (h) => [{ id: h.id, part: h.part, at: h.at }],
	parts: (h) => [h.part],
	line: NO_LINE,
	hands: (h) => [{ part: h.part, at: h.at, side: 'either' }],
	grips: (h) => [{ by: 'spot', spot: h.id, directions: 'normal', stiffnessNPerMm: WEIGHT_STIFFNESS }],
	blocks: NO_BLOCKS,
	isGripUncertain: true,
	check: (h, c) => void c.liesOn('part', h.part, 'at', h.at),
	where: (h, w) => `${placeOf(h, w)}; ${h.massKg} kg`
};
