/**
 * The shrinking line of a weld as a tendon: a constant force along each length of seam, acting at a small distance from
 * mid-thickness. Its potential is force times length, so nothing depends on the width of any strip of elements.
 */
import { freedom } from '../shell/freedoms';
import type { Vec3 } from '../geometry/vec';
import type { MatrixSink, State, Term } from './state';

export interface Tendon {
	a: number;
	b: number;
	/** N, pulling the two nodes together */
	force: number;
	/** mm from the nodes, in the drawing's axes: where the force acts */
	offset: Vec3;
}

export class Tendons implements Term {
	constructor(readonly list: Tendon[]) {}

	*cliques() {
		for (const t of this.list) yield [t.a, t.b];
	}

	add(s: State, share: number, force?: Float64Array, matrix?: MatrixSink): number {
		let energy = 0;
		for (const t of this.list) {
			const F = share * t.force;
			if (F === 0) continue;
			const arm = [t.a, t.b].map((k) =>
				[0, 1, 2].map((c) => s.R[9 * k + 3 * c] * t.offset[0] + s.R[9 * k + 3 * c + 1] * t.offset[1] + s.R[9 * k + 3 * c + 2] * t.offset[2])
			);
			const d = [0, 1, 2].map((c) => s.x[3 * t.b + c] + arm[1][c] - s.x[3 * t.a + c] - arm[0][c]);
			const length = Math.hypot(d[0], d[1], d[2]);
			energy += F * length;
			if (!force && !matrix) continue;
			const e = d.map((v) => v / length);
			const f = e.map((v) => F * v); // gradient at B; minus that at A
			if (force)
				for (const [k, sign, p] of [
					[t.a, -1, arm[0]],
					[t.b, 1, arm[1]]
				] as const) {
					for (let c = 0; c < 3; c++) force[freedom(k, c)] += sign * f[c];
					force[freedom(k, 3)] += sign * (p[1] * f[2] - p[2] * f[1]);
					force[freedom(k, 4)] += sign * (p[2] * f[0] - p[0] * f[2]);
					force[freedom(k, 5)] += sign * (p[0] * f[1] - p[1] * f[0]);
				}
			if (!matrix) continue;
			// B (3 x 12): motion of d; F/l (I - e e^T) in it, and the turning of the arms under f
			const B = new Float64Array(36);
			for (const [o, sign, p] of [
				[0, -1, arm[0]],
				[6, 1, arm[1]]
			] as const) {
				const S = [0, p[2], -p[1], -p[2], 0, p[0], p[1], -p[0], 0]; // w x p as a matrix on w
				for (let c = 0; c < 3; c++) {
					B[12 * c + o + c] = sign;
					for (let q = 0; q < 3; q++) B[12 * c + o + 3 + q] = sign * S[3 * c + q];
				}
			}
			const K = new Float64Array(144);
			const stiff = F / length;
			for (let p = 0; p < 12; p++)
				for (let q = 0; q < 12; q++) {
					let sum = 0;
					let ep = 0;
					let eq = 0;
					for (let c = 0; c < 3; c++) {
						sum += B[12 * c + p] * B[12 * c + q];
						ep += e[c] * B[12 * c + p];
						eq += e[c] * B[12 * c + q];
					}
					K[12 * p + q] = stiff * (sum - ep * eq);
				}
			for (const [o, sign, p] of [
				[3, -1, arm[0]],
				[9, 1, arm[1]]
			] as const) {
				const dot = p[0] * f[0] + p[1] * f[1] + p[2] * f[2];
				for (let r = 0; r < 3; r++)
					for (let c = 0; c < 3; c++) K[12 * (o + r) + o + c] += sign * (0.5 * (p[r] * f[c] + f[r] * p[c]) - (r === c ? dot : 0));
			}
			matrix.addElement([t.a, t.b], K);
		}
		return energy;
	}
}
