/**
 * What is told by colour can be told apart with any colour vision: deficiencies as Machado, Oliveira & Fernandes (2009) simulate them,
 * differences by CIEDE2000, both by the library `culori`. One just noticeable difference is about 1; 5 is seen at a glance.
 */
import {
	differenceCiede2000,
	filterDeficiencyDeuter,
	filterDeficiencyProt,
	filterDeficiencyTrit,
	formatHex,
	lab,
	parse,
	type Color,
	type Rgb
} from 'culori';
import { interpolateOrRd } from 'd3-scale-chromatic';
import { describe, expect, it } from 'vitest';
import { COLOURS } from '$core/draw/heightMap';
import { byWhen, diverging } from './colours';

const difference = differenceCiede2000();
const VISIONS: [string, (c: Color) => Color][] = [
	['full', (c) => c],
	['without red cones', filterDeficiencyProt(1)],
	['without green cones', filterDeficiencyDeuter(1)],
	['without blue cones', filterDeficiencyTrit(1)]
];
const seen = (list: readonly string[], as: (c: Color) => Color) => list.map((c) => as(parse(c)!));
const steps = (list: readonly Color[]) => list.slice(1).map((c, i) => difference(list[i], c));
const lightness = (c: Color) => lab(c).l;
const evenly = (n: number) => Array.from({ length: n }, (_, i) => i / (n - 1));
const hex = ([r, g, b]: [number, number, number]) => formatHex({ mode: 'rgb', r, g, b } as Rgb);

describe.each(VISIONS)('colour scales with %s colour vision', (_, as) => {
	it('deviation: as many steps as are named, each seen, lighter towards the middle, and below is not above', () => {
		const list = seen(COLOURS, as);
		for (const d of steps(list)) expect(d).toBeGreaterThan(5);
		const light = list.map(lightness);
		const middle = (list.length - 1) / 2;
		for (let i = 0; i < middle; i++) {
			expect(light[i + 1]).toBeGreaterThan(light[i]);
			expect(light[list.length - 2 - i]).toBeGreaterThan(light[list.length - 1 - i]);
			// as far below as above
			expect(difference(list[i], list[list.length - 1 - i])).toBeGreaterThan(15);
		}
	});
	it('deviation on the piece is the same scale, without a jump', () => {
		expect(hex(diverging(-1))).toBe(COLOURS[0]);
		expect(hex(diverging(1))).toBe(COLOURS[COLOURS.length - 1]);
		const fine = steps(
			seen(
				evenly(61).map((s) => hex(diverging(2 * s - 1))),
				as
			)
		);
		const mean = fine.reduce((a, b) => a + b, 0) / fine.length;
		for (const d of fine) expect(d).toBeLessThan(2.5 * mean);
	});
	it('heat: darker the hotter, every tenth of it seen', () => {
		const list = seen(
			evenly(11).map((s) => interpolateOrRd(s)),
			as
		);
		for (const d of steps(list)) expect(d).toBeGreaterThan(2.5);
		list.slice(1).forEach((c, i) => expect(lightness(c)).toBeLessThan(lightness(list[i])));
	});
	it('order of runs: the first, the middle and the last are told apart; the number beside each says the rest', () => {
		const [first, middle, last] = seen([0, 0.5, 1].map(byWhen), as);
		expect(difference(first, middle)).toBeGreaterThan(10);
		expect(difference(middle, last)).toBeGreaterThan(10);
		expect(difference(first, last)).toBeGreaterThan(20);
	});
	it('states stand apart from one another, though a mark and a word go with each', () => {
		const [inside, doubt, outside] = seen(['#24603f', '#74500f', '#6d2b51'], as);
		for (const d of [difference(inside, doubt), difference(doubt, outside), difference(inside, outside)]) expect(d).toBeGreaterThan(5);
	});
});
