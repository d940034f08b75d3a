/** Beyond the buckling point: published shapes, snapping through, plates far past their limit, beams. */
import { describe, expect, it } from 'vitest';
import { DeadLoads, GroundSprings } from '$core/equilibrium/ground';
import { Links } from '$core/equilibrium/links';
import { minimise } from '$core/equilibrium/minimise';
import { moved, stateAt } from '$core/equilibrium/state';
import { EquilibriumSystem } from '$core/equilibrium/system';
import { Tendons } from '$core/equilibrium/tendons';
import { Triangles } from '$core/equilibrium/triangles';
import type { Vec3 } from '$core/geometry/vec';
import { kernelFactory } from '$core/linalg/kernel/kernel';
import { grid } from './meshes';
import { published } from './published';

const kernel = kernelFactory(WebAssembly);
const clampAt = (nodes: number[]) => nodes.flatMap((k) => [0, 1, 2, 3, 4, 5].map((d) => 6 * k + d));

describe('a strut past its Euler load (Timoshenko & Gere 1961, table 2-4: clamped at the foot, free at the top)', () => {
	// angle at the top 40 and 60 degrees: load over Euler load, height and sideways shift over length
	for (const [angle, ratio, height, shift] of [
		[40, 1.063, 0.881, 0.422],
		[60, 1.152, 0.741, 0.593]
	] as const)
		it(`top turned by ${angle} degrees at ${ratio} times the Euler load`, () => {
			const [L, b, t, E] = [200, 8, 0.8, 200e3];
			const n = 40;
			const g = grid(n, 1, (u, v) => [L * u, b * v, 0]);
			const euler = (Math.PI ** 2 * E * ((b * t ** 3) / 12)) / (4 * L * L);
			const loads = new Float64Array(3 * g.nodeCount);
			for (const j of [0, 1]) {
				loads[3 * g.at(n, j)] = (-ratio * euler) / 2;
				loads[3 * g.at(n, j) + 2] = 1e-4 * euler; // a breath aside, so that it knows which way
			}
			const system = new EquilibriumSystem(
				g.nodeCount,
				[new Triangles(g.xyz, g.tri, () => ({ eModulus: E, poisson: 0, thickness: t })), new DeadLoads(loads)],
				clampAt([0, 1].map((j) => g.at(0, j))),
				kernel
			);
			const r = minimise(system, stateAt(g.xyz), { steps: 4, forceTolerance: 1e-6 * euler, momentTolerance: 1e-5 * euler, maxTurn: 0.3 });
			expect(r.converged).toBe(true);
			const top = 3 * g.at(n, 0);
			// past the Euler load the shift is steep in the load: 1 in 1000 of load is some per cent of shift
			published({
				id: `c-euler-${angle}-x`,
				case: `Strut at ${ratio} Euler loads, height over length`,
				source: 'Timoshenko & Gere 1961, table 2-4',
				expected: height,
				got: r.state.x[top] / L,
				within: 0.02,
				mesh: `${n} x 1 cells`
			});
			published({
				id: `c-euler-${angle}-y`,
				case: `Strut at ${ratio} Euler loads, shift over length`,
				source: 'Timoshenko & Gere 1961, table 2-4',
				expected: shift,
				got: Math.abs(r.state.x[top + 2]) / L,
				within: 0.03,
				mesh: `${n} x 1 cells`
			});
		});
});

describe('a free 400 x 300 x 1.5 plate with a tendon along its middle', () => {
	const [n, m] = [20, 15].map((v) => v + (v % 2));
	const g = grid(n, m, (u, v) => [400 * u, 300 * v, 0]);
	const solve = (force: number, eccentricity: number, seed?: Float64Array) => {
		const list = Array.from({ length: n }, (_, i) => ({ a: g.at(i, m / 2), b: g.at(i + 1, m / 2), force, offset: [0, 0, eccentricity] as Vec3 }));
		const [p, q, r] = [g.at(0, 0), g.at(n, 0), g.at(0, m)];
		const fixed = [6 * p, 6 * p + 1, 6 * p + 2, 6 * q + 1, 6 * q + 2, 6 * r + 2];
		const sheet = { eModulus: 200e3, poisson: 0.3, thickness: 1.5 };
		const system = new EquilibriumSystem(g.nodeCount, [new Triangles(g.xyz, g.tri, () => sheet), new Tendons(list)], fixed, kernel);
		const out = minimise(system, stateAt(g.xyz), { steps: 5, forceTolerance: 1e-6 * force, momentTolerance: 1e-5 * force, maxTurn: 0.3, seed });
		return { out, z: (i: number, j: number) => out.state.x[3 * g.at(i, j) + 2] };
	};
	it('converges at six times its buckling force, and turned over gives the mirror image', () => {
		const [up, down] = [solve(34_000, 0.1), solve(34_000, -0.1)];
		expect([up.out.converged, down.out.converged]).toEqual([true, true]);
		expect(Math.abs(up.z(n / 2, m / 2))).toBeGreaterThan(5);
		for (const [i, j] of [
			[n / 2, m / 2],
			[n / 2, 0],
			[n, m / 2]
		])
			expect(Math.abs(up.z(i, j) + down.z(i, j))).toBeLessThan(1e-3);
	});
	it('without anything to tell it which way, it still leaves the flat shape, and goes where the seed points', () => {
		const seed = new Float64Array(6 * g.nodeCount);
		seed[6 * g.at(n / 2, m / 2) + 2] = 1;
		const up = solve(9000, 0, seed);
		const down = solve(
			9000,
			0,
			seed.map((v) => -v)
		);
		expect(up.out.branchings).toBeGreaterThan(0);
		expect(Math.abs(up.z(n / 2, 0))).toBeGreaterThan(0.5);
		expect(up.z(n / 2, m / 2) * down.z(n / 2, m / 2)).toBeLessThan(0);
		expect(Math.abs(up.z(n / 2, m / 2) + down.z(n / 2, m / 2))).toBeLessThan(1e-3 * Math.abs(up.z(n / 2, m / 2)) + 1e-3);
	});
	it('below the buckling force it stays flat', () => {
		const r = solve(4000, 0);
		expect(r.out.branchings).toBe(0);
		expect(Math.abs(r.z(n / 2, 0))).toBeLessThan(1e-6);
	});
	it('a small eccentricity bows it far: 0.1 mm x 30 kN some millimetres', () => {
		const flatForce = solve(3000, 1); // the same moment, far below buckling
		expect(Math.abs(flatForce.z(n / 2, m / 2) - flatForce.z(0, m / 2))).toBeGreaterThan(1);
	});
});

describe('snapping through', () => {
	it('a shallow arch pressed beyond its limit lands on its other side, in equilibrium', () => {
		const [L, h, n] = [200, 6, 32];
		const g = grid(n, 1, (u, v) => [L * u, 10 * v, h * Math.sin(Math.PI * u)]);
		const loads = new Float64Array(3 * g.nodeCount);
		for (const j of [0, 1]) loads[3 * g.at(n / 2, j) + 2] = -20;
		const system = new EquilibriumSystem(
			g.nodeCount,
			[new Triangles(g.xyz, g.tri, () => ({ eModulus: 200e3, poisson: 0, thickness: 1 })), new DeadLoads(loads)],
			[0, n].flatMap((i) => [0, 1].flatMap((j) => [6 * g.at(i, j), 6 * g.at(i, j) + 1, 6 * g.at(i, j) + 2])),
			kernel
		);
		const r = minimise(system, stateAt(g.xyz), { steps: 6, forceTolerance: 1e-4, momentTolerance: 1e-3, maxTurn: 0.2 });
		expect(r.converged).toBe(true);
		expect(r.state.x[3 * g.at(n / 2, 0) + 2]).toBeLessThan(-h / 2);
		// let go, it stays there: a second stable shape
		const free = minimise(system, r.state, {
			steps: 1,
			forceTolerance: 1e-4,
			momentTolerance: 1e-3,
			maxTurn: 0.2,
			lay: () => loads.fill(0),
			once: true
		});
		expect(free.converged).toBe(true);
		expect(free.state.x[3 * g.at(n / 2, 0) + 2]).toBeLessThan(-h / 2);
	});
});

describe('beams and the bench', () => {
	it('a chain of beam links deflects as P L^3 / 3 E I, and rolls up under an end moment as M L / E I', () => {
		const [L, n, E, I, A] = [300, 12, 200e3, 400, 80];
		const l = L / n;
		const xyz = Float64Array.from({ length: 3 * (n + 1) }, (_, i) => (i % 3 === 0 ? (l * i) / 3 : 0));
		const axes: [Vec3, Vec3, Vec3] = [
			[1, 0, 0],
			[0, 1, 0],
			[0, 0, 1]
		];
		const links = new Links(
			Array.from({ length: n }, (_, i) => ({
				a: i,
				b: i + 1,
				arm: [l, 0, 0] as Vec3,
				turn: [0, 0, 0] as Vec3,
				axes,
				stiffness: [(E * A) / l, (12 * E * I) / l ** 3, (12 * E * I) / l ** 3, 1e7 / l, (E * I) / l, (E * I) / l],
				mean: true
			}))
		);
		const loads = new Float64Array(3 * (n + 1));
		loads[3 * n + 2] = 10;
		const system = new EquilibriumSystem(n + 1, [links, new DeadLoads(loads)], [0, 1, 2, 3, 4, 5]);
		const r = minimise(system, stateAt(xyz), { steps: 1, forceTolerance: 1e-7, momentTolerance: 1e-6 });
		expect(r.converged).toBe(true);
		published({
			id: 'a-beam',
			case: 'Beam links, end load, P L^3 / 3 E I',
			source: 'beam theory',
			expected: (10 * L ** 3) / (3 * E * I),
			got: r.state.x[3 * n + 2],
			unit: 'mm',
			within: 0.005,
			mesh: `${n} links`
		});
	});
	it('a strip dropped on a bench rests on it: the bench bears its weight and does not hold it down', () => {
		const g = grid(10, 2, (u, v) => [100 * u, 20 * v, 0.5]);
		const loads = new Float64Array(3 * g.nodeCount);
		for (let k = 0; k < g.nodeCount; k++) loads[3 * k + 2] = -0.01;
		const bench = new GroundSprings(
			Array.from({ length: g.nodeCount }, (_, node) => ({ node, direction: [0, 0, 1] as Vec3, rest: 0, stiffness: 200, oneWay: true }))
		);
		const fixed = [6 * g.at(0, 0), 6 * g.at(0, 0) + 1, 6 * g.at(10, 0) + 1];
		const system = new EquilibriumSystem(
			g.nodeCount,
			[new Triangles(g.xyz, g.tri, () => ({ eModulus: 200e3, poisson: 0.3, thickness: 1 })), new DeadLoads(loads, true), bench],
			fixed,
			kernel
		);
		const r = minimise(system, stateAt(g.xyz), { steps: 1, forceTolerance: 1e-6, momentTolerance: 1e-5, maxTurn: 0.3 });
		expect(r.converged).toBe(true);
		let borne = 0;
		for (let k = 0; k < g.nodeCount; k++) borne += Math.max(0, -200 * r.state.x[3 * k + 2]);
		expect(borne).toBeCloseTo(0.01 * g.nodeCount, 4);
		// lifted by hand, nothing pulls it back
		const lifted = stateAt(r.state.x);
		for (let k = 0; k < g.nodeCount; k++) lifted.x[3 * k + 2] = 5;
		expect(bench.add(lifted, 1)).toBe(0);
	});
	it('a step of nothing moves nothing, and steps add up', () => {
		const s = stateAt(Float64Array.from([0, 0, 0, 10, 0, 0]));
		expect(moved(s, new Float64Array(12), 1)).toEqual(s);
		const step = Float64Array.from({ length: 12 }, (_, i) => (i % 6 === 5 ? 0.3 : 0));
		const [twice, once] = [moved(moved(s, step, 1), step, 1), moved(s, step, 2)];
		twice.R.forEach((v, i) => expect(v).toBeCloseTo(once.R[i], 12));
	});
});
