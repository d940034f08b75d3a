/** Straight beam between two nodes, 12 x 12 in global axes (Euler-Bernoulli; Przemieniecki 1968, section 5.6). */
import { cross, sub, unit, norm, type Vec3 } from '../geometry/vec';

export interface BeamSection {
	eModulus: number;
	shearModulus: number;
	area: number;
	/** second moment for bending in the plane of the axis and `up`, mm4 */
	iUp: number;
	/** second moment for bending sideways */
	iSide: number;
	torsion: number;
}

/** @param up direction of the section's height, square to the axis as far as it can be */
export function beamStiffness(p: Vec3, q: Vec3, up: Vec3, s: BeamSection): Float64Array {
	const d = sub(q, p);
	const l = norm(d);
	const ex = unit(d);
	const ey = unit(cross(up, ex));
	const ez = cross(ex, ey);
	const k = new Float64Array(144);
	const set = (i: number, j: number, v: number) => {
		k[12 * i + j] = v;
		k[12 * j + i] = v;
	};
	const axial = (s.eModulus * s.area) / l;
	const twist = (s.shearModulus * s.torsion) / l;
	for (const [a, v] of [
		[0, axial],
		[3, twist]
	] as const) {
		set(a, a, v);
		set(a + 6, a + 6, v);
		set(a, a + 6, -v);
	}
	// bending along local z turns about y (sign -), along local y turns about z (sign +)
	for (const [w, r, i, sign] of [
		[2, 4, s.iUp, -1],
		[1, 5, s.iSide, 1]
	] as const) {
		const e = s.eModulus * i;
		set(w, w, (12 * e) / l ** 3);
		set(w + 6, w + 6, (12 * e) / l ** 3);
		set(w, w + 6, (-12 * e) / l ** 3);
		set(w, r, (sign * 6 * e) / l ** 2);
		set(w, r + 6, (sign * 6 * e) / l ** 2);
		set(w + 6, r, (-sign * 6 * e) / l ** 2);
		set(w + 6, r + 6, (-sign * 6 * e) / l ** 2);
		set(r, r, (4 * e) / l);
		set(r + 6, r + 6, (4 * e) / l);
		set(r, r + 6, (2 * e) / l);
	}
	const R = [ex, ey, ez];
	const half = new Float64Array(144);
	const out = new Float64Array(144);
	for (let i = 0; i < 12; i++)
		for (let b = 0; b < 12; b += 3) for (let c = 0; c < 3; c++) for (let t = 0; t < 3; t++) half[12 * i + b + c] += k[12 * i + b + t] * R[t][c];
	for (let j = 0; j < 12; j++)
		for (let b = 0; b < 12; b += 3) for (let c = 0; c < 3; c++) for (let t = 0; t < 3; t++) out[12 * (b + c) + j] += R[t][c] * half[12 * (b + t) + j];
	return out;
}
