import { pathLength } from '../geometry/polyline';
import { NO_BLOCKS, NO_SPOTS, type HoldKind } from './hold';
import { barOf } from './sections';

export const strongback: HoldKind<'strongback'> = {
	name: 'Strongback',
	on: 'part',
	spots: NO_SPOTS,
	parts: (h) => [h.part],
	line: (h) => ({ path: h.path, pitchMm: h.pitchMm }),
	hands: (h) =>
		[h.path[0], h.path[h.path.length - 1]].map((at) => ({ part: h.part, at, side: h.offsetMm > 0 ? 'front' : h.offsetMm < 0 ? 'back' : 'either' })),
	grips: (h) => [
		{
			by: 'member',
			along: 'line',
			offsetMm: h.offsetMm,
			section: {
				eModulus: h.eModulusMPa,
				shearModulus: h.eModulusMPa / 2.6,
				area: h.areaMm2,
				iUp: h.iOutMm4,
				iSide: h.iInMm4,
				torsion: h.torsionMm4
			}
		}
	],
	blocks: NO_BLOCKS,
	isGripUncertain: false,
	check(h, c) {
		if (h.path.every((p) => c.liesOn('part', h.part, 'path', p, true)) && pathLength(h.path) < 10)
			c.add('path', `${pathLength(h.path).toFixed(1)} mm`, 'must be at least 10 mm long');
	},
	where(h, w) {
		const ends = [h.path[0], h.path[h.path.length - 1]].map((at) => `${w.length(at[0])} across and ${w.length(at[1])} up`);
		const bar = barOf(h);
		return `${bar ? `${bar.name}; ` : ''}${w.part(h.part)}, from ${ends[0]} to ${ends[1]} its flat layout, fixed every ${w.length(h.pitchMm)}`;
	}
};
