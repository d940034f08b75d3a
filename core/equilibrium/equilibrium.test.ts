import { describe, expect, it } from 'vitest';
import type { Vec3 } from '../geometry/vec';
import { BlockMatrix } from '../linalg/blockMatrix';
import { graphOf } from '../linalg/ordering';
import { shellStiffness, eigenstrainForces } from '../shell/triangle';
import { Links } from './links';
import { expInto, logInto, multiply3, spinToVector } from './rotation';
import { moved, stateAt, type State, type Term } from './state';
import { Tendons } from './tendons';
import { Triangles } from './triangles';
import { GroundSprings } from './ground';

const sheet = { eModulus: 200e3, poisson: 0.3, thickness: 1.5 };
const corners: Vec3[] = [
	[0, 0, 0],
	[31, 4, -3],
	[8, 22, 6]
];
const xyz = Float64Array.from(corners.flat());
const step = (n: number, amount: number, seed = 1) =>
	Float64Array.from({ length: 6 * n }, (_, i) => amount * Math.sin(seed + 12.9898 * i) * (i % 6 < 3 ? 10 : 1));

/** Gradient against differences of the energy, and tangent against differences of the gradient. */
function consistent(term: Term, s: State, n: number, tangentTolerance: number, gradientTolerance = 1e-6) {
	const h = 1e-5;
	const g = new Float64Array(6 * n);
	term.add(s, 1, g);
	const graph = graphOf(n, [[...Array(n).keys()]]);
	const K = new BlockMatrix(graph);
	// foresight of a step of nothing: the forces as they are
	term.foresee?.(s, 1, new Float64Array(6 * n));
	term.add(s, 1, undefined, K);
	const scale = Math.max(...g.map(Math.abs));
	let [worstG, worstK, sizeK] = [0, 0, 0];
	const columns: Float64Array[] = [];
	const differences: Float64Array[] = [];
	const gradientAt = (at: State) => {
		const out = new Float64Array(6 * n);
		term.add(at, 1, out);
		return out;
	};
	for (let i = 0; i < 6 * n; i++) {
		const e = new Float64Array(6 * n);
		e[i] = 1;
		const [up, down] = [moved(s, e, h), moved(s, e, -h)];
		worstG = Math.max(worstG, Math.abs((term.add(up, 1) - term.add(down, 1)) / (2 * h) - g[i]));
		const [gu, gd] = [gradientAt(up), gradientAt(down)];
		columns.push(K.multiply(e));
		differences.push(gu.map((v, j) => (v - gd[j]) / (2 * h)));
	}
	// second derivatives for spins are not symmetric where moments are out of balance: the symmetric part is what counts
	for (let i = 0; i < 6 * n; i++)
		for (let j = 0; j < 6 * n; j++) {
			sizeK = Math.max(sizeK, Math.abs(columns[i][j]));
			worstK = Math.max(worstK, Math.abs((differences[i][j] + differences[j][i]) / 2 - columns[i][j]));
		}
	expect(worstG / scale).toBeLessThan(gradientTolerance);
	expect(worstK / sizeK).toBeLessThan(tangentTolerance);
}

describe('rotations', () => {
	it('logarithm undoes exponential up to nearly half a turn', () => {
		for (const size of [1e-9, 1e-5, 0.01, 0.7, 2, 2.6, 3.1]) {
			const w = new Float64Array([0.36 * size, -0.48 * size, 0.8 * size]);
			const R = new Float64Array(9);
			expInto(w[0], w[1], w[2], R);
			const back = new Float64Array(3);
			logInto(R, 0, back);
			for (let c = 0; c < 3; c++) expect(Math.abs(back[c] - w[c])).toBeLessThan(1e-9 * Math.max(1, size));
		}
	});
	it('H maps a left spin to the change of the rotation vector', () => {
		const t = new Float64Array([0.4, -0.2, 0.7]);
		const H = new Float64Array(9);
		spinToVector(t, 0, H, 0);
		const R = new Float64Array(9);
		expInto(t[0], t[1], t[2], R);
		for (let d = 0; d < 3; d++) {
			const w = [0, 0, 0];
			w[d] = 1e-6;
			const dR = new Float64Array(9);
			const R2 = new Float64Array(9);
			expInto(w[0], w[1], w[2], dR);
			multiply3(dR, 0, R, 0, R2, 0);
			const t2 = new Float64Array(3);
			logInto(R2, 0, t2);
			for (let c = 0; c < 3; c++) expect(Math.abs((t2[c] - t[c]) / 1e-6 - H[3 * c + d])).toBeLessThan(1e-5);
		}
	});
});

describe('triangle under large rotation', () => {
	const tri = Int32Array.from([0, 1, 2]);
	const make = (order = tri) => new Triangles(xyz, order, () => sheet);
	/** moves the whole by a large rigid motion */
	const rigid = (s: State, w: Vec3, t: Vec3): State => {
		const R = new Float64Array(9);
		expInto(w[0], w[1], w[2], R);
		const out = { x: s.x.slice(), R: s.R.slice() };
		for (let k = 0; k < 3; k++) {
			for (let c = 0; c < 3; c++) out.x[3 * k + c] = t[c] + R[3 * c] * s.x[3 * k] + R[3 * c + 1] * s.x[3 * k + 1] + R[3 * c + 2] * s.x[3 * k + 2];
			multiply3(R, 0, s.R, 9 * k, out.R, 9 * k);
		}
		return out;
	};
	it('rigid motion of any size gives no energy and no force', () => {
		const t = make();
		const s = rigid(stateAt(xyz), [1.1, -2, 0.6], [50, -20, 300]);
		const g = new Float64Array(18);
		expect(Math.abs(t.add(s, 1, g))).toBeLessThan(1e-9);
		expect(Math.max(...g.map(Math.abs))).toBeLessThan(1e-6);
	});
	it('at rest the tangent is the linear stiffness', () => {
		const K = new BlockMatrix(graphOf(3, [[0, 1, 2]]));
		make().add(stateAt(xyz), 1, undefined, K);
		const k = shellStiffness([corners[0], corners[1], corners[2]], sheet);
		const top = Math.max(...k.map(Math.abs));
		for (let i = 0; i < 18; i++) {
			const e = new Float64Array(18);
			e[i] = 1;
			K.multiply(e).forEach((v, j) => expect(Math.abs(v - k[18 * j + i]) / top).toBeLessThan(1e-12));
		}
	});
	it('gradient is the energy’s and tangent the gradient’s, turned and strained, with eigenstrain', () => {
		const t = make();
		t.addEigenForces(0, eigenstrainForces([corners[0], corners[1], corners[2]], sheet, [1e-3, -5e-4, 2e-4], [1e-4, 0, 5e-5]));
		// strains of some 1e-3 as at a weld
		consistent(t, rigid(moved(stateAt(xyz), step(3, 0.002), 1), [1.1, -0.7, 0.6], [5, 6, 7]), 3, 1e-6);
	});
	it('does not depend on the order of the nodes', () => {
		const s = moved(stateAt(xyz), step(3, 0.01), 1);
		expect(make(Int32Array.from([1, 2, 0])).add(s, 1)).toBeCloseTo(make().add(s, 1), 7);
	});
});

describe('links, tendons, ground', () => {
	const two = Float64Array.from([0, 0, 0, 12, 3, 1]);
	const s = moved(stateAt(two), step(2, 0.02), 1);
	it('weld link: gradient and tangent', () => {
		const l = new Links([{ a: 0, b: 1, arm: [12.1, 3, 0.9], turn: [0.01, -0.02, 0.03], stiffness: [3e3, 3e3, 3e3, 1e5, 1e5, 1e5] }]);
		consistent(l, s, 2, 1e-4);
	});
	it('weld link that carries a large moment: what turning both ends together does to it is in the tangent', () => {
		const l = new Links([{ a: 0, b: 1, arm: [12, 3, 1], turn: [0.13, -0.05, 0.06], stiffness: [3e3, 3e3, 3e3, 1e5, 1e5, 1e5] }]);
		consistent(l, stateAt(two), 2, 1e-3);
	});
	it('beam: rigid motion costs nothing; gradient and tangent', () => {
		const axes: [Vec3, Vec3, Vec3] = [
			[12 / Math.sqrt(154), 3 / Math.sqrt(154), 1 / Math.sqrt(154)],
			[-3 / Math.sqrt(153), 12 / Math.sqrt(153), 0],
			[0, 0, 1]
		];
		axes[2] = [
			axes[0][1] * axes[1][2] - axes[0][2] * axes[1][1],
			axes[0][2] * axes[1][0] - axes[0][0] * axes[1][2],
			axes[0][0] * axes[1][1] - axes[0][1] * axes[1][0]
		];
		const l = new Links([{ a: 0, b: 1, arm: [12, 3, 1], turn: [0, 0, 0], axes, stiffness: [5e4, 900, 700, 4e4, 6e4, 5e4], mean: true }]);
		expect(Math.abs(l.add(stateAt(two), 1))).toBeLessThan(1e-18);
		// the mean frame's turn is taken to first order in the bend of one length of beam
		consistent(l, moved(stateAt(two), step(2, 0.002), 1), 2, 1e-3, 1e-5);
	});
	it('tendon with an offset: gradient and tangent', () => {
		consistent(new Tendons([{ a: 0, b: 1, force: 8000, offset: [0, 0.1, 0.6] }]), s, 2, 1e-6);
	});
	it('a bench pushes and does not pull', () => {
		const g = new GroundSprings([{ node: 0, direction: [0, 0, 1], rest: 0, stiffness: 100, oneWay: true }]);
		const at = (z: number) => {
			const st = stateAt(two);
			st.x[2] = z;
			const f = new Float64Array(12);
			return [g.add(st, 1, f), f[2]];
		};
		expect(at(0.5)).toEqual([0, 0]);
		expect(at(-0.5)[0]).toBeCloseTo(12.5, 9);
		expect(at(-0.5)[1]).toBeCloseTo(-50, 9);
	});
});
