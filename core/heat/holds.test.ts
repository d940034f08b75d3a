/** Chill blocks by hand calculation, purge by the dilution formula. */
import { describe, expect, it } from 'vitest';
import { oxygenAfter, sweep, volumeChanges } from '../weldout/purge';
import { blockAfterRuns, massFor, recoveryS, type Lump } from './chillBlock';
import { sectionHistory } from './section';
import { hotMetal } from '../materials/hot';
import { findMaterial } from '../materials/grades';

const copper: Lump = { massKg: 2, specificHeat: 385, areaMm2: 40_000, air: 15e-6 };

describe('chill block, by hand', () => {
	it('2 kg of copper takes 15.4 kJ with a rise of 20 K (m c dT)', () => {
		expect(blockAfterRuns(copper, { heatJ: [15_400], betweenS: [], ambientC: 20 })[0]).toBeCloseTo(40, 9);
		expect(massFor(15_400, 20, 385)).toBeCloseTo(2, 9);
	});
	it('between runs it cools as exp(-h A t / m c): time constant 770 / 0.6 = 1283 s', () => {
		const [first, second] = blockAfterRuns(copper, { heatJ: [15_400, 15_400], betweenS: [1283.333], ambientC: 20 });
		expect(first).toBeCloseTo(40, 6);
		expect(second).toBeCloseTo(20 + 20 / Math.E + 20, 3);
	});
	it('to come from 60 to 30 °C in air at 20 takes 1283 ln 4 s; it never comes below the air', () => {
		expect(recoveryS(copper, 60, 30, 20)).toBeCloseTo((770 / 0.6) * Math.log(4), 6);
		expect(recoveryS(copper, 25, 30, 20)).toBe(0);
		expect(() => recoveryS(copper, 60, 20, 20)).toThrow(/never below/);
		expect(() => massFor(100, 0, 385)).toThrow(/above 0/);
	});
	it('a block beside the seam takes heat from its own side only, and less than one under the seam', () => {
		const metal = hotMetal(findMaterial('1.4301'));
		const side = { width: 150, thickness: 1.5, metal, share: 0.5 };
		const at = (offset?: number) =>
			sectionHistory({
				sheets: [side, side],
				air: 15e-6,
				ambientC: 20,
				netHeat: 120,
				speed: 2.5,
				bar: { width: 30, thickness: 10, conductivity: 0.39, rhoC: 3.44e-3, contact: 1e-3, offset }
			});
		const [under, beside] = [at(), at(25)];
		expect(under.barShare(20)).toBeGreaterThan(beside.barShare(20));
		expect(beside.barShare(60)).toBeGreaterThan(0.05);
		expect(beside.energyError).toBeLessThan(1e-3);
		// 25 mm to the right: cooler there than at the same distance on the left
		const near = (h: typeof beside, x: number) => h.peakC[h.x.findIndex((v) => v > x)];
		expect(near(beside, 25)).toBeLessThan(near(beside, -26));
		expect(Math.abs(near(under, 25) - near(under, -26))).toBeLessThan(15);
	});
});

describe('purge, by the dilution formula', () => {
	it('from air to 100 ppm takes ln 2095 = 7.65 volume changes; 10 L at 8 L/min: 9.6 min', () => {
		expect(volumeChanges(100)).toBeCloseTo(Math.log(2095), 12);
		const s = sweep(10, 8, 10);
		expect(s.mixedMin).toBeCloseTo((10 / 8) * Math.log(2095), 9);
		expect(oxygenAfter(s.mixedMin, 10, 8)).toBeCloseTo(100, 6);
		expect(s.displacedMin).toBeCloseTo(1.25, 12);
		expect(s.argonL).toBeCloseTo(76.47, 1);
	});
	it('always speaks of argon and the vent; a missing or small vent and a stirring flow are cautioned', () => {
		expect(sweep(10, 8, 10).cautions.join(' ')).toMatch(/Argon displaces air.*vent open/);
		expect(sweep(10, 8).cautions.some((c) => /No vent/.test(c))).toBe(true);
		expect(sweep(10, 15, 4).cautions.some((c) => /small for 15/.test(c))).toBe(true);
		expect(sweep(10, 40, 30).cautions.some((c) => /stirs/.test(c))).toBe(true);
		// 15 L/min through 10 mm: 250 cm3/s over 0.785 cm2 = 3.18 m/s
		expect(sweep(10, 15, 10).ventSpeed).toBeCloseTo(3.183, 2);
		expect(() => volumeChanges(0)).toThrow(RangeError);
	});
});
