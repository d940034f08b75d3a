/**
 * What the product has to know of a sheet metal: one record a grade, one file a record. A record that leaves an answer out does not
 * compile. Room-temperature values serve the closed forms; `responsePair` is the one consistent pair of mean values (over the range
 * the shrinking metal passes through) that every closed-form weld formula uses.
 */
import type { GaugeTable } from '../../units/gauge';
import type { Table } from './tables';

export const MATERIAL_GROUPS = ['austenitic', 'duplex', 'carbon-steel', 'aluminium'] as const;
export type MaterialGroup = (typeof MATERIAL_GROUPS)[number];

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

/** Curves over °C. Above `topC` the last value holds. */
export interface HotCurves {
	/** W/m.K */
	conductivity(c: number): number;
	/** J/kg.K, without latent heat */
	specificHeat(c: number): number;
	/** strain from 20 °C */
	elongation(c: number): number;
	/** E and 0.2 % proof strength over their values at 20 °C */
	e: Table;
	proof: Table;
	/** no strength left from here on: strain is forgotten, °C */
	solidC: number;
	topC: number;
	/** melting range, °C, and latent heat, J/kg */
	melts: readonly [from: number, to: number, latent: number];
	source: string;
}

export interface Metal extends Material {
	curves: HotCurves;
	/** MPa at 20 °C per unit of plastic strain, beyond the yield; and where that is from */
	hardening: { mpa: number; source: string };
	welding: {
		/** the filler for two sheets of it, and others that are not unusual (common practice, no source) */
		filler: string;
		usual: readonly string[];
		why: string;
		/** of TIG, told of the electrode: an oxide skin wants AC */
		polarity: 'DC-' | 'AC';
		gas: string;
		/** a full-penetration root in air is spoilt: it wants gas on the back */
		needsRootGas: boolean;
		/** said beside the settings */
		cautions: readonly string[];
	};
}
