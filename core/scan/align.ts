/**
 * A cloud laid on a piece: from every way its principal axes can lie (24), then nearest points with the farthest left out, plane by
 * plane (Besl & McKay 1992; Chen & Medioni 1992; trimmed as Chetverikov 2002), until it moves no more.
 */
import type { Vec3 } from '../geometry/vec';
import { solveSmall } from '../linalg/dense';
import { symmetricEigen } from '../linalg/smallSymmetric';
import { Refusal } from '../refusal/refusal';
import { after, moved, STILL, turnBy, turned, type Motion } from './motion';
import type { Hit, Surface } from './surface';

/** Which side of the sheet the scanner saw; `either`: each point that of the side it lies on. */
export type Side = 'either' | 'front' | 'back' | 'middle';

export interface AlignOptions {
	side: Side;
	/** parts that are laid on, by index; all where nothing is said */
	parts?: ReadonlySet<number>;
	/** share of the points that are the piece and not the bench, own figure where nothing is said */
	keep?: number;
	/** the way round that was chosen of those that fit alike */
	way?: number;
	progress?: (share: number) => void;
}

export interface Alignment {
	motion: Motion;
	/** mm, of the points that were kept */
	rms: number;
	rounds: number;
	isSettled: boolean;
	/** other ways round that fit hardly worse: a piece that is alike on both ends */
	others: { way: number; rms: number }[];
	way: number;
}

const KEPT = 0.9;
/** Points that are laid on: of all of them, evenly. */
const SAMPLE = 4000;
const ROUGH = 400;
const ROUGH_ROUNDS = 12;
const MOST_ROUNDS = 80;
/** mm that a round moves nothing by. */
const STILL_MM = 1e-4;
/** Another way round is as good where its rms is less than this many times the best, or within this many mm of it. */
const [ALIKE, ALIKE_MM] = [1.5, 0.1];

/** The 24 ways a box can be turned. */
const TURNS: readonly (readonly number[])[] = (() => {
	const out: number[][] = [];
	for (const [a, b, c] of [
		[0, 1, 2],
		[1, 2, 0],
		[2, 0, 1],
		[0, 2, 1],
		[2, 1, 0],
		[1, 0, 2]
	])
		for (const [i, j] of [
			[1, 1],
			[1, -1],
			[-1, 1],
			[-1, -1]
		]) {
			const r = new Array<number>(9).fill(0);
			r[a] = i;
			r[3 + b] = j;
			const isEven = [0, 1, 2].every((k) => [a, b, c][k] === k) || (a === 1 && b === 2) || (a === 2 && b === 0);
			r[6 + c] = i * j * (isEven ? 1 : -1);
			out.push(r);
		}
	return out;
})();

interface Frame {
	centre: Vec3;
	/** axes as rows, longest first */
	axes: number[];
}

function frameOf(points: readonly Vec3[], weights: readonly number[]): Frame {
	const whole = weights.reduce((s, w) => s + w, 0);
	const centre = [0, 1, 2].map((d) => points.reduce((s, p, i) => s + weights[i] * p[d], 0) / whole) as Vec3;
	const c = new Float64Array(9);
	points.forEach((p, i) => {
		for (let d = 0; d < 3; d++) for (let e = 0; e < 3; e++) c[3 * d + e] += weights[i] * (p[d] - centre[d]) * (p[e] - centre[e]);
	});
	const { values, vectors } = symmetricEigen(c, 3);
	const order = [0, 1, 2].sort((p, q) => values[q] - values[p]);
	const [x, y] = order.map((k) => [0, 1, 2].map((d) => vectors[3 * d + k]));
	const z = [x[1] * y[2] - x[2] * y[1], x[2] * y[0] - x[0] * y[2], x[0] * y[1] - x[1] * y[0]];
	return { centre, axes: [...x, ...y, ...z] };
}

const transposed = (r: readonly number[]) => [r[0], r[3], r[6], r[1], r[4], r[7], r[2], r[5], r[8]];

function sampleOf(cloud: ArrayLike<number>, most: number): Vec3[] {
	const count = cloud.length / 3;
	const step = Math.max(1, count / most);
	const out: Vec3[] = [];
	for (let i = 0; i < count; i += step) {
		const k = 3 * Math.floor(i);
		out.push([cloud[k], cloud[k + 1], cloud[k + 2]]);
	}
	return out;
}

/** Distance of a point from its face of the sheet, along the normal of the triangle that is nearest. */
export function offFace(s: Surface, side: Side, [x, y, z]: Vec3, hit: Hit): number {
	const n = 3 * hit.tri;
	const d = (x - hit.x) * s.normals[n] + (y - hit.y) * s.normals[n + 1] + (z - hit.z) * s.normals[n + 2];
	if (side === 'middle') return d;
	const half = s.halves[s.triPart[hit.tri]];
	if (side === 'either') return d - Math.sign(d) * half;
	return d - (side === 'front' ? half : -half);
}

interface Round {
	motion: Motion;
	rms: number;
	/** mm that any point moves at most */
	step: number;
}

/** One round: each point's plane, the farthest left out, and the small motion that brings the rest closest. */
function round(points: readonly Vec3[], s: Surface, o: AlignOptions, motion: Motion, keep: number): Round {
	const hit: Hit = { x: 0, y: 0, z: 0, tri: 0 };
	const rows = points.flatMap((p) => {
		const q = moved(motion, p);
		s.nearest(q[0], q[1], q[2], hit);
		if (o.parts && !o.parts.has(s.triPart[hit.tri])) return [];
		return [{ q, d: offFace(s, o.side, q, hit), far: Math.hypot(q[0] - hit.x, q[1] - hit.y, q[2] - hit.z), tri: hit.tri }];
	});
	if (rows.length < 6)
		throw new Refusal('Hardly any point of the cloud lies near the faces it is laid on.', {
			field: 'fit',
			value: String(rows.length),
			allowed: 'faces that were scanned'
		});
	rows.sort((a, b) => a.far - b.far);
	const kept = rows.slice(0, Math.max(6, Math.round(keep * rows.length)));
	const centre = [0, 1, 2].map((k) => kept.reduce((sum, r) => sum + r.q[k], 0) / kept.length) as Vec3;
	const a = new Float64Array(36);
	const b = new Float64Array(6);
	let [sum, size] = [0, 0];
	for (const { q, d, tri } of kept) {
		const n = s.normals.subarray(3 * tri, 3 * tri + 3);
		const r = [q[0] - centre[0], q[1] - centre[1], q[2] - centre[2]];
		size = Math.max(size, Math.hypot(...r));
		const g = [n[0], n[1], n[2], r[1] * n[2] - r[2] * n[1], r[2] * n[0] - r[0] * n[2], r[0] * n[1] - r[1] * n[0]];
		for (let k = 0; k < 6; k++) {
			for (let l = 0; l < 6; l++) a[6 * k + l] += g[k] * g[l];
			b[k] -= g[k] * d;
		}
		sum += d * d;
	}
	// a flat panel may slide in its plane: what no plane holds stays where it is
	for (let k = 0; k < 6; k++) a[7 * k] += 1e-6 * kept.length * (k < 3 ? 1 : size * size);
	const x = solveSmall(a, b);
	const turn: Vec3 = [x[3], x[4], x[5]];
	const step: Motion = { r: turnBy(turn), t: [0, 0, 0] };
	const about = turned(step.r, centre);
	step.t = [centre[0] - about[0] + x[0], centre[1] - about[1] + x[1], centre[2] - about[2] + x[2]];
	return { motion: after(step, motion), rms: Math.sqrt(sum / kept.length), step: Math.hypot(x[0], x[1], x[2]) + size * Math.hypot(...turn) };
}

/** @throws Refusal where no point lies near the piece */
export function align(cloud: Float32Array, s: Surface, options: AlignOptions): Alignment {
	const keep = options.keep ?? KEPT;
	const rough = sampleOf(cloud, ROUGH);
	const own: Vec3[] = [];
	const areas: number[] = [];
	for (let e = 0; e < s.tri.length; e += 3) {
		const [a, b, c] = [0, 1, 2].map((k) => [0, 1, 2].map((d) => s.xyz[3 * s.tri[e + k] + d]));
		const [u, v] = [b, c].map((p) => p.map((w, d) => w - a[d]));
		own.push([0, 1, 2].map((d) => (a[d] + b[d] + c[d]) / 3) as Vec3);
		areas.push(Math.hypot(u[1] * v[2] - u[2] * v[1], u[2] * v[0] - u[0] * v[2], u[0] * v[1] - u[1] * v[0]));
	}
	const piece = frameOf(own, areas);
	const scan = frameOf(
		rough,
		rough.map(() => 1)
	);
	const back = transposed(piece.axes);
	const begun = TURNS.map((turn, way) => {
		const r = after({ r: back, t: [0, 0, 0] }, after({ r: turn, t: [0, 0, 0] }, { r: scan.axes, t: [0, 0, 0] })).r;
		const c = turned(r, scan.centre);
		let motion: Motion = { r, t: [piece.centre[0] - c[0], piece.centre[1] - c[1], piece.centre[2] - c[2]] };
		let rms = Infinity;
		for (let k = 0; k < ROUGH_ROUNDS; k++) ({ motion, rms } = round(rough, s, options, motion, keep));
		options.progress?.((0.5 * (way + 1)) / TURNS.length);
		return { way, motion, rms };
	});
	const best = begun.reduce((p, q) => (q.rms < p.rms ? q : p));
	const chosen = begun.find((x) => x.way === options.way) ?? best;
	// several begin differently and end alike
	const apart = [chosen];
	for (const x of [...begun].sort((p, q) => p.rms - q.rms))
		if (x.rms < Math.max(ALIKE * best.rms, best.rms + ALIKE_MM) && apart.every((y) => isOther(x.motion, y.motion))) apart.push(x);
	const others = apart.slice(1).map(({ way, rms }) => ({ way, rms }));
	const points = sampleOf(cloud, SAMPLE);
	let now: Round = { motion: chosen.motion, rms: Infinity, step: Infinity };
	let rounds = 0;
	while (rounds < MOST_ROUNDS && now.step > STILL_MM) {
		now = round(points, s, options, now.motion, keep);
		rounds++;
		options.progress?.(0.5 + (0.5 * rounds) / MOST_ROUNDS);
	}
	return { motion: now.motion, rms: now.rms, rounds, isSettled: now.step <= STILL_MM, others, way: chosen.way };
}

/** Turned by more than a few degrees against the other: two ways round, not one found twice. */
const isOther = (p: Motion, q: Motion) =>
	after({ r: p.r, t: STILL.t }, { r: transposed(q.r), t: STILL.t }).r.reduce((s, v, i) => s + (i % 4 ? 0 : v), 0) < 2.9;
