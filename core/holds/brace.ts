import { pathLength } from '../geometry/polyline';
import { NO_BLOCKS, NO_LINE, placeOf, type HoldKind } from './hold';

export const brace: HoldKind<'brace'> = {
	name: 'Cross bracing',
	on: 'part',
	spots: (h) => [
		{ id: h.id, part: h.part, at: h.at },
		{ id: `${h.id}/b`, part: h.partB, at: h.atB }
	],
	parts: (h) => [h.part, h.partB],
	line: NO_LINE,
	hands: (h) => [
		{ part: h.part, at: h.at, side: 'either' },
		{ part: h.partB, at: h.atB, side: 'either' }
	],
	grips: (h) => [
		{
			by: 'member',
			along: 'spots',
			spots: [h.id, `${h.id}/b`],
			section: { eModulus: h.eModulusMPa, shearModulus: h.eModulusMPa / 2.6, area: h.areaMm2, iUp: h.iMm4, iSide: h.iMm4, torsion: 2 * h.iMm4 }
		}
	],
	blocks: NO_BLOCKS,
	isGripUncertain: false,
	check(h, c) {
		c.liesOn('part', h.part, 'at', h.at);
		if (c.liesOn('partB', h.partB, 'atB', h.atB, true) && h.part === h.partB && pathLength([h.at, h.atB]) < 5)
			c.add('atB', h.atB, 'must be at least 5 mm from the other end');
	},
	where: (h, w) => `${placeOf(h, w)}, to ${placeOf({ part: h.partB, at: h.atB }, w)}`
};
