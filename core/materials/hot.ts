/**
 * Sheet metals at temperature: conductivity W/mm.K, heat content J/mm3, elongation, E and proof strength MPa over °C.
 * Each table names its source; "from memory" means it was not looked up again here. Fire codes give reduction factors for
 * slow heating: under an arc the metal is stronger for the moment, which is a limit of all that is worked out with them.
 * Above a table's end its last value holds (stated here once, seen in `topC`).
 */
import type { Material } from './grades';
import { stainlessConductivity, stainlessElongation, stainlessSpecificHeat } from './grades';

export interface HotMetal {
	/** W/mm.K */
	conductivity(c: number): number;
	/** J/mm3 above 20 °C */
	heatContent(c: number): number;
	/** strain from 20 °C */
	elongation(c: number): number;
	/** MPa */
	eModulus(c: number): number;
	/** MPa, 0.2 % proof strength */
	proof(c: number): number;
	/** no strength left from here on: strain is forgotten, °C */
	solidC: number;
	/** above this the tables hold their last value, °C */
	topC: number;
	source: string;
}

/** Melting ranges, °C, and latent heats, J/kg (ordinary handbook values, from memory). */
const MELTS = {
	stainless: [1400, 1450, 260e3],
	steel: [1470, 1520, 250e3],
	aluminium: [580, 640, 390e3]
} as const;

type Table = readonly (readonly [number, number])[];
const hundreds = (from: number, ...v: number[]): Table => [[20, 1], ...v.map((x, i): [number, number] => [from + 100 * i, x])];

/** EN 1993-1-2:2005 table C.1, grade 1.4301: proof strength and E over their values at 20 °C (from memory). */
const PROOF_14301 = hundreds(100, 0.82, 0.68, 0.64, 0.6, 0.54, 0.49, 0.4, 0.27, 0.14, 0.06, 0.03, 0);
const E_STAINLESS = hundreds(100, 0.96, 0.92, 0.88, 0.84, 0.8, 0.76, 0.71, 0.63, 0.45, 0.2, 0.1, 0);
/** the same table, 1.4401 / 1.4404 (from memory) */
const PROOF_14404 = hundreds(100, 0.88, 0.76, 0.71, 0.66, 0.63, 0.61, 0.51, 0.4, 0.19, 0.1, 0.07, 0);
/** the same table, 1.4571 (from memory); used for 1.4541 by analogy: both are stabilised with titanium */
const PROOF_14571 = hundreds(100, 0.89, 0.83, 0.77, 0.72, 0.69, 0.66, 0.59, 0.5, 0.28, 0.15, 0.075, 0);
/** EN 1993-1-2:2005 table 3.1, effective yield strength and E of carbon steel (from memory) */
const PROOF_STEEL = hundreds(100, 1, 1, 1, 1, 0.78, 0.47, 0.23, 0.11, 0.06, 0.04, 0.02, 0);
const E_STEEL = hundreds(100, 1, 0.9, 0.8, 0.7, 0.6, 0.31, 0.13, 0.09, 0.0675, 0.045, 0.0225, 0);
/** EN 1999-1-2:2007 tables 1a and 2 (from memory) */
const aluminiumTable = (...v: number[]): Table =>
	[100, 150, 200, 250, 300, 350, 550].reduce<[number, number][]>((t, c, i) => [...t, [c, v[i]]], [[20, 1]]);
const PROOF_ALUMINIUM: Record<string, Table> = {
	'5052': aluminiumTable(1, 0.96, 0.82, 0.68, 0.23, 0.11, 0),
	'5083': aluminiumTable(1, 0.98, 0.9, 0.75, 0.4, 0.22, 0),
	'6061': aluminiumTable(0.95, 0.91, 0.79, 0.55, 0.31, 0.1, 0)
};
const E_ALUMINIUM = aluminiumTable(0.97, 0.93, 0.86, 0.78, 0.68, 0.54, 0);

/** Piecewise linear, held beyond both ends. */
export function interpolate(table: Table, c: number): number {
	if (c <= table[0][0]) return table[0][1];
	for (let i = 1; i < table.length; i++) {
		const [x1, y1] = table[i];
		if (c <= x1) {
			const [x0, y0] = table[i - 1];
			return y0 + ((y1 - y0) * (c - x0)) / (x1 - x0);
		}
	}
	return table[table.length - 1][1];
}

/** EN 1993-1-2:2005, 3.4.1.1 elongation of carbon steel (from memory), from 20 °C */
export const steelElongation = (c: number) => (c < 750 ? 1.2e-5 * c + 0.4e-8 * c * c - 2.416e-4 : c <= 860 ? 1.1e-2 : 2e-5 * c - 6.2e-3);
/** 3.4.1.3, W/m.K */
export const steelConductivity = (c: number) => (c < 800 ? 54 - 3.33e-2 * c : 27.3);
/** 3.4.1.2, J/kg.K */
export const steelSpecificHeat = (c: number) =>
	c < 600 ? 425 + 0.773 * c - 1.69e-3 * c * c + 2.22e-6 * c ** 3 : c < 735 ? 666 + 13002 / (738 - c) : c < 900 ? 545 + 17820 / (c - 731) : 650;

/** Tables every degree would be waste; every ten is far finer than the sources. */
const STEP = 10;
const TOP = 2600;

class Tabulated {
	private readonly v: Float64Array;
	constructor(f: (c: number) => number) {
		this.v = Float64Array.from({ length: TOP / STEP + 2 }, (_, i) => f(i * STEP));
	}
	at(c: number): number {
		const x = c <= 0 ? 0 : c >= TOP ? TOP / STEP : c / STEP;
		const i = x | 0;
		return this.v[i] + (x - i) * (this.v[i + 1] - this.v[i]);
	}
}

function make(parts: {
	conductivity: (c: number) => number;
	/** J/kg.K */
	specificHeat: (c: number) => number;
	density: number;
	elongation: (c: number) => number;
	e: Table;
	proof: Table;
	material: Material;
	solidC: number;
	topC: number;
	/** melting range, °C, and latent heat, J/kg */
	melts: readonly [from: number, to: number, latent: number];
	source: string;
}): HotMetal {
	const { material, topC } = parts;
	const held = (c: number) => Math.min(c, topC);
	const conductivity = new Tabulated((c) => parts.conductivity(held(c)) / 1000);
	const [solidus, liquidus, latent] = parts.melts;
	const specificHeat = (c: number) => parts.specificHeat(held(c)) + (c > solidus && c < liquidus ? latent / (liquidus - solidus) : 0);
	// heat content by summing the specific heat, ten steps to a table interval
	let sum = 0;
	const content: number[] = [];
	for (let i = 0; i <= TOP / STEP + 1; i++) {
		content.push(sum);
		for (let k = 0; k < 10; k++) sum += specificHeat(i * STEP + ((k + 0.5) * STEP) / 10) * (STEP / 10) * parts.density * 1e-9;
	}
	const at20 = content[2];
	const heat = new Tabulated((c) => content[Math.round(c / STEP)] - at20);
	// beyond the table's end it goes on growing at its last rate, or a source's heat would vanish
	const rate = (content[TOP / STEP] - content[TOP / STEP - 1]) / STEP;
	const growth = new Tabulated((c) => parts.elongation(held(c)));
	const e = new Tabulated((c) => material.eModulus * interpolate(parts.e, c));
	const proof = new Tabulated((c) => material.proofStrength * interpolate(parts.proof, c));
	return {
		conductivity: (c) => conductivity.at(c),
		heatContent: (c) => (c > TOP ? heat.at(TOP) + rate * (c - TOP) : heat.at(c)),
		elongation: (c) => growth.at(c),
		eModulus: (c) => e.at(c),
		proof: (c) => proof.at(c),
		solidC: parts.solidC,
		topC,
		source: parts.source
	};
}

const known = new Map<string, HotMetal>();

/** Curves of a grade; a metal of the user's own takes the curves of its group, scaled to its values at 20 °C. */
export function hotMetal(m: Material): HotMetal {
	const key = JSON.stringify([m.id, m.eModulus, m.proofStrength, m.density, m.conductivity, m.group]);
	let found = known.get(key);
	if (!found) {
		found = curvesOf(m);
		if (known.size > 100) known.clear();
		known.set(key, found);
	}
	return found;
}

function curvesOf(m: Material): HotMetal {
	const own = (by: string) =>
		['1.4301', '1.4307', '1.4404', '1.4541', 'S235', '5052', '5083', '6061'].includes(m.id) ? '' : `; curves of ${by}, scaled`;
	const scaleTo = (f: (c: number) => number) => {
		const s = (1000 * m.conductivity) / f(20);
		// within a tenth of the code's own value the code's curve stands
		return Math.abs(s - 1) < 0.1 ? f : (c: number) => s * f(c);
	};
	if (m.group === 'austenitic')
		return make({
			conductivity: scaleTo(stainlessConductivity),
			specificHeat: stainlessSpecificHeat,
			density: m.density,
			elongation: stainlessElongation,
			e: E_STAINLESS,
			proof: m.id === '1.4404' ? PROOF_14404 : m.id === '1.4541' ? PROOF_14571 : PROOF_14301,
			material: m,
			solidC: 1200,
			topC: 1200,
			melts: MELTS.stainless,
			source: `EN 1993-1-2:2005 Annex C${m.id === '1.4541' ? ' (1.4571 taken for 1.4541, by analogy)' : ''}${own('1.4301')}`
		});
	if (m.group === 'carbon-steel')
		return make({
			conductivity: scaleTo(steelConductivity),
			specificHeat: steelSpecificHeat,
			density: m.density,
			elongation: steelElongation,
			e: E_STEEL,
			proof: PROOF_STEEL,
			material: m,
			solidC: 1200,
			topC: 1200,
			melts: MELTS.steel,
			source: `EN 1993-1-2:2005 clause 3.4 and table 3.1${own('S235')}`
		});
	return make({
		conductivity: scaleTo(m.id === '6061' ? (c) => 0.07 * c + 190 : (c) => 0.1 * c + 140),
		specificHeat: (c) => 0.41 * c + 903,
		density: m.density,
		elongation: (c) => 0.1e-7 * c * c + 22.5e-6 * c - 4.5e-4,
		e: E_ALUMINIUM,
		proof: PROOF_ALUMINIUM[m.id] ?? PROOF_ALUMINIUM['5083'],
		material: m,
		solidC: 550,
		topC: 550,
		melts: MELTS.aluminium,
		source: `EN 1999-1-2:2007 clause 3.3 and tables 1 and 2${own('5083')}`
	});
}
