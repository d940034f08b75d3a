/**
 * Optimal membrane triangle with drilling freedoms (ANDES template, "OPT").
 * Felippa (2003), A study of optimal membrane triangles with drilling freedoms, CMAME 192, 2125-2168.
 * Freedoms: u1 v1 t1 u2 v2 t2 u3 v3 t3, in the element's plane; t is the rotation about its normal.
 */

/** Plane-stress matrix, 3 x 3 row-major, MPa. */
export function planeStress(e: number, nu: number): Float64Array {
	const c = e / (1 - nu * nu);
	return Float64Array.of(c, c * nu, 0, c * nu, c, 0, 0, 0, (c * (1 - nu)) / 2);
}

interface Sides {
	x12: number;
	x23: number;
	x31: number;
	y12: number;
	y23: number;
	y31: number;
	area: number;
}

/** x, y: three corner coordinates each, anticlockwise. */
export function sidesOf(x: ArrayLike<number>, y: ArrayLike<number>): Sides {
	const s = { x12: x[0] - x[1], x23: x[1] - x[2], x31: x[2] - x[0], y12: y[0] - y[1], y23: y[1] - y[2], y31: y[2] - y[0] };
	return { ...s, area: (s.x31 * s.y12 - s.x12 * s.y31) / 2 };
}

/** Lumping matrix L, 9 x 3 row-major, times thickness: nodal forces from a constant stress (MPa). mm2 */
export function lumping(x: ArrayLike<number>, y: ArrayLike<number>, thickness: number): Float64Array {
	const { x12, x23, x31, y12, y23, y31 } = sidesOf(x, y);
	const [x21, x32, x13, y21, y32, y13] = [-x12, -x23, -x31, -y12, -y23, -y31];
	const a = 1.5 / 6; // alpha_b = 3/2
	const b = 1.5 / 3;
	const rows = [
		[y23, 0, x32],
		[0, x32, y23],
		[a * y23 * (y13 - y21), a * x32 * (x31 - x12), b * (x31 * y13 - x12 * y21)],
		[y31, 0, x13],
		[0, x13, y31],
		[a * y31 * (y21 - y32), a * x13 * (x12 - x23), b * (x12 * y21 - x23 * y32)],
		[y12, 0, x21],
		[0, x21, y12],
		[a * y12 * (y32 - y13), a * x21 * (x23 - x31), b * (x23 * y32 - x31 * y13)]
	];
	return Float64Array.from(rows.flat(), (v) => (v * thickness) / 2);
}

const Q1_BETA = [1, 2, 1, 0, 1, -1, -1, -1, -2];
const Q2_BETA = [-2, -1, -1, 1, 1, 2, -1, 0, 1];
const Q3_BETA = [1, -1, 0, -1, -2, -1, 2, 1, 1];

/** 9 x 9 stiffness, row-major. @param D plane-stress matrix; @param nu for the optimal higher-order factor */
export function membraneStiffness(x: ArrayLike<number>, y: ArrayLike<number>, thickness: number, D: Float64Array, nu: number): Float64Array {
	const { x12, x23, x31, y12, y23, y31, area } = sidesOf(x, y);
	const [x21, x32, x13, y21, y32, y13] = [-x12, -x23, -x31, -y12, -y23, -y31];
	const K = new Float64Array(81);
	const L = lumping(x, y, thickness);
	const volume = area * thickness;
	for (let i = 0; i < 9; i++) {
		const d0 = L[3 * i] * D[0] + L[3 * i + 1] * D[3] + L[3 * i + 2] * D[6];
		const d1 = L[3 * i] * D[1] + L[3 * i + 1] * D[4] + L[3 * i + 2] * D[7];
		const d2 = L[3 * i] * D[2] + L[3 * i + 1] * D[5] + L[3 * i + 2] * D[8];
		for (let j = 0; j < 9; j++) K[9 * i + j] = (d0 * L[3 * j] + d1 * L[3 * j + 1] + d2 * L[3 * j + 2]) / volume;
	}
	// higher-order part: 3/4 beta0 T^T (Q4 + Q5 + Q6 energies) T
	const beta0 = Math.max(0.5 * (1 - 4 * nu * nu), 0.01);
	const l21 = x21 * x21 + y21 * y21;
	const l32 = x32 * x32 + y32 * y32;
	const l13 = x13 * x13 + y13 * y13;
	const f = 1 / (4 * area * area);
	const te = [
		[f * y23 * y13 * l21, f * y31 * y21 * l32, f * y12 * y32 * l13],
		[f * x23 * x13 * l21, f * x31 * x21 * l32, f * x12 * x32 * l13],
		[f * (y23 * x31 + x32 * y13) * l21, f * (y31 * x12 + x13 * y21) * l32, f * (y12 * x23 + x21 * y32) * l13]
	];
	const nat = new Float64Array(9); // te^T D te
	for (let i = 0; i < 3; i++)
		for (let j = 0; j < 3; j++) {
			let s = 0;
			for (let p = 0; p < 3; p++) for (let q = 0; q < 3; q++) s += te[p][i] * D[3 * p + q] * te[q][j];
			nat[3 * i + j] = s;
		}
	const c = (2 * area) / 3;
	// beta1..9 = 1 2 1 0 1 -1 -1 -1 -2, laid out as the three corner matrices of the paper
	const Q = [Q1_BETA, Q2_BETA, Q3_BETA].map((beta) => beta.map((v, i) => (c * v) / (i < 3 ? l21 : i < 6 ? l32 : l13)));
	const theta = new Float64Array(9);
	const half = new Float64Array(9);
	const mid = new Float64Array(9);
	for (let e = 0; e < 3; e++) {
		const P = Q[e];
		const R = Q[(e + 1) % 3];
		for (let i = 0; i < 9; i++) mid[i] = (P[i] + R[i]) / 2;
		for (let p = 0; p < 3; p++)
			for (let j = 0; j < 3; j++) half[3 * p + j] = nat[3 * p] * mid[j] + nat[3 * p + 1] * mid[3 + j] + nat[3 * p + 2] * mid[6 + j];
		for (let i = 0; i < 3; i++)
			for (let j = 0; j < 3; j++) theta[3 * i + j] += volume * (mid[i] * half[j] + mid[3 + i] * half[3 + j] + mid[6 + i] * half[6 + j]);
	}
	const g = 1 / (4 * area);
	const base = [x32, y32, 0, x13, y13, 0, x21, y21, 0];
	const T = new Float64Array(27);
	for (let i = 0; i < 3; i++) for (let j = 0; j < 9; j++) T[9 * i + j] = j === 3 * i + 2 ? 1 : base[j] * g;
	const thetaT = new Float64Array(27);
	for (let p = 0; p < 3; p++)
		for (let j = 0; j < 9; j++) thetaT[9 * p + j] = theta[3 * p] * T[j] + theta[3 * p + 1] * T[9 + j] + theta[3 * p + 2] * T[18 + j];
	for (let i = 0; i < 9; i++)
		for (let j = 0; j < 9; j++) K[9 * i + j] += 0.75 * beta0 * (T[i] * thetaT[j] + T[9 + i] * thetaT[9 + j] + T[18 + i] * thetaT[18 + j]);
	return K;
}
