/**
 * Flat shell triangle in space: membrane and bending side by side, 6 freedoms a node (u v w rx ry rz, global axes).
 * A flat facet has no coupling between the two; curved shells are met by many facets (see docs/theory/shell.md).
 */
import { cross, norm, scale, sub, unit, type Vec3 } from '../geometry/vec';
import { bendingStiffness, curvatureMatrices } from './bending';
import { lumping, membraneStiffness, planeStress, sidesOf } from './membrane';

export interface SheetMaterial {
	eModulus: number;
	poisson: number;
	thickness: number;
}

/** Element axes: ex along the first side, ez the front normal. */
export interface Axes {
	ex: Vec3;
	ey: Vec3;
	ez: Vec3;
	/** corner coordinates in the element's plane */
	x: [number, number, number];
	y: [number, number, number];
}

export function axesOf(p: readonly [Vec3, Vec3, Vec3]): Axes {
	const d1 = sub(p[1], p[0]);
	const d2 = sub(p[2], p[0]);
	const n = cross(d1, d2);
	const length = norm(d1);
	if (!(norm(n) > 1e-12 * length * length)) throw new RangeError('A triangle of the mesh has no area');
	const ex = scale(d1, 1 / length);
	const ez = unit(n);
	const ey = cross(ez, ex);
	return { ex, ey, ez, x: [0, length, d2[0] * ex[0] + d2[1] * ex[1] + d2[2] * ex[2]], y: [0, 0, d2[0] * ey[0] + d2[1] * ey[1] + d2[2] * ey[2]] };
}

// place of the 9 membrane and the 9 bending freedoms among the element's 18 (local u v w rx ry rz by node)
const MEMBRANE = [0, 1, 5, 6, 7, 11, 12, 13, 17];
const BENDING = [2, 3, 4, 8, 9, 10, 14, 15, 16];

/** 18 x 18 stiffness in the element's own axes, row-major, N/mm and N.mm; freedoms u v w rx ry rz by node. */
export function localStiffness(a: Axes, m: SheetMaterial): Float64Array {
	const D = planeStress(m.eModulus, m.poisson);
	const km = membraneStiffness(a.x, a.y, m.thickness, D, m.poisson);
	const kb = bendingStiffness(a.x, a.y, m.thickness, D);
	const local = new Float64Array(324);
	for (let i = 0; i < 9; i++)
		for (let j = 0; j < 9; j++) {
			local[18 * MEMBRANE[i] + MEMBRANE[j]] = km[9 * i + j];
			local[18 * BENDING[i] + BENDING[j]] = kb[9 * i + j];
		}
	return local;
}

/** 18 x 18 stiffness in global axes, row-major, N/mm and N.mm. */
export function shellStiffness(p: readonly [Vec3, Vec3, Vec3], m: SheetMaterial): Float64Array {
	const a = axesOf(p);
	const local = localStiffness(a, m);
	const R = [a.ex, a.ey, a.ez];
	const half = new Float64Array(324);
	const out = new Float64Array(324);
	for (let i = 0; i < 18; i++)
		for (let b = 0; b < 18; b += 3)
			for (let c = 0; c < 3; c++)
				half[18 * i + b + c] = local[18 * i + b] * R[0][c] + local[18 * i + b + 1] * R[1][c] + local[18 * i + b + 2] * R[2][c];
	for (let j = 0; j < 18; j++)
		for (let b = 0; b < 18; b += 3)
			for (let c = 0; c < 3; c++)
				out[18 * (b + c) + j] = R[0][c] * half[18 * b + j] + R[1][c] * half[18 * (b + 1) + j] + R[2][c] * half[18 * (b + 2) + j];
	return out;
}

/**
 * Nodal forces (18, global) of an eigenstrain that the element would take freely.
 * @param strain membrane eigenstrain xx, yy, xy (engineering shear) in element axes; @param curvature kxx, kyy, 2kxy, 1/mm,
 * where a positive kxx means the front is the shorter side (the sheet curls towards its front).
 */
export function eigenstrainForces(
	p: readonly [Vec3, Vec3, Vec3],
	m: SheetMaterial,
	strain: readonly number[],
	curvature: readonly number[]
): Float64Array {
	return new EigenElement(p, m).forces(strain, NO_SLOPE, NO_SLOPE, curvature);
}

const NO_SLOPE: readonly number[] = [0, 0, 0];

/** One element's answers to eigenstrains that vary in a straight way over it. */
export class EigenElement {
	private readonly a: Axes;
	private readonly K: Float64Array;
	/** nodal forces of unit mean strains, 9 x 3, N */
	private readonly mean: Float64Array;
	/** mean strains that the element sees in unit displacements, 3 x 9 */
	private readonly seen: Float64Array;
	private readonly bend: Float64Array;

	constructor(p: readonly [Vec3, Vec3, Vec3], m: SheetMaterial) {
		const a = (this.a = axesOf(p));
		const D = planeStress(m.eModulus, m.poisson);
		this.K = membraneStiffness(a.x, a.y, m.thickness, D, m.poisson);
		const L = lumping(a.x, a.y, m.thickness);
		const volume = sidesOf(a.x, a.y).area * m.thickness;
		this.mean = Float64Array.from({ length: 27 }, (_, i) => {
			const [r, k] = [Math.floor(i / 3), i % 3];
			return L[3 * r] * D[k] + L[3 * r + 1] * D[3 + k] + L[3 * r + 2] * D[6 + k];
		});
		this.seen = Float64Array.from({ length: 27 }, (_, i) => L[3 * (i % 9) + Math.floor(i / 9)] / volume);
		// 9 x 3: nodal forces of unit curvatures. The element's curvatures are of beta_x = -w,x, so w,xx = -kxx: curling to the front is negative
		this.bend = new Float64Array(27);
		const weight = ((m.thickness ** 3 / 12) * sidesOf(a.x, a.y).area) / 3;
		for (const B of curvatureMatrices(a.x, a.y))
			for (let i = 0; i < 9; i++)
				for (let k = 0; k < 3; k++) this.bend[3 * i + k] -= weight * (B[i] * D[k] + B[9 + i] * D[3 + k] + B[18 + i] * D[6 + k]);
	}

	/**
	 * Nodal forces, 18, global. The membrane eigenstrain is `strain` at the element's middle (xx, yy, xy, element axes) with slopes
	 * along x and y, 1/mm. A field that is straight over the whole sheet fits together, so the forces are those of the very
	 * displacements it asks for: free, the sheet takes it without stress (patch of linear strain).
	 */
	forces(strain: readonly number[], alongX: readonly number[], alongY: readonly number[], curvature: readonly number[]): Float64Array {
		const { a } = this;
		const cx = (a.x[0] + a.x[1] + a.x[2]) / 3;
		const cy = (a.y[0] + a.y[1] + a.y[2]) / 3;
		const [a1, b1, g1] = alongX;
		const [a2, b2, g2] = alongY;
		const d = new Float64Array(9);
		for (let i = 0; i < 3; i++) {
			const [x, y] = [a.x[i] - cx, a.y[i] - cy];
			// u,x = a1 x + a2 y; v,y = b1 x + b2 y; u,y + v,x = g1 x + g2 y
			d[3 * i] = (a1 * x * x) / 2 + a2 * x * y + ((g2 - b1) * y * y) / 2;
			d[3 * i + 1] = b1 * x * y + (b2 * y * y) / 2 + ((g1 - a2) * x * x) / 2;
			d[3 * i + 2] = (b1 * y + (g1 - a2) * x - a2 * x - (g2 - b1) * y) / 2;
		}
		// the element's own mean of a straight field is not quite nothing: taken off, or the sum of the force would hang on the mesh
		const mean = [0, 1, 2].map((k) => {
			let s = strain[k];
			for (let j = 0; j < 9; j++) s -= this.seen[9 * k + j] * d[j];
			return s;
		});
		const local = new Float64Array(18);
		for (let i = 0; i < 9; i++) {
			let s = this.mean[3 * i] * mean[0] + this.mean[3 * i + 1] * mean[1] + this.mean[3 * i + 2] * mean[2];
			for (let j = 0; j < 9; j++) s += this.K[9 * i + j] * d[j];
			local[MEMBRANE[i]] = s;
			local[BENDING[i]] = this.bend[3 * i] * curvature[0] + this.bend[3 * i + 1] * curvature[1] + this.bend[3 * i + 2] * curvature[2];
		}
		const out = new Float64Array(18);
		for (let b = 0; b < 18; b += 3) for (let c = 0; c < 3; c++) out[b + c] = a.ex[c] * local[b] + a.ey[c] * local[b + 1] + a.ez[c] * local[b + 2];
		return out;
	}
}
