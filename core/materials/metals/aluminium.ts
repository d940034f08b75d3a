/** What the aluminium grades share: EN 1999-1-2:2007 clause 3.3 and tables 1 and 2 (from memory). */
import type { Metal } from './metal';
import { aluminiumTable, type Table } from './tables';

export const aluminium = (own: {
	id: string;
	name: string;
	proofStrength: number;
	/** W/mm.K near room temperature */
	lambda: number;
	/** W/m.K over °C */
	conductivity: (c: number) => number;
	proof: Table;
	filler: string;
	usual: readonly string[];
	why: string;
}): Metal => ({
	id: own.id,
	name: own.name,
	group: 'aluminium',
	gaugeTable: 'aluminium',
	eModulus: 70_000,
	poisson: 0.33,
	proofStrength: own.proofStrength,
	density: 2700,
	conductivity: own.lambda,
	responsePair: { alpha: 24e-6, rhoC: 2700e-9 * 960, lambda: own.lambda, meltC: 620 },
	source: 'EN 1999-1-1 / 1999-1-2 (E 70 GPa, alpha 23e-6, rising with temperature), quoted from memory',
	curves: {
		conductivity: own.conductivity,
		specificHeat: (c) => 0.41 * c + 903,
		elongation: (c) => 0.1e-7 * c * c + 22.5e-6 * c - 4.5e-4,
		e: aluminiumTable(0.97, 0.93, 0.86, 0.78, 0.68, 0.54, 0),
		proof: own.proof,
		solidC: 550,
		topC: 550,
		// ordinary handbook values, from memory
		melts: [580, 640, 390e3],
		source: 'EN 1999-1-2:2007 clause 3.3 and tables 1 and 2'
	},
	hardening: { mpa: 500, source: 'ordinary sheet beyond its yield, from memory' },
	welding: {
		filler: own.filler,
		usual: own.usual,
		why: own.why,
		polarity: 'AC',
		gas: 'Argon',
		needsRootGas: false,
		cautions: ['Aluminium wants alternating current and clean oxide-free edges; the figures here are for the heat only.']
	}
});

/** EN 1999-1-2, 3.3.2: conductivity of 3xxx and 6xxx alloys, and of 5xxx and 7xxx, W/m.K */
export const conductivity6xxx = (c: number) => 0.07 * c + 190;
export const conductivity5xxx = (c: number) => 0.1 * c + 140;
