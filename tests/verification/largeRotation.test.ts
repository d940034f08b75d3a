/** Published large-rotation cases for the co-rotational shell. Meshes and tolerances are named beside each. */
import { describe, expect, it } from 'vitest';
import { DeadLoads, DeadMoments } from '$core/equilibrium/ground';
import { minimise } from '$core/equilibrium/minimise';
import { stateAt } from '$core/equilibrium/state';
import { EquilibriumSystem } from '$core/equilibrium/system';
import { Triangles } from '$core/equilibrium/triangles';
import { grid } from './meshes';
import { published } from './published';

const clampAt = (nodes: number[]) => nodes.flatMap((k) => [0, 1, 2, 3, 4, 5].map((d) => 6 * k + d));

describe('large rotation', () => {
	it('cantilever under end shear, 10 x 1 x 0.1, P = 4 (Sze, Liu, Lo 2004, table 1): U 3.286, W 6.698', () => {
		const g = grid(20, 2, (u, v) => [10 * u, v, 0]);
		const loads = new Float64Array(3 * g.nodeCount);
		[0.25, 0.5, 0.25].forEach((w, j) => (loads[3 * g.at(20, j) + 2] = 4 * w));
		const system = new EquilibriumSystem(
			g.nodeCount,
			[new Triangles(g.xyz, g.tri, () => ({ eModulus: 1.2e6, poisson: 0, thickness: 0.1 })), new DeadLoads(loads)],
			clampAt([0, 1, 2].map((j) => g.at(0, j)))
		);
		const r = minimise(system, stateAt(g.xyz), { steps: 5, forceTolerance: 1e-6, momentTolerance: 1e-6 });
		expect(r.converged).toBe(true);
		const tip = 3 * g.at(20, 1);
		published({
			id: 'c-cantilever-u',
			case: 'Cantilever under end shear, shortening',
			source: 'Sze, Liu, Lo 2004, table 1',
			expected: 3.286,
			got: 10 - r.state.x[tip],
			within: 0.01,
			mesh: '20 x 2 cells'
		});
		published({
			id: 'c-cantilever-w',
			case: 'Cantilever under end shear, deflection',
			source: 'Sze, Liu, Lo 2004, table 1',
			expected: 6.698,
			got: r.state.x[tip + 2],
			within: 0.01,
			mesh: '20 x 2 cells'
		});
	});
	it('elastica, P L2 / EI = 4 (Mattiasson 1981): horizontal 0.32894, vertical 0.66996 of the length', () => {
		const g = grid(40, 1, (u, v) => [100 * u, 2 * v, 0]);
		const [E, t] = [200e3, 0.5];
		const P = (4 * E * ((2 * t ** 3) / 12)) / 100 ** 2;
		const loads = new Float64Array(3 * g.nodeCount);
		for (const j of [0, 1]) loads[3 * g.at(40, j) + 2] = P / 2;
		const system = new EquilibriumSystem(
			g.nodeCount,
			[new Triangles(g.xyz, g.tri, () => ({ eModulus: E, poisson: 0, thickness: t })), new DeadLoads(loads)],
			clampAt([0, 1].map((j) => g.at(0, j)))
		);
		const r = minimise(system, stateAt(g.xyz), { steps: 5, forceTolerance: 1e-6, momentTolerance: 1e-5 });
		const tip = 3 * g.at(40, 0);
		published({
			id: 'c-elastica-u',
			case: 'Elastica, P L^2 / EI = 4, horizontal, shares of the length',
			source: 'Mattiasson 1981',
			expected: 0.32894,
			got: (100 - r.state.x[tip]) / 100,
			within: 0.005,
			mesh: '40 x 1 cells'
		});
		published({
			id: 'c-elastica-w',
			case: 'Elastica, P L^2 / EI = 4, vertical, shares of the length',
			source: 'Mattiasson 1981',
			expected: 0.66996,
			got: r.state.x[tip + 2] / 100,
			within: 0.005,
			mesh: '40 x 1 cells'
		});
	});
	it('roll-up of a strip into a full circle, L 12, M = 50 pi / 3 (Sze, Liu, Lo 2004, section 3.2): the tip comes back to the root', () => {
		const g = grid(48, 1, (u, v) => [12 * u, v, 0]);
		const M = (50 * Math.PI) / 3;
		const system = new EquilibriumSystem(
			g.nodeCount,
			[
				new Triangles(g.xyz, g.tri, () => ({ eModulus: 1.2e6, poisson: 0, thickness: 0.1 })),
				new DeadMoments([0, 1].map((j) => ({ node: g.at(48, j), moment: [0, -M / 2, 0] })))
			],
			// plane motion: a moment about a fixed axis has a potential only there
			[...clampAt([0, 1].map((j) => g.at(0, j))), ...[...Array(g.nodeCount).keys()].flatMap((k) => [6 * k + 1, 6 * k + 3, 6 * k + 5])]
		);
		const r = minimise(system, stateAt(g.xyz), { steps: 20, forceTolerance: 1e-4, momentTolerance: 1e-4, plain: true, maxTurn: 1 });
		expect(r.converged).toBe(true);
		const tip = 3 * g.at(48, 0);
		// the tip's way along: the whole length back to the root
		published({
			id: 'c-roll-up',
			case: 'Roll-up into a full circle, tip back at the root',
			source: 'Sze, Liu, Lo 2004, section 3.2',
			expected: 12,
			got: 12 - r.state.x[tip],
			within: 0.01,
			mesh: '48 x 1 cells'
		});
		expect(Math.hypot(r.state.x[tip], r.state.x[tip + 2]) / 12).toBeLessThan(0.01);
	});
	it('slit annular plate lifted at one edge, 0.8 per length (Sze, Liu, Lo 2004, table 4): A 13.891, B 17.528', () => {
		const solve = (n: number, m: number) => {
			const g = grid(n, m, (u, v) => {
				const [r, a] = [6 + 4 * v, 2 * Math.PI * u];
				return [r * Math.cos(a), r * Math.sin(a), 0];
			});
			const loads = new Float64Array(3 * g.nodeCount);
			for (let j = 0; j <= m; j++) loads[3 * g.at(0, j) + 2] = (0.8 * 4 * (j === 0 || j === m ? 0.5 : 1)) / m;
			const system = new EquilibriumSystem(
				g.nodeCount,
				[new Triangles(g.xyz, g.tri, () => ({ eModulus: 21e6, poisson: 0, thickness: 0.03 })), new DeadLoads(loads)],
				clampAt(Array.from({ length: m + 1 }, (_, j) => g.at(n, j)))
			);
			const r = minimise(system, stateAt(g.xyz), { steps: 8, forceTolerance: 1e-6, momentTolerance: 1e-6, maxTurn: 0.4 });
			expect(r.converged).toBe(true);
			return [r.state.x[3 * g.at(0, 0) + 2], r.state.x[3 * g.at(0, m) + 2]];
		};
		const [a, b] = solve(64, 10);
		published({
			id: 'c-annular-a',
			case: 'Slit annular plate, inner corner',
			source: 'Sze, Liu, Lo 2004, table 4',
			expected: 13.891,
			got: a,
			within: 0.02,
			mesh: '64 x 10 cells'
		});
		published({
			id: 'c-annular-b',
			case: 'Slit annular plate, outer corner',
			source: 'Sze, Liu, Lo 2004, table 4',
			expected: 17.528,
			got: b,
			within: 0.02,
			mesh: '64 x 10 cells'
		});
	});
});
