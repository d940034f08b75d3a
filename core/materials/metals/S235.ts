import type { Metal } from './metal';
import { hundreds } from './tables';

/** EN 1993-1-2:2005, 3.4.1.1 elongation of carbon steel (from memory), from 20 °C */
export const steelElongation = (c: number) => (c < 750 ? 1.2e-5 * c + 0.4e-8 * c * c - 2.416e-4 : c <= 860 ? 1.1e-2 : 2e-5 * c - 6.2e-3);
/** 3.4.1.3, W/m.K */
export const steelConductivity = (c: number) => (c < 800 ? 54 - 3.33e-2 * c : 27.3);
/** 3.4.1.2, J/kg.K */
export const steelSpecificHeat = (c: number) =>
	c < 600 ? 425 + 0.773 * c - 1.69e-3 * c * c + 2.22e-6 * c ** 3 : c < 735 ? 666 + 13002 / (738 - c) : c < 900 ? 545 + 17820 / (c - 731) : 650;

export const metal: Metal = {
	id: 'S235',
	name: 'Carbon steel S235',
	group: 'carbon-steel',
	gaugeTable: 'carbon-steel',
	eModulus: 210_000,
	poisson: 0.3,
	proofStrength: 235,
	density: 7850,
	conductivity: 0.05,
	responsePair: { alpha: 13.5e-6, rhoC: 7850e-9 * 620, lambda: 0.04, meltC: 1480 },
	source: 'EN 1993-1-2 clause 3.4 (means over the weld range), quoted from memory',
	curves: {
		conductivity: steelConductivity,
		specificHeat: steelSpecificHeat,
		elongation: steelElongation,
		// EN 1993-1-2:2005 table 3.1, E and effective yield strength of carbon steel (from memory)
		e: hundreds(100, 1, 0.9, 0.8, 0.7, 0.6, 0.31, 0.13, 0.09, 0.0675, 0.045, 0.0225, 0),
		proof: hundreds(100, 1, 1, 1, 1, 0.78, 0.47, 0.23, 0.11, 0.06, 0.04, 0.02, 0),
		solidC: 1200,
		topC: 1200,
		// ordinary handbook values, from memory
		melts: [1470, 1520, 250e3],
		source: 'EN 1993-1-2:2005 clause 3.4 and table 3.1'
	},
	hardening: { mpa: 1000, source: 'ordinary sheet beyond its yield, from memory' },
	welding: {
		filler: 'G3Si1',
		usual: ['G3SI1', 'G4SI1', 'W3SI1', 'ER70S-6', 'ER70S-2'],
		why: 'common for structural steel',
		polarity: 'DC-',
		gas: 'Argon',
		needsRootGas: false,
		cautions: []
	}
};
