/** How a piece lies: what bears it, and that it is borne with its whole weight and no more. */
import { describe, expect, it } from 'vitest';
import { kernelFactory } from '../linalg/kernel/kernel';
import type { Posture } from '../document/words';
import { minimise } from './minimise';
import { postureModel } from './posture';
import { stateAt } from './state';
import { EquilibriumSystem } from './system';
import { Triangles } from './triangles';

const G = 9.80665;
const steel = { eModulus: 200_000, poisson: 0.3, thickness: 1.5 };
/** a sheet a x b mm in the plane, n x n squares of two triangles each, with its mass by node */
function sheet(a: number, b: number, n = 6) {
	const xyz: number[] = [];
	for (let j = 0; j <= n; j++) for (let i = 0; i <= n; i++) xyz.push((a * i) / n, (b * j) / n, 0);
	const tri: number[] = [];
	for (let j = 0; j < n; j++)
		for (let i = 0; i < n; i++) {
			const p = j * (n + 1) + i;
			tri.push(p, p + 1, p + n + 2, p, p + n + 2, p + n + 1);
		}
	const count = (n + 1) ** 2;
	const mass = new Float64Array(count);
	const each = ((a * b) / (n * n) / 2) * steel.thickness * 7900e-9;
	for (const k of tri) mass[k] += each / 3;
	return { xyz: Float64Array.from(xyz), tri: Int32Array.from(tri), count, mass, kg: a * b * steel.thickness * 7900e-9 };
}
const turned = (xyz: Float64Array) => Float64Array.from(xyz, (_, i) => (i % 3 === 2 ? xyz[i - 1] : i % 3 === 1 ? 0 : xyz[i])); // (x, 0, y): standing
const kernel = kernelFactory(WebAssembly);
function settled(posture: Posture, s = sheet(300, 200)) {
	const lying = postureModel(posture, s.xyz, s.count, s.mass);
	const system = new EquilibriumSystem(s.count, [new Triangles(s.xyz, s.tri, () => steel), ...lying.terms], lying.fixed, kernel);
	const r = minimise(system, stateAt(s.xyz), { forceTolerance: 1e-6, momentTolerance: 1e-5 });
	// what the held freedoms bear: the gradient of everything there, without holding it
	const free = new EquilibriumSystem(s.count, system.terms, [], kernel);
	const { gradient } = free.gradient(r.state, 1);
	return { r, lying, s, bears: (direction: number) => lying.fixed.filter((f) => f % 6 === direction).reduce((t, f) => t + gradient[f], 0) };
}

describe('postures', () => {
	it('on three points: six freedoms, three of them down, wide apart, and they bear the whole weight', () => {
		const { lying, r, s, bears } = settled('three-points');
		expect(r.converged).toBe(true);
		expect(new Set(lying.fixed).size).toBe(6);
		const points = lying.fixed.filter((f) => f % 6 === 2).map((f) => Math.floor(f / 6));
		expect(points).toHaveLength(3);
		const [[ax, ay], [bx, by], [cx, cy]] = points.map((k) => [s.xyz[3 * k], s.xyz[3 * k + 1]]);
		expect(Math.abs((bx - ax) * (cy - ay) - (by - ay) * (cx - ax)) / 2).toBeGreaterThan(0.2 * 300 * 200);
		expect(bears(2)).toBeCloseTo(s.kg * G, 3);
		// nothing is held that pushes sideways
		expect(Math.abs(bears(0)) + Math.abs(bears(1))).toBeLessThan(1e-3);
		expect(lying.words).toBe('on three points');
	});
	it('on three points the free edges hang lower than the points; twice the span sags some sixteen times as far', () => {
		const sag = (a: number, b: number) => {
			const { r } = settled('three-points', sheet(a, b));
			return -Math.min(...r.state.x.filter((_, i) => i % 3 === 2));
		};
		const [small, large] = [sag(200, 140), sag(400, 280)];
		expect(small).toBeGreaterThan(0);
		expect(large / small).toBeGreaterThan(12);
		expect(large / small).toBeLessThan(17);
	});
	it('flat on the bench: only three freedoms are held, none of them down; it sinks in by weight over stiffness and stays flat', () => {
		const { lying, r, s } = settled('flat-on-bench');
		expect(lying.fixed.map((f) => f % 6).every((d) => d < 2)).toBe(true);
		expect(lying.fixed).toHaveLength(3);
		const z = r.state.x.filter((_, i) => i % 3 === 2);
		const mean = z.reduce((t, v) => t + v, 0) / z.length;
		// 200 N/mm under each node
		expect(mean).toBeCloseTo((-s.kg * G) / (200 * s.count), 5);
		expect(Math.max(...z) - Math.min(...z)).toBeLessThan(2e-3);
	});
	it('upright: down is along y; it stands on its lower edge and is held from falling', () => {
		const flat = sheet(300, 200);
		const { lying, r } = settled('upright', flat);
		expect(r.converged).toBe(true);
		expect(lying.words).toMatch(/upright/);
		const low = Array.from({ length: flat.count }, (_, k) => k).filter((k) => flat.xyz[3 * k + 1] === 0);
		for (const k of low) expect(Math.abs(r.state.x[3 * k + 1])).toBeLessThan(0.02);
		// in its own plane a sheet hardly gives under its weight
		for (let k = 0; k < flat.count; k++) expect(Math.abs(r.state.x[3 * k + 2])).toBeLessThan(0.01);
	});
	it('a piece whose lowest level is a line finds its third point off it', () => {
		const s = sheet(300, 200);
		const lying = postureModel('three-points', turned(s.xyz), s.count, s.mass);
		const points = [...new Set(lying.fixed.map((f) => Math.floor(f / 6)))];
		expect(points).toHaveLength(3);
		const [p, q, t] = points.map((k) => [0, 1, 2].map((d) => turned(s.xyz)[3 * k + d]));
		const [u, v] = [q.map((x, d) => x - p[d]), t.map((x, d) => x - p[d])];
		expect(Math.hypot(u[1] * v[2] - u[2] * v[1], u[2] * v[0] - u[0] * v[2], u[0] * v[1] - u[1] * v[0])).toBeGreaterThan(1e4);
	});
});
