/**
 * Heat in the sheets while the arc goes by: `t dH/dt = div(t lambda grad T) - 2 h (T - T_air) - contact (T - T_bar) + source`, bilinear
 * rectangles, heat content lumped at the nodes, backward Euler, Newton. The source is an ellipse `exp(-3 s2/a2 - 3 y2/b2)`, shorter
 * ahead than behind (the double ellipsoid of Goldak, Chakravarti & Bibby 1984 without its depth), scaled so that the sheet takes the
 * whole net power, at its ends too. A bar is a second sheet under the first with its own heat, one step late.
 */
import { BandMatrix } from '../linalg/band';
import type { KernelFactory } from '../linalg/kernel/kernel';
import { CORNER_X, CORNER_Y, type HotGrid } from './grid';
import { powerOver } from './pulse';
import { arcOf, type HotSeam } from './seam';
import type { ArcStep, TimeLine } from './timeLine';
import { warmthAt, type Warmth } from './warmth';

/** W/K between the two edges where they meet: as one sheet */
const EDGES = 1e3;
const MOST_ROUNDS = 40;
/** Rounds after which a temperature may cross an end of the melting range freely. */
const CAREFUL_ROUNDS = 30;
const STILL_K = 0.05;

/** Gauss points and weights of an interval -1 to 1, four of them. */
const FOUR: readonly (readonly [number, number])[] = [
	[-0.8611363115940526, 0.34785484513745385],
	[-0.3399810435848563, 0.6521451548625461],
	[0.3399810435848563, 0.6521451548625461],
	[0.8611363115940526, 0.34785484513745385]
];

export class HeatField {
	/** °C by node */
	readonly t: Float64Array;
	/** °C of the bar under each node */
	readonly bar: Float64Array;
	/** J: brought by other seams; given by the arc, gone to the air, gone to the bar */
	brought = 0;
	given = 0;
	lost = 0;
	intoBar = 0;
	rounds = 0;
	/** steps whose temperatures did not come to rest */
	openSteps = 0;
	private readonly matrix: BandMatrix;
	private readonly residual: Float64Array;
	private readonly source: Float64Array;
	private readonly before: Float64Array;
	/** mm2 of sheet, and of contact with the bar, at each node */
	private readonly area: Float64Array;
	private readonly contact: Float64Array;
	private readonly sheetOf: Uint8Array;

	constructor(
		private readonly seam: HotSeam,
		private readonly grid: HotGrid,
		private readonly line: TimeLine,
		kernel?: KernelFactory
	) {
		const { nodes, y } = grid;
		this.matrix = new BandMatrix(nodes, y.length + 1, kernel);
		this.t = new Float64Array(nodes).fill(seam.startC);
		this.bar = new Float64Array(nodes).fill(seam.startC);
		this.residual = new Float64Array(nodes);
		this.source = new Float64Array(nodes);
		this.before = new Float64Array(nodes);
		this.area = new Float64Array(nodes);
		this.contact = new Float64Array(nodes);
		this.sheetOf = Uint8Array.from({ length: nodes }, (_, n) => (n % y.length < grid.seamRow ? 1 : 0));
		for (let e = 0; e < grid.elements; e++) {
			const quarter = (grid.hx[e] * grid.hy[e]) / 4;
			const touches = this.touches(e);
			for (let k = 0; k < 4; k++) {
				this.area[grid.corners[4 * e + k]] += quarter;
				if (touches) this.contact[grid.corners[4 * e + k]] += quarter;
			}
		}
	}

	/** Adds what other seams have brought. */
	warm(warmth: Warmth): void {
		const { seam, grid, t } = this;
		const ny = grid.y.length;
		const before = this.stored();
		for (let n = 0; n < grid.nodes; n++) {
			const side = seam.sheets.length === 1 ? 'both' : this.sheetOf[n] ? 'B' : 'A';
			t[n] += warmthAt(warmth, grid.x[Math.floor(n / ny)], Math.abs(grid.y[n % ny]), side) - seam.ambientC;
			this.bar[n] += warmth.barC - seam.ambientC;
		}
		this.brought += this.stored() - before;
	}

	private touches(e: number): boolean {
		const { bar, lengthMm } = this.seam;
		const from = Math.abs(this.grid.cy[e]);
		if (!bar || from > bar.halfWidthMm || from < (bar.grooveMm ?? 0)) return false;
		const at = this.grid.cx[e] / lengthMm;
		return !(bar.lifted ?? []).some(([from, to]) => at > from && at < to);
	}

	/** Takes the field over one step. */
	step(step: ArcStep): void {
		if (step.isLast) {
			this.t.fill(this.seam.startC);
			return;
		}
		const { seam, grid, t, residual, area, contact, source, before, sheetOf, matrix } = this;
		const { values: a, b: band } = matrix;
		const w = band + 1;
		const h = step.toS - step.fromS;
		const toAir = 2 * seam.air;
		const toBar = seam.bar?.contact ?? 0;
		this.burn(step);
		for (let n = 0; n < grid.nodes; n++) before[n] = seam.sheets[sheetOf[n]]!.metal.heat.at(t[n]);
		let isStill = false;
		for (let round = 0; round < MOST_ROUNDS && !isStill; round++) {
			a.fill(0);
			residual.fill(0);
			this.conduct();
			for (let n = 0; n < grid.nodes; n++) {
				const { metal, thicknessMm } = seam.sheets[sheetOf[n]]!;
				const air = toAir * area[n];
				const under = toBar * contact[n];
				const stored = (thicknessMm * area[n]) / h;
				residual[n] += stored * (metal.heat.at(t[n]) - before[n]) + air * (t[n] - seam.ambientC) + under * (t[n] - this.bar[n]) - source[n];
				residual[n] = -residual[n];
				a[n * w + band] += stored * metal.heat.slope(t[n]) + air + under;
			}
			this.joinEdges();
			matrix.factorise();
			matrix.solve(residual);
			this.rounds++;
			isStill = this.move(round) < STILL_K;
		}
		if (!isStill) this.openSteps++;
		for (let n = 0; n < grid.nodes; n++) {
			this.given += source[n] * h;
			this.lost += toAir * area[n] * (t[n] - seam.ambientC) * h;
			this.intoBar += toBar * contact[n] * (t[n] - this.bar[n]) * h;
		}
		if (seam.bar?.thicknessMm) this.warmBar(h);
	}

	/** J above the start in the sheets, of what the arc gave */
	stored(): number {
		let sum = 0;
		for (let n = 0; n < this.grid.nodes; n++) {
			const { metal, thicknessMm } = this.seam.sheets[this.sheetOf[n]]!;
			sum += thicknessMm * this.area[n] * (metal.heat.at(this.t[n]) - metal.heat.at(this.seam.startC));
		}
		return sum;
	}

	/** W into each node in a step, by where the arc stands in the middle of it. */
	private burn(step: ArcStep): void {
		const { source, grid, seam, line } = this;
		source.fill(0);
		if (step.run < 0) return;
		const { ahead, behind, across } = seam.arc;
		const way = line.way(step.run);
		const arc = line.at(step.run, (step.fromS + step.toS) / 2);
		let sum = 0;
		for (let e = 0; e < grid.elements; e++) {
			const [hx, hy, cx, cy] = [grid.hx[e], grid.hy[e], grid.cx[e], grid.cy[e]];
			if (Math.abs(cx - arc) > 2 * Math.max(ahead, behind) + hx || Math.abs(cy) > 2 * across + hy) continue;
			for (const [p, wp] of FOUR)
				for (const [r, wr] of FOUR) {
					const s = (cx + (p * hx) / 2 - arc) * way;
					const y = cy + (r * hy) / 2;
					const half = s > 0 ? ahead : behind;
					const q = Math.exp((-3 * s * s) / (half * half) - (3 * y * y) / (across * across)) * wp * wr * hx * hy;
					for (let k = 0; k < 4; k++) {
						const v = (q * (1 + CORNER_X[k] * p) * (1 + CORNER_Y[k] * r)) / 4;
						source[grid.corners[4 * e + k]] += v;
						sum += v;
					}
				}
		}
		// one sheet and its mirror image: half of the arc
		const { heat, speed, pulse } = arcOf(seam, seam.runs[step.run]);
		const began = line.begins[step.run];
		const power = pulse ? powerOver(pulse, step.fromS - began, step.toS - began) : 1;
		const watts = power * heat * speed * (seam.sheets.length === 1 ? 0.5 : 1);
		for (let n = 0; n < grid.nodes; n++) source[n] *= watts / sum;
	}

	/** Adds conduction in the sheets to matrix and residual. */
	private conduct(): void {
		const { grid, t, seam, residual } = this;
		const { values: a, b: band } = this.matrix;
		const w = band + 1;
		const { corners } = grid;
		for (let e = 0; e < grid.elements; e++) {
			const o = 4 * e;
			const { metal, thicknessMm } = seam.sheets[grid.sheet[e]]!;
			const k = thicknessMm * metal.conductivity.at((t[corners[o]] + t[corners[o + 1]] + t[corners[o + 2]] + t[corners[o + 3]]) / 4);
			addRectangle(a, residual, t, corners, o, (k * grid.hy[e]) / grid.hx[e] / 6, (k * grid.hx[e]) / grid.hy[e] / 6, w, band);
		}
	}

	/** The two seam rows share their temperature. */
	private joinEdges(): void {
		const { grid, residual, t } = this;
		const { values: a, b: band } = this.matrix;
		if (!grid.seamRow) return;
		const w = band + 1;
		for (let i = 0; i < grid.x.length; i++) {
			const n = i * grid.y.length + grid.seamRow;
			a[n * w + band] += EDGES;
			a[(n - 1) * w + band] += EDGES;
			a[n * w + band - 1] -= EDGES;
			residual[n] -= EDGES * (t[n] - t[n - 1]);
			residual[n - 1] += EDGES * (t[n] - t[n - 1]);
		}
	}

	/**
	 * Takes the round's change. A jump over an end of the melting range stops just behind it: plain Newton hops to and fro over it, and
	 * heat is lost. @returns the largest change, K
	 */
	private move(round: number): number {
		const { t, residual, seam, sheetOf } = this;
		let most = 0;
		for (let n = 0; n < t.length; n++) {
			const was = t[n];
			let v = was + residual[n];
			if (round < CAREFUL_ROUNDS) {
				const [solidus, liquidus] = seam.sheets[sheetOf[n]]!.metal.melts;
				if (was < solidus && v > solidus + 1) v = solidus + 0.5;
				else if (was < liquidus && v > liquidus + 1) v = liquidus + 0.5;
				else if (was > liquidus && v < liquidus - 1) v = liquidus - 0.5;
				else if (was > solidus && v < solidus - 1) v = solidus - 0.5;
			}
			t[n] = v;
			most = Math.max(most, Math.abs(v - was));
		}
		return most;
	}

	/** The bar's own conduction along and across, with the heat that the sheet has just given it. */
	private warmBar(h: number): void {
		const { seam, grid, residual, t, contact, matrix } = this;
		const { values: a, b: band } = matrix;
		const bar = seam.bar!;
		const w = band + 1;
		a.fill(0);
		for (let e = 0; e < grid.elements; e++) {
			if (Math.abs(grid.cy[e]) > bar.halfWidthMm) continue;
			const k = bar.thicknessMm * bar.conductivity;
			addRectangle(a, null, t, grid.corners, 4 * e, (k * grid.hy[e]) / grid.hx[e] / 6, (k * grid.hx[e]) / grid.hy[e] / 6, w, band);
		}
		for (let n = 0; n < grid.nodes; n++) {
			const held = Math.max((bar.thicknessMm * bar.heatCapacity * this.under(n)) / h, 1e-9);
			a[n * w + band] += held;
			residual[n] = held * this.bar[n] + bar.contact * contact[n] * (t[n] - this.bar[n]);
		}
		matrix.factorise();
		matrix.solve(residual);
		this.bar.set(residual);
	}

	/** mm2 of bar under a node, touching or not */
	private under(n: number): number {
		return Math.abs(this.grid.y[n % this.grid.y.length]) <= this.seam.bar!.halfWidthMm + 1e-9 ? this.area[n] : 0;
	}
}

/** Adds p and q times the unit matrices of conduction along and across of one rectangle; `r` takes their product with `t`. */
function addRectangle(
	a: Float64Array,
	r: Float64Array | null,
	t: Float64Array,
	corners: Int32Array,
	o: number,
	p: number,
	q: number,
	w: number,
	band: number
): void {
	for (let i = 0; i < 4; i++)
		for (let j = 0; j < 4; j++) {
			const v =
				(CORNER_X[i] === CORNER_X[j] ? p : -p) * (CORNER_Y[i] === CORNER_Y[j] ? 2 : 1) +
				(CORNER_Y[i] === CORNER_Y[j] ? q : -q) * (CORNER_X[i] === CORNER_X[j] ? 2 : 1);
			const [ni, nj] = [corners[o + i], corners[o + j]];
			if (r) r[ni] += v * t[nj];
			if (nj <= ni) a[ni * w + nj - ni + band] += v;
		}
}
