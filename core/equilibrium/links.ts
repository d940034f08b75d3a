/**
 * Two nodes tied through stiffness, whatever the size of their motion: welded seam pairs (with the misfit they were joined
 * with), strongback beams and the ties that hold them. The potential is written in axes that turn with node A (a weld) or
 * with the mean of both nodes (a beam), so a rigid motion costs nothing.
 */
import type { Vec3 } from '../geometry/vec';
import { expInto, logInto, multiply3, transposeMultiply3 } from './rotation';
import type { MatrixSink, State, Term } from './state';

export interface Link {
	a: number;
	b: number;
	/** from A to B at rest, mm, in the drawing's axes; a misfit of the joint is added to it */
	arm: Vec3;
	/** turn of B against A at rest, rad */
	turn: Vec3;
	/** axes of the six stiffnesses in the drawing: rows; global when absent */
	axes?: readonly [Vec3, Vec3, Vec3];
	/** N/mm along the three axes and N.mm/rad about them */
	stiffness: readonly number[];
	/** axes go with the mean of both nodes instead of A's: a beam */
	mean?: boolean;
}

export class Links implements Term {
	/** force and moment on B foreseen for the geometric part of the next tangent, 6 per link; without foresight that part is left out */
	private readonly foreseen: Float64Array;
	private useForeseen = false;

	constructor(readonly list: Link[]) {
		this.foreseen = new Float64Array(6 * list.length);
	}

	*cliques() {
		for (const l of this.list) yield [l.a, l.b];
	}

	/**
	 * A misfit just laid on presses with the full stiffness of a weld until the sheet has followed: that force is no guide.
	 * The force after the step is (Term.foresee).
	 */
	foresee(s: State, share: number, step?: Float64Array) {
		this.useForeseen = step !== undefined;
		if (step) this.add(s, share, undefined, undefined, step);
	}

	add(s: State, _share: number, force?: Float64Array, matrix?: MatrixSink, step?: Float64Array): number {
		let energy = 0;
		let index = -1;
		const Q = new Float64Array(9);
		const Q2 = new Float64Array(9);
		const E = new Float64Array(9);
		const Rm = new Float64Array(9);
		const t = new Float64Array(3);
		const half = new Float64Array(9);
		for (const l of this.list) {
			index++;
			if (l.stiffness.every((k) => k === 0)) continue;
			const [xa, xb] = [3 * l.a, 3 * l.b];
			transposeMultiply3(s.R, 9 * l.a, s.R, 9 * l.b, Q, 0);
			if (l.mean) {
				logInto(Q, 0, t);
				expInto(t[0] / 2, t[1] / 2, t[2] / 2, half);
				multiply3(s.R, 9 * l.a, half, 0, Rm, 0);
			} else for (let i = 0; i < 9; i++) Rm[i] = s.R[9 * l.a + i];
			expInto(-l.turn[0], -l.turn[1], -l.turn[2], E);
			multiply3(Q, 0, E, 0, Q2, 0);
			logInto(Q2, 0, t);
			const r = [s.x[xb] - s.x[xa], s.x[xb + 1] - s.x[xa + 1], s.x[xb + 2] - s.x[xa + 2]];
			// stretch and turn in the link's own axes, and those axes as they now lie
			const axes = l.axes ?? GLOBAL;
			const now: Vec3[] = axes.map((v) => [0, 1, 2].map((c) => Rm[3 * c] * v[0] + Rm[3 * c + 1] * v[1] + Rm[3 * c + 2] * v[2]) as Vec3);
			// forces on B: f, m; a mean frame halves the turn of both ends
			const f = [0, 0, 0];
			const m = [0, 0, 0];
			for (let i = 0; i < 3; i++) {
				const v = now[i];
				const d = v[0] * r[0] + v[1] * r[1] + v[2] * r[2] - (axes[i][0] * l.arm[0] + axes[i][1] * l.arm[1] + axes[i][2] * l.arm[2]);
				const w = axes[i][0] * t[0] + axes[i][1] * t[1] + axes[i][2] * t[2];
				energy += 0.5 * (l.stiffness[i] * d * d + l.stiffness[3 + i] * w * w);
				for (let c = 0; c < 3; c++) {
					f[c] += l.stiffness[i] * d * v[c];
					m[c] += l.stiffness[3 + i] * w * v[c];
				}
			}
			const sa = l.mean ? 0.5 : 1;
			if (step) {
				const o = 6 * index;
				this.foreseen.set(f, o);
				this.foreseen.set(m, o + 3);
				for (let i = 0; i < 3; i++) {
					const v = now[i];
					const vr = [v[1] * r[2] - v[2] * r[1], v[2] * r[0] - v[0] * r[2], v[0] * r[1] - v[1] * r[0]];
					let [d, w] = [0, 0];
					for (let c = 0; c < 3; c++) {
						d += v[c] * (step[6 * l.b + c] - step[6 * l.a + c]) + vr[c] * (sa * step[6 * l.a + 3 + c] + (1 - sa) * step[6 * l.b + 3 + c]);
						w += v[c] * (step[6 * l.b + 3 + c] - step[6 * l.a + 3 + c]);
					}
					for (let c = 0; c < 3; c++) {
						this.foreseen[o + c] += l.stiffness[i] * d * v[c];
						this.foreseen[o + 3 + c] += l.stiffness[3 + i] * w * v[c];
					}
				}
				continue;
			}
			const rxf = [r[1] * f[2] - r[2] * f[1], r[2] * f[0] - r[0] * f[2], r[0] * f[1] - r[1] * f[0]];
			if (force) {
				// the mean frame turns with half of each end's spin, and by a share of their difference crossed with it (first order)
				logInto(Q, 0, t);
				const g = l.mean ? [0, 1, 2].map((c) => Rm[3 * c] * t[0] + Rm[3 * c + 1] * t[1] + Rm[3 * c + 2] * t[2]) : [0, 0, 0];
				const shift = [g[1] * rxf[2] - g[2] * rxf[1], g[2] * rxf[0] - g[0] * rxf[2], g[0] * rxf[1] - g[1] * rxf[0]];
				for (let c = 0; c < 3; c++) {
					force[6 * l.a + c] -= f[c];
					force[6 * l.b + c] += f[c];
					force[6 * l.a + 3 + c] -= m[c] + sa * rxf[c] - shift[c] / 8;
					force[6 * l.b + 3 + c] += m[c] - (1 - sa) * rxf[c] - shift[c] / 8;
				}
			}
			if (matrix)
				matrix.addElement(
					[l.a, l.b],
					tangentOf(l.stiffness, now, r, this.useForeseen ? this.foreseen.subarray(6 * index, 6 * index + 6) : NO_FORCE, sa)
				);
		}
		return energy;
	}
}

const NO_FORCE = new Float64Array(6);
const GLOBAL: readonly [Vec3, Vec3, Vec3] = [
	[1, 0, 0],
	[0, 1, 0],
	[0, 0, 1]
];

/** 12 x 12, symmetric. @param f force and moment on B. Strain of the link: v . (xb - xa) with v turning by sa of A's spin and 1 - sa of B's. */
function tangentOf(k: readonly number[], now: readonly Vec3[], r: readonly number[], f: ArrayLike<number>, sa: number): Float64Array {
	const K = new Float64Array(144);
	const row = new Float64Array(12);
	const addRow = (stiffness: number) => {
		for (let p = 0; p < 12; p++) if (row[p] !== 0) for (let q = 0; q < 12; q++) K[12 * p + q] += stiffness * row[p] * row[q];
	};
	const sb = 1 - sa;
	for (let i = 0; i < 3; i++) {
		const v = now[i];
		// d(v . r) = v . (dxb - dxa) + (w x v) . r = ... + w . (v x r)
		const vr = [v[1] * r[2] - v[2] * r[1], v[2] * r[0] - v[0] * r[2], v[0] * r[1] - v[1] * r[0]];
		for (let c = 0; c < 3; c++) {
			row[c] = -v[c];
			row[6 + c] = v[c];
			row[3 + c] = sa * vr[c];
			row[9 + c] = sb * vr[c];
		}
		addRow(k[i]);
		row.fill(0);
		for (let c = 0; c < 3; c++) {
			row[3 + c] = -v[c];
			row[9 + c] = v[c];
		}
		addRow(k[3 + i]);
		row.fill(0);
	}
	// geometric, moments: that on B is m = k log(Ra^T Rb ..); its change is k (wb - wa) + (wa + wb) x m / 2, and on A the opposite.
	// What each turn does to its own node has no symmetric part; across the pair it has
	const M = [0, -f[5], f[4], f[5], 0, -f[3], -f[4], f[3], 0]; // [m]x
	for (let p = 0; p < 3; p++)
		for (let q = 0; q < 3; q++) {
			K[12 * (9 + p) + 3 + q] -= 0.5 * M[3 * p + q];
			K[12 * (3 + q) + 9 + p] -= 0.5 * M[3 * p + q];
		}
	// geometric, forces: f turns with the frame, the arm r moves with the nodes
	const F = [0, -f[2], f[1], f[2], 0, -f[0], -f[1], f[0], 0]; // [f]x
	const Rx = [0, -r[2], r[1], r[2], 0, -r[0], -r[1], r[0], 0];
	for (const [ra, sign, rb] of [
		[3, sa, sa],
		[9, sb, sb]
	] as const)
		for (let p = 0; p < 3; p++)
			for (let q = 0; q < 3; q++) {
				// df = -[f]x w on B, +[f]x w on A; and its transpose in the moments
				K[12 * (6 + p) + ra + q] -= sign * F[3 * p + q];
				K[12 * p + ra + q] += sign * F[3 * p + q];
				K[12 * (ra + q) + 6 + p] -= sign * F[3 * p + q];
				K[12 * (ra + q) + p] += sign * F[3 * p + q];
				// moment -s r x f: -s r x (w' x f) = s [r]x [f]x w', symmetric part
				for (const [other, so] of [
					[3, sa],
					[9, sb]
				] as const) {
					let a = 0;
					let b = 0;
					for (let z = 0; z < 3; z++) {
						a += Rx[3 * p + z] * F[3 * z + q];
						b += Rx[3 * q + z] * F[3 * z + p];
					}
					K[12 * (ra + p) + other + q] += 0.5 * rb * so * (a + b);
				}
			}
	return K;
}
