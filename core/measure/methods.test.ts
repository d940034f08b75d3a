import { describe, expect, it } from 'vitest';
import { add, cross, rotate, sub, unit, dot, type Vec3 } from '../geometry/vec';
import { combine } from './combine';
import { exampleJobs } from '../../cli/exampleJobs';
import { readingContext } from '../features/context';
import { METHOD_KINDS, METHODS, waysOf } from './methods';
import { unitsOf } from './methods/method';
import { evaluateReadings } from './readings';
import { unlikely } from './unlikely';

const DEG = 180 / Math.PI;

describe('ways to read', () => {
	it('a dial drawn along a line: wherever it was zeroed and however the line leans, the arc of a circle reads its sagitta', () => {
		// sagitta of a chord of 600 on a circle of 30,000: R - sqrt(R^2 - 300^2) = 1.50004 (geometry)
		const R = 30_000;
		const heights = [0, 100, 200, 300, 400, 500, 600].map((x) => 4 + 0.003 * x - (R - Math.sqrt(R * R - (x - 300) ** 2)));
		const read = evaluateReadings('dial-line', heights, { lengthMm: 600 });
		expect(read.value).toBeCloseTo(1.50004, 3);
		// a place in the middle: itself and half of either end
		expect(read.uncertainty90).toBeCloseTo(0.03 * Math.sqrt(1.5), 6);
	});
	it('a straightedge is read at as many places as one likes', () => {
		expect(evaluateReadings('straightedge', [0.4], {}).value).toBe(0.4);
		expect(evaluateReadings('straightedge', [0.1, -0.3, 0.2, 0.9, 0.1, 0], {}).value).toBe(0.9);
		expect(() =>
			evaluateReadings(
				'straightedge',
				Array.from({ length: 26 }, () => 0),
				{}
			)
		).toThrow(/takes 1 to 25 readings, 26 given/);
	});
	it('four corners over a plate: a plane however it lies reads nothing, one corner up reads what it is up', () => {
		const square = { fourth: [1, -1, 1] as const };
		const plane = (x: number, y: number) => 3 + 0.01 * x - 0.02 * y;
		const heights = [plane(0, 0), plane(400, 0), plane(400, 300), plane(0, 300)];
		expect(evaluateReadings('corners', heights, square).value).toBeCloseTo(0, 9);
		const read = evaluateReadings('corners', [heights[0], heights[1], heights[2], heights[3] + 1.4], square);
		expect(read.value).toBeCloseTo(1.4, 9);
		// four readings alike uncertain
		expect(read.uncertainty90).toBeCloseTo(2 * 0.1, 9);
		// the same of the piece turned in space: what the fourth stands off the plane of the others (geometry)
		const p: Vec3[] = [
			[0, 0, 0],
			[400, 0, 0],
			[400, 300, 0],
			[0, 300, 1.4]
		];
		const turned = p.map((q) => add(rotate(q, unit([1, 0.4, 0]), 0.004), [0, 0, 7]));
		const n = unit(cross(sub(turned[1], turned[0]), sub(turned[2], turned[0])));
		expect(
			evaluateReadings(
				'corners',
				turned.map((q) => q[2]),
				square
			).value
		).toBeCloseTo(Math.abs(dot(sub(turned[3], turned[0]), n)), 3);
	});
	it('winding sticks make a twist longer: sticks twice the side show twice the corner', () => {
		const read = evaluateReadings('winding-sticks', [800, 3], { sizeMm: [400, 600] });
		expect(read.value).toBeCloseTo(1.5, 9);
		expect(read.uncertainty90).toBeCloseTo(0.25, 3);
		expect(() => evaluateReadings('winding-sticks', [0, 3], { sizeMm: [400, 600] })).toThrow(/Length of a stick: 0 cannot be read/);
	});
	it('a square in one corner tells the diagonals of the parallelogram, as its corners’ coordinates have them', () => {
		const [w, h, off] = [500, 300, 0.006];
		// corners of the sheared rectangle, worked apart
		const up = [h * Math.sin(off), h * Math.cos(off)];
		const [d1, d2] = [Math.hypot(w + up[0], up[1]), Math.hypot(w - up[0], up[1])];
		const read = evaluateReadings('corner-square', [200, 200 * Math.tan(off)], { sizeMm: [w, h] });
		expect(read.value).toBeCloseTo(d1 - d2, 6);
		const by = evaluateReadings('corner-square', [200, 200 * Math.tan(off) + 0.1], { sizeMm: [w, h] }).value - read.value;
		expect(read.uncertainty90).toBeCloseTo(by, 3);
	});
	it('a laser spot: 10 mm on a wall 2 m away is 0.286 of a degree; its angle before stands in degrees among lengths', () => {
		const read = evaluateReadings('laser-spot', [2000, 5, 15, 89.9], { nominal: 90 });
		expect(read.value).toBeCloseTo(-0.1 + 0.28648, 4);
		expect(unitsOf(METHOD_KINDS['laser-spot'], {})).toEqual(['mm', 'mm', 'mm', '°']);
		// the wall shows more than the protractor it began with
		expect(read.uncertainty90).toBeCloseTo(Math.hypot(0.2, (DEG * Math.SQRT2 * 0.5) / 2000), 4);
		expect(() => evaluateReadings('laser-spot', [0, 5, 15, 90], { nominal: 90 })).toThrow(/From the fold to the wall: 0 cannot be read/);
	});
	it('coordinates of any points of a plane, tilted and turned; too few and half a point are refused, a shaped panel too', () => {
		const flat = [0, 1, 2, 3, 4, 5, 6].map((i): Vec3 => [80 * i, 37 * ((i * 5) % 7), i === 3 ? 0.8 : 0]);
		const turned = flat.map((p) => add(rotate(p, unit([0.3, 1, 0.2]), 0.9), [5, 6, 7]));
		const value = evaluateReadings('points', turned.flat(), {}).value;
		expect(value).toBeGreaterThan(0.3);
		expect(value).toBeLessThanOrEqual(0.8);
		expect(evaluateReadings('points', flat.flat(), {}).value).toBeCloseTo(value, 9);
		expect(() => evaluateReadings('points', turned.flat().slice(0, 9), {})).toThrow(/takes 12 to 399/);
		expect(() => evaluateReadings('points', turned.flat().slice(0, 13), {})).toThrow(/three readings: 13/);
		expect(() => evaluateReadings('points', turned.flat(), { relief: [0, 2] })).toThrow(/shaped in the drawing/);
	});
	it('every way names each of its readings once, in a unit', () => {
		for (const m of METHODS) {
			const context = { nx: 3, ny: 3, nominal: 90 };
			const labels = METHOD_KINDS[m].labels(context);
			expect(new Set(labels).size, m).toBe(labels.length);
			expect(unitsOf(METHOD_KINDS[m], context).length, m).toBe(labels.length);
		}
	});
});

describe('readings that look like a slip', () => {
	it('a tape in inches, a figure too many, a figure missing: each is asked about; a piece that is a little out is not', () => {
		const words = (mm: number) => unlikely('tape', [mm], { nominal: 300 }).map((d) => d.words);
		expect(words(11.81)[0]).toMatch(/Is it in inches\?/);
		expect(words(7620)[0]).toMatch(/taken for inches/);
		expect(words(3000)[0]).toMatch(/figure too many/);
		expect(words(30.1)[0]).toMatch(/figure missing/);
		expect(words(297)).toEqual([]);
		// a gap under a straightedge has no drawing to be held against
		expect(unlikely('straightedge', [30], { nominal: 300 })).toEqual([]);
	});
	it('one height far off its neighbours is asked about; a bow, a steep slope and a wave are not', () => {
		const places = (heights: number[]) => unlikely('dial-line', heights, {}).map((d) => d.at);
		expect(places([0, 0.4, 0.7, 8, 0.7, 0.4, 0])).toEqual([3]);
		expect(places([0, 1, 1.6, 1.8, 1.6, 1, 0])).toEqual([]);
		expect(places([0, 5, 10, 15, 20, 25])).toEqual([]);
		expect(places([0, 0.8, 0, -0.8, 0, 0.8, 0])).toEqual([]);
		expect(places([0, 9, 0])).toEqual([]);
		const grid = [0, 0.1, 0.2, 0.1, 0.1, 0.2, 7.3, 0.2, 0, 0.1, 0.2, 0.1];
		expect(unlikely('grid', grid, { nx: 4, ny: 3 }).map((d) => d.at)).toEqual([6]);
	});
});

describe('readings of one thing, together', () => {
	it('two alike are known √2 better; a good one counts more than a poor one', () => {
		const two = combine([
			{ value: 1, uncertainty90: 0.2 },
			{ value: 1.1, uncertainty90: 0.2 }
		]);
		expect([two.value, two.uncertainty90, two.disagree]).toEqual([expect.closeTo(1.05, 9), expect.closeTo(0.2 / Math.SQRT2, 9), false]);
		// weights 4 and 1
		expect(
			combine([
				{ value: 0, uncertainty90: 0.5 },
				{ value: 1, uncertainty90: 1 }
			]).value
		).toBeCloseTo(0.2, 9);
	});
	it('two that exclude one another say so, and the band holds them both', () => {
		const apart = combine([
			{ value: 0, uncertainty90: 0.1 },
			{ value: 2, uncertainty90: 0.1 }
		]);
		expect(apart.disagree).toBe(true);
		expect(apart.uncertainty90).toBeGreaterThan(1);
		expect(() => combine([])).toThrow(/no reading/);
	});
});

describe('round and crowned', () => {
	it('a tape round an oval rim reads its mean diameter: Ramanujan’s circumference of an ellipse of 202 and 198', () => {
		// Ramanujan 1914: pi (3 (a + b) - sqrt((3 a + b)(a + 3 b))); the mean diameter of so slight an oval is 200.00
		const [a, b] = [101, 99];
		const round = Math.PI * (3 * (a + b) - Math.sqrt((3 * a + b) * (a + 3 * b)));
		const read = evaluateReadings('pi-tape', [round], { outsideMm: 199.5 });
		expect(read.value).toBeCloseTo(0.5, 1);
		expect(read.arithmetic).toMatch(/200\.0/);
		expect(read.uncertainty90).toBeLessThan(0.5);
		expect(() => evaluateReadings('pi-tape', [0], { outsideMm: 199.5 })).toThrow(/more than 0/);
	});
	it('a dial round a ring: however the ring leans and wherever it is zeroed, its twist is what the fourth corner stands off', () => {
		const ring = (n: number, twist: number) =>
			Array.from({ length: n }, (_, i) => {
				const t = (2 * Math.PI * i) / n;
				return 5 + 0.8 * Math.cos(t) - 0.3 * Math.sin(t) + twist * Math.cos(2 * t);
			});
		for (const n of [6, 8, 12, 36]) {
			const corners = ring(4, 0.25);
			const byCorners = evaluateReadings('corners', corners, { fourth: [1, -1, 1] });
			expect(evaluateReadings('dial-ring', ring(n, 0.25), { round: 'ring' }).value).toBeCloseTo(byCorners.value, 9);
		}
		expect(evaluateReadings('dial-ring', ring(8, 0), { round: 'ring' }).value).toBeCloseTo(0, 9);
		// more places say it better
		const u = (n: number) => evaluateReadings('dial-ring', ring(n, 0.25), { round: 'ring' }).uncertainty90;
		expect(u(8) / u(32)).toBeCloseTo(2, 9);
	});
	it('a straightedge that rocks on the crown of an arc: the sagitta, however it leans', () => {
		// sagitta of a chord of 600 on a circle of 30,000 (geometry), and the rule leaning by 1 in 1000
		const sagitta = 30_000 - Math.sqrt(30_000 ** 2 - 300 ** 2);
		for (const lean of [0, 0.3, -0.2])
			expect(evaluateReadings('straightedge-crown', [sagitta + lean, sagitta - lean], {}).value).toBeCloseTo(sagitta, 9);
	});
	it('only what is round is offered a tape round it', () => {
		expect(waysOf(['tape', 'pi-tape'], { nominal: 200 })).toEqual(['tape']);
		expect(waysOf(['tape', 'pi-tape'], { nominal: 200, outsideMm: 200 })).toEqual(['tape', 'pi-tape']);
		expect(waysOf(['corners', 'dial-ring'], {})).toEqual(['corners']);
	});
	it('of the examples, the cylinder’s rim and the collar’s ring', () => {
		const round = exampleJobs().flatMap(({ file, plan }) => plan.features.filter((f) => readingContext(f, plan).round).map((f) => `${file} ${f.id}`));
		expect(round).toEqual(['cylinder.json dia-1', 'cylinder.json dia-2', 'collar.json ring-flat']);
	});
});
