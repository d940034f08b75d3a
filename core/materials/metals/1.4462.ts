import { stainlessSpecificHeat, STAINLESS_E, STAINLESS_MELTS } from './austenitic';
import type { Metal } from './metal';
import { hundreds } from './tables';

/**
 * Mean elongation per degree from 20 °C, 1e-6/K: EN 10088-1 gives 13.0, 13.5 and 14.0 up to 100, 200 and 300 °C (from memory). Above,
 * the rise is carried on to 16 and held there: an own estimate, between ferrite and austenite.
 */
const meanAlpha = (c: number) => Math.min(16, 12.5 + 0.005 * c);

export const metal: Metal = {
	id: '1.4462',
	name: 'Duplex 2205 (1.4462)',
	group: 'duplex',
	gaugeTable: 'stainless',
	eModulus: 200_000,
	poisson: 0.3,
	proofStrength: 480,
	density: 7800,
	conductivity: 0.015,
	responsePair: { alpha: 14.5e-6, rhoC: 7800e-9 * 580, lambda: 0.021, meltC: 1400 },
	source:
		'EN 10088-1 and EN 10088-2 (cold rolled sheet) room-temperature values, quoted from memory; mean values over the weld range by own estimate',
	curves: {
		// EN 10088-1: 15, 16, 17 and 18 W/m.K at 20, 100, 200 and 300 °C (from memory), carried on
		conductivity: (c) => 14.8 + 0.011 * c,
		specificHeat: stainlessSpecificHeat,
		elongation: (c) => meanAlpha(c) * 1e-6 * (c - 20),
		e: STAINLESS_E,
		// EN 1993-1-2:2005 table C.1, grade 1.4462 (from memory)
		proof: hundreds(100, 0.91, 0.8, 0.75, 0.72, 0.65, 0.56, 0.37, 0.26, 0.1, 0.03, 0.015, 0),
		solidC: 1200,
		topC: 1200,
		melts: STAINLESS_MELTS,
		source: 'EN 1993-1-2:2005 Annex C, EN 10088-1 for elongation and conductivity up to 300 °C (own estimate above)'
	},
	hardening: { mpa: 2000, source: 'taken as that of austenitic sheet, own estimate' },
	welding: {
		filler: '2209',
		usual: ['2209', '2594'],
		why: 'over-alloyed in nickel, so that the weld keeps its share of austenite',
		polarity: 'DC-',
		gas: 'Argon',
		needsRootGas: true,
		cautions: [
			'Duplex: neither fuse it without filler nor cool it at once with water; keep the heat between about 0.5 and 2.5 kJ/mm as its maker says, and the interpass temperature at 150 °C or less (common practice, no source). Copper under thin sheet cools the root fast and leaves it ferritic.'
		]
	}
};
