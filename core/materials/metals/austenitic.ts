/** What the austenitic grades share: EN 1993-1-2:2005 Annex C has one set of thermal curves for them. */
import type { HotCurves, Metal } from './metal';
import { hundreds, type Table } from './tables';

/** EN 1993-1-2:2005 Annex C (C.3.1): elongation of stainless steel from 20 °C to `c` °C. */
export const stainlessElongation = (c: number) => (16 + 4.79e-3 * c - 1.243e-6 * c * c) * (c - 20) * 1e-6;
/** EN 1993-1-2:2005 Annex C (C.3.3): conductivity of stainless steel, W/m.K. */
export const stainlessConductivity = (c: number) => 14.6 + 1.27e-2 * c;
/** EN 1993-1-2:2005 Annex C (C.3.2): specific heat of stainless steel, J/kg.K. */
export const stainlessSpecificHeat = (c: number) => 450 + 0.28 * c - 2.91e-4 * c * c + 1.34e-7 * c * c * c;
/** EN 1993-1-2:2005 table C.1, E of stainless steel over its value at 20 °C (from memory). */
export const STAINLESS_E = hundreds(100, 0.96, 0.92, 0.88, 0.84, 0.8, 0.76, 0.71, 0.63, 0.45, 0.2, 0.1, 0);
/** Melting range, °C, and latent heat, J/kg (ordinary handbook values, from memory). */
export const STAINLESS_MELTS = [1400, 1450, 260e3] as const;

export const austeniticCurves = (proof: Table, source = 'EN 1993-1-2:2005 Annex C'): HotCurves => ({
	conductivity: stainlessConductivity,
	specificHeat: stainlessSpecificHeat,
	elongation: stainlessElongation,
	e: STAINLESS_E,
	proof,
	solidC: 1200,
	topC: 1200,
	melts: STAINLESS_MELTS,
	source
});

export const austenitic = (
	own: Pick<Metal, 'id' | 'name' | 'density' | 'proofStrength' | 'curves'> & { filler: string; usual: readonly string[] }
): Metal => ({
	id: own.id,
	name: own.name,
	group: 'austenitic',
	gaugeTable: 'stainless',
	eModulus: 200_000,
	poisson: 0.3,
	proofStrength: own.proofStrength,
	density: own.density,
	conductivity: 0.015,
	responsePair: { alpha: 17e-6, rhoC: own.density * 1e-9 * 560, lambda: 0.02, meltC: 1400 },
	source: 'EN 10088-1 room-temperature values (quoted from memory); mean values over the weld range chosen so that alpha/rho c = 3.8e-3 mm3/J',
	curves: own.curves,
	hardening: { mpa: 2000, source: 'ordinary sheet beyond its yield, from memory' },
	welding: {
		filler: own.filler,
		usual: own.usual,
		why: `common for ${own.name}`,
		polarity: 'DC-',
		gas: 'Argon',
		needsRootGas: true,
		cautions: []
	}
});
