/**
 * Sheet metals at temperature: conductivity W/mm.K, heat content J/mm3, elongation, E and proof strength MPa over °C.
 * Each table names its source; "from memory" means it was not looked up again here. Fire codes give reduction factors for
 * slow heating: under an arc the metal is stronger for the moment, which is a limit of all that is worked out with them.
 * Above a table's end its last value holds (stated here once, seen in `topC`).
 */
import type { Material } from './grades';
import { GROUP_GRADE, METALS } from './metals';
import type { Metal } from './metals/metal';
import { interpolate } from './metals/tables';

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

function tabulated(m: Material, like: Metal): HotMetal {
	const { curves } = like;
	const held = (c: number) => Math.min(c, curves.topC);
	// within a tenth of the source's own value its curve stands; a shop's own metal that differs by more is that curve, scaled
	const ratio = (1000 * m.conductivity) / curves.conductivity(20);
	const scale = Math.abs(ratio - 1) < 0.1 ? 1 : ratio;
	const conductivity = new Tabulated((c) => (scale * curves.conductivity(held(c))) / 1000);
	const [solidus, liquidus, latent] = curves.melts;
	const specificHeat = (c: number) => curves.specificHeat(held(c)) + (c > solidus && c < liquidus ? latent / (liquidus - solidus) : 0);
	// heat content by summing the specific heat, ten steps to a table interval
	let sum = 0;
	const content: number[] = [];
	for (let i = 0; i <= TOP / STEP + 1; i++) {
		content.push(sum);
		for (let k = 0; k < 10; k++) sum += specificHeat(i * STEP + ((k + 0.5) * STEP) / 10) * (STEP / 10) * m.density * 1e-9;
	}
	const at20 = content[2];
	const heat = new Tabulated((c) => content[Math.round(c / STEP)] - at20);
	// beyond the table's end it goes on growing at its last rate, or a source's heat would vanish
	const rate = (content[TOP / STEP] - content[TOP / STEP - 1]) / STEP;
	const growth = new Tabulated((c) => curves.elongation(held(c)));
	const e = new Tabulated((c) => m.eModulus * interpolate(curves.e, c));
	const proof = new Tabulated((c) => m.proofStrength * interpolate(curves.proof, c));
	return {
		conductivity: (c) => conductivity.at(c),
		heatContent: (c) => (c > TOP ? heat.at(TOP) + rate * (c - TOP) : heat.at(c)),
		elongation: (c) => growth.at(c),
		eModulus: (c) => e.at(c),
		proof: (c) => proof.at(c),
		solidC: curves.solidC,
		topC: curves.topC,
		source: m.id === like.id ? curves.source : `${curves.source}; curves of ${like.id}, scaled`
	};
}

const known = new Map<string, HotMetal>();

/** Curves of a grade; a metal of the user's own takes the curves of its group, scaled to its values at 20 °C. */
export function hotMetal(m: Material): HotMetal {
	const key = JSON.stringify([m.id, m.eModulus, m.proofStrength, m.density, m.conductivity, m.group]);
	let found = known.get(key);
	if (!found) {
		found = tabulated(m, metalOf(m));
		if (known.size > 100) known.clear();
		known.set(key, found);
	}
	return found;
}

/** The record of a grade, or of the grade that stands for its group where the metal is a shop's own. */
export const metalOf = (m: Pick<Material, 'id' | 'group'>): Metal => METALS.find((x) => x.id === m.id) ?? GROUP_GRADE[m.group];
