/**
 * One sheet beside a seam as a strip that can fold and bow while its own arc passes: half of the section across a butt of two like
 * sheets (the other half is its mirror image), in layers through the thickness. Strain along the seam is
 *
 *     eps_x = a + b y + c (z + u_z),      eps_y = v' - z u_z''
 *
 * with the length `a`, the bow `b` in the sheet's own plane and the bow `c` out of it; the product c u_z is what lets a bowed section
 * fold, so that a free sheet buckles while it is hot and a held one does not. A half of a flat butt has no `b`: its twin holds it. The
 * leg of a corner has: pulled at its edge it bends in its plane, and its edge gives way four times as far as its length alone would let
 * it (generalised plane strain; own derivation, checked against a model of
 * eight-node elements and against solid models, see docs/theory/response.md). Layers in plane stress, J2 with the metal's strength
 * at temperature, radial return with its consistent tangent (Simo & Hughes 1998, box 3.3), a viscosity that steadies molten metal.
 * The metal ahead of the arc and the seam behind it are cold and hold the section until it has cooled: a stand-in (HELD_WIDTH and what follows it).
 * It does not hold the bow in the sheet's plane, which is free from the start as in the one-dimensional theory (Okerblom 1958): held until
 * then, a corner would pull a tenth harder still than the solid one does, which is less than either (tests/verification/coupons.test.ts).
 */
import type { HotMetal } from '../materials/hot';

/** What holds the section while it is hot, per mm of seam and for this half; all of it elastic. */
export interface SectionSprings {
	/** on the bow, N.mm2; Infinity: may not bow */
	curvature: number;
	/** on the bow in the sheet's own plane, N.mm2; Infinity: may not, as in a flat butt, whose other half holds it */
	inPlane: number;
	/** on the slope of the sheet some 60 mm from the seam, N.mm/rad per mm; Infinity: held flat there */
	turn: number;
	/** on its closing towards the seam there, N/mm per mm */
	width: number;
}
export const FREE: SectionSprings = { curvature: 0, inPlane: Infinity, turn: 0, width: 0 };

/** How the metal is taken to behave beyond its tables: the plausible models differ by more than the mesh does. */
export interface MetalModel {
	id: 'hardening' | 'no-hardening' | 'nothing-forgotten';
	/** MPa at 20 °C per unit of plastic strain, falling to nothing at `solidC` */
	hardening: number;
	/** hot metal forgets how much it has hardened */
	forgets: boolean;
}

export interface LayeredInput {
	/** mm, widths of the cells from the seam outwards, and °C by step, by cell (layers of a cell side by side, top first) */
	dy: ArrayLike<number>;
	temperatures: readonly ArrayLike<number>[];
	layers: number;
	/** s, of each step */
	times: ArrayLike<number>;
	/** s, when the arc passed */
	arcS: number;
	/** mm/s */
	speed: number;
	thickness: number;
	metal: HotMetal;
	model: MetalModel;
	springs: SectionSprings;
	/** mm that the sheet's edge stands out of flat towards the weld side: picks the way it folds */
	outOfFlat?: number;
}

export interface LayeredResult {
	/** N, of this half: -E times the plastic strain along the seam */
	forceN: number;
	/** mm of its mean distance from the seam */
	distanceMm: number;
	/** N.mm about mid-thickness, positive towards the weld side */
	momentNmm: number;
	/** mm, shrinkage across of this half */
	shrinkageMm: number;
	/** rad, of this half: inherent turn towards the weld side */
	turnRad: number;
	/** slope of the sheet at its edge (rad), bow (1/mm) and shortening across (mm) of this section by itself, cold, springs still on */
	slopeRad: number;
	bow: number;
	/** bow in its own plane, 1/mm */
	inPlaneBow: number;
	closingMm: number;
	/** N of tension within 30 mm of the seam */
	tensionN: number;
	/** mm, farthest cell that yielded */
	plasticHalfWidthMm: number;
	rounds: number;
	/** steps that did not come into balance: where the section snaps from one fold to another there is none on the way */
	openSteps: number;
	/** the cold end is in balance, and but for a few all steps before it */
	isBalanced: boolean;
}

const NU = 0.3;
/** MPa.s */
export const VISCOSITY = 50;
/** Molten metal keeps this share of its cold modulus and strength: it carries nothing to speak of and the matrix stays sound. */
const MOLTEN_E = 0.01;
const MOLTEN_PROOF = 0.013;
/** Balance asked for, N per mm of seam (forces are tens of kN). */
const TOLERANCE = 0.1;
const MOST_ROUNDS = 30;
const MOST_HALVINGS = 5;
/** Share of the steps that may lie in the middle of a snap. */
const OPEN_ALLOWED = 0.15;
/** A step in which the sheet moves out of its plane further than this is halved: it must follow the fold it is on, not leap to another, mm. */
const FURTHEST = 0.4;
/** Where the sheet about the hot zone is taken to be cold, mm from the seam. */
const COLD_AT = 60;
/** Stand-in for what is ahead and behind: springs until the seam has cooled to the metal's solid temperature, gone at two thirds of it. */
const HELD_WIDTH = 300;
const HELD_TURN = 1e5;
export const LET_GO = 2 / 3;
/** Where the seam never gets that hot the hold goes by distance behind the arc, mm. */
const HELD_BEHIND = [20, 40] as const;

/**
 * How much more the top face grows than the bottom, beyond what the layers' temperatures say, each way: the arc is on one side. It
 * picks the way the sheet folds where both ways are open, and is far too little to turn it by itself.
 */
const TAPER = 0.003;

/** Gauss points through the thickness (shares of it from the middle) and weights: two where the heat is even, three in layers. */
const THROUGH = {
	even: [
		[-0.5 / Math.sqrt(3), 0.5],
		[0.5 / Math.sqrt(3), 0.5]
	],
	layered: [
		[-0.5 * Math.sqrt(0.6), 5 / 18],
		[0, 8 / 18],
		[0.5 * Math.sqrt(0.6), 5 / 18]
	]
} as const;
const ALONG = [-1 / Math.sqrt(3), 1 / Math.sqrt(3)] as const;
/** half band of three freedoms a node */
const BAND = 5;
/** a, c and b */
const BORDER = 3;

/** Springs as they hold at one step, and which of a, c and b may not move. */
interface Springs {
	turn: number;
	width: number;
	bow: number;
	inPlane: number;
}
type Fixed = readonly [boolean, boolean, boolean];

/** Solution of the few equations of the border, each with its right-hand side last; Gauss without pivoting: the tangent is as good as symmetric and definite. */
function eliminated(rows: number[][]): number[] {
	const n = rows.length;
	for (let i = 0; i < n; i++)
		for (let k = i + 1; k < n; k++) {
			const f = rows[k][i] / rows[i][i];
			for (let j = i; j <= n; j++) rows[k][j] -= f * rows[i][j];
		}
	const x = new Array<number>(n);
	for (let i = n - 1; i >= 0; i--) x[i] = rows[i].slice(i + 1, n).reduce((s, v, j) => s - v * x[i + 1 + j], rows[i][n]) / rows[i][i];
	return x;
}

export function layeredStrip(input: LayeredInput): LayeredResult {
	return new Section(input).run();
}

class Section {
	private readonly m: number;
	private readonly nodes: number;
	private readonly y: Float64Array;
	private readonly through: readonly (readonly [number, number])[];
	private readonly points: number;
	/** v, w, slope by node, then a, c, b */
	private u: Float64Array;
	/** by point: plastic strain along, across; equivalent */
	private px: Float64Array;
	private py: Float64Array;
	private p: Float64Array;
	private readonly trialX: Float64Array;
	private readonly trialY: Float64Array;
	private readonly trialP: Float64Array;
	private readonly sx: Float64Array;
	private readonly yielded: Uint8Array;
	private readonly flatness: Float64Array;
	private readonly coldNode: number;
	private readonly R: Float64Array;
	private readonly K: Float64Array;
	/** columns of the matrix beside the band, for a, c and b, and what they have among themselves */
	private readonly Kb: readonly [Float64Array, Float64Array, Float64Array];
	private readonly corner = new Float64Array(BORDER * BORDER);
	private rounds = 0;
	private openSteps = 0;
	private lastBalanced = true;

	constructor(private readonly q: LayeredInput) {
		this.m = q.dy.length;
		this.nodes = this.m + 1;
		this.y = new Float64Array(this.nodes);
		for (let i = 0; i < this.m; i++) this.y[i + 1] = this.y[i] + q.dy[i];
		this.through = q.layers > 1 ? THROUGH.layered : THROUGH.even;
		this.points = this.m * 2 * this.through.length;
		this.u = new Float64Array(3 * this.nodes + BORDER);
		[this.px, this.py, this.p, this.trialX, this.trialY, this.trialP, this.sx] = Array.from({ length: 7 }, () => new Float64Array(this.points));
		this.yielded = new Uint8Array(this.m);
		const width = this.y[this.m];
		this.flatness = Float64Array.from(this.y, (v) => ((q.outOfFlat ?? 0.1) * v) / Math.min(width, COLD_AT));
		let cold = this.m;
		for (let i = this.m; i > 0; i--) if (Math.abs(this.y[i] - COLD_AT) < Math.abs(this.y[cold] - COLD_AT)) cold = i;
		this.coldNode = cold;
		const n = 3 * this.nodes;
		this.R = new Float64Array(n + BORDER);
		this.K = new Float64Array(n * (BAND + 1));
		this.Kb = [new Float64Array(n), new Float64Array(n), new Float64Array(n)];
	}

	run(): LayeredResult {
		const { q } = this;
		const steps = q.temperatures.length;
		let before = q.temperatures[0];
		for (let k = 1; k < steps; k++) {
			this.step(before, q.temperatures[k], q.times[k - 1], q.times[k], 0);
			before = q.temperatures[k];
		}
		const cold = new Float64Array(before.length).fill(20);
		const end = q.times[steps - 1];
		this.step(before, cold, end, end + 600, 0);
		return this.result();
	}

	/** 1 while the metal ahead of the arc or the hot seam behind it holds the section, falling to 0. */
	private held(temperatures: ArrayLike<number>, time: number): number {
		const { q } = this;
		if (time <= q.arcS) return 1;
		const solid = q.metal.solidC;
		if (this.melts) {
			let seam = 0;
			for (let l = 0; l < q.layers; l++) seam += temperatures[l] / q.layers;
			return Math.min(1, Math.max(0, (seam - LET_GO * solid) / (solid - LET_GO * solid)));
		}
		const behind = (time - q.arcS) * q.speed;
		return Math.min(1, Math.max(0, (HELD_BEHIND[1] - behind) / (HELD_BEHIND[1] - HELD_BEHIND[0])));
	}
	private meltsAt?: boolean;
	private get melts(): boolean {
		return (this.meltsAt ??= this.q.temperatures.some((row) => {
			let seam = 0;
			for (let l = 0; l < this.q.layers; l++) seam += row[l] / this.q.layers;
			return seam > this.q.metal.solidC;
		}));
	}

	private step(from: ArrayLike<number>, to: ArrayLike<number>, t0: number, t1: number, depth: number) {
		const start = this.u.slice();
		if (this.balance(to, t0, t1) && this.moved(start) < FURTHEST) {
			this.lastBalanced = true;
			this.commit();
			return;
		}
		this.u = start;
		if (depth < MOST_HALVINGS) {
			const half = Float64Array.from(to, (v, i) => (v + from[i]) / 2);
			this.step(from, half, t0, (t0 + t1) / 2, depth + 1);
			this.step(half, to, (t0 + t1) / 2, t1, depth + 1);
			return;
		}
		// as short as it gets: either it snaps through here, or it finds no balance
		this.lastBalanced = true;
		if (!this.balance(to, t0, t1)) {
			this.openSteps++;
			this.lastBalanced = false;
			this.u = start;
			this.balance(to, t0, t1, true);
		}
		this.commit();
	}

	/** mm, furthest that the sheet has come out of its plane since `start`. */
	private moved(start: Float64Array): number {
		let most = 0;
		for (let i = 1; i < 3 * this.nodes; i += 3) most = Math.max(most, Math.abs(this.u[i] - start[i]));
		return most;
	}

	private balance(temperatures: ArrayLike<number>, t0: number, t1: number, anyway = false): boolean {
		const { springs } = this.q;
		const n = 3 * this.nodes;
		const hold = this.held(temperatures, t1);
		const dt = Math.max(1e-3, t1 - t0);
		const isFixed: Fixed = [false, hold > 0 || springs.curvature === Infinity, springs.inPlane === Infinity];
		const isFlat = springs.turn === Infinity;
		const turn = HELD_TURN * hold + (isFlat ? 0 : springs.turn);
		const width = HELD_WIDTH * hold + springs.width;
		const bow = springs.curvature === Infinity ? 0 : springs.curvature;
		const inPlane = springs.inPlane === Infinity ? 0 : springs.inPlane;
		const on: Springs = { turn, width, bow, inPlane };
		this.prepare(temperatures);
		const fixed = [0, 1, 2, ...(isFlat ? [3 * this.coldNode + 1, 3 * this.coldNode + 2] : [])];
		let size = Infinity;
		for (let round = 0; round < MOST_ROUNDS; round++) {
			this.rounds++;
			const before = size;
			size = this.assemble(dt, on, fixed, isFixed, true);
			if (size < TOLERANCE) return true;
			if (!Number.isFinite(size) || (round > 12 && size > 1e6 * before)) return false;
			const step = this.solve(fixed, isFixed);
			let most = 0;
			for (let i = 1; i < n; i += 3) most = Math.max(most, Math.abs(step[i]));
			let factor = Math.min(1, 1 / (most + 1e-30));
			const start = this.u.slice();
			const move = (f: number) => {
				for (let i = 0; i < n + BORDER; i++) this.u[i] = start[i] + f * step[i];
			};
			move(factor);
			if (round > 3)
				for (let back = 0; back < 4; back++) {
					if (this.assemble(dt, on, fixed, isFixed, false) < size) break;
					factor /= 2;
					move(factor);
				}
		}
		return anyway;
	}

	private eNow!: Float64Array;
	private proofNow!: Float64Array;
	private growth!: Float64Array;
	private hardNow!: Float64Array;
	private hotNow!: Uint8Array;

	/** Properties at each cell and place through its thickness. */
	private prepare(temperatures: ArrayLike<number>) {
		const { q, m, through } = this;
		const nz = through.length;
		this.eNow ??= new Float64Array(m * nz);
		this.proofNow ??= new Float64Array(m * nz);
		this.growth ??= new Float64Array(m * nz);
		this.hardNow ??= new Float64Array(m * nz);
		this.hotNow ??= new Uint8Array(m * nz);
		const { metal, model } = q;
		const [e20, proof20] = [metal.eModulus(20), metal.proof(20)];
		for (let e = 0; e < m; e++)
			for (let l = 0; l < nz; l++) {
				const c = this.at(temperatures, e, through[l][0]);
				const i = e * nz + l;
				this.eNow[i] = Math.max(metal.eModulus(c), MOLTEN_E * e20);
				this.proofNow[i] = Math.max(metal.proof(c), MOLTEN_PROOF * proof20);
				this.growth[i] = metal.elongation(c) * (1 + 2 * TAPER * through[l][0]);
				this.hardNow[i] = model.hardening * Math.min(1, Math.max(0, 1 - (c - 20) / (metal.solidC - 20)));
				this.hotNow[i] = c >= metal.solidC ? 1 : 0;
			}
	}

	/** °C of a cell at a place through the thickness (share of it from the middle, up): straight between the layers' middles. */
	private at(temperatures: ArrayLike<number>, cell: number, z: number): number {
		const nz = this.q.layers;
		if (nz === 1) return temperatures[cell];
		// layer l lies at (nz - 1 - 2 l) / (2 nz) of the thickness above the middle
		const x = Math.min(nz - 1.000001, Math.max(0, (nz - 1) / 2 - z * nz));
		const l = Math.floor(x);
		const o = cell * nz;
		return temperatures[o + l] + (x - l) * (temperatures[o + l + 1] - temperatures[o + l]);
	}

	/** Out-of-balance forces, and with `tangent` the matrix. @returns largest force out of balance that is free */
	// eslint-disable-next-line max-lines-per-function -- an element written out: a helper for each product would cost more than the product
	private assemble(dt: number, on: Springs, fixed: readonly number[], isFixed: Fixed, tangent: boolean): number {
		const { m, q, y, u, R, K, corner, through, flatness } = this;
		const [Ka, Kc, Kb] = this.Kb;
		const n = 3 * this.nodes;
		const nz = through.length;
		const t = q.thickness;
		const [a, c, b] = [u[n], u[n + 1], u[n + 2]];
		R.fill(0);
		if (tangent) {
			K.fill(0);
			for (const column of this.Kb) column.fill(0);
			corner.fill(0);
		}
		const vis = VISCOSITY / dt;
		const bx = new Float64Array(9);
		const by = new Float64Array(8);
		const N = new Float64Array(4);
		for (let e = 0; e < m; e++) {
			const h = y[e + 1] - y[e];
			const o = 3 * e;
			const stretch = (u[o + 3] - u[o]) / h;
			for (let g = 0; g < 2; g++) {
				const s = (1 + ALONG[g]) / 2;
				// Hermite shapes and their second derivatives
				N[0] = 1 - 3 * s * s + 2 * s ** 3;
				N[1] = h * (s - 2 * s * s + s ** 3);
				N[2] = 3 * s * s - 2 * s ** 3;
				N[3] = h * (s ** 3 - s * s);
				const d0 = (-6 + 12 * s) / (h * h);
				const d1 = (-4 + 6 * s) / h;
				const d3 = (-2 + 6 * s) / h;
				const w = N[0] * u[o + 1] + N[1] * u[o + 2] + N[2] * u[o + 4] + N[3] * u[o + 5];
				const curl = d0 * u[o + 1] + d1 * u[o + 2] - d0 * u[o + 4] + d3 * u[o + 5];
				const out = w + flatness[e] + s * (flatness[e + 1] - flatness[e]);
				const from = y[e] + s * h;
				for (let l = 0; l < nz; l++) {
					const z = through[l][0] * t;
					const weight = (h / 2) * t * through[l][1];
					const i = (2 * e + g) * nz + l;
					const k = e * nz + l;
					const E = this.eNow[k];
					const [e1k, e2k] = [E / (1 - NU), E / (1 + NU)];
					const ex = a + b * from + c * (z + out) - this.growth[k] - this.px[i];
					const ey = stretch - z * curl - this.growth[k] - this.py[i];
					let [s1, s2] = [e1k * (ex + ey), e2k * (ex - ey)];
					let [A, B, C] = [e1k, 0, e2k];
					const limit = this.proofNow[k] + this.hardNow[k] * this.p[i];
					const equivalent = Math.sqrt(s1 * s1 + 3 * s2 * s2) / 2;
					let gamma = 0;
					if (equivalent > limit) {
						const hv = (2 / 3) * (this.hardNow[k] + vis);
						let eq = equivalent;
						let [f1, f2] = [1, 1];
						for (let it = 0; it < 40; it++) {
							f1 = 1 / (1 + (gamma * e1k) / 3);
							f2 = 1 / (1 + gamma * e2k);
							const [r1, r2] = [s1 * f1, s2 * f2];
							eq = Math.sqrt(r1 * r1 + 3 * r2 * r2) / 2;
							const value = eq * (1 - hv * gamma) - limit;
							if (Math.abs(value) < 1e-9 * (limit + eq)) break;
							const slope = -((r1 * r1 * f1 * e1k) / 3 + 3 * r2 * r2 * f2 * e2k) / (4 * eq);
							const next = gamma - value / (slope * (1 - hv * gamma) - hv * eq);
							// kept where the hardened limit is still finite
							gamma = next >= 1 / hv ? (gamma + 1 / hv) / 2 : Math.max(next, 0);
						}
						[s1, s2] = [s1 * f1, s2 * f2];
						if (tangent) {
							const [a1, a2] = [e1k * f1, e2k * f2];
							const [n1, n2] = [(a1 * s1) / 4, (3 * a2 * s2) / 4];
							const den = (a1 * s1 * s1) / 12 + (3 * a2 * s2 * s2) / 4 + (hv * eq * eq) / (1 - hv * gamma);
							A = a1 - ((4 / 3) * n1 * n1) / den;
							B = -((4 / 3) * n1 * n2) / den;
							C = a2 - ((4 / 3) * n2 * n2) / den;
						}
						this.trialP[i] = this.p[i] + (2 / 3) * gamma * eq;
					} else this.trialP[i] = this.p[i];
					const [sx, sy] = [(s1 + s2) / 2, (s1 - s2) / 2];
					this.trialX[i] = this.px[i] + (gamma * (2 * sx - sy)) / 3;
					this.trialY[i] = this.py[i] + (gamma * (2 * sy - sx)) / 3;
					this.sx[i] = sx;
					// virtual strains: v1 w1 r1 v2 w2 r2 a c b
					bx[0] = 0;
					bx[1] = c * N[0];
					bx[2] = c * N[1];
					bx[3] = 0;
					bx[4] = c * N[2];
					bx[5] = c * N[3];
					bx[6] = 1;
					bx[7] = z + out;
					bx[8] = from;
					by[0] = -1 / h;
					by[1] = -z * d0;
					by[2] = -z * d1;
					by[3] = 1 / h;
					by[4] = z * d0;
					by[5] = -z * d3;
					const [fx, fy] = [sx * weight, sy * weight];
					for (let r = 0; r < 6; r++) R[o + r] += bx[r] * fx + by[r] * fy;
					R[n] += fx;
					R[n + 1] += bx[7] * fx;
					R[n + 2] += from * fx;
					if (!tangent) continue;
					const dxx = ((A + 2 * B + C) / 2) * weight;
					const dxy = ((A - C) / 2) * weight;
					const dyy = ((A - 2 * B + C) / 2) * weight;
					for (let r = 0; r < 6; r++) {
						const gx = dxx * bx[r] + dxy * by[r];
						const gy = dxy * bx[r] + dyy * by[r];
						const row = (o + r) * (BAND + 1) + BAND - (o + r);
						for (let cc = 0; cc <= r; cc++) K[row + o + cc] += gx * bx[cc] + gy * by[cc];
						Ka[o + r] += gx;
						Kc[o + r] += gx * bx[7];
						Kb[o + r] += gx * from;
					}
					Kc[o + 1] += fx * N[0];
					Kc[o + 2] += fx * N[1];
					Kc[o + 4] += fx * N[2];
					Kc[o + 5] += fx * N[3];
					for (let r = 0; r < BORDER; r++) for (let cc = 0; cc <= r; cc++) corner[r * BORDER + cc] += dxx * bx[6 + r] * bx[6 + cc];
				}
			}
		}
		const cold = 3 * this.coldNode;
		R[cold] += on.width * u[cold];
		R[cold + 2] += on.turn * u[cold + 2];
		R[n + 1] += on.bow * c;
		R[n + 2] += on.inPlane * b;
		if (tangent) {
			K[cold * (BAND + 1) + BAND] += on.width;
			K[(cold + 2) * (BAND + 1) + BAND] += on.turn;
			corner[BORDER + 1] += on.bow;
			corner[2 * BORDER + 2] += on.inPlane;
		}
		for (const f of fixed) R[f] = 0;
		return this.outOfBalance(isFixed);
	}

	/** Largest force that nothing takes up; what holds a bow takes up its moment. */
	private outOfBalance(isFixed: Fixed): number {
		const { R } = this;
		const n = 3 * this.nodes;
		let size = 0;
		for (let i = 0; i < n; i++) size = Math.max(size, Math.abs(R[i]));
		size = Math.max(size, Math.abs(R[n]));
		// a bow's own balance is a moment over the whole width: by its arm
		for (const k of [1, 2])
			if (isFixed[k]) R[n + k] = 0;
			else size = Math.max(size, Math.abs(R[n + k]) / COLD_AT);
		return size;
	}

	/** Step to the balance foreseen: banded L D L^T with a and the bows that are free at its border. */
	private solve(fixed: readonly number[], isFixed: Fixed): Float64Array {
		const { K, R, corner } = this;
		const n = 3 * this.nodes;
		const w = BAND + 1;
		for (const f of fixed) {
			for (let j = Math.max(0, f - BAND); j < f; j++) K[f * w + BAND + j - f] = 0;
			for (let i = f + 1; i <= Math.min(n - 1, f + BAND); i++) K[i * w + BAND + f - i] = 0;
			K[f * w + BAND] = 1;
			for (const column of this.Kb) column[f] = 0;
		}
		for (let i = 0; i < n; i++) {
			const lo = Math.max(0, i - BAND);
			for (let j = lo; j < i; j++) {
				let s = K[i * w + BAND + j - i];
				for (let k = Math.max(lo, j - BAND); k < j; k++) s -= K[i * w + BAND + k - i] * K[j * w + BAND + k - j];
				K[i * w + BAND + j - i] = s;
			}
			let d = K[i * w + BAND];
			for (let j = lo; j < i; j++) {
				const v = K[i * w + BAND + j - i];
				const l = v / K[j * w + BAND];
				d -= v * l;
				K[i * w + BAND + j - i] = l;
			}
			K[i * w + BAND] = d;
		}
		const back = (b: Float64Array) => {
			const x = b.slice(0, n);
			for (let i = 0; i < n; i++) for (let j = Math.max(0, i - BAND); j < i; j++) x[i] -= K[i * w + BAND + j - i] * x[j];
			for (let i = 0; i < n; i++) x[i] /= K[i * w + BAND];
			for (let i = n - 1; i >= 0; i--) for (let j = i + 1; j <= Math.min(n - 1, i + BAND); j++) x[i] -= K[j * w + BAND + i - j] * x[j];
			return x;
		};
		const dot = (p: Float64Array, v: Float64Array) => {
			let s = 0;
			for (let i = 0; i < n; i++) s += p[i] * v[i];
			return s;
		};
		const r = back(R);
		const free = [0, 1, 2].filter((k) => !isFixed[k]);
		const columns = free.map((k) => back(this.Kb[k]));
		// what is left for the border once the band has gone its way
		const left = free.map((k, i) => [
			...free.map((l, j) => corner[Math.max(k, l) * BORDER + Math.min(k, l)] - dot(this.Kb[k], columns[j])),
			-R[n + k] + dot(this.Kb[free[i]], r)
		]);
		const border = eliminated(left);
		const out = new Float64Array(n + BORDER);
		for (let i = 0; i < n; i++) out[i] = -r[i] - columns.reduce((s, c, j) => s + c[i] * border[j], 0);
		free.forEach((k, i) => (out[n + k] = border[i]));
		return out;
	}

	private commit() {
		const nz = this.through.length;
		for (let i = 0; i < this.points; i++) {
			const e = Math.floor(i / (2 * nz));
			if (Math.abs(this.trialP[i] - this.p[i]) > 1e-7) this.yielded[e] = 1;
			this.px[i] = this.trialX[i];
			this.py[i] = this.trialY[i];
			this.p[i] = this.q.model.forgets && this.hotNow[e * nz + (i % nz)] ? 0 : this.trialP[i];
		}
	}

	private result(): LayeredResult {
		const { q, m, y, through } = this;
		const nz = through.length;
		const t = q.thickness;
		const E = q.metal.eModulus(20);
		let [force, lever, moment, shrinkage, turn, tension, half] = [0, 0, 0, 0, 0, 0, 0];
		for (let e = 0; e < m; e++) {
			const h = y[e + 1] - y[e];
			for (let g = 0; g < 2; g++)
				for (let l = 0; l < nz; l++) {
					const i = (2 * e + g) * nz + l;
					const share = (h / 2) * through[l][1];
					const z = through[l][0] * t;
					const at = y[e] + ((1 + ALONG[g]) / 2) * h;
					const f = -E * this.px[i] * share * t;
					force += f;
					lever += f * at;
					moment += f * z;
					shrinkage -= this.py[i] * share;
					turn -= (12 / t ** 2) * this.py[i] * z * share;
					if (at < 30 && this.sx[i] > 0) tension += this.sx[i] * share * t;
				}
			if (this.yielded[e]) half = y[e + 1];
		}
		const n = 3 * this.nodes;
		const edge = 3 * this.coldNode;
		return {
			forceN: force,
			distanceMm: force !== 0 ? lever / force : 0,
			momentNmm: moment,
			shrinkageMm: shrinkage,
			turnRad: turn,
			slopeRad: this.u[edge + 2],
			bow: this.u[n + 1],
			inPlaneBow: this.u[n + 2],
			closingMm: -this.u[edge],
			tensionN: tension,
			plasticHalfWidthMm: half,
			rounds: this.rounds,
			openSteps: this.openSteps,
			isBalanced: this.lastBalanced && this.openSteps <= OPEN_ALLOWED * q.temperatures.length
		};
	}
}
