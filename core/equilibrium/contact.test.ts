import { describe, expect, it } from 'vitest';
import type { Vec3 } from '../geometry/vec';
import { EdgeContacts, type EdgeContact } from './contact';
import { moved, stateAt } from './state';

/** A at the origin, B a little to the right of it; the joint closes as B moves to the left. */
const pair = (gap: number): EdgeContact => ({ a: 0, b: 1, arm: [0.2, 0, 0], closing: [-1, 0, 0], gap, stiffness: 1000, on: true });
const start = stateAt(Float64Array.from([0, 0, 0, 0.2, 0, 0]));
const step = (...v: number[]) => Float64Array.from(v);

describe('edges that nothing joins yet', () => {
	it('close freely until the gap is used up, then press; pulling apart costs nothing', () => {
		const c = pair(0.5);
		const term = new EdgeContacts([c]);
		const at = (closing: number) => moved(start, step(0, 0, 0, 0, 0, 0, -closing, 0, 0, 0, 0, 0), 1);
		expect(term.add(at(0.4), 1)).toBe(0);
		expect(term.add(at(-3), 1)).toBe(0);
		expect(term.add(at(0.7), 1)).toBeCloseTo(0.5 * 1000 * 0.2 ** 2, 9);
		expect(EdgeContacts.depth(c, at(0.7))).toBeCloseTo(0.2, 12);
	});
	it('are left alone once they are joined', () => {
		const term = new EdgeContacts([{ ...pair(0), on: false }]);
		expect(term.add(moved(start, step(0, 0, 0, 0, 0, 0, -1, 0, 0, 0, 0, 0), 1), 1)).toBe(0);
	});
	it('its force is the slope of its energy, for turned sheets too, and balances in force and moment', () => {
		const term = new EdgeContacts([pair(0)]);
		const s = moved(start, step(0.3, -0.2, 0.1, 0.2, -0.1, 0.4, -0.4, 0.1, 0.05, 0, 0.1, 0), 1);
		const g = new Float64Array(12);
		expect(term.add(s, 1, g)).toBeGreaterThan(0);
		const h = 1e-6;
		for (let i = 0; i < 12; i++) {
			const e = new Float64Array(12);
			e[i] = 1;
			const slope = (term.add(moved(s, e, h), 1) - term.add(moved(s, e, -h), 1)) / (2 * h);
			expect(Math.abs(slope - g[i])).toBeLessThan(1e-4);
		}
		for (let d = 0; d < 3; d++) expect(g[d] + g[6 + d]).toBeCloseTo(0, 9);
		const r: Vec3 = [0, 1, 2].map((d) => s.x[3 + d] - s.x[d]) as Vec3;
		const f = [g[6], g[7], g[8]];
		for (let d = 0; d < 3; d++) {
			const [p, q] = [(d + 1) % 3, (d + 2) % 3];
			expect(g[3 + d] + g[9 + d] + r[p] * f[q] - r[q] * f[p]).toBeCloseTo(0, 9);
		}
	});
	it('a rigid motion of both costs nothing', () => {
		const term = new EdgeContacts([pair(0)]);
		// half a turn about z, both nodes
		const turned = moved(start, step(5, 5, 0, 0, 0, Math.PI, 5 - 0.4, 5, 0, 0, 0, Math.PI), 1);
		expect(term.add(turned, 1)).toBeLessThan(1e-20);
	});
});
