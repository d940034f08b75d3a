/** Runs of one seam and their heat, against Rosenthal's thin plate, superposition, and the ratio found in a solid model of a coupon. */
import { describe, expect, it } from 'vitest';
import { endlessPeak, ownRunShares, type OwnRun, type OwnSeam } from './ownRuns';

const seam: OwnSeam = { lengthMm: 300, isClosed: false, diffusivity: 5, lossPerS: 0, atMm: 18 };
const run = (fromMm: number, toMm: number, startS = 0): OwnRun => ({ fromMm, toMm, startS, speedMmPerS: 2.5, heat: 100 });
const mean = (v: readonly number[]) => v.reduce((s, x) => s + x, 0) / v.length;

describe('the field of one run', () => {
	it('fast and without end, peaks as Rosenthal’s thin plate: q / (rho c t y) / sqrt(2 pi e) within 3 %', () => {
		// in our units a rise of q / (4 pi k t) times the sum: rho c = k / a
		const s = { diffusivity: 5, lossPerS: 0, atMm: 20 };
		const got = endlessPeak({ speedMmPerS: 40, heat: 100 }, s) / (4 * Math.PI);
		const rosenthal = (100 * s.diffusivity) / s.atMm / Math.sqrt(2 * Math.PI * Math.E);
		expect(Math.abs(got / rosenthal - 1)).toBeLessThan(0.03);
	});
	it('is the sum of its halves: cut in two without a pause nothing changes but which half is asked', () => {
		const [whole] = ownRunShares([run(0, 300)], seam);
		const halves = ownRunShares([run(0, 150), run(150, 300, 60)], seam);
		expect(mean(halves)).toBeCloseTo(whole, 1);
		expect(Math.abs(mean(halves) / whole - 1)).toBeLessThan(0.02);
	});
	it('in the middle of a long seam is that of a run without end; a sheet that ends sends the heat back', () => {
		const [long] = ownRunShares([run(0, 2000)], { ...seam, lengthMm: 2000 });
		expect(Math.abs(long - 1)).toBeLessThan(0.02);
		const [toTheEdge] = ownRunShares([run(0, 100)], { ...seam, lengthMm: 100 });
		const [inTheMiddle] = ownRunShares([run(500, 600)], { ...seam, lengthMm: 1100 });
		expect(inTheMiddle).toBeLessThan(0.9);
		expect(toTheEdge).toBeGreaterThan(inTheMiddle + 0.05);
	});
	it('a ring has no ends: once round pulls as one without end would, but for where it starts', () => {
		const [ring] = ownRunShares([run(0, 300)], { ...seam, isClosed: true });
		expect(Math.abs(ring - 1)).toBeLessThan(0.08);
	});
});

describe('one seam in several runs', () => {
	const back = (pause: number) => [50, 100, 150, 200, 250, 300].map((to, i) => run(to, to - 50, i * (20 + pause)));
	const [through] = ownRunShares([run(0, 300)], seam);
	it('short runs that are left to cool pull less than one, and the less the longer the pauses (common practice, no source)', () => {
		const [soon, later, cold] = [15, 60, 3000].map((p) => mean(ownRunShares(back(p), seam)) / through);
		expect(soon).toBeLessThan(1.02);
		expect(later).toBeLessThan(soon);
		expect(cold).toBeLessThan(later);
		expect(cold).toBeGreaterThan(0.7);
	});
	it('a coupon back-stepped in three with 30 s between: 0.98 of one run in solid elements (docs/verification.md), within 0.04', () => {
		const coupon = { ...seam, lengthMm: 120 };
		const [one] = ownRunShares([run(9, 111)], coupon);
		const three = ownRunShares([run(43, 9), run(77, 43, 13.6 + 30), run(111, 77, 2 * (13.6 + 30))], coupon);
		expect(Math.abs(mean(three) / one - 0.98)).toBeLessThan(0.04);
	});
	it('at the seam itself there is no peak to tell, and it says so', () => {
		expect(() => ownRunShares([run(0, 100)], { ...seam, atMm: 0 })).toThrow(/atMm/);
	});
	it('heat given twice at one place at once counts twice, long after it counts once', () => {
		const [alone] = ownRunShares([run(100, 200)], seam);
		expect(ownRunShares([run(100, 200), run(100, 200)], seam)[0]).toBeCloseTo(2 * alone, 6);
		expect(ownRunShares([run(100, 200), run(100, 200, 1e5)], seam)[1]).toBeCloseTo(alone, 2);
	});
});
