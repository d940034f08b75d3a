/**
 * Both sheets in plane stress at one moment: rectangles of four points with the temperature of the element's middle and the shear of
 * its middle (so that a thin row of them does not lock), springs of the grips, the links of the seam. Full Newton; each step's
 * potential is convex (associative yielding, one-way springs), so a search along the step on `du . f` makes it safe.
 */
import { BandMatrix } from '../linalg/band';
import type { KernelFactory } from '../linalg/kernel/kernel';
import { CORNER_X, CORNER_Y, type HotGrid } from './grid';
import type { SeamLinks } from './links';
import type { HotSeam } from './seam';
import { PointLaw, Strains } from './yielding';

/** The four points of an element in the order of its corners. */
const G = 1 / Math.sqrt(3);
const POINT_X = [-G, G, G, -G] as const;
const POINT_Y = [-G, -G, G, G] as const;
/** N/mm at every node: keeps a loose sheet from floating away, carries nothing to speak of */
const TIE = 1e-3;
/** Longest step of any node in one round, mm. */
const LONGEST = 1;
const MOST_ROUNDS = 40;
const MOST_LOOKS = 8;
/** MPa: the least and most stiffness of metal with no strength, whatever the step */
const SOFT = [2, 2000] as const;

interface Spring {
	dof: number;
	k: number;
	isReleased: boolean;
}

export class Sheets {
	/** mm: along and across by node */
	readonly u: Float64Array;
	readonly kept: Strains;
	readonly next: Strains;
	/** MPa: along, across, shear by point, of the state last worked out */
	private readonly stress: Float64Array;
	rounds = 0;
	looks = 0;
	/** largest force out of balance, N, of the state last worked out */
	worst = 0;
	private readonly matrix: BandMatrix;
	private readonly f: Float64Array;
	private readonly du: Float64Array;
	private readonly springs: Spring[] = [];
	private isReleased = false;
	private readonly law = new PointLaw();
	private readonly ke = new Float64Array(64);
	/** tangent by point, whether any point of an element yields, of the state last worked out */
	private readonly tangents: Float64Array;
	private readonly yields: Uint8Array;
	/** where the lower half of each element's stiffness goes in the matrix, row by row of it */
	private readonly places: Int32Array;
	/** by element: metal at its temperature */
	private readonly e: Float64Array;
	private readonly proof: Float64Array;
	private readonly hardening: Float64Array;
	private readonly growth: Float64Array;
	private readonly forgetting: Uint8Array;
	/** stiffness of an element with E of 1, by width of row */
	private readonly unit: Float64Array[];

	constructor(
		private readonly seam: HotSeam,
		private readonly grid: HotGrid,
		private readonly links: SeamLinks,
		kernel?: KernelFactory
	) {
		const { nodes, elements } = grid;
		this.matrix = new BandMatrix(2 * nodes, 2 * (grid.y.length + 1) + 1, kernel);
		this.tangents = new Float64Array(24 * elements);
		this.yields = new Uint8Array(elements);
		this.places = placesOf(grid, this.matrix.b);
		this.u = new Float64Array(2 * nodes);
		this.f = new Float64Array(2 * nodes);
		this.du = new Float64Array(2 * nodes);
		this.kept = new Strains(4 * elements);
		this.next = new Strains(4 * elements);
		this.stress = new Float64Array(12 * elements);
		this.e = new Float64Array(elements);
		this.proof = new Float64Array(elements);
		this.hardening = new Float64Array(elements);
		this.growth = new Float64Array(elements);
		this.forgetting = new Uint8Array(elements);
		const known = new Map<string, Float64Array>();
		this.unit = Array.from({ length: elements }, (_, e) => {
			const sheet = seam.sheets[grid.sheet[e]]!;
			const key = `${grid.hx[e].toFixed(9)} ${grid.hy[e].toFixed(9)} ${grid.sheet[e]}`;
			if (!known.has(key)) known.set(key, unitStiffness(grid.hx[e], grid.hy[e], sheet.thicknessMm, sheet.metal.poisson));
			return known.get(key)!;
		});
		this.hold();
	}

	get unknowns() {
		return this.u.length;
	}
	get halfBand() {
		return this.matrix.b;
	}

	/** Springs of the grips, and what keeps each sheet from drifting along: held in the middle of its outer edge. */
	private hold(): void {
		const { seam, grid } = this;
		const { x, y } = grid;
		const stiff = 1e3 * seam.sheets[0].metal.e20 * seam.sheets[0].thicknessMm;
		seam.sheets.forEach((sheet, s) => {
			const outer = s === 0 ? y.length - 1 : 0;
			for (const g of sheet.grips) {
				const row = Number.isFinite(g.fromSeamMm) ? nearestRow(y, s === 0 ? g.fromSeamMm : -g.fromSeamMm) : outer;
				for (let i = 0; i < x.length; i++) {
					const length = (x[1] - x[0]) * (i === 0 || i === x.length - 1 ? 0.5 : 1);
					const dof = 2 * (i * y.length + row);
					if (g.along) this.springs.push({ dof, k: g.along * length, isReleased: g.isReleased });
					if (g.across) this.springs.push({ dof: dof + 1, k: g.across * length, isReleased: g.isReleased });
				}
			}
			// at the outer edge, not at a corner of the seam, which melts
			if (s === 0) this.springs.push({ dof: 2 * (((x.length - 1) >> 1) * y.length + outer), k: stiff, isReleased: false });
		});
		// two sheets: nothing else says where across they lie
		if (grid.seamRow) this.springs.push({ dof: 2 * grid.seamRow + 1, k: 1, isReleased: false });
	}

	/** Takes off what is taken off when all is cold. */
	release(): boolean {
		const any = this.springs.some((s) => s.isReleased);
		this.isReleased = true;
		return any;
	}

	/** The metal at temperatures by node, on the way from `from` to `to`; `seconds` of the step, for what has no strength. */
	setTemperatures(from: Float64Array, to: Float64Array, share: number, seconds: number): void {
		const { grid, seam } = this;
		const { corners } = grid;
		for (let e = 0; e < grid.elements; e++) {
			let c = 0;
			for (let k = 0; k < 4; k++) {
				const n = corners[4 * e + k];
				c += (from[n] + share * (to[n] - from[n])) / 4;
			}
			const { metal } = seam.sheets[grid.sheet[e]]!;
			const isForgetting = c >= metal.forgetsC;
			this.forgetting[e] = isForgetting ? 1 : 0;
			// a modulus taken anew each step is a viscosity: modulus times step
			const soft = Math.min(SOFT[1], Math.max(SOFT[0], metal.model.viscosity / seconds));
			this.e[e] = isForgetting ? Math.min(metal.e.at(c), soft) : metal.e.at(c);
			this.proof[e] = metal.proof.at(c);
			this.hardening[e] = metal.hardening.at(c);
			this.growth[e] = metal.growth.at(c) - metal.growth.at(seam.startC);
		}
	}

	/** Stress, force and tangents of `u`. @returns the largest force out of balance, N */
	private forces(): number {
		const { grid, u, f, law, seam, tangents, stress, yields } = this;
		const { corners } = grid;
		f.fill(0);
		for (let e = 0; e < grid.elements; e++) {
			const o = 4 * e;
			const { thicknessMm, metal } = seam.sheets[grid.sheet[e]]!;
			const weight = (thicknessMm * grid.hx[e] * grid.hy[e]) / 4;
			law.e = this.e[e];
			law.proof = this.proof[e];
			law.hardening = this.hardening[e];
			law.growth = this.growth[e];
			law.isForgetting = this.forgetting[e] === 1;
			law.poisson = metal.poisson;
			law.hardensTo = metal.model.hardensTo;
			const n0 = 2 * corners[o];
			const n1 = 2 * corners[o + 1];
			const n2 = 2 * corners[o + 2];
			const n3 = 2 * corners[o + 3];
			const ih = 1 / (2 * grid.hx[e]);
			const iv = 1 / (2 * grid.hy[e]);
			// strains are linear in each direction, so two numbers each
			const e0 = (u[n1] + u[n2] - u[n0] - u[n3]) * ih;
			const e1 = (u[n0] + u[n2] - u[n1] - u[n3]) * ih;
			const f0 = (u[n2 + 1] + u[n3 + 1] - u[n0 + 1] - u[n1 + 1]) * iv;
			const f1 = (u[n0 + 1] + u[n2 + 1] - u[n1 + 1] - u[n3 + 1]) * iv;
			const shear = (u[n2] + u[n3] - u[n0] - u[n1]) * iv + (u[n1 + 1] + u[n2 + 1] - u[n0 + 1] - u[n3 + 1]) * ih;
			let s1 = 0;
			let s2 = 0;
			let s3 = 0;
			let s1y = 0;
			let s2x = 0;
			yields[e] = 0;
			for (let g = 0; g < 4; g++) {
				law.point(o + g, e0 + POINT_Y[g] * e1, f0 + POINT_X[g] * f1, shear, this.kept, this.next, stress, tangents);
				if (law.hasYielded) yields[e] = 1;
				const p = 3 * (o + g);
				s1 += stress[p];
				s2 += stress[p + 1];
				s3 += stress[p + 2];
				s1y += POINT_Y[g] * stress[p];
				s2x += POINT_X[g] * stress[p + 1];
			}
			for (let a = 0; a < 4; a++) {
				const n = 2 * corners[o + a];
				f[n] += weight * (CORNER_X[a] * ih * (s1 + CORNER_Y[a] * s1y) + CORNER_Y[a] * iv * s3);
				f[n + 1] += weight * (CORNER_Y[a] * iv * (s2 + CORNER_X[a] * s2x) + CORNER_X[a] * ih * s3);
			}
		}
		for (const s of this.springs) if (!(s.isReleased && this.isReleased)) f[s.dof] += s.k * u[s.dof];
		for (let d = 0; d < u.length; d++) f[d] += TIE * u[d];
		this.links.push(u, f);
		let worst = 0;
		for (let d = 0; d < f.length; d++) worst = Math.max(worst, Math.abs(f[d]));
		this.worst = worst;
		return worst;
	}

	/** The matrix of the state that `forces` has last worked out. */
	private stiffness(): void {
		const { grid, seam, ke, tangents, places } = this;
		const { values: k, b: band } = this.matrix;
		const w = band + 1;
		k.fill(0);
		for (let e = 0; e < grid.elements; e++) {
			if (this.yields[e])
				yieldedStiffness(
					ke,
					tangents,
					24 * e,
					(seam.sheets[grid.sheet[e]]!.thicknessMm * grid.hx[e] * grid.hy[e]) / 4,
					1 / (2 * grid.hx[e]),
					1 / (2 * grid.hy[e])
				);
			const unit = this.unit[e];
			const scale = this.e[e];
			for (let z = 0; z < LOWER.length; z++) k[places[LOWER.length * e + z]] += this.yields[e] ? ke[LOWER[z]] : scale * unit[LOWER[z]];
		}
		for (const s of this.springs) if (!(s.isReleased && this.isReleased)) k[s.dof * w + band] += s.k;
		for (let d = 0; d < this.u.length; d++) k[d * w + band] += TIE;
		this.links.stiffen(this.u, k, band);
	}

	/** Rounds to balance within `tolerance` N at the temperatures set. @returns whether it came to it */
	balance(tolerance: number): boolean {
		const { u, f, du, matrix } = this;
		let worst = this.forces();
		for (let round = 0; round < MOST_ROUNDS; round++) {
			if (worst < tolerance && round > 0) return true;
			if (!(worst < 1e12)) return false;
			this.stiffness();
			matrix.factorise();
			for (let d = 0; d < u.length; d++) du[d] = -f[d];
			matrix.solve(du);
			worst = this.along();
			this.rounds++;
		}
		return false;
	}

	/** Goes along `du` to where the force along it has fallen enough, by regula falsi between bounds. */
	private along(): number {
		const { u, du } = this;
		const start = this.forceAlong();
		let big = 0;
		for (let d = 0; d < du.length; d++) big = Math.max(big, Math.abs(du[d]));
		let share = big > LONGEST ? LONGEST / big : 1;
		let done = 0;
		let [low, atLow, high, atHigh] = [0, start, 0, 0];
		for (let look = 0; ; look++) {
			for (let d = 0; d < u.length; d++) u[d] += (share - done) * du[d];
			done = share;
			const worst = this.forces();
			const here = this.forceAlong();
			if (look) this.looks++;
			if (Math.abs(here) <= 0.7 * Math.abs(start) || (here < 0 && !high) || look === MOST_LOOKS - 1) return worst;
			if (here > 0) [high, atHigh] = [share, here];
			else [low, atLow] = [share, here];
			const between = low + ((high - low) * atLow) / (atLow - atHigh);
			share = Math.max(low + 0.1 * (high - low), Math.min(low + 0.6 * (high - low), between));
		}
	}

	private forceAlong(): number {
		let sum = 0;
		for (let d = 0; d < this.du.length; d++) sum += this.du[d] * this.f[d];
		return sum;
	}

	/** Keeps the strains of the state in balance. */
	keep(): void {
		this.kept.take(this.next);
	}
}

function nearestRow(y: Float64Array, at: number): number {
	let best = 0;
	for (let j = 1; j < y.length; j++) if (Math.abs(y[j] - at) < Math.abs(y[best] - at)) best = j;
	return best;
}

/** The places of an 8 x 8 matrix whose first freedom, in the order of the nodes, is not before its second: by element, for all alike. */
const LOWER: readonly number[] = (() => {
	// corners run round the element: in the numbering of nodes they come in the order 0, 3, 1, 2
	const rank = [0, 2, 3, 1];
	const order = (q: number) => 2 * rank[q >> 1] + (q & 1);
	const out: number[] = [];
	for (let a = 0; a < 8; a++) for (let b = 0; b < 8; b++) if (order(b) <= order(a)) out.push(8 * a + b);
	return out;
})();

function placesOf(grid: HotGrid, band: number): Int32Array {
	const out = new Int32Array(LOWER.length * grid.elements);
	for (let e = 0; e < grid.elements; e++)
		LOWER.forEach((z, i) => {
			const dof = (q: number) => 2 * grid.corners[4 * e + (q >> 1)] + (q & 1);
			const row = dof(z >> 3);
			out[LOWER.length * e + i] = row * (band + 1) + band - row + dof(z & 7);
		});
	return out;
}

function unitStiffness(hx: number, hy: number, thickness: number, nu: number): Float64Array {
	const tangents = new Float64Array(24);
	const d11 = 1 / (1 - nu * nu);
	for (let g = 0; g < 4; g++) tangents.set([d11, d11, nu * d11, 1 / (2 * (1 + nu)), 0, 0], 6 * g);
	const ke = new Float64Array(64);
	yieldedStiffness(ke, tangents, 0, (thickness * hx * hy) / 4, 1 / (2 * hx), 1 / (2 * hy));
	return ke;
}

/** Stiffness of one rectangle from the tangents of its four points. */
function yieldedStiffness(ke: Float64Array, tangents: Float64Array, from: number, weight: number, ih: number, iv: number): void {
	ke.fill(0);
	for (let g = 0; g < 4; g++) {
		const d = from + 6 * g;
		const d11 = tangents[d] * weight;
		const d22 = tangents[d + 1] * weight;
		const d12 = tangents[d + 2] * weight;
		const d33 = tangents[d + 3] * weight;
		const d13 = tangents[d + 4] * weight;
		const d23 = tangents[d + 5] * weight;
		for (let a = 0; a < 4; a++) {
			const bx = CORNER_X[a] * (1 + CORNER_Y[a] * POINT_Y[g]) * ih;
			const by = CORNER_Y[a] * (1 + CORNER_X[a] * POINT_X[g]) * iv;
			// shear strain of the middle
			const sx = CORNER_Y[a] * iv;
			const sy = CORNER_X[a] * ih;
			const x1 = bx * d11 + sx * d13;
			const x2 = bx * d12 + sx * d23;
			const x3 = bx * d13 + sx * d33;
			const y1 = by * d12 + sy * d13;
			const y2 = by * d22 + sy * d23;
			const y3 = by * d23 + sy * d33;
			for (let b = 0; b < 4; b++) {
				const cx = CORNER_X[b] * (1 + CORNER_Y[b] * POINT_Y[g]) * ih;
				const cy = CORNER_Y[b] * (1 + CORNER_X[b] * POINT_X[g]) * iv;
				const tx = CORNER_Y[b] * iv;
				const ty = CORNER_X[b] * ih;
				const r = 16 * a + 2 * b;
				ke[r] += x1 * cx + x3 * tx;
				ke[r + 1] += x2 * cy + x3 * ty;
				ke[r + 8] += y1 * cx + y3 * tx;
				ke[r + 9] += y2 * cy + y3 * ty;
			}
		}
	}
}
