/**
 * One point of metal in plane stress: J2 with linear hardening up to a strain, by return mapping and its consistent tangent (Simo &
 * Taylor 1986, Int. J. Numer. Meth. Eng. 22, 649-670; Simo & Hughes 1998, Computational Inelasticity, box 3.3, from memory). In the
 * two directions that diagonalise both elasticity and the yield surface (mean and difference of the two stresses) it is one equation
 * in one unknown.
 */

const LEAST_FALL = 0.1;
const MOST_ROUNDS = 50;
const S23 = Math.sqrt(2 / 3);

/** What a point is told: filled by the caller, once an element. */
export class PointLaw {
	/** MPa */
	e = 0;
	proof = 0;
	hardening = 0;
	/** strain */
	growth = 0;
	/** plastic strain up to which it hardens */
	hardensTo = Infinity;
	poisson = 0.3;
	/** so hot that it keeps no strain: soft, with no history */
	isForgetting = false;

	/** what comes out beside stress and tangent */
	hasYielded = false;

	/**
	 * @param at index of the point
	 * @param kept plastic strain (3 a point) and hardening strain (1 a point) at the start of the step; `next` takes those at its end
	 * @param stresses along, across, shear (MPa), 3 a point; @param tangents 11, 22, 12, 33, 13, 23 (MPa), 6 a point
	 */
	point(at: number, ex: number, ey: number, gxy: number, kept: Strains, next: Strains, stresses: Float64Array, tangents: Float64Array): void {
		const o = 3 * at;
		const { e, poisson, growth } = this;
		const inPlane = e / (1 - poisson);
		const twoG = e / (1 + poisson);
		const p0 = kept.plastic[o];
		const p1 = kept.plastic[o + 1];
		const p2 = kept.plastic[o + 2];
		const a1 = ex - growth - p0;
		const a2 = ey - growth - p1;
		let s = inPlane * (a1 + a2);
		let d = twoG * (a1 - a2);
		let t = (twoG / 2) * (gxy - p2);
		this.hasYielded = false;
		if (this.isForgetting) {
			next.plastic[o] = ex - growth;
			next.plastic[o + 1] = ey - growth;
			next.plastic[o + 2] = gxy;
			next.hardening[at] = 0;
		} else {
			next.plastic[o] = p0;
			next.plastic[o + 1] = p1;
			next.plastic[o + 2] = p2;
			const had = kept.hardening[at];
			next.hardening[at] = had;
			const A = (s * s) / 6;
			const Q = (d * d) / 2 + 2 * t * t;
			const limit = this.proof + this.hardening * Math.min(had, this.hardensTo);
			if ((A + Q) / 2 > ((limit * limit) / 3) * (1 + 1e-9)) {
				this.hasYielded = true;
				const slip = this.slip(A, Q, had, inPlane / 3, twoG);
				const fallS = 1 + (inPlane / 3) * slip;
				const fallD = 1 + twoG * slip;
				s /= fallS;
				d /= fallD;
				t /= fallD;
				next.plastic[o] += (slip * (s / 3 + d)) / 2;
				next.plastic[o + 1] += (slip * (s / 3 - d)) / 2;
				next.plastic[o + 2] += slip * 2 * t;
				const size = Math.sqrt((s * s) / 6 + (d * d) / 2 + 2 * t * t);
				next.hardening[at] = had + S23 * slip * size;
				this.yieldedTangent(s, d, t, slip, inPlane / fallS, twoG / fallD, size, next.hardening[at], tangents, 6 * at);
				stresses[o] = (s + d) / 2;
				stresses[o + 1] = (s - d) / 2;
				stresses[o + 2] = t;
				return;
			}
		}
		stresses[o] = (s + d) / 2;
		stresses[o + 1] = (s - d) / 2;
		stresses[o + 2] = t;
		const q = 6 * at;
		tangents[q] = tangents[q + 1] = (inPlane + twoG) / 2;
		tangents[q + 2] = (inPlane - twoG) / 2;
		tangents[q + 3] = twoG / 2;
		tangents[q + 4] = tangents[q + 5] = 0;
	}

	/**
	 * The slip that brings the stress back to the yield surface. The stress falls about as 1 / (1 + slip), so Newton is done on limit
	 * over size, which is nearly straight in it; never below a tenth of the last guess.
	 */
	private slip(A: number, Q: number, had: number, cs: number, cd: number): number {
		let slip = 0;
		for (let k = 0; k < MOST_ROUNDS; k++) {
			const ps = 1 / (1 + cs * slip);
			const pd = 1 / (1 + cd * slip);
			const fallS = A * ps * ps;
			const fallD = Q * pd * pd;
			const size = Math.sqrt(fallS + fallD);
			const hardened = had + S23 * slip * size;
			const isHardening = hardened < this.hardensTo;
			const limit = S23 * (this.proof + this.hardening * (isHardening ? hardened : this.hardensTo));
			const off = limit / size - 1;
			if (Math.abs(off) < 1e-10) break;
			const dSize = -(fallS * cs * ps + fallD * cd * pd) / size;
			const dLimit = isHardening ? S23 * this.hardening * S23 * (size + slip * dSize) : 0;
			slip = Math.max(slip - (off * size) / (dLimit - (limit * dSize) / size), slip * LEAST_FALL, 0);
		}
		return slip;
	}

	/** Xi - n n^T / (n P s + beta), n = Xi P s */
	private yieldedTangent(
		s: number,
		d: number,
		t: number,
		slip: number,
		xs: number,
		xd: number,
		size: number,
		hardened: number,
		tangents: Float64Array,
		q: number
	): void {
		const slope = hardened < this.hardensTo ? this.hardening : 0;
		const beta = (((2 / 3) * slope) / Math.max(1 - (2 / 3) * slope * slip, 0.05)) * size * size;
		const ns = (xs * s) / 3;
		const nd = xd * d;
		const n1 = (ns + nd) / 2;
		const n2 = (ns - nd) / 2;
		const n3 = xd * t;
		// a hair less than the whole, so that the matrix stays positive definite where nothing hardens
		const z = (1 - 1e-4) / (((s / 3) * ns) / 2 + (d * nd) / 2 + 2 * t * n3 + beta);
		tangents[q] = (xs + xd) / 2 - z * n1 * n1;
		tangents[q + 1] = (xs + xd) / 2 - z * n2 * n2;
		tangents[q + 2] = (xs - xd) / 2 - z * n1 * n2;
		tangents[q + 3] = xd / 2 - z * n3 * n3;
		tangents[q + 4] = -z * n1 * n3;
		tangents[q + 5] = -z * n2 * n3;
	}
}

/** Plastic strain (along, across, shear) and hardening strain of every point. */
export class Strains {
	readonly plastic: Float64Array;
	readonly hardening: Float64Array;
	constructor(points: number) {
		this.plastic = new Float64Array(3 * points);
		this.hardening = new Float64Array(points);
	}
	take(other: Strains): void {
		this.plastic.set(other.plastic);
		this.hardening.set(other.hardening);
	}
}
