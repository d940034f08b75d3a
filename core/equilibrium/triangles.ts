/**
 * Shell triangles under large rotation: the linear element in a frame that goes with it (element-independent co-rotational
 * form). C. A. Felippa, B. Haugen (2005), A unified formulation of small-strain corotational finite elements: I. Theory,
 * CMAME 194, 2285-2335. The frame's plane is the plane of the three nodes; in that plane it is turned to the best fit, so
 * nothing depends on the order of the nodes. Strains stay small; turns may be any size.
 *
 * On thin sheet a Newton step overshoots in stretching by the square of the turns, and a tangent built on that false tension
 * or compression misleads the next step. So the tangent takes the forces that the linearisation foresaw (the mixed
 * integration point idea: D. Magisano, L. Leonetti, G. Garcea 2017, IJNME 109, 1349-1366, applied here element by element);
 * the balance of forces itself is always the true one.
 */
import type { Vec3 } from '../geometry/vec';
import { nodeAt } from '../shell/model';
import { axesOf, localStiffness, type SheetMaterial } from '../shell/triangle';
import { logInto, multiply3, spinToVector } from './rotation';
import type { MatrixSink, State, Term } from './state';

/** Per element: 18 x 18 stiffness, nodal forces of eigenstrains (both in its own axes), axes, corners. */
export class Triangles implements Term {
	private readonly m: number;
	private readonly K: Float64Array;
	private readonly axes: Float64Array;
	private readonly corners: Float64Array;
	private readonly eigen: Float64Array;
	/** forces foreseen for the next tangent, 18 per element in its own axes */
	private readonly foreseen: Float64Array;
	private useForeseen = false;
	/** corners of the element in hand, in its plane */
	private readonly flat = new Float64Array(6);

	constructor(
		private readonly xyz: Float64Array,
		private readonly tri: Int32Array,
		sheet: (triangle: number) => SheetMaterial
	) {
		this.m = tri.length / 3;
		this.K = new Float64Array(324 * this.m);
		this.axes = new Float64Array(9 * this.m);
		this.corners = new Float64Array(6 * this.m);
		this.eigen = new Float64Array(18 * this.m);
		this.foreseen = new Float64Array(18 * this.m);
		for (let e = 0; e < this.m; e++) {
			const p = [0, 1, 2].map((i) => nodeAt(xyz, tri[3 * e + i])) as [Vec3, Vec3, Vec3];
			const a = axesOf(p);
			this.K.set(localStiffness(a, sheet(e)), 324 * e);
			this.axes.set([...a.ex, ...a.ey, ...a.ez], 9 * e);
			const cx = (a.x[0] + a.x[1] + a.x[2]) / 3;
			const cy = (a.y[0] + a.y[1] + a.y[2]) / 3;
			for (let i = 0; i < 3; i++) {
				this.corners[6 * e + 2 * i] = a.x[i] - cx;
				this.corners[6 * e + 2 * i + 1] = a.y[i] - cy;
			}
		}
	}

	/** Adds nodal forces of an eigenstrain to one element: 18 numbers, global axes of the undeformed piece, N and N.mm. */
	addEigenForces(e: number, f: ArrayLike<number>, factor = 1) {
		const A = this.axes;
		for (let b = 0; b < 18; b += 3)
			for (let c = 0; c < 3; c++)
				this.eigen[18 * e + b + c] += factor * (A[9 * e + 3 * c] * f[b] + A[9 * e + 3 * c + 1] * f[b + 1] + A[9 * e + 3 * c + 2] * f[b + 2]);
	}
	clearEigen() {
		this.eigen.fill(0);
	}

	/** Forces of the eigenstrains alone at a state: what they push the nodes with, 6 per node (their gradient, turned round). */
	eigenForces(s: State): Float64Array {
		const out = new Float64Array(2 * s.x.length);
		this.add(s, 1, out, undefined, undefined, true);
		return out;
	}

	*cliques() {
		for (let e = 0; e < this.m; e++) yield this.tri.subarray(3 * e, 3 * e + 3);
	}

	foresee(s: State, share: number, step?: Float64Array) {
		this.useForeseen = step !== undefined;
		if (step) this.add(s, share, undefined, undefined, step);
	}

	// eslint-disable-next-line complexity -- an element written out: a helper for each product would cost more than the product
	add(s: State, share: number, force?: Float64Array, matrix?: MatrixSink, step?: Float64Array, eigenOnly = false): number {
		const { tri } = this;
		const change = new Float64Array(18);
		const T = new Float64Array(9); // rows: the frame's axes now
		const x = new Float64Array(9); // corners in that frame
		const d = new Float64Array(18);
		const f = new Float64Array(18);
		const H = new Float64Array(27);
		const Q = new Float64Array(9);
		const Q2 = new Float64Array(9);
		const G = new Float64Array(54); // 3 x 18
		const before = new Float64Array(18);
		const work = new Workspace();
		let energy = 0;
		for (let e = 0; e < this.m; e++) {
			if (eigenOnly && !this.strained(e)) continue;
			const X = 6 * e;
			const c = this.corners;
			this.frame(e, s, T, x);
			for (let i = 0; i < 3; i++) {
				d[6 * i] = x[3 * i] - c[X + 2 * i];
				d[6 * i + 1] = x[3 * i + 1] - c[X + 2 * i + 1];
				d[6 * i + 2] = 0; // the frame holds the plane of the nodes
				// local rotation: T R T0^T
				multiply3(T, 0, s.R, 9 * tri[3 * e + i], Q, 0);
				timesTranspose(Q, this.axes, 9 * e, Q2);
				logInto(Q2, 0, d, 6 * i + 3);
			}
			const K = 324 * e;
			for (let r = 0; r < 18; r++) {
				const sum = rowTimes(this.K, K + 18 * r, r, d);
				const eigen = share * this.eigen[18 * e + r];
				energy += d[r] * (0.5 * sum - eigen);
				f[r] = eigenOnly ? eigen : sum - eigen;
			}
			if (!force && !matrix && !step) continue;
			fitter(x, c, X, G);
			for (let i = 0; i < 3; i++) spinToVector(d, 6 * i + 3, H, 9 * i);
			if (step) {
				deformation(step, tri, e, T, x, H, G, change);
				for (let r = 0; r < 18; r++) {
					this.foreseen[18 * e + r] = f[r] + rowTimes(this.K, K + 18 * r, r, change);
				}
				continue;
			}
			if (matrix && this.useForeseen) for (let r = 0; r < 18; r++) f[r] = this.foreseen[18 * e + r];
			if (matrix) before.set(f); // moments before H, for the tangent
			transposeOnMoments(H, f);
			// P^T f = f - G^T (sum of x cross n + m): the frame's turn does no work
			let t0 = 0;
			let t1 = 0;
			let t2 = 0;
			for (let i = 0; i < 3; i++) {
				const px = x[3 * i];
				const py = x[3 * i + 1];
				const o = 6 * i;
				t0 += py * f[o + 2] + f[o + 3];
				t1 += -px * f[o + 2] + f[o + 4];
				t2 += px * f[o + 1] - py * f[o] + f[o + 5];
			}
			for (let r = 0; r < 18; r++) f[r] -= G[r] * t0 + G[18 + r] * t1 + G[36 + r] * t2;
			if (force)
				for (let i = 0; i < 3; i++) {
					const node = 6 * tri[3 * e + i];
					for (let b = 0; b < 6; b += 3)
						for (let q = 0; q < 3; q++) force[node + b + q] += T[q] * f[6 * i + b] + T[3 + q] * f[6 * i + b + 1] + T[6 + q] * f[6 * i + b + 2];
				}
			if (matrix) matrix.addElement(tri.subarray(3 * e, 3 * e + 3), work.tangent(this.K, K, x, d, before, f, H, G, T));
		}
		return energy;
	}

	private strained(e: number): boolean {
		for (let r = 18 * e; r < 18 * e + 18; r++) if (this.eigen[r] !== 0) return true;
		return false;
	}

	/** Frame of element `e` now, and its corners in it about their middle. */
	private frame(e: number, s: State, T: Float64Array, x: Float64Array) {
		const { tri, corners: c } = this;
		const i = 3 * tri[3 * e];
		const j = 3 * tri[3 * e + 1];
		const k = 3 * tri[3 * e + 2];
		const p = s.x;
		const ax = p[j] - p[i];
		const ay = p[j + 1] - p[i + 1];
		const az = p[j + 2] - p[i + 2];
		const bx = p[k] - p[i];
		const by = p[k + 1] - p[i + 1];
		const bz = p[k + 2] - p[i + 2];
		let nx = ay * bz - az * by;
		let ny = az * bx - ax * bz;
		let nz = ax * by - ay * bx;
		const n = 1 / Math.sqrt(nx * nx + ny * ny + nz * nz);
		nx *= n;
		ny *= n;
		nz *= n;
		const l = 1 / Math.sqrt(ax * ax + ay * ay + az * az);
		const ux = ax * l;
		const uy = ay * l;
		const uz = az * l;
		const vx = ny * uz - nz * uy;
		const vy = nz * ux - nx * uz;
		const vz = nx * uy - ny * ux;
		// corners on (u, v) about their middle
		const q1 = 1 / l;
		const q2 = bx * ux + by * uy + bz * uz;
		const r2 = bx * vx + by * vy + bz * vz;
		const mx = (q1 + q2) / 3;
		const my = r2 / 3;
		const P = this.flat;
		P[0] = -mx;
		P[1] = -my;
		P[2] = q1 - mx;
		P[3] = -my;
		P[4] = q2 - mx;
		P[5] = r2 - my;
		let sin = 0;
		let cos = 0;
		for (let a = 0; a < 3; a++) {
			const X = c[6 * e + 2 * a];
			const Y = c[6 * e + 2 * a + 1];
			sin += X * P[2 * a + 1] - Y * P[2 * a];
			cos += X * P[2 * a] + Y * P[2 * a + 1];
		}
		const h = 1 / Math.sqrt(sin * sin + cos * cos);
		sin *= h;
		cos *= h;
		T[0] = cos * ux + sin * vx;
		T[1] = cos * uy + sin * vy;
		T[2] = cos * uz + sin * vz;
		T[3] = cos * vx - sin * ux;
		T[4] = cos * vy - sin * uy;
		T[5] = cos * vz - sin * uz;
		T[6] = nx;
		T[7] = ny;
		T[8] = nz;
		for (let a = 0; a < 3; a++) {
			x[3 * a] = cos * P[2 * a] + sin * P[2 * a + 1];
			x[3 * a + 1] = cos * P[2 * a + 1] - sin * P[2 * a];
			x[3 * a + 2] = 0;
		}
	}
}

/** Row r of the local stiffness times d: membrane (u v rz) and bending (w rx ry) do not mix. */
function rowTimes(K: Float64Array, o: number, r: number, d: Float64Array): number {
	const k = r % 6;
	if (k < 2 || k === 5)
		return (
			K[o] * d[0] +
			K[o + 1] * d[1] +
			K[o + 5] * d[5] +
			K[o + 6] * d[6] +
			K[o + 7] * d[7] +
			K[o + 11] * d[11] +
			K[o + 12] * d[12] +
			K[o + 13] * d[13] +
			K[o + 17] * d[17]
		);
	return (
		K[o + 2] * d[2] +
		K[o + 3] * d[3] +
		K[o + 4] * d[4] +
		K[o + 8] * d[8] +
		K[o + 9] * d[9] +
		K[o + 10] * d[10] +
		K[o + 14] * d[14] +
		K[o + 15] * d[15] +
		K[o + 16] * d[16]
	);
}

/** G (3 x 18): turn of the frame for motions of the nodes, in the frame's axes. */
function fitter(x: Float64Array, c: Float64Array, X: number, G: Float64Array) {
	G.fill(0);
	const area2 = (x[3] - x[0]) * (x[7] - x[1]) - (x[6] - x[0]) * (x[4] - x[1]);
	let denominator = 0;
	for (let a = 0; a < 3; a++) denominator += c[X + 2 * a] * x[3 * a] + c[X + 2 * a + 1] * x[3 * a + 1];
	for (let a = 0; a < 3; a++) {
		const b = 3 * ((a + 1) % 3);
		const k = 3 * ((a + 2) % 3);
		G[6 * a + 2] = (x[k] - x[b]) / area2; // about x: dw/dy
		G[18 + 6 * a + 2] = -(x[b + 1] - x[k + 1]) / area2; // about y: -dw/dx
		G[36 + 6 * a] = -c[X + 2 * a + 1] / denominator;
		G[36 + 6 * a + 1] = c[X + 2 * a] / denominator;
	}
}

/** H P T step: change of an element's own displacements for motions of the nodes (6 per node, global). */
function deformation(
	step: Float64Array,
	tri: Int32Array,
	e: number,
	T: Float64Array,
	x: Float64Array,
	H: Float64Array,
	G: Float64Array,
	out: Float64Array
) {
	for (let i = 0; i < 3; i++) {
		const node = 6 * tri[3 * e + i];
		for (let b = 0; b < 6; b += 3)
			for (let r = 0; r < 3; r++)
				out[6 * i + b + r] = T[3 * r] * step[node + b] + T[3 * r + 1] * step[node + b + 1] + T[3 * r + 2] * step[node + b + 2];
	}
	let w0 = 0;
	let w1 = 0;
	let w2 = 0;
	for (let q = 0; q < 18; q++) {
		w0 += G[q] * out[q];
		w1 += G[18 + q] * out[q];
		w2 += G[36 + q] * out[q];
	}
	for (let i = 0; i < 3; i++) {
		const px = x[3 * i];
		const py = x[3 * i + 1];
		const o = 6 * i;
		out[o] += w2 * py;
		out[o + 1] -= w2 * px;
		out[o + 2] -= w0 * py - w1 * px;
		const a = out[o + 3] - w0;
		const b = out[o + 4] - w1;
		const c = out[o + 5] - w2;
		for (let r = 0; r < 3; r++) out[o + 3 + r] = H[9 * i + 3 * r] * a + H[9 * i + 3 * r + 1] * b + H[9 * i + 3 * r + 2] * c;
	}
}

/** out = A B^T for 3 x 3, B at `b`. */
function timesTranspose(A: Float64Array, B: Float64Array, b: number, out: Float64Array) {
	for (let r = 0; r < 3; r++)
		for (let q = 0; q < 3; q++) out[3 * r + q] = A[3 * r] * B[b + 3 * q] + A[3 * r + 1] * B[b + 3 * q + 1] + A[3 * r + 2] * B[b + 3 * q + 2];
}

function transposeOnMoments(H: Float64Array, f: Float64Array) {
	for (let i = 0; i < 3; i++) {
		const o = 6 * i + 3;
		const m0 = f[o];
		const m1 = f[o + 1];
		const m2 = f[o + 2];
		for (let q = 0; q < 3; q++) f[o + q] = H[9 * i + q] * m0 + H[9 * i + 3 + q] * m1 + H[9 * i + 6 + q] * m2;
	}
}

/** Scratch matrices of the element tangent. */
class Workspace {
	private readonly A = new Float64Array(324);
	private readonly half = new Float64Array(324);
	private readonly U = new Float64Array(54);
	private readonly W = new Float64Array(54);
	private readonly V = new Float64Array(9);
	private readonly M = new Float64Array(9);
	private readonly L = new Float64Array(9);

	/**
	 * T^T [P^T (H^T K H + L) P - F_nm G - G^T F_n^T P] T, symmetric part (18 x 18, global; the array is used again).
	 * With P = I - S G everything but the first term is of rank three: A - G^T W - W^T G.
	 * @param m forces before H, @param f forces after projection
	 */
	// eslint-disable-next-line complexity, max-lines-per-function -- an element written out: a helper for each product would cost more than the product
	tangent(
		K: Float64Array,
		k0: number,
		x: Float64Array,
		d: Float64Array,
		m: Float64Array,
		f: Float64Array,
		H: Float64Array,
		G: Float64Array,
		T: Float64Array
	): Float64Array {
		const { A, U, V, W, L } = this;
		// A = H^T K H + L, H only on the rotations of each node
		for (let i = 0; i < 324; i++) A[i] = K[k0 + i];
		for (let n = 0; n < 3; n++) {
			const o = 6 * n + 3;
			const h = 9 * n;
			const h0 = H[h];
			const h1 = H[h + 1];
			const h2 = H[h + 2];
			const h3 = H[h + 3];
			const h4 = H[h + 4];
			const h5 = H[h + 5];
			const h6 = H[h + 6];
			const h7 = H[h + 7];
			const h8 = H[h + 8];
			for (let r = 0, p = o; r < 18; r++, p += 18) {
				const a = A[p];
				const b = A[p + 1];
				const c = A[p + 2];
				A[p] = a * h0 + b * h3 + c * h6;
				A[p + 1] = a * h1 + b * h4 + c * h7;
				A[p + 2] = a * h2 + b * h5 + c * h8;
			}
			for (let c = 0, p = 18 * o; c < 18; c++, p++) {
				const a = A[p];
				const b = A[p + 18];
				const e = A[p + 36];
				A[p] = a * h0 + b * h3 + e * h6;
				A[p + 18] = a * h1 + b * h4 + e * h7;
				A[p + 36] = a * h2 + b * h5 + e * h8;
			}
		}
		for (let n = 0; n < 3; n++) {
			const o = 6 * n + 3;
			this.momentCorrection(d, m, o, H, 9 * n);
			for (let r = 0; r < 3; r++) for (let c = 0; c < 3; c++) A[18 * (o + r) + o + c] += 0.5 * (L[3 * r + c] + L[3 * c + r]);
		}
		// S = stack(-[x]x; I): spin about x moves a corner (0, 0, y), about y (0, 0, -x), about z (-y, x, 0). U = A S, V = S^T A S
		V.fill(0);
		for (let r = 0; r < 18; r++) {
			let s0 = 0;
			let s1 = 0;
			let s2 = 0;
			for (let n = 0, p = 18 * r; n < 3; n++, p += 6) {
				const px = x[3 * n];
				const py = x[3 * n + 1];
				s0 += A[p + 2] * py + A[p + 3];
				s1 += A[p + 4] - A[p + 2] * px;
				s2 += A[p + 1] * px - A[p] * py + A[p + 5];
			}
			U[r] = s0;
			U[18 + r] = s1;
			U[36 + r] = s2;
		}
		for (let n = 0; n < 3; n++) {
			const px = x[3 * n];
			const py = x[3 * n + 1];
			for (let q = 0; q < 3; q++) {
				const p = 18 * q + 6 * n;
				V[3 * q] += U[p + 2] * py + U[p + 3];
				V[3 * q + 1] += U[p + 4] - U[p + 2] * px;
				V[3 * q + 2] += U[p + 1] * px - U[p] * py + U[p + 5];
			}
		}
		// F_n^T S (3 x 3), F_n = stack of [n]x over the translations
		let g00 = 0;
		let g01 = 0;
		let g02 = 0;
		let g10 = 0;
		let g11 = 0;
		let g12 = 0;
		let g22 = 0;
		for (let n = 0; n < 3; n++) {
			const px = x[3 * n];
			const py = x[3 * n + 1];
			const u = f[6 * n];
			const v = f[6 * n + 1];
			const w = f[6 * n + 2];
			// rows of [n]x: (0 -w v), (w 0 -u), (-v u 0)
			g00 += -v * py;
			g01 += v * px;
			g02 += w * px;
			g10 += u * py;
			g11 += -u * px;
			g12 += w * py;
			g22 += -u * px - v * py;
		}
		// W = U^T + Z / 2 - V G / 2 with Z = F_nm^T + F_n^T - (F_n^T S) G
		for (let r = 0; r < 18; r++) {
			const a = G[r];
			const b = G[18 + r];
			const c = G[36 + r];
			const node = 6 * Math.floor(r / 6);
			const force = r - node < 3;
			const q = r % 3;
			const at = force ? node : node + 3;
			const u = f[at];
			const v = f[at + 1];
			const w = f[at + 2];
			const k = force ? 1 : 0.5; // forces stand in F_nm and in F_n, moments in F_nm only
			const z0 = q === 0 ? 0 : q === 1 ? w : -v;
			const z1 = q === 0 ? -w : q === 1 ? 0 : u;
			const z2 = q === 0 ? v : q === 1 ? -u : 0;
			W[r] = U[r] + k * z0 - 0.5 * (g00 * a + g01 * b + g02 * c + V[0] * a + V[1] * b + V[2] * c);
			W[18 + r] = U[18 + r] + k * z1 - 0.5 * (g10 * a + g11 * b + g12 * c + V[3] * a + V[4] * b + V[5] * c);
			W[36 + r] = U[36 + r] + k * z2 - 0.5 * (g22 * c + V[6] * a + V[7] * b + V[8] * c);
		}
		for (let r = 0; r < 18; r++) {
			const a = G[r];
			const b = G[18 + r];
			const c = G[36 + r];
			const p = W[r];
			const q = W[18 + r];
			const t = W[36 + r];
			for (let s = 0; s <= r; s++) {
				const v = A[18 * r + s] - a * W[s] - b * W[18 + s] - c * W[36 + s] - p * G[s] - q * G[18 + s] - t * G[36 + s];
				A[18 * r + s] = v;
				A[18 * s + r] = v;
			}
		}
		return toGlobal(A, this.half, T);
	}

	/** L: how H^T m turns with the rotation (Felippa & Haugen 2005, equation 102), times H. */
	private momentCorrection(d: Float64Array, f: Float64Array, o: number, H: Float64Array, h: number) {
		const x = d[o];
		const y = d[o + 1];
		const z = d[o + 2];
		const a = f[o];
		const b = f[o + 1];
		const c = f[o + 2];
		const t2 = x * x + y * y + z * z;
		const t = Math.sqrt(t2);
		const eta = t2 < 1e-4 ? 1 / 12 + t2 / 720 : (1 - t / 2 / Math.tan(t / 2)) / t2;
		const mu = t2 < 1e-2 ? 1 / 360 + t2 / 7560 : (t2 + 4 * Math.cos(t) + t * Math.sin(t) - 4) / (4 * t2 * t2 * Math.sin(t / 2) ** 2);
		const dot = x * a + y * b + z * c;
		// mu [t]x^2 m, with [t]x^2 = t t^T - t.t I
		const sa = mu * (x * dot - t2 * a);
		const sb = mu * (y * dot - t2 * b);
		const sc = mu * (z * dot - t2 * c);
		const { M } = this;
		M[0] = eta * (dot + x * a - 2 * a * x) + sa * x;
		M[1] = eta * (x * b - 2 * a * y) + sa * y + 0.5 * c;
		M[2] = eta * (x * c - 2 * a * z) + sa * z - 0.5 * b;
		M[3] = eta * (y * a - 2 * b * x) + sb * x - 0.5 * c;
		M[4] = eta * (dot + y * b - 2 * b * y) + sb * y;
		M[5] = eta * (y * c - 2 * b * z) + sb * z + 0.5 * a;
		M[6] = eta * (z * a - 2 * c * x) + sc * x + 0.5 * b;
		M[7] = eta * (z * b - 2 * c * y) + sc * y - 0.5 * a;
		M[8] = eta * (dot + z * c - 2 * c * z) + sc * z;
		for (let r = 0; r < 3; r++)
			for (let q = 0; q < 3; q++) this.L[3 * r + q] = M[3 * r] * H[h + q] + M[3 * r + 1] * H[h + 3 + q] + M[3 * r + 2] * H[h + 6 + q];
	}
}

/** T^T A T by 3 x 3 blocks, in place of `A`: the 6 x 6 blocks on and below the diagonal, then mirrored. */
function toGlobal(A: Float64Array, half: Float64Array, T: Float64Array): Float64Array {
	const t0 = T[0];
	const t1 = T[1];
	const t2 = T[2];
	const t3 = T[3];
	const t4 = T[4];
	const t5 = T[5];
	const t6 = T[6];
	const t7 = T[7];
	const t8 = T[8];
	for (let r = 0; r < 18; r++)
		for (let p = 18 * r, end = p + 6 * (1 + Math.floor(r / 6)); p < end; p += 3) {
			const u = A[p];
			const v = A[p + 1];
			const w = A[p + 2];
			half[p] = u * t0 + v * t3 + w * t6;
			half[p + 1] = u * t1 + v * t4 + w * t7;
			half[p + 2] = u * t2 + v * t5 + w * t8;
		}
	for (let r = 0; r < 18; r += 3)
		for (let p = 18 * r, end = p + 6 * (1 + Math.floor(r / 6)); p < end; p++) {
			const u = half[p];
			const v = half[p + 18];
			const w = half[p + 36];
			A[p] = u * t0 + v * t3 + w * t6;
			A[p + 18] = u * t1 + v * t4 + w * t7;
			A[p + 36] = u * t2 + v * t5 + w * t8;
		}
	for (let r = 6; r < 18; r++) for (let c = 0; c < 6 * Math.floor(r / 6); c++) A[18 * c + r] = A[18 * r + c];
	return A;
}
