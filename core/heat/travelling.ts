/**
 * The heat near an arc that travels: a steady field in axes that go with the arc, stations along the seam by cells across it
 * (and layers through the thickness where that matters), with conduction along the seam, latent heat and properties at
 * temperature. All stations in one banded system, Newton on the heat content. Behind the last station the rest is conduction
 * across the seam only (section.ts goes on from there).
 * Source: an ellipse exp(-3 (s/a)^2 - 3 (y/b)^2), shorter ahead than behind (the double ellipsoid of Goldak, Chakravarti & Bibby
 * 1984, Metall. Trans. B 15, 299-305, without its depth); its axes are those of an ordinary TIG pool (own estimate).
 */
import type { HotMetal } from '../materials/hot';

export interface TravellingInput {
	/** mm/s */
	speed: number;
	/** W into these cells */
	power: number;
	/** cells across the seam: middles and widths, mm */
	y: Float64Array;
	dy: Float64Array;
	thickness: Float64Array;
	metal: readonly HotMetal[];
	/** °C of each cell far ahead of the arc */
	ahead: Float64Array;
	/** W/mm2.K, one face to the air, and °C of it */
	air: number;
	ambientC: number;
	/** layers through the thickness, top first; 1 where the temperature is even through it */
	layers: number;
	/** how deep the arc's heat goes in, share of the thickness (one layer takes it all) */
	depth: number;
	/** W/mm2.K of a bar under each cell, and its own temperature there by station; changed by the caller between rounds */
	contact?: Float64Array;
	barC?: Float64Array[];
	/** a field to start the rounds from */
	guess?: readonly Float64Array[];
}

export interface TravellingField {
	/** mm behind the arc's middle (negative ahead), by station */
	stations: Float64Array;
	/** °C by station, cell by cell, layers of a cell side by side */
	temperatures: Float64Array[];
	/** seconds that each station stands for */
	seconds: Float64Array;
	/** J per mm of seam: given, gone to the air, gone to the bar; all between the first station and the last */
	given: number;
	lost: number;
	intoBar: number;
	/** share of the heat that is neither stored, lost nor in the bar at the end */
	error: number;
	rounds: number;
	converged: boolean;
}

/** Half axes of the arc's ellipse: ahead, behind, across, mm. */
const ARC = { ahead: 3, behind: 6, across: 3 };
/** mm; the rise in the steps along the seam */
const FINEST = 0.6;
const GROWTH_AHEAD = 1.2;
const GROWTH_BEHIND = 1.12;
/** Beyond this many diffusion lengths conduction along the seam is under a few per cent of that across. */
const BEHIND = 15;
const SHORTEST_BEHIND = 25;
const MOST_ROUNDS = 60;
const STILL_K = 0.3;
/** Largest change of a temperature in one round once the field has formed, K. */
const STRIDE_K = 250;

/** Integral of exp(-3 (x/a)^2) from 0. */
function humped(x: number, a: number): number {
	return 0.5 * Math.sqrt(Math.PI / 3) * a * erf((Math.sqrt(3) * x) / a);
}

/** Abramowitz & Stegun 7.1.26, error below 1.5e-7. */
function erf(x: number): number {
	const t = 1 / (1 + 0.3275911 * Math.abs(x));
	const v = 1 - t * (0.254829592 + t * (-0.284496736 + t * (1.421413741 + t * (-1.453152027 + t * 1.061405429)))) * Math.exp(-x * x);
	return x < 0 ? -v : v;
}

/** mm of one diffusion length a / v of the hot metal. */
export const diffusionLength = (metal: HotMetal, speed: number): number =>
	metal.conductivity(450) / ((metal.heatContent(460) - metal.heatContent(440)) / 20) / speed;

/** mm behind the arc up to which conduction along the seam counts. */
export const nearField = (length: number): number => Math.max(SHORTEST_BEHIND, BEHIND * length);

function stationsOf(length: number): Float64Array {
	const back = [0];
	for (let d = FINEST; back[back.length - 1] < nearField(length);) {
		back.push(back[back.length - 1] + d);
		if (back[back.length - 1] > 9) d *= GROWTH_BEHIND;
	}
	const front = [0];
	for (let d = FINEST; front[front.length - 1] < 2 * ARC.ahead + 6 * length;) {
		front.push(front[front.length - 1] + d);
		if (front[front.length - 1] > 4) d *= GROWTH_AHEAD;
	}
	return Float64Array.from([
		...front
			.slice(1)
			.map((v) => -v)
			.reverse(),
		...back
	]);
}

// eslint-disable-next-line complexity, max-lines-per-function -- one solution in time: mesh, steps and balance share every array
export function travellingField(input: TravellingInput): TravellingField {
	const { speed: v, y, dy, thickness, metal, layers: nz, ambientC, air, contact } = input;
	const length = Math.max(...metal.map((m) => diffusionLength(m, v)));
	const S = stationsOf(length);
	const ns = S.length;
	const ny = y.length;
	const m = ny * nz;
	const edges = (x: ArrayLike<number>) =>
		Float64Array.from({ length: x.length + 1 }, (_, i) => (i === 0 ? x[0] : i === x.length ? x[i - 1] : (x[i - 1] + x[i]) / 2));
	const fs = edges(S);
	// the arc's heat by station, by cell, by layer: shares that sum to one
	const alongShare = Float64Array.from({ length: ns }, (_, k) => {
		const g = (s: number) => (s < 0 ? humped(s, ARC.ahead) : humped(s, ARC.behind));
		return g(fs[k + 1]) - g(fs[k]);
	});
	const acrossShare = Float64Array.from(
		{ length: ny },
		(_, j) => (humped(y[j] + dy[j] / 2, ARC.across) - humped(y[j] - dy[j] / 2, ARC.across)) * thickness[j]
	);
	const deepShare = Float64Array.from({ length: nz }, (_, l) => (nz === 1 ? 1 : humped((l + 1) / nz, input.depth) - humped(l / nz, input.depth)));
	for (const share of [alongShare, acrossShare, deepShare]) {
		const sum = share.reduce((p, q) => p + q, 0);
		for (let i = 0; i < share.length; i++) share[i] /= sum;
	}
	const h = (j: number) => thickness[j] / nz;
	const T = Array.from({ length: ns }, (_, k) => {
		if (input.guess) return input.guess[k].slice();
		const row = new Float64Array(m);
		for (let j = 0; j < ny; j++) for (let l = 0; l < nz; l++) row[j * nz + l] = input.ahead[j];
		return row;
	});
	const band = m;
	const w = 2 * band + 1;
	const n = ns * m;
	const A = new Float64Array(n * w);
	const R = new Float64Array(n);
	const at = (r: number, c: number) => r * w + (c - r + band);
	const H = (i: number, c: number) => metal[Math.floor(i / nz)].heatContent(c);
	const slope = (i: number, c: number) => (H(i, c + 1) - H(i, c - 1)) / 2;
	const link = (r: number, c: number, g: number, tr: number, tc: number) => {
		const f = g * (tr - tc);
		R[r] -= f;
		R[c] += f;
		A[at(r, r)] += g;
		A[at(c, c)] += g;
		A[at(r, c)] -= g;
		A[at(c, r)] -= g;
	};
	let rounds = 0;
	let converged = false;
	for (; rounds < MOST_ROUNDS;) {
		rounds++;
		A.fill(0);
		R.fill(0);
		for (let k = 0; k < ns; k++) {
			const ds = fs[k + 1] - fs[k];
			const t = T[k];
			const q = k * m;
			for (let j = 0; j < ny; j++) {
				for (let l = 0; l < nz; l++) {
					const i = j * nz + l;
					R[q + i] += input.power * alongShare[k] * acrossShare[j] * deepShare[l];
					// faces: air above, air or bar below
					const isBar = contact !== undefined && contact[j] > 0;
					const open = (l === 0 ? 1 : 0) + (l === nz - 1 && !isBar ? 1 : 0);
					const g = open * air * ds * dy[j];
					R[q + i] -= g * (t[i] - ambientC);
					A[at(q + i, q + i)] += g;
					if (isBar && l === nz - 1) {
						const gb = contact[j] * ds * dy[j];
						R[q + i] -= gb * (t[i] - (input.barC?.[k][j] ?? ambientC));
						A[at(q + i, q + i)] += gb;
					}
					if (l + 1 < nz) link(q + i, q + i + 1, (metal[j].conductivity((t[i] + t[i + 1]) / 2) * ds * dy[j]) / h(j), t[i], t[i + 1]);
					if (j + 1 < ny) {
						const c = (j + 1) * nz + l;
						const lead = dy[j] / (2 * metal[j].conductivity(t[i]) * h(j)) + dy[j + 1] / (2 * metal[j + 1].conductivity(t[c]) * h(j + 1));
						link(q + i, q + c, ds / lead, t[i], t[c]);
					}
					if (k + 1 < ns) {
						const u = T[k + 1][i];
						const step = S[k + 1] - S[k];
						link(q + i, q + m + i, (metal[j].conductivity((t[i] + u) / 2) * dy[j] * h(j)) / step, t[i], u);
						// the metal moves from station to station: upwind where the steps are long
						const up = step < 1.5 ? 0.5 : 1;
						const flow = v * dy[j] * h(j);
						const f = flow * (up * H(i, t[i]) + (1 - up) * H(i, u));
						R[q + i] -= f;
						R[q + m + i] += f;
						const [a, b] = [flow * up * slope(i, t[i]), flow * (1 - up) * slope(i, u)];
						A[at(q + i, q + i)] += a;
						A[at(q + i, q + m + i)] += b;
						A[at(q + m + i, q + i)] -= a;
						A[at(q + m + i, q + m + i)] -= b;
					} else {
						const flow = v * dy[j] * h(j);
						R[q + i] -= flow * H(i, t[i]);
						A[at(q + i, q + i)] += flow * slope(i, t[i]);
					}
					if (k === 0) R[q + i] += v * dy[j] * h(j) * H(i, input.ahead[j]);
				}
			}
		}
		solveBanded(A, R, n, band);
		let moved = 0;
		const stride = rounds > 3 ? STRIDE_K : Infinity;
		for (let k = 0; k < ns; k++)
			for (let i = 0; i < m; i++) {
				const d = R[k * m + i];
				moved = Math.max(moved, Math.abs(d));
				T[k][i] += Math.max(-stride, Math.min(stride, d));
				if (T[k][i] < -200) T[k][i] = -200;
			}
		if (moved < STILL_K) {
			converged = true;
			break;
		}
	}
	let [lost, intoBar, stored] = [0, 0, 0];
	for (let k = 0; k < ns; k++) {
		const ds = fs[k + 1] - fs[k];
		for (let j = 0; j < ny; j++) {
			const isBar = contact !== undefined && contact[j] > 0;
			const [top, bottom] = [T[k][j * nz], T[k][j * nz + nz - 1]];
			lost += (air * ds * dy[j] * (top - ambientC + (isBar ? 0 : bottom - ambientC))) / v;
			if (isBar) intoBar += (contact[j] * ds * dy[j] * (bottom - (input.barC?.[k][j] ?? ambientC))) / v;
		}
	}
	for (let j = 0; j < ny; j++)
		for (let l = 0; l < nz; l++) stored += dy[j] * h(j) * (H(j * nz + l, T[ns - 1][j * nz + l]) - H(j * nz + l, input.ahead[j]));
	const given = input.power / v;
	const seconds = Float64Array.from(S, (_, k) => (fs[k + 1] - fs[k]) / v);
	return { stations: S, temperatures: T, seconds, given, lost, intoBar, error: Math.abs(given - lost - intoBar - stored) / given, rounds, converged };
}

/** Unsymmetric banded system in place, without pivoting: diagonally led by conduction and flow. A: n rows of 2 b + 1. */
function solveBanded(A: Float64Array, x: Float64Array, n: number, b: number) {
	const w = 2 * b + 1;
	for (let k = 0; k < n; k++) {
		const p = 1 / A[k * w + b];
		const last = Math.min(n - 1, k + b);
		for (let i = k + 1; i <= last; i++) {
			const o = i * w + (k - i + b);
			const f = A[o] * p;
			if (f === 0) continue;
			const r = k * w + b;
			for (let j = 1; j <= last - k; j++) A[o + j] -= f * A[r + j];
			x[i] -= f * x[k];
		}
	}
	for (let k = n - 1; k >= 0; k--) {
		let s = x[k];
		const last = Math.min(n - 1, k + b);
		for (let j = k + 1; j <= last; j++) s -= A[k * w + (j - k + b)] * x[j];
		x[k] = s / A[k * w + b];
	}
}
