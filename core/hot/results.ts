/** What a march says of the seam: by station, by run, and on the whole. */
import type { HotMarch, HotMoment } from './march';

export interface HotStations {
	/** mm, node columns */
	at: Float64Array;
	/** mm that the outer lines have come closer, cold */
	closingMm: Float64Array;
	/** mm to each side that have melted */
	meltMm: Float64Array;
	/** mm, middles of the cells along */
	middles: Float64Array;
	/** N: -E times the plastic strain along, over both sheets */
	forceN: Float64Array;
	/** mm: plastic strain across, over both sheets */
	acrossMm: Float64Array;
}

export interface HotRunResult {
	/** N, mean over the run: at the joints of runs the force swings far beyond any mean */
	forceN: number;
	/** mm, mean over the run */
	closingMm: number;
	/** mm, largest gap at a station still open that the arc came to within `AHEAD_MM`, short of the seam's last `END_MM`, and where the arc stood */
	gapAheadMm: number;
	gapAheadAtMm: number;
}

/** What is said to be ahead of the arc, mm. */
export const AHEAD_MM = [8, 60] as const;
/** The last of a seam opens as its end tack melts, however it is tacked, and is closed with wire: that tells no way from another, mm (own rule). */
const END_MM = 20;

export function stationsOf(m: HotMarch): HotStations {
	const { grid, seam, u, plastic } = m;
	const ny = grid.y.length;
	const columns = grid.x.length;
	const rows = grid.rows.length;
	const both = seam.sheets.length === 1 ? 2 : 1;
	const closingMm = Float64Array.from({ length: columns }, (_, i) => {
		const outer = u[2 * (i * ny + ny - 1) + 1];
		return both === 2 ? -2 * outer : u[2 * i * ny + 1] - outer;
	});
	const meltMm = Float64Array.from({ length: columns }, (_, i) => meltAt(m, i));
	const forceN = new Float64Array(columns - 1);
	const acrossMm = new Float64Array(columns - 1);
	for (let i = 0; i < columns - 1; i++)
		for (let r = 0; r < rows; r++) {
			const e = i * rows + r;
			const { thicknessMm, metal } = seam.sheets[grid.sheet[e]]!;
			let [along, across] = [0, 0];
			for (let g = 0; g < 4; g++) {
				along += plastic[3 * (4 * e + g)] / 4;
				across += plastic[3 * (4 * e + g) + 1] / 4;
			}
			forceN[i] -= both * metal.e20 * thicknessMm * grid.hy[e] * along;
			acrossMm[i] += both * grid.hy[e] * across;
		}
	return {
		at: grid.x,
		closingMm,
		meltMm,
		middles: Float64Array.from({ length: columns - 1 }, (_, i) => (grid.x[i] + grid.x[i + 1]) / 2),
		forceN,
		acrossMm
	};
}

/** mm from the seam to where the metal just melted, on the first sheet, at a column. */
function meltAt({ grid, peak, seam }: HotMarch, column: number): number {
	const [, liquidus] = seam.sheets[0].metal.melts;
	const first = column * grid.y.length + grid.seamRow;
	for (let j = 0; first + j + 1 < (column + 1) * grid.y.length; j++) {
		const [a, b] = [peak[first + j], peak[first + j + 1]];
		if (b >= liquidus) continue;
		if (a < liquidus) return j === 0 ? 0 : grid.y[grid.seamRow + j];
		return grid.y[grid.seamRow + j] + ((a - liquidus) / (a - b)) * (grid.y[grid.seamRow + j + 1] - grid.y[grid.seamRow + j]);
	}
	return grid.y[grid.y.length - 1];
}

/** Mean over what lies between two places, of values at places in between. */
export function meanOver(at: Float64Array, values: Float64Array, from: number, to: number): number {
	let [sum, n] = [0, 0];
	for (let i = 0; i < at.length; i++) {
		if (at[i] < from || at[i] > to) continue;
		sum += values[i];
		n++;
	}
	return n ? sum / n : NaN;
}

/** Value at a place, straight between two. */
export function valueAt(at: Float64Array, values: Float64Array, x: number): number {
	let i = 1;
	while (i < at.length - 1 && at[i] < x) i++;
	const z = (x - at[i - 1]) / (at[i] - at[i - 1]);
	return values[i - 1] + z * (values[i] - values[i - 1]);
}

export function runsOf(m: HotMarch, s: HotStations = stationsOf(m)): HotRunResult[] {
	return m.seam.runs.map((run, k) => {
		const [from, to] = [Math.min(run.fromMm, run.toMm), Math.max(run.fromMm, run.toMm)];
		let [gapAheadMm, gapAheadAtMm] = [0, NaN];
		for (const moment of m.moments) {
			if (moment.run !== k || isAtEnd(m, moment)) continue;
			const gap = gapAhead(m, moment);
			if (gap > gapAheadMm) [gapAheadMm, gapAheadAtMm] = [gap, moment.arcMm!];
		}
		return { forceN: meanOver(s.middles, s.forceN, from, to), closingMm: meanOver(s.at, s.closingMm, from, to), gapAheadMm, gapAheadAtMm };
	});
}

/** The run ahead of whose arc the edges part most. */
export const worstGap = (runs: readonly HotRunResult[]): HotRunResult => runs.reduce((a, b) => (b.gapAheadMm > a.gapAheadMm ? b : a));

/** The arc has come to the last of the seam, and not only of its run. */
function isAtEnd({ seam }: HotMarch, moment: HotMoment): boolean {
	const run = seam.runs[moment.run];
	const end = run.toMm > run.fromMm ? seam.lengthMm : 0;
	return Math.abs(run.toMm - end) < 1 && Math.abs(end - moment.arcMm!) < END_MM;
}

/** mm, the widest gap within AHEAD_MM of the arc that the run in hand is still to meet. */
export function gapAhead({ grid, seam }: HotMarch, moment: HotMoment): number {
	const run = seam.runs[moment.run];
	const way = Math.sign(run.toMm - run.fromMm);
	let most = 0;
	grid.x.forEach((x, i) => {
		const ahead = (x - moment.arcMm!) * way;
		if (ahead >= AHEAD_MM[0] && ahead <= AHEAD_MM[1] && (run.toMm - x) * way >= -1e-6) most = Math.max(most, moment.gap[i]);
	});
	return most;
}

/** °C at distances from the seam on the first sheet, at the middle of its length. */
export function peaksAt(m: HotMarch, distances: readonly number[]): number[] {
	const { grid, peak } = m;
	const first = (grid.x.length >> 1) * grid.y.length + grid.seamRow;
	const y = grid.y.subarray(grid.seamRow);
	const c = Float64Array.from(y, (_, j) => peak[first + j]);
	return distances.map((d) => valueAt(y, c, d));
}
