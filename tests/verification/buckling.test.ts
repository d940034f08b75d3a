/** Plate buckling by the shell's linear buckling solution. Timoshenko & Gere (1961), Theory of Elastic Stability, chapter 9. */
import { describe, expect, it } from 'vitest';
import { bucklingModes } from '$core/equilibrium/buckling';
import { DeadLoads } from '$core/equilibrium/ground';
import { stateAt } from '$core/equilibrium/state';
import { EquilibriumSystem } from '$core/equilibrium/system';
import { Tendons } from '$core/equilibrium/tendons';
import { Triangles } from '$core/equilibrium/triangles';
import { grid, type Grid } from './meshes';
import { published } from './published';

const sheet = { eModulus: 200e3, poisson: 0.3, thickness: 1.5 };
const D = (sheet.eModulus * sheet.thickness ** 3) / (12 * (1 - 0.09));
const border = (g: Grid, n: number, m: number) => ({
	left: Array.from({ length: m + 1 }, (_, j) => g.at(0, j)),
	right: Array.from({ length: m + 1 }, (_, j) => g.at(n, j)),
	bottom: Array.from({ length: n + 1 }, (_, i) => g.at(i, 0)),
	top: Array.from({ length: n + 1 }, (_, i) => g.at(i, m))
});

/** k of N_cr = k pi^2 D / b^2 for an a x b plate pressed along x. */
function pressed(a: number, b: number, n: number, m: number, supports: (e: ReturnType<typeof border>) => number[], shear = false) {
	const g = grid(n, m, (u, v) => [a * u, b * v, 0]);
	const e = border(g, n, m);
	const forces = new Float64Array(3 * g.nodeCount);
	const N = 1; // N/mm
	const spread = (nodes: number[], length: number, axis: number, value: number) =>
		nodes.forEach((k, i) => (forces[3 * k + axis] += (value * length * (i === 0 || i === nodes.length - 1 ? 0.5 : 1)) / (nodes.length - 1)));
	if (shear) {
		spread(e.left, b, 1, -N);
		spread(e.right, b, 1, N);
		spread(e.bottom, a, 0, -N);
		spread(e.top, a, 0, N);
	} else {
		spread(e.left, b, 0, N);
		spread(e.right, b, 0, -N);
	}
	const middle = g.at(Math.round(n / 2), Math.round(m / 2));
	const fixed = new Set([...supports(e), 6 * middle, 6 * middle + 1, 6 * g.at(n, Math.round(m / 2)) + 1]);
	const system = new EquilibriumSystem(g.nodeCount, [new Triangles(g.xyz, g.tri, () => sheet), new DeadLoads(forces)], [...fixed]);
	const modes = bucklingModes(system, stateAt(g.xyz), 3).filter((x) => x.factor > 0);
	return (modes[0].factor * N * b * b) / (Math.PI ** 2 * D);
}
const w = (nodes: number[]) => nodes.map((k) => 6 * k + 2);
const turn = (nodes: number[], d: number) => nodes.map((k) => 6 * k + d);

describe('plate buckling coefficients', () => {
	it('square, simply supported all round, pressed one way: 4.00, and the error falls with the mesh', () => {
		const k = [8, 16].map((n) => pressed(200, 200, n, n, (e) => w([...e.left, ...e.right, ...e.top, ...e.bottom])));
		published({
			id: 'b-ss',
			case: 'Plate buckling k, square, simply supported',
			source: 'Timoshenko & Gere 1961, table 9-1',
			expected: 4,
			got: k[1],
			within: 0.02,
			mesh: '16 x 16 cells'
		});
		expect(Math.abs(k[0] - 4) / Math.abs(k[1] - 4)).toBeGreaterThan(2.5);
	});
	it('one long edge clamped, the other free: 1.28 at its best length', () => {
		// the minimum 1.28 lies at a / b = 1.64
		const k = pressed(164, 100, 20, 12, (e) => [...w([...e.left, ...e.right, ...e.bottom]), ...turn(e.bottom, 3)]);
		published({
			id: 'b-clamped-free',
			case: 'Plate buckling k, one long edge clamped, the other free',
			source: 'Timoshenko & Gere 1961, section 9.4',
			expected: 1.28,
			got: k,
			within: 0.04,
			mesh: '20 x 12 cells'
		});
	});
	it('long edges clamped, a / b = 2: 6.97 (minimum over the half-wave length)', () => {
		const k = pressed(266, 200, 20, 16, (e) => [...w([...e.left, ...e.right, ...e.top, ...e.bottom]), ...turn([...e.top, ...e.bottom], 3)]);
		// one half wave of 0.66 b fits twice into a = 1.33 b
		published({
			id: 'b-clamped',
			case: 'Plate buckling k, unloaded edges clamped',
			source: 'Timoshenko & Gere 1961, table 9-7',
			expected: 6.97,
			got: k,
			within: 0.025,
			mesh: '20 x 16 cells, two half waves'
		});
	});
	it('one long edge free, the other simply supported, nu 0.3: a / b = 1, 2, 4: 1.402, 0.668, 0.486', () => {
		for (const [ratio, expected] of [
			[1, 1.402],
			[2, 0.668],
			[4, 0.486]
		] as const) {
			const k = pressed(100 * ratio, 100, 12 * ratio, 10, (e) => w([...e.left, ...e.right, ...e.bottom]));
			published({
				id: `b-free-${ratio}`,
				case: `Plate buckling k, one long edge free, a / b = ${ratio}`,
				source: 'Timoshenko & Gere 1961, section 9.4, for nu 0.3',
				expected,
				got: k,
				within: 0.02,
				mesh: `${12 * ratio} x 10 cells`
			});
		}
	});
	it('square in shear, simply supported: 9.34', () => {
		const k = pressed(200, 200, 18, 18, (e) => w([...e.left, ...e.right, ...e.top, ...e.bottom]), true);
		published({
			id: 'b-shear',
			case: 'Plate buckling k, square in shear',
			source: 'Timoshenko & Gere 1961, table 9-10',
			expected: 9.34,
			got: k,
			within: 0.03,
			mesh: '18 x 18 cells'
		});
	});
});

describe('a tendon along the middle of a free 400 x 300 x 1.5 plate (Ritz, own derivation, two ways)', () => {
	const tendonPlate = (along: 'x' | 'y') => {
		const [n, m] = [24, 18];
		const g = grid(n, m, (u, v) => [400 * u, 300 * v, 0]);
		const list =
			along === 'x'
				? Array.from({ length: n }, (_, i) => ({
						a: g.at(i, m / 2),
						b: g.at(i + 1, m / 2),
						force: 1000,
						offset: [0, 0, 0] as [number, number, number]
					}))
				: Array.from({ length: m }, (_, j) => ({
						a: g.at(n / 2, j),
						b: g.at(n / 2, j + 1),
						force: 1000,
						offset: [0, 0, 0] as [number, number, number]
					}));
		const [p, q, r] = [g.at(0, 0), g.at(n, 0), g.at(0, m)];
		const fixed = [6 * p, 6 * p + 1, 6 * p + 2, 6 * q + 1, 6 * q + 2, 6 * r + 2];
		const system = new EquilibriumSystem(g.nodeCount, [new Triangles(g.xyz, g.tri, () => sheet), new Tendons(list)], fixed);
		return bucklingModes(system, stateAt(g.xyz), 3).filter((x) => x.factor > 0);
	};
	it('seam along 400: 5.65 kN, saddle and twist close together; along 300: 11.4 kN', () => {
		const [first, second] = tendonPlate('x');
		published({
			id: 'b-tendon',
			case: 'Free plate 400 x 300 x 1.5, tendon along 400: buckling force',
			source: 'Ritz solution (own derivation)',
			expected: 5.65,
			got: first.factor,
			unit: 'kN',
			within: 0.03,
			mesh: '24 x 18 cells'
		});
		// two ways to go that compete: within a fifth of each other
		expect(second.factor / first.factor).toBeLessThan(1.2);
		const [across] = tendonPlate('y');
		// a Ritz value is an upper bound; the shell finds a lower shape at about 10.4, which the few functions of that Ritz solution do not hold
		expect(across.factor).toBeLessThan(11.4);
		expect(across.factor).toBeGreaterThan(0.88 * 11.4);
	});
});
