/**
 * Sheet and block metals. Room-temperature values for the closed forms; `responsePair` is the one consistent pair of
 * mean values (over the range the shrinking metal passes through) that every closed-form weld formula uses.
 */
import type { GaugeTable } from '../units/gauge';

export type MaterialGroup = 'austenitic' | 'carbon-steel' | 'aluminium';

export interface Material {
	id: string;
	name: string;
	group: MaterialGroup;
	gaugeTable: GaugeTable;
	/** MPa */
	eModulus: number;
	poisson: number;
	/** MPa, 0.2 % proof strength at room temperature */
	proofStrength: number;
	/** kg/m3 */
	density: number;
	/** W/mm.K near room temperature */
	conductivity: number;
	/** Mean values for weld shrinkage: alpha 1/K, volumetric heat J/mm3.K, conductivity W/mm.K, solidus °C */
	responsePair: { alpha: number; rhoC: number; lambda: number; meltC: number };
	source: string;
}

const EN10088 = 'EN 10088-1 room-temperature values (quoted from memory); mean values over the weld range chosen so that alpha/rho c = 3.8e-3 mm3/J';

const austenitic = (id: string, name: string, density: number, proofStrength: number): Material => ({
	id,
	name,
	group: 'austenitic',
	gaugeTable: 'stainless',
	eModulus: 200_000,
	poisson: 0.3,
	proofStrength,
	density,
	conductivity: 0.015,
	responsePair: { alpha: 17e-6, rhoC: density * 1e-9 * 560, lambda: 0.02, meltC: 1400 },
	source: EN10088
});

const aluminium = (id: string, name: string, proofStrength: number, lambda: number): Material => ({
	id,
	name,
	group: 'aluminium',
	gaugeTable: 'aluminium',
	eModulus: 70_000,
	poisson: 0.33,
	proofStrength,
	density: 2700,
	conductivity: lambda,
	responsePair: { alpha: 24e-6, rhoC: 2700e-9 * 960, lambda, meltC: 620 },
	source: 'EN 1999-1-1 / 1999-1-2 (E 70 GPa, alpha 23e-6, rising with temperature), quoted from memory'
});

export const GRADES: readonly Material[] = [
	austenitic('1.4301', '304 (1.4301)', 7900, 230),
	austenitic('1.4307', '304L (1.4307)', 7900, 220),
	austenitic('1.4404', '316L (1.4404)', 8000, 240),
	austenitic('1.4541', '321 (1.4541)', 7900, 220),
	{
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
		source: 'EN 1993-1-2 clause 3.4 (means over the weld range), quoted from memory'
	},
	aluminium('5052', 'Aluminium 5052', 90, 0.138),
	aluminium('5083', 'Aluminium 5083', 125, 0.117),
	aluminium('6061', 'Aluminium 6061-T6', 240, 0.167)
];

export interface BlockMetal {
	id: 'copper' | 'aluminium' | 'brass';
	name: string;
	/** W/mm.K */
	conductivity: number;
	/** J/mm3.K */
	rhoC: number;
	source: string;
}

/** Metals for backing bars and chill blocks. */
export const BLOCK_METALS: readonly BlockMetal[] = [
	{ id: 'copper', name: 'Copper', conductivity: 0.39, rhoC: 8930e-9 * 385, source: 'handbook values, quoted from memory' },
	{ id: 'aluminium', name: 'Aluminium', conductivity: 0.19, rhoC: 2700e-9 * 900, source: 'handbook values, quoted from memory' },
	{ id: 'brass', name: 'Brass', conductivity: 0.115, rhoC: 8500e-9 * 380, source: 'handbook values, quoted from memory' }
];

/** EN 1993-1-2:2005 Annex C (C.3.1): elongation of stainless steel from 20 °C to `c` °C. */
export const stainlessElongation = (c: number) => (16 + 4.79e-3 * c - 1.243e-6 * c * c) * (c - 20) * 1e-6;
/** EN 1993-1-2:2005 Annex C (C.3.3): conductivity of stainless steel, W/m.K. */
export const stainlessConductivity = (c: number) => 14.6 + 1.27e-2 * c;
/** EN 1993-1-2:2005 Annex C (C.3.2): specific heat of stainless steel, J/kg.K. */
export const stainlessSpecificHeat = (c: number) => 450 + 0.28 * c - 2.91e-4 * c * c + 1.34e-7 * c * c * c;

/** The built-in grade or one of the plan's own materials. @throws RangeError naming the id. */
export function findMaterial(id: string, own: readonly Material[] = []): Material {
	const found = own.find((m) => m.id === id) ?? GRADES.find((m) => m.id === id);
	if (!found) throw new RangeError(`Material “${id}” is not known: add it to the library or choose one of ${GRADES.map((g) => g.id).join(', ')}`);
	return found;
}
