import { describe, expect, it } from 'vitest';
import { findMaterial } from '../materials/grades';
import { calculate, startOf } from './calculator';
import { CALCULATORS } from './index';

const of = (id: string, typed: Record<string, string | number> = {}) => {
	const c = CALCULATORS.find((x) => x.id === id)!;
	return calculate(c, { ...startOf(c), ...Object.fromEntries(Object.entries(typed).map(([k, v]) => [k, String(v)])) });
};
/** the figures, by their labels' first words */
const got = (id: string, typed: Record<string, string | number> = {}) => {
	const a = of(id, typed);
	if (!a.ok) throw new Error(JSON.stringify(a.faults));
	return a.lines.map((l) => l.value);
};
const main = (id: string, typed: Record<string, string | number> = {}) => {
	const a = of(id, typed);
	if (!a.ok) throw new Error(JSON.stringify(a.faults));
	return a.lines.find((l) => l.isMain)!.value;
};
const words = (id: string, typed: Record<string, string | number>) => {
	const a = of(id, typed);
	return a.ok ? [] : a.faults.map((f) => `${f.field}: ${f.message}`);
};

describe('calculators', () => {
	it('each has a drawing, a formula, a source and an example that works', () => {
		for (const c of CALCULATORS) {
			expect(calculate(c, startOf(c)), c.id).toMatchObject({ ok: true });
			expect([c.formula.length > 5, c.source.length > 5, c.drawing.strokes.length > 0], c.id).toEqual([true, true, true]);
		}
		expect(new Set(CALCULATORS.map((c) => c.id)).size).toBe(CALCULATORS.length);
	});
	it('a bow: three points of a circle of a known radius give that radius back, and its gap over a metre', () => {
		// 20 m round, 1 m of it: the middle stands off by r - sqrt(r2 - 0.5 m 2)
		const gap = 20_000 - Math.sqrt(20_000 ** 2 - 500 ** 2);
		const [radius, metre] = got('bow', { span: 1000, gap });
		expect(radius).toBeCloseTo(20_000, 3);
		expect(metre).toBeCloseTo(gap, 6);
		// half a circle: radius is half the span
		expect(main('bow', { span: 200, gap: 100 })).toBeCloseTo(100, 9);
		expect(words('bow', { span: 200, gap: 150 })[0]).toMatch(/no bow/);
	});
	it('a millimetre at 57.3 is a degree (1 / tan 1°), and the shim undoes the square', () => {
		expect(main('square-gap', { reach: 57.29, gap: 1 })).toBeCloseTo(1, 4);
		for (const angle of [0.25, 1, 7]) expect(main('square-gap', { reach: 80, gap: main('shim', { reach: 80, angle }) })).toBeCloseTo(angle, 9);
	});
	it('diagonals of a frame pushed over by a known angle, by its corners’ coordinates; 3-4-5 is square', () => {
		expect(main('diagonals', { a: 400, b: 300, d1: 500, d2: 500 })).toBe(0);
		const lean = (1.2 * Math.PI) / 180;
		const [x, y] = [300 * Math.sin(lean), 300 * Math.cos(lean)];
		const [, angle, along, fits] = got('diagonals', { a: 400, b: 300, d1: Math.hypot(400 + x, y), d2: Math.hypot(400 - x, y) });
		expect(angle).toBeCloseTo(1.2, 9);
		expect(along).toBeCloseTo(x, 9);
		expect(fits).toBeCloseTo(0, 9);
		// a side read wrong shows
		expect(Math.abs(got('diagonals', { a: 410, b: 300, d1: 500, d2: 500 })[3])).toBeGreaterThan(5);
		expect(words('diagonals', { a: 100, b: 100, d1: 400, d2: 10 })[0]).toMatch(/read them again/);
	});
	it('a laser spot: both ways add up as a vector, not as a sum', () => {
		const [yaw, pitch, both] = got('laser-spot', { distance: 1000, right: 30, up: 40 });
		expect(Math.tan((both * Math.PI) / 180)).toBeCloseTo(0.05, 9);
		expect(both).toBeLessThan(yaw + pitch);
		expect(words('laser-spot', { distance: 0 })[0]).toMatch(/distance: 0 is not allowed: 1 to 20000 mm/);
	});
	it('from 3/8 to 1/4 in is one third less, and not a half (common practice, no source)', () => {
		expect(main('change', { before: 9.525, after: 6.35 })).toBeCloseTo(-100 / 3, 9);
	});
	it('readings by the guide’s own example (JCGM 100:2008, table 1: twenty temperatures, mean 100.14, s 1.49, s of the mean 0.33 °C)', () => {
		const t = [
			96.9, 98.18, 98.25, 98.61, 99.03, 99.49, 99.56, 99.74, 99.89, 100.07, 100.33, 100.42, 100.68, 100.95, 101.11, 101.2, 101.57, 101.84, 102.36,
			102.72
		];
		const [mean, , s, ofMean] = got('average', { readings: t.join(' ') });
		expect([mean.toFixed(2), s.toFixed(2), ofMean.toFixed(2)]).toEqual(['100.14', '1.49', '0.33']);
		// a comma for a point
		expect(main('average', { readings: '1,5 2,5' })).toBe(2);
		expect(words('average', { readings: '1' })[0]).toMatch(/at least two/);
		expect(words('average', { readings: '1 two' })[0]).toMatch(/“two” is not a number/);
	});
	it('two ways: Student’s patients in pairs (1908, from memory), and apart; what makes no pairs, or has no scatter, is named', () => {
		const typed = { first: '0.7 -1.6 -0.2 -1.2 -0.1 3.4 3.7 0.8 0 2', second: '1.9 0.8 1.1 0.1 -0.1 4.4 5.5 1.6 4.6 3.4' };
		const [difference, low, high, chance] = got('two-ways', { ...typed, how: 'pairs' });
		expect(difference).toBeCloseTo(-1.58, 9);
		expect(low + high).toBeCloseTo(2 * difference, 9);
		expect(chance).toBeCloseTo(0.2833, 3);
		expect(got('two-ways', typed)[3]).toBeCloseTo(7.939, 2);
		expect(words('two-ways', { ...typed, second: '1 2', how: 'pairs' })[0]).toMatch(/make no pairs/);
		expect(words('two-ways', { first: '1 1', second: '2 2' })[0]).toMatch(/finer step/);
	});
	it('pieces for a trial: an effect as large as the scatter, 80 %: 14 of each (normal formula by hand: 2 x (1.645 + 0.842)² = 12.4, and 0.7)', () => {
		expect(got('how-many', { difference: 1, scatter: 1 })).toEqual([14, 28]);
		// twice the effect: a quarter of them, and the 0.7 as before
		expect(main('how-many', { difference: 2, scatter: 1 })).toBe(4);
	});
	it('3 mm on the practice piece at 100 is half of it at 50 (similar triangles)', () => {
		expect(main('preset', { pulled: 3, reach: 100, own: 50 })).toBeCloseTo(1.5, 9);
	});
	it('100 A, 12 V, 2 mm/s by TIG: 360 J/mm (EN 1011-1); 50 and 36 A half and half: 43 A', () => {
		expect(got('heat-input')).toEqual([360, 600]);
		expect(main('pulse')).toBe(43);
	});
	it('15.4 kJ into copper that may rise 20 K: 2 kg (heat balance by hand), and the bar of that mass by its section', () => {
		const [kg, section] = got('chill-block', { heat: 154, length: 200, share: 50, rise: 20, metal: 'copper' });
		expect(kg).toBeCloseTo(2, 9);
		// 2 kg of copper at 8930 kg/m3 along 200 mm
		expect(section).toBeCloseTo(2 / 8930e-9 / 200, 3);
	});
	it('a purge to a tenth of air’s oxygen takes ln 10 = 2.303 volumes', () => {
		expect(main('purge', { volume: 10, flow: 10, wanted: 20_950 })).toBeCloseTo(2.302585, 6);
	});
	it('a fold: the middle of the sheet is a quarter circle by hand; a right angle’s deduction by the drawing-board', () => {
		// 2 + 0.75 mm for a quarter turn
		expect(got('bend', { thickness: 1.5, radius: 2, angle: 90, rule: '0.5' })[0]).toBeCloseTo((Math.PI / 2) * 2.75, 9);
		expect(got('bend', { thickness: 1.5, radius: 2, angle: 90, rule: '0.5' })[1]).toBeCloseTo(7 - (Math.PI / 2) * 2.75, 9);
		// legs to the middle of the sheet are half a thickness shorter each
		expect(got('bend', { thickness: 1.5, radius: 2, angle: 90, rule: '0.5' })[2]).toBeCloseTo(5.5 - (Math.PI / 2) * 2.75, 9);
		// DIN 6935 from memory: r / s of 1 has a correction of 0.65, half of it from the inside
		expect(got('bend', { thickness: 2, radius: 2, rule: 'din' })[3]).toBeCloseTo(0.325, 9);
	});
	it('a square metre of a millimetre weighs as its density says', () => {
		expect(main('weight', { length: 1000, width: 1000, thickness: 1 })).toBeCloseTo(findMaterial('1.4301').density / 1000, 9);
	});
	it('1.588 mm is 1/16 in, 62.5 thou, 16 gauge of stainless', () => {
		expect(got('length', { length: 1.5875 })).toEqual([1.5875, 0.0625, 62.5, 1, 4, 16, 16, 14]);
	});
	it('what is not a number, missing or out of range is named beside its field, all at once', () => {
		expect(words('heat-input', { amps: '', volts: 'x', speed: 900, process: 'laser' })).toEqual([
			'process: must be one of TIG (k 0.6), MIG (k 0.8), MMA (k 0.8)',
			'amps: must be given',
			'volts: “x” is not a number',
			'speed: 900 is not allowed: 0.1 to 60 mm/s'
		]);
		for (const bad of ['NaN', 'Infinity', '1e400', '--1', '0x10']) expect(words('shim', { angle: bad })).toHaveLength(1);
	});
});
