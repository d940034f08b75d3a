/** Published values of heat and weld response. */
import { describe, it } from 'vitest';
import { arcEnergy } from '$core/heat/arcEnergy';
import { linePeakRise } from '$core/heat/rosenthal';
import { sectionHistory } from '$core/heat/section';
import { findMaterial } from '$core/materials/grades';
import { stainlessConductivity, stainlessElongation, stainlessSpecificHeat } from '$core/materials/metals/austenitic';
import { steelConductivity, steelElongation, steelSpecificHeat } from '$core/materials/metals/S235';
import { hotMetal, type HotMetal } from '$core/materials/hot';
import { stripForce } from '$core/response/strips';
import { OKERBLOM } from '$core/response/weldResponse';
import { published } from './published';

const constant = (E: number, alpha: number, rhoC: number): HotMetal => ({
	conductivity: () => 0.03,
	heatContent: (c) => rhoC * (c - 20),
	elongation: (c) => alpha * (c - 20),
	eModulus: () => E,
	proof: () => 235,
	solidC: 1e9,
	topC: 1e9,
	source: 'test'
});

describe('metals and heat', () => {
	it('stainless at 600 °C', () => {
		const source = 'EN 1993-1-2:2005 Annex C';
		published({
			id: 'e-lambda',
			case: 'Stainless, conductivity at 600 °C',
			source,
			expected: 22.22,
			got: stainlessConductivity(600),
			unit: 'W/m.K',
			within: 1e-3,
			mesh: 'formula'
		});
		published({
			id: 'e-c',
			case: 'Stainless, specific heat at 600 °C',
			source,
			expected: 542.2,
			got: stainlessSpecificHeat(600),
			unit: 'J/kg.K',
			within: 1e-3,
			mesh: 'formula'
		});
		published({
			id: 'e-elongation',
			case: 'Stainless, elongation at 600 °C',
			source,
			expected: 10.687e-3,
			got: stainlessElongation(600),
			within: 1e-3,
			mesh: 'formula'
		});
	});
	it('carbon steel: hand values of the code’s formulas', () => {
		const source = 'EN 1993-1-2:2005 clause 3.4.1, worked by hand';
		published({
			id: 'e-steel-elongation',
			case: 'Carbon steel, elongation at 500 °C',
			source,
			expected: 6.7584e-3,
			got: steelElongation(500),
			within: 1e-4,
			mesh: 'formula'
		});
		published({
			id: 'e-steel-lambda',
			case: 'Carbon steel, conductivity at 500 °C',
			source,
			expected: 37.35,
			got: steelConductivity(500),
			unit: 'W/m.K',
			within: 1e-4,
			mesh: 'formula'
		});
		published({
			id: 'e-steel-c',
			case: 'Carbon steel, specific heat at 500 °C',
			source,
			expected: 666.5,
			got: steelSpecificHeat(500),
			unit: 'J/kg.K',
			within: 1e-4,
			mesh: 'formula'
		});
	});
	it('heat input: 100 A, 12 V, 2 mm/s, TIG', () => {
		const got = arcEnergy({ process: 'TIG', current: 'steady', ampsA: 100, volts: 12, speedMmPerS: 2 } as never).netHeat;
		published({
			id: 'e-heat',
			case: 'Heat input k U I / v, k 0.6',
			source: 'EN 1011-1:2009, clause 19',
			expected: 360,
			got,
			unit: 'J/mm',
			within: 1e-9,
			mesh: 'formula'
		});
	});
	it('peak rise beside an instantaneous line source: 583.4 K at 10 mm for 160 J/mm in 1.5 mm', () => {
		published({
			id: 'e-line',
			case: 'Line source, peak rise at 10 mm',
			source: 'Rosenthal 1946: q / (t rho c y sqrt(2 pi e))',
			expected: 583.4,
			got: linePeakRise(160, 1.5, 7900e-9 * 560, 10),
			unit: 'K',
			within: 1e-3,
			mesh: 'formula'
		});
	});
});

describe('tendon force', () => {
	it('the coefficient 2 ln 2 / sqrt(2 pi e)', () =>
		published({
			id: 'f-okerblom',
			case: 'Coefficient of E alpha q / rho c',
			source: 'Okerblom 1958; Leggatt: 0.335',
			expected: 0.335,
			got: OKERBLOM,
			within: 2e-3,
			mesh: 'formula'
		}));
	it('strips on a wide carbon steel plate, no loss, constant properties: 0.2 kN per J/mm', () => {
		const metal = constant(210e3, 12e-6, 4.2e-3);
		const sheets = [0, 1].map(() => ({ width: 600, thickness: 10, metal, share: 0.5 })) as never;
		const history = sectionHistory({ sheets, air: 0, ambientC: 20, netHeat: 1000, speed: 80 });
		const got = stripForce({ history, sheets, heldStraight: true }).inherentForceN / 1000;
		published({
			id: 'f-white',
			case: 'Strips, carbon steel, 1000 J/mm in 10 mm',
			source: 'White 1977: 0.2 kN per J/mm (from memory)',
			expected: 200,
			got,
			unit: 'kN',
			within: 0.15,
			mesh: '2 x 600 mm, cells from 0.7 mm'
		});
	});
	it('the same with properties at temperature', () => {
		const metal = hotMetal(findMaterial('S235'));
		const sheets = [0, 1].map(() => ({ width: 600, thickness: 10, metal, share: 0.5 })) as never;
		const history = sectionHistory({ sheets, air: 0, ambientC: 20, netHeat: 1000, speed: 2.5 });
		published({
			id: 'f-white-hot',
			case: 'Strips, S235 at temperature, 1000 J/mm in 10 mm',
			source: 'White 1977: 0.2 kN per J/mm (from memory)',
			expected: 200,
			got: stripForce({ history, sheets, heldStraight: true }).inherentForceN / 1000,
			unit: 'kN',
			within: 0.15,
			mesh: '2 x 600 mm, cells from 0.7 mm'
		});
	});
});
