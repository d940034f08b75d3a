/**
 * Discrete Kirchhoff triangle. Batoz, Bathe, Ho (1980), A study of three-node triangular plate bending elements,
 * IJNME 15, 1771-1812. Freedoms: w1 rx1 ry1 w2 rx2 ry2 w3 rx3 ry3 (right-handed rotations), curvature kxx, kyy, 2kxy.
 */
import { sidesOf } from './membrane';

/** The three mid-side points of area integration, each with a third of the area. */
const POINTS: readonly [number, number][] = [
	[0.5, 0],
	[0.5, 0.5],
	[0, 0.5]
];

/** Curvature matrices at the integration points, each 3 x 9 row-major, 1/mm per freedom. */
export function curvatureMatrices(x: ArrayLike<number>, y: ArrayLike<number>): Float64Array[] {
	const { x12, x23, x31, y12, y23, y31, area } = sidesOf(x, y);
	const A2 = 2 * area;
	const side = (xx: number, yy: number) => {
		const l = xx * xx + yy * yy;
		return { P: (-6 * xx) / l, t: (-6 * yy) / l, q: (3 * xx * yy) / l, r: (3 * yy * yy) / l };
	};
	const s4 = side(x23, y23);
	const s5 = side(x31, y31);
	const s6 = side(x12, y12);
	return POINTS.map(([s, n]) => {
		const a = 1 - 2 * s;
		const b = 1 - 2 * n;
		const hxs = [
			s6.P * a + (s5.P - s6.P) * n,
			s6.q * a - (s5.q + s6.q) * n,
			-4 + 6 * (s + n) + s6.r * a - n * (s5.r + s6.r),
			-s6.P * a + n * (s4.P + s6.P),
			s6.q * a - n * (s6.q - s4.q),
			-2 + 6 * s + s6.r * a + n * (s4.r - s6.r),
			-n * (s5.P + s4.P),
			n * (s4.q - s5.q),
			-n * (s5.r - s4.r)
		];
		const hys = [
			s6.t * a + n * (s5.t - s6.t),
			1 + s6.r * a - n * (s5.r + s6.r),
			-s6.q * a + n * (s5.q + s6.q),
			-s6.t * a + n * (s4.t + s6.t),
			-1 + s6.r * a + n * (s4.r - s6.r),
			-s6.q * a - n * (s4.q - s6.q),
			-n * (s4.t + s5.t),
			n * (s4.r - s5.r),
			-n * (s4.q - s5.q)
		];
		const hxn = [
			-s5.P * b - s * (s6.P - s5.P),
			s5.q * b - s * (s5.q + s6.q),
			-4 + 6 * (s + n) + s5.r * b - s * (s5.r + s6.r),
			s * (s4.P + s6.P),
			s * (s4.q - s6.q),
			-s * (s6.r - s4.r),
			s5.P * b - s * (s4.P + s5.P),
			s5.q * b + s * (s4.q - s5.q),
			-2 + 6 * n + s5.r * b + s * (s4.r - s5.r)
		];
		const hyn = [
			-s5.t * b - s * (s6.t - s5.t),
			1 + s5.r * b - s * (s5.r + s6.r),
			-s5.q * b + s * (s5.q + s6.q),
			s * (s4.t + s6.t),
			s * (s4.r - s6.r),
			-s * (s4.q - s6.q),
			s5.t * b - s * (s4.t + s5.t),
			-1 + s5.r * b + s * (s4.r - s5.r),
			-s5.q * b - s * (s4.q - s5.q)
		];
		const B = new Float64Array(27);
		for (let i = 0; i < 9; i++) {
			B[i] = (y31 * hxs[i] + y12 * hxn[i]) / A2;
			B[9 + i] = (-x31 * hys[i] - x12 * hyn[i]) / A2;
			B[18 + i] = (-x31 * hxs[i] - x12 * hxn[i] + y31 * hys[i] + y12 * hyn[i]) / A2;
		}
		return B;
	});
}

/** 9 x 9 bending stiffness, row-major. @param D plane-stress matrix (MPa), thickness mm */
export function bendingStiffness(x: ArrayLike<number>, y: ArrayLike<number>, thickness: number, D: Float64Array): Float64Array {
	const weight = ((thickness ** 3 / 12) * sidesOf(x, y).area) / 3;
	const K = new Float64Array(81);
	for (const B of curvatureMatrices(x, y))
		for (let i = 0; i < 9; i++) {
			const d0 = weight * (B[i] * D[0] + B[9 + i] * D[3] + B[18 + i] * D[6]);
			const d1 = weight * (B[i] * D[1] + B[9 + i] * D[4] + B[18 + i] * D[7]);
			const d2 = weight * (B[i] * D[2] + B[9 + i] * D[5] + B[18 + i] * D[8]);
			for (let j = 0; j < 9; j++) K[9 * i + j] += d0 * B[j] + d1 * B[9 + j] + d2 * B[18 + j];
		}
	return K;
}
