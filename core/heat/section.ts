/**
 * Conduction across a seam, from edge to edge of two sheets, metal properties at temperature: the heat of a passing arc
 * spreads, goes into a bar or block beneath (with a heat capacity and a contact of its own) and is lost to the air.
 * The arc is taken to be quick: along the seam nothing flows (at 2.5 mm/s in 1.5 mm stainless this reads 22 % high at 3 mm
 * and 3 % high at 10 mm from the line). Through the thickness the temperature is even. Latent heat is left out.
 */
import type { HotMetal } from '../materials/hot';

export interface SectionSheet {
	/** mm, from the seam to its edge */
	width: number;
	thickness: number;
	metal: HotMetal;
	/** share of the net heat that goes this way */
	share: number;
}

export interface SectionBar {
	/** mm, full width */
	width: number;
	/** mm, of its middle from the seam, negative on A; under the seam when absent */
	offset?: number;
	thickness: number;
	/** W/mm.K */
	conductivity: number;
	/** J/mm3.K */
	rhoC: number;
	/** W/mm2.K */
	contact: number;
	/** °C at the start: a bar that earlier runs have warmed */
	startC?: number;
}

export interface Section {
	/** A to the left of the seam, B to the right */
	sheets: readonly [SectionSheet, SectionSheet];
	/** W/mm2.K, one face to the air */
	air: number;
	ambientC: number;
	/** °C before the arc, by distance from the seam (negative on A); ambient when absent */
	startC?: (x: number) => number;
	/** J/mm, all of it */
	netHeat: number;
	/** seconds the arc takes to pass a point */
	passing: number;
	bar?: SectionBar;
}

export interface SectionHistory {
	/** mm from the seam, cell middles, A negative */
	x: Float64Array;
	/** mm, cell widths */
	dx: Float64Array;
	/** which sheet each cell is of */
	sheet: Uint8Array;
	/** s, after each step */
	times: number[];
	/** °C by step, by cell */
	temperatures: Float64Array[];
	peakC: Float64Array;
	/** share of the heat given that has gone into the bar by a time */
	barShare(afterSeconds: number): number;
	/** |given - stored - lost| / given, at the end */
	energyError: number;
}

/** Finest cells at the seam, growing outwards, mm. */
const FINEST_MM = 0.7;
const GROWTH = 1.07;
const WIDEST_MM = 6;
/** Half the width over which the arc gives its heat, mm (of the order of a pool's). */
const POOL_HALF_MM = 1.6;
/** The run of the metal's history ends when it is even to this, K. */
const EVEN_K = 15;
const LONGEST_S = 900;
const STILL_K = 0.2;
const MOST_ROUNDS = 12;

function cellsOf(width: number): number[] {
	const out: number[] = [];
	let sum = 0;
	for (let w = FINEST_MM; sum + w < width; w = Math.min(WIDEST_MM, w * GROWTH)) {
		out.push(w);
		sum += w;
	}
	const rest = width - sum;
	if (rest > 0.4 * (out[out.length - 1] ?? 0) || !out.length) out.push(rest);
	else out[out.length - 1] += rest;
	return out;
}

export function sectionHistory(s: Section): SectionHistory {
	const left = cellsOf(s.sheets[0].width).reverse();
	const right = cellsOf(s.sheets[1].width);
	const n = left.length + right.length;
	const dx = Float64Array.from([...left, ...right]);
	const sheet = Uint8Array.from({ length: n }, (_, i) => (i < left.length ? 0 : 1));
	const x = new Float64Array(n);
	let edge = -s.sheets[0].width;
	for (let i = 0; i < n; i++) {
		x[i] = edge + dx[i] / 2;
		edge += dx[i];
	}
	const metalOf = Array.from(sheet, (k) => s.sheets[k].metal);
	const tOf = Float64Array.from(sheet, (k) => s.sheets[k].thickness);
	const T = Float64Array.from(x, (v) => s.startC?.(v) ?? s.ambientC);
	const { bar } = s;
	const under = Float64Array.from({ length: n }, (_, i) =>
		bar ? Math.max(0, Math.min(dx[i], bar.width / 2 - Math.abs(x[i] - (bar.offset ?? 0)) + dx[i] / 2)) : 0
	);
	const B = new Float64Array(n).fill(bar?.startC ?? s.ambientC);
	// arc's heat by cell: even over the pool, by sheet
	const source = new Float64Array(n);
	for (const side of [0, 1]) {
		const part = Float64Array.from(x, (v, i) => (sheet[i] === side ? Math.max(0, Math.min(dx[i], POOL_HALF_MM - Math.abs(v) + dx[i] / 2)) : 0));
		const sum = part.reduce((p, v) => p + v, 0);
		for (let i = 0; i < n; i++) source[i] += (s.netHeat * s.sheets[side].share * part[i]) / sum;
	}
	const content = (temperatures: Float64Array) => {
		let sum = 0;
		for (let i = 0; i < n; i++) sum += metalOf[i].heatContent(temperatures[i]) * tOf[i] * dx[i];
		return sum;
	};
	const barContent = () => (bar ? bar.rhoC * bar.thickness * B.reduce((p, v, i) => p + v * under[i], 0) : 0);
	const before = content(T) + barContent();
	const peakC = T.slice();
	// the first entry is the metal before the arc
	const times: number[] = [0];
	const temperatures: Float64Array[] = [T.slice()];
	const trace: [number, number][] = [[0, 0]];
	let [time, given, lost, inBar] = [0, 0, 0, 0];
	const h0 = new Float64Array(n);
	const guess = new Float64Array(n);
	const k = new Float64Array(n + 1);
	const lead = new Float64Array(n);
	const kb = new Float64Array(n + 1);
	for (let i = 1; i < n; i++) {
		const both = Math.min(under[i - 1] / dx[i - 1], under[i] / dx[i]);
		kb[i] = bar && both > 0 ? (both * bar.conductivity * bar.thickness * 2) / (dx[i - 1] + dx[i]) : 0;
	}
	const m = new Float64Array(4 * n);
	const r = new Float64Array(2 * n);
	/** J/K.mm: secant of the heat content between the last temperature and the one guessed */
	const capacity = (i: number) => {
		const rise = guess[i] - T[i];
		const to = Math.abs(rise) > 1e-6 ? guess[i] : T[i] + 1;
		return ((metalOf[i].heatContent(to) - h0[i]) / (to - T[i])) * tOf[i] * dx[i];
	};
	/** One round of a step, one unknown a cell; largest change, K. */
	const roundBare = (dt: number, on: number) => {
		let moved = 0;
		for (let i = 0; i < n; i++) {
			const c = capacity(i);
			const air = 2 * s.air * dx[i];
			let a = c / dt + k[i] + k[i + 1] + air;
			let f = (c / dt) * T[i] + air * s.ambientC + source[i] * on;
			if (i > 0) {
				a -= k[i] * m[i - 1] * k[i];
				f += k[i] * m[i - 1] * r[i - 1];
			}
			m[i] = 1 / a;
			r[i] = f;
		}
		for (let i = n - 1; i >= 0; i--) {
			const next = m[i] * (r[i] + (i < n - 1 ? k[i + 1] * guess[i + 1] : 0));
			moved = Math.max(moved, Math.abs(next - guess[i]));
			guess[i] = next;
		}
		return moved;
	};
	/** The same with the bar's own temperature behind each cell. */
	const roundWithBar = (bar: SectionBar, dt: number, on: number, B0: Float64Array) => {
		let moved = 0;
		for (let i = 0; i < n; i++) {
			const c = capacity(i);
			const contact = bar.contact * under[i];
			const cb = bar.rhoC * bar.thickness * under[i];
			// a covered back face gives to the bar instead of the air
			const air = s.air * (2 * dx[i] - under[i]);
			const airBar = s.air * under[i];
			let a = c / dt + k[i] + k[i + 1] + contact + air;
			let b = -contact;
			let d = -contact;
			let e = under[i] > 0 ? cb / dt + kb[i] + kb[i + 1] + contact + airBar : 1;
			let f = (c / dt) * T[i] + air * s.ambientC + source[i] * on;
			let g = under[i] > 0 ? (cb / dt) * B0[i] + airBar * s.ambientC : B0[i];
			if (i > 0) {
				const o = 4 * (i - 1);
				a -= k[i] * m[o] * k[i];
				b -= k[i] * m[o + 1] * kb[i];
				d -= kb[i] * m[o + 2] * k[i];
				e -= kb[i] * m[o + 3] * kb[i];
				f += k[i] * (m[o] * r[2 * i - 2] + m[o + 1] * r[2 * i - 1]);
				g += kb[i] * (m[o + 2] * r[2 * i - 2] + m[o + 3] * r[2 * i - 1]);
			}
			const det = a * e - b * d;
			m[4 * i] = e / det;
			m[4 * i + 1] = -b / det;
			m[4 * i + 2] = -d / det;
			m[4 * i + 3] = a / det;
			r[2 * i] = f;
			r[2 * i + 1] = g;
		}
		for (let i = n - 1; i >= 0; i--) {
			const f = r[2 * i] + (i < n - 1 ? k[i + 1] * guess[i + 1] : 0);
			const g = r[2 * i + 1] + (i < n - 1 ? kb[i + 1] * B[i + 1] : 0);
			const next = m[4 * i] * f + m[4 * i + 1] * g;
			moved = Math.max(moved, Math.abs(next - guess[i]));
			guess[i] = next;
			B[i] = m[4 * i + 2] * f + m[4 * i + 3] * g;
		}
		return moved;
	};
	let dt = s.passing / 30;
	for (;;) {
		if (time >= s.passing - 1e-9) {
			const spread = Math.max(...T) - Math.min(...T);
			if (spread < EVEN_K || time > LONGEST_S) break;
			dt *= 1.07;
		}
		const on = time < s.passing - 1e-9 ? 1 / s.passing : 0;
		for (let i = 0; i < n; i++) h0[i] = metalOf[i].heatContent(T[i]);
		guess.set(T);
		const B0 = B.slice();
		// properties follow the new temperature, round by round, until it stands still
		for (let round = 0; round < MOST_ROUNDS; round++) {
			for (let i = 0; i < n; i++) lead[i] = dx[i] / (metalOf[i].conductivity(guess[i]) * tOf[i]);
			for (let i = 1; i < n; i++) k[i] = 2 / (lead[i - 1] + lead[i]);
			const moved = bar ? roundWithBar(bar, dt, on, B0) : roundBare(dt, on);
			if (moved < STILL_K) break;
		}
		T.set(guess);
		for (let i = 0; i < n; i++) {
			if (T[i] > peakC[i]) peakC[i] = T[i];
			if (bar && under[i] > 0) {
				inBar += dt * bar.contact * under[i] * (T[i] - B[i]);
				lost += dt * s.air * under[i] * (B[i] - s.ambientC);
			}
			lost += dt * s.air * (2 * dx[i] - under[i]) * (T[i] - s.ambientC);
		}
		given += s.netHeat * on * dt;
		time += dt;
		times.push(time);
		temperatures.push(T.slice());
		trace.push([time, inBar]);
	}
	const stored = content(T) + barContent() - before;
	return {
		x,
		dx,
		sheet,
		times,
		temperatures,
		peakC,
		barShare(after) {
			let best = 0;
			for (const [at, e] of trace) if (at <= after) best = e;
			return best / given;
		},
		energyError: Math.abs(given - stored - lost) / given
	};
}
