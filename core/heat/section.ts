/**
 * The heat of one passing arc across a seam, from edge to edge of two sheets, metal properties at temperature: it spreads, goes
 * into a bar or block beneath (with a heat capacity and a contact of its own) and is lost to the air. Near the arc the field that
 * travels with it is solved, with conduction along the seam and the heat of melting (travelling.ts); behind that the sheet
 * conducts across the seam only. Through the thickness the temperature is even unless layers are asked for.
 */
import { diffusionLength, nearField, travellingField } from './travelling';
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
	/** travel of the arc, mm/s */
	speed: number;
	/** layers through the thickness near the arc, 1 when absent; and how deep the arc's heat goes in, share of the thickness */
	layers?: number;
	depth?: number;
	bar?: SectionBar;
	/** the same section from another start: its field near the arc is where this one's rounds begin */
	near?: readonly Float64Array[];
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
	/** °C by step, by cell, mean through the thickness */
	temperatures: Float64Array[];
	/** °C by step, layers of a cell side by side from the top; where the thickness was resolved */
	layered?: Float64Array[];
	layers: number;
	/** s from the first entry to the arc's middle */
	arcS: number;
	peakC: Float64Array;
	/** share of the heat given that has gone into the bar so many seconds after the arc */
	barShare(afterSeconds: number): number;
	/** |given - stored - lost| / given, at the end */
	energyError: number;
	/** the field that travels with the arc, above what the sheet was before: K by station, cell by cell */
	near: readonly Float64Array[];
}

/** Finest cells at the seam, growing outwards, mm. */
const FINEST_MM = 0.75;
const GROWTH = 1.1;
const WIDEST_MM = 8;
/** Sheet within this many diffusion depths of the seam is in the field that travels with the arc. */
const NEAR_DEPTHS = 3.4;
/** Rise of the time steps behind it. */
const SLOWING = 1.08;
/** Rounds between the sheet's field and the bar's beneath it. */
const BAR_ROUNDS = 4;
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

// eslint-disable-next-line complexity, max-lines-per-function -- one solution in time: mesh, steps and balance share every array
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
	const nz = s.layers ?? 1;
	const spreadThrough = (v: Float64Array) => Float64Array.from({ length: n * nz }, (_, i) => v[Math.floor(i / nz)]);
	const layered = nz > 1 ? [spreadThrough(T)] : undefined;
	let [time, lost, inBar] = [0, 0, 0];
	const given = s.netHeat;
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
	const roundBare = (dt: number) => {
		let moved = 0;
		for (let i = 0; i < n; i++) {
			const c = capacity(i);
			const air = 2 * s.air * dx[i];
			let a = c / dt + k[i] + k[i + 1] + air;
			let f = (c / dt) * T[i] + air * s.ambientC;
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
	const roundWithBar = (bar: SectionBar, dt: number, B0: Float64Array) => {
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
			let f = (c / dt) * T[i] + air * s.ambientC;
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
	let lostByBar = 0;
	let near: Float64Array[] = [];
	/**
	 * The field that travels with the arc, as the history of one section: fills T, B and the lists up to where the arc is far
	 * enough ahead. Like sheets are solved as one and mirrored.
	 */
	function nearArc(): { dt: number; arcS: number } {
		const length = Math.max(...s.sheets.map((q) => diffusionLength(q.metal, s.speed)));
		const window = NEAR_DEPTHS * Math.sqrt(length * nearField(length));
		const inside = Array.from({ length: n }, (_, i) => i).filter((i) => Math.abs(x[i]) - dx[i] / 2 < window);
		const right = inside.filter((i) => x[i] > 0);
		const left = inside.filter((i) => x[i] < 0).reverse();
		const isMirrored =
			left.length === right.length &&
			right.every(
				(i, j) =>
					metalOf[i] === metalOf[left[j]] &&
					tOf[i] === tOf[left[j]] &&
					Math.abs(dx[i] - dx[left[j]]) < 1e-9 &&
					Math.abs(T[i] - T[left[j]]) < 1e-9 &&
					Math.abs(under[i] - under[left[j]]) < 1e-9
			);
		const cells = isMirrored ? right : inside;
		const pick = (v: ArrayLike<number>) => Float64Array.from(cells, (i) => v[i]);
		const contact = bar && cells.some((i) => under[i] > 0) ? Float64Array.from(cells, (i) => (bar.contact * under[i]) / dx[i]) : undefined;
		const input = {
			speed: s.speed,
			power: s.netHeat * s.speed * (isMirrored ? 0.5 : 1),
			y: pick(x),
			dy: pick(dx),
			thickness: pick(tOf),
			metal: cells.map((i) => metalOf[i]),
			ahead: pick(T),
			air: s.air,
			ambientC: s.ambientC,
			layers: nz,
			depth: s.depth ?? 1,
			contact,
			guess: s.near?.[0]?.length !== cells.length * nz ? undefined : s.near.map((row) => row.map((v, q) => v + T[cells[Math.floor(q / nz)]]))
		};
		let field = travellingField(input);
		let barC: Float64Array[] | undefined;
		for (let round = 0; contact && bar && round < BAR_ROUNDS; round++) {
			barC = barBeneath(bar, cells, field.temperatures, field.seconds);
			field = travellingField({ ...input, barC, guess: field.temperatures });
		}
		near = field.temperatures.map((row) => row.map((v, q) => v - T[cells[Math.floor(q / nz)]]));
		const both = isMirrored ? 2 : 1;
		const mean = (row: Float64Array, j: number) => {
			let sum = 0;
			for (let l = 0; l < nz; l++) sum += row[j * nz + l];
			return sum / nz;
		};
		const start = T.slice();
		field.temperatures.forEach((row, k) => {
			const thick = layered && spreadThrough(start);
			T.set(start);
			cells.forEach((i, j) => {
				for (const c of isMirrored ? [i, left[j]] : [i]) {
					T[c] = mean(row, j);
					if (thick) for (let l = 0; l < nz; l++) thick[c * nz + l] = row[j * nz + l];
					if (T[c] > peakC[c]) peakC[c] = T[c];
					if (barC && under[c] > 0) {
						B[c] = barC[k][j];
						inBar += field.seconds[k] * bar!.contact * under[c] * (row[j * nz + nz - 1] - B[c]);
					}
				}
			});
			time += field.seconds[k];
			times.push(time);
			temperatures.push(T.slice());
			if (layered) layered.push(thick!);
			trace.push([time, inBar]);
		});
		lost += both * field.lost + lostByBar;
		return {
			dt: field.seconds[field.seconds.length - 1],
			arcS: field.stations.reduce((sum, at, k) => (at < 0 ? sum + field.seconds[k] : sum), 0)
		};
	}

	/** The bar's own temperature beneath cells through the stations, given the sheet's above it. */
	function barBeneath(bar: SectionBar, cells: readonly number[], above: readonly Float64Array[], seconds: Float64Array): Float64Array[] {
		const m = cells.length;
		let now = Float64Array.from(cells, (i) => B[i]);
		const lower = new Float64Array(m);
		lostByBar = 0;
		// mirrored cells stand for two
		const both = cells.length * 2 <= n && cells.every((i) => x[i] > 0) ? 2 : 1;
		return above.map((row, k) => {
			const dt = seconds[k];
			const next = new Float64Array(m);
			const diagonal = new Float64Array(m);
			cells.forEach((i, j) => {
				if (under[i] <= 0) {
					diagonal[j] = 1;
					next[j] = now[j];
					return;
				}
				const g = [j > 0 ? kb[Math.max(i, cells[j - 1])] : 0, j + 1 < m ? kb[Math.max(i, cells[j + 1])] : 0];
				const cb = (bar.rhoC * bar.thickness * under[i]) / dt;
				diagonal[j] = cb + (bar.contact + s.air) * under[i] + g[0] + g[1];
				lower[j] = g[0];
				next[j] = cb * now[j] + bar.contact * under[i] * row[j * nz + nz - 1] + s.air * under[i] * s.ambientC;
			});
			// tridiagonal, symmetric
			for (let j = 1; j < m; j++) {
				if (under[cells[j]] <= 0 || lower[j] === 0) continue;
				const f = lower[j] / diagonal[j - 1];
				diagonal[j] -= f * lower[j];
				next[j] += f * next[j - 1];
			}
			for (let j = m - 1; j >= 0; j--) next[j] = (next[j] + (j + 1 < m ? lower[j + 1] * next[j + 1] : 0)) / diagonal[j];
			cells.forEach((i, j) => {
				if (under[i] > 0) lostByBar += both * dt * s.air * under[i] * (next[j] - s.ambientC);
			});
			now = next;
			return next;
		});
	}
	const behind = nearArc();
	let dt = behind.dt;
	for (;;) {
		const spread = Math.max(...T) - Math.min(...T);
		if (spread < EVEN_K || time > LONGEST_S) break;
		dt *= SLOWING;
		for (let i = 0; i < n; i++) h0[i] = metalOf[i].heatContent(T[i]);
		guess.set(T);
		const B0 = B.slice();
		// properties follow the new temperature, round by round, until it stands still
		for (let round = 0; round < MOST_ROUNDS; round++) {
			for (let i = 0; i < n; i++) lead[i] = dx[i] / (metalOf[i].conductivity(guess[i]) * tOf[i]);
			for (let i = 1; i < n; i++) k[i] = 2 / (lead[i - 1] + lead[i]);
			const moved = bar ? roundWithBar(bar, dt, B0) : roundBare(dt);
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
		time += dt;
		times.push(time);
		temperatures.push(T.slice());
		layered?.push(spreadThrough(T));
		trace.push([time, inBar]);
	}
	const stored = content(T) + barContent() - before;
	return {
		x,
		dx,
		sheet,
		times,
		temperatures,
		layered,
		layers: nz,
		arcS: behind.arcS,
		peakC,
		barShare(after) {
			let best = 0;
			for (const [at, e] of trace) if (at <= behind.arcS + after) best = e;
			return best / given;
		},
		energyError: Math.abs(given - stored - lost) / given,
		near
	};
}
