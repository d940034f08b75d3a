import { NO_BLOCKS, NO_LINE, placeOf, type HoldKind } from './hold';

export const tableTack: HoldKind<'table-tack'> = {
	name: 'Table tacks',
	on: 'part',
	spots: (h) => [{ id: h.id, part: h.part, at: h.at }],
	parts: (h) => [h.part],
	line: NO_LINE,
	hands: (h) => [{ part: h.part, at: h.at, side: 'either' }],
	grips: (h) => [{ by: 'spot', spot: h.id, directions: 'all', stiffnessNPerMm: h.stiffnessNPerMm }],
	blocks: NO_BLOCKS,
	isGripUncertain: true,
	check: (h, c) => void c.liesOn('part', h.part, 'at', h.at),
	where: placeOf
};
