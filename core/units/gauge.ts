/** Sheet gauge by metal, millimetres. */
export type GaugeTable = 'stainless' | 'carbon-steel' | 'aluminium';

/**
 * Stainless: US standard gauge, thickness from weight at 0.28 lb/in2 per in (e.g. 16 ga = 1/16 in = 1.588 mm).
 * Carbon steel: manufacturers' standard gauge (16 ga = 0.0598 in). Aluminium: Brown & Sharpe (16 ga = 0.0508 in).
 * Values from memory of the published tables.
 */
const TABLES: Record<GaugeTable, Record<number, number>> = {
	stainless: { 10: 3.571, 12: 2.778, 14: 1.984, 16: 1.588, 18: 1.27, 20: 0.953, 22: 0.794, 24: 0.635 },
	'carbon-steel': { 10: 3.416, 12: 2.657, 14: 1.897, 16: 1.519, 18: 1.214, 20: 0.912, 22: 0.759, 24: 0.607 },
	aluminium: { 10: 2.588, 12: 2.053, 14: 1.628, 16: 1.29, 18: 1.024, 20: 0.812, 22: 0.644, 24: 0.511 }
};

/** @returns thickness in mm, or undefined where the table has no such gauge. */
export const gaugeToMm = (gauge: number, table: GaugeTable): number | undefined => TABLES[table][gauge];
