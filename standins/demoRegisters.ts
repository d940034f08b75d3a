import type { RegisterKind } from '../core/document/words';
import type { ItemOf } from '../core/registers/registers';

/** What the invented shop has to work with; one instrument has run out. @param day so many days from now, ISO 8601 */
export const DEMO_REGISTERS = (day: (n: number) => string): { [K in RegisterKind]: ItemOf[K][] } => ({
	bar: [
		{ name: 'Copper 1', material: 'copper', widthMm: 40, thicknessMm: 10, lengthMm: 600, count: 2 },
		{ name: 'Copper 2', material: 'copper', widthMm: 25, thicknessMm: 6, lengthMm: 300, count: 4, note: 'grooved 3 x 0.5' },
		{ name: 'Block A', material: 'aluminium', widthMm: 50, thicknessMm: 25, lengthMm: 250, count: 2 }
	],
	strongback: [
		{ name: 'Angle, long', section: 'angle-40-4', lengthMm: 1500, count: 2 },
		{ name: 'Flat, short', section: 'flat-40-6', lengthMm: 600, count: 3 }
	],
	clamp: [
		{ name: 'Deep throat', throatMm: 110, opensMm: 60, count: 8 },
		{ name: 'Toggle', throatMm: 60, opensMm: 25, count: 12 }
	],
	instrument: [
		{ name: 'Straightedge 4, feelers', reads: 'length', uncertainty90: 0.05, calibratedOn: day(-200), dueOn: day(165) },
		{ name: 'Tape 2', reads: 'length', uncertainty90: 0.5, calibratedOn: day(-400), dueOn: day(-35) },
		{ name: 'Protractor 1', reads: 'angle', uncertainty90: 0.2, calibratedOn: day(-90), dueOn: day(275) },
		{ name: 'Probe 3', reads: 'temperature', uncertainty90: 3, calibratedOn: day(-120), dueOn: day(245) },
		{ name: 'Oxygen meter 1', reads: 'oxygen', uncertainty90: 0.02, calibratedOn: day(-20), dueOn: day(160) }
	],
	source: [{ name: 'Bay 2', fromA: 5, toA: 220, polarity: 'DC-', calibratedOn: day(-150), dueOn: day(215) }],
	tungsten: [
		{ name: 'Grey 1.6', grade: 'WC20', diameterMm: 1.6, count: 10 },
		{ name: 'Grey 2.4', grade: 'WC20', diameterMm: 2.4, count: 10 }
	],
	cup: [
		{ name: 'Lens 12', boreMm: 12, body: 'lens' },
		{ name: 'Plain 8', boreMm: 8, body: 'plain' }
	],
	filler: [
		{ name: '308L thin', grade: '308L', diameterMm: 1, batch: 'F-1180' },
		{ name: '316L thin', grade: '316L', diameterMm: 1.2, batch: 'F-1204' }
	],
	product: [
		{ name: 'Pickling paste, red tub', does: 'pickled', fromMin: 30, toMin: 60, sheet: 'sheet 4 in the wash bay' },
		{ name: 'Passivating spray', does: 'passivated', fromMin: 15, toMin: 20, sheet: 'sheet 5 in the wash bay' }
	]
});
