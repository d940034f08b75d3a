import { describe, expect, it } from 'vitest';
import { sectionHistory, type SectionBar } from '../heat/section';
import { findMaterial } from '../materials/grades';
import { hotMetal, type HotMetal } from '../materials/hot';
import { stripForce } from './strips';
import { OKERBLOM } from './weldResponse';

interface Case {
	metal?: HotMetal;
	width?: number | [number, number];
	q?: number;
	t?: number;
	air?: number;
	bar?: SectionBar;
	held?: boolean;
	speed?: number;
	startC?: (x: number) => number;
}
const stainless = hotMetal(findMaterial('1.4301'));
const run = ({ metal = stainless, width = 300, q = 160, t = 1.5, air = 15e-6, bar, held = true, speed = 2.5, startC }: Case) => {
	const widths = Array.isArray(width) ? width : [width, width];
	const sheets = widths.map((w) => ({ width: w, thickness: t, metal, share: 0.5 })) as never;
	const history = sectionHistory({ sheets, air, ambientC: 20, netHeat: q, speed, bar, startC });
	return stripForce({ history, sheets, heldStraight: held });
};
/** constant properties, no loss: what the closed form assumes */
const constant = (E: number, alpha: number, rhoC: number, proof: number): HotMetal => ({
	conductivity: () => 0.03,
	heatContent: (c) => rhoC * (c - 20),
	elongation: (c) => alpha * (c - 20),
	eModulus: () => E,
	proof: () => proof,
	solidC: 1e9,
	topC: 1e9,
	source: 'test'
});
const copper: SectionBar = { width: 40, thickness: 10, conductivity: 0.39, rhoC: 8930e-9 * 385, contact: 2000e-6 };

describe('strip solver', () => {
	it('carbon steel on a wide plate, no loss, constant properties: about 0.2 kN per J/mm (White 1977, from memory)', () => {
		const f = run({ metal: constant(210e3, 12e-6, 4.2e-3, 235), q: 1000, t: 10, width: 600, air: 0, speed: 80 }).inherentForceN;
		expect(f / 1000 / 1000).toBeGreaterThan(0.17);
		expect(f / 1000 / 1000).toBeLessThan(0.24);
		// and the closed form of the same pair, which it derives from peak temperatures alone
		expect(Math.abs(f / (OKERBLOM * ((210e3 * 12e-6) / 4.2e-3) * 1000) - 1)).toBeLessThan(0.15);
	});
	it('carbon steel with properties at temperature comes near the same figure', () => {
		const f = run({ metal: hotMetal(findMaterial('S235')), q: 1000, t: 10, width: 600, air: 0 }).inherentForceN;
		expect(Math.abs(f / 200_000 - 1)).toBeLessThan(0.15);
	});
	it('stainless to carbon steel goes as E alpha / rho c (no loss, constant properties)', () => {
		const [a, b] = [constant(200e3, 17e-6, 4.42e-3, 230), constant(210e3, 12e-6, 4.2e-3, 230)];
		const force = (metal: HotMetal) => run({ metal, q: 400, t: 4, width: 600, air: 0, speed: 80 }).inherentForceN;
		const wanted = (200e3 * 17e-6) / 4.42e-3 / ((210e3 * 12e-6) / 4.2e-3);
		expect(Math.abs(force(a) / force(b) / wanted - 1)).toBeLessThan(0.1);
	});
	it('nothing below the yield temperature rise: sigma / (E alpha) = 72 K', () => {
		expect(Math.abs(run({ q: 1.5 }).inherentForceN)).toBeLessThan(1);
		expect(run({ q: 15 }).inherentForceN).toBeGreaterThan(1000);
	});
	it('on narrowing strips the inherent force rises and the relieved tension falls', () => {
		const [wide, narrow] = [run({ width: 300 }), run({ width: 60 })];
		expect(narrow.inherentForceN).toBeGreaterThan(wide.inherentForceN);
		expect(narrow.relievedTensionN).toBeLessThan(wide.relievedTensionN);
	});
	it('2 x 60 mm, 2 x 300 mm and a clamped copper bar against an own trial: 36, 30, 10 kN within 30 %', () => {
		// our cells, tables and loss differ from that trial's; a figure within a third of it is agreement here
		expect(Math.abs(run({ width: 60 }).inherentForceN / 36_000 - 1)).toBeLessThan(0.3);
		expect(Math.abs(run({ width: 300 }).inherentForceN / 30_000 - 1)).toBeLessThan(0.3);
		expect(Math.abs(run({ bar: copper }).inherentForceN / 10_000 - 1)).toBeLessThan(0.3);
	});
	it('a thick bar takes more than half of it away', () => expect(run({ bar: copper }).inherentForceN).toBeLessThan(0.5 * run({}).inherentForceN));
	it('warmth of a neighbouring run changes it; even warmth hardly does', () => {
		const cold = run({}).inherentForceN;
		const even = run({ startC: () => 100 }).inherentForceN;
		const beside = run({ startC: (x) => 20 + 250 * Math.exp(-(((x - 25) / 12) ** 2)) }).inherentForceN;
		expect(Math.abs(even / cold - 1)).toBeLessThan(0.12);
		expect(Math.abs(beside / cold - 1)).toBeGreaterThan(Math.abs(even / cold - 1) * 1.2);
	});
	it('free to turn in its plane, an off-centre seam still balances in force and moment, and pulls about alike', () => {
		const [held, free] = [run({ width: [60, 200] }), run({ width: [60, 200], held: false })];
		expect(free.imbalance).toBeLessThan(1e-6);
		expect(Math.abs(free.inherentForceN / held.inherentForceN - 1)).toBeLessThan(0.35);
	});
});
