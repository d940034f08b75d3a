/** Finite rotations: 3 x 3 matrices, row-major, kept in flat arrays; spins act from the left, R <- exp(w) R. */

/** Writes exp([w]x) into `out` at `o` (Rodrigues' formula). */
export function expInto(wx: number, wy: number, wz: number, out: Float64Array, o = 0) {
	const t2 = wx * wx + wy * wy + wz * wz;
	// series below about 1e-4 rad: the closed forms lose their digits there
	const small = t2 < 1e-8;
	const t = Math.sqrt(t2);
	const a = small ? 1 - t2 / 6 : Math.sin(t) / t;
	const b = small ? 0.5 - t2 / 24 : (1 - Math.cos(t)) / t2;
	out[o] = 1 - b * (wy * wy + wz * wz);
	out[o + 1] = b * wx * wy - a * wz;
	out[o + 2] = b * wx * wz + a * wy;
	out[o + 3] = b * wx * wy + a * wz;
	out[o + 4] = 1 - b * (wx * wx + wz * wz);
	out[o + 5] = b * wy * wz - a * wx;
	out[o + 6] = b * wx * wz - a * wy;
	out[o + 7] = b * wy * wz + a * wx;
	out[o + 8] = 1 - b * (wx * wx + wy * wy);
}

/** Rotation vector of the matrix at `o`, angle below pi (Spurrier 1978, by way of the quaternion). */
export function logInto(R: Float64Array, o: number, out: Float64Array, q = 0) {
	const trace = R[o] + R[o + 4] + R[o + 8];
	const x = R[o + 7] - R[o + 5];
	const y = R[o + 2] - R[o + 6];
	const z = R[o + 3] - R[o + 1];
	if (trace > -0.5) {
		// the vector part of the quaternion is (x, y, z) / (4 w)
		const w = 0.5 * Math.sqrt(1 + trace);
		const s = 0.25 / w;
		const v = s * Math.sqrt(x * x + y * y + z * z);
		const f = v < 1e-4 ? (2 * s * (1 + (v * v) / 6)) / 1 : (s * 2 * Math.asin(Math.min(1, v))) / v;
		const g = w >= v ? f : (s * 2 * Math.acos(Math.min(1, w))) / v;
		out[q] = g * x;
		out[q + 1] = g * y;
		out[q + 2] = g * z;
		return;
	}
	// past 120 degrees: the largest diagonal entry fixes the axis
	const d = [R[o], R[o + 4], R[o + 8]];
	const i = d.indexOf(Math.max(...d));
	const j = (i + 1) % 3;
	const k = (i + 2) % 3;
	const at = (r: number, c: number) => R[o + 3 * r + c];
	const u = Math.sqrt(0.5 * at(i, i) + 0.25 * (1 - trace));
	const n = [0, 0, 0];
	n[i] = u;
	n[j] = (at(j, i) + at(i, j)) / (4 * u);
	n[k] = (at(k, i) + at(i, k)) / (4 * u);
	const w = (at(k, j) - at(j, k)) / (4 * u);
	const v = Math.hypot(n[0], n[1], n[2]);
	const angle = 2 * Math.atan2(v, Math.abs(w));
	const f = (w < 0 ? -angle : angle) / v;
	for (let c = 0; c < 3; c++) out[q + c] = f * n[c];
}

/** out = A B, 3 x 3. */
export function multiply3(A: Float64Array, a: number, B: Float64Array, b: number, out: Float64Array, o: number) {
	for (let r = 0; r < 3; r++)
		for (let c = 0; c < 3; c++) out[o + 3 * r + c] = A[a + 3 * r] * B[b + c] + A[a + 3 * r + 1] * B[b + 3 + c] + A[a + 3 * r + 2] * B[b + 6 + c];
}

/** out = A^T B, 3 x 3. */
export function transposeMultiply3(A: Float64Array, a: number, B: Float64Array, b: number, out: Float64Array, o: number) {
	for (let r = 0; r < 3; r++)
		for (let c = 0; c < 3; c++) out[o + 3 * r + c] = A[a + r] * B[b + c] + A[a + 3 + r] * B[b + 3 + c] + A[a + 6 + r] * B[b + 6 + c];
}

/**
 * H(t): a left spin w turns the rotation vector t by H w; H^-1 is the left tangent of the exponential.
 * H = I - [t]x/2 + eta [t]x^2 (Felippa & Haugen 2005, equation 101).
 */
export function spinToVector(t: Float64Array, q: number, out: Float64Array, o: number) {
	const x = t[q];
	const y = t[q + 1];
	const z = t[q + 2];
	const t2 = x * x + y * y + z * z;
	const a = Math.sqrt(t2);
	const eta = t2 < 1e-4 ? 1 / 12 + t2 / 720 : (1 - a / 2 / Math.tan(a / 2)) / t2;
	out[o] = 1 - eta * (y * y + z * z);
	out[o + 1] = 0.5 * z + eta * x * y;
	out[o + 2] = -0.5 * y + eta * x * z;
	out[o + 3] = -0.5 * z + eta * x * y;
	out[o + 4] = 1 - eta * (x * x + z * z);
	out[o + 5] = 0.5 * x + eta * y * z;
	out[o + 6] = 0.5 * y + eta * x * z;
	out[o + 7] = -0.5 * x + eta * y * z;
	out[o + 8] = 1 - eta * (x * x + y * y);
}
