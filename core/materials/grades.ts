/** Sheet and block metals: the product's own grades (see `metals/`), and a plan's own. */
import { METALS } from './metals';
import type { Material } from './metals/metal';
import { Refusal } from '../refusal/refusal';

export { MATERIAL_GROUPS, type Material, type MaterialGroup } from './metals/metal';

/** The plain values of every grade, as pages and job files carry them: without curves, which are functions. */
export const GRADES: readonly Material[] = METALS.map(
	({ id, name, group, gaugeTable, eModulus, poisson, proofStrength, density, conductivity, responsePair, source }) => ({
		id,
		name,
		group,
		gaugeTable,
		eModulus,
		poisson,
		proofStrength,
		density,
		conductivity,
		responsePair,
		source
	})
);

export interface BlockMetal {
	id: 'copper' | 'aluminium' | 'brass';
	name: string;
	/** W/mm.K */
	conductivity: number;
	/** J/mm3.K */
	rhoC: number;
	/** J/kg.K */
	specificHeat: number;
	source: string;
}

/** Metals for backing bars and chill blocks. */
export const BLOCK_METALS: readonly BlockMetal[] = [
	{ id: 'copper', name: 'Copper', conductivity: 0.39, rhoC: 8930e-9 * 385, specificHeat: 385, source: 'handbook values, quoted from memory' },
	{ id: 'aluminium', name: 'Aluminium', conductivity: 0.19, rhoC: 2700e-9 * 900, specificHeat: 900, source: 'handbook values, quoted from memory' },
	{ id: 'brass', name: 'Brass', conductivity: 0.115, rhoC: 8500e-9 * 380, specificHeat: 380, source: 'handbook values, quoted from memory' }
];

/** The built-in grade or one of the plan's own materials. @throws RangeError naming the id. */
export function findMaterial(id: string, own: readonly Material[] = []): Material {
	const found = own.find((m) => m.id === id) ?? GRADES.find((m) => m.id === id);
	if (!found) throw new Refusal(`Material “${id}” is not known: add it to the library or choose one of ${GRADES.map((g) => g.id).join(', ')}`);
	return found;
}
