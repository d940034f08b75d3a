/**
 * How the whole piece has moved, from a cloud laid on it: the displacement of every node that brings the faces closest to the points,
 * by least squares. A point tells of its sheet's normal only; what goes on along a sheet follows from its hardly stretching, and from the
 * folds and seams where another sheet tells it. Between places that were not seen the field goes on as smoothly as it can, and they are
 * named.
 */
import type { AssemblyMesh } from '../mesh/assemblyMesh';
import { offFace, type Side } from './align';
import { tellFaces, UNTOLD, type Hits } from './faces';
import { moved, turned, type Motion } from './motion';
import type { Hit, Surface } from './surface';

export interface ScannedField {
	/** mm, 3 per node, from where the piece is drawn */
	u: Float64Array;
	/** points by which each node was told, its share of each */
	seen: Float64Array;
	/** mm, what is left between points and field: the scanner's noise and what no triangle can follow */
	scatter: number;
	taken: number;
	/** the bench and what else lies too far off */
	left: number;
	isSettled: boolean;
	/** parts of which one face only was seen, and which one cannot be told: by index */
	unsure: number[];
}

/** mm off the face beyond which a point is of something else. */
export const REACH_MM = 15;
/** Of what a seen node weighs: how strongly an edge keeps its length, how neighbours go together where nothing is seen, and what holds a piece at all. */
const STRETCH = 3e-2;
const SMOOTH = 1e-4;
const STILL = 1e-7;
const MOST_ROUNDS = 2000;
const EXACT = 1e-8;
/** Relabelled points, share of all, below which the faces stand. */
const FEW = 1e-5;
const MOST_TELLINGS = 8;

interface FieldOptions {
	side: Side;
	/** of a scanner that writes a mesh: which way each point faces, 3 per point */
	normals?: Float32Array;
	reachMm?: number;
	progress?: (share: number) => void;
}

export function fieldOf(
	cloud: Float32Array,
	motion: Motion,
	s: Surface,
	mesh: AssemblyMesh,
	{ side, normals, reachMm = REACH_MM, progress }: FieldOptions
): ScannedField {
	const hits = hitsOf(cloud, motion, s, { reachMm, normals, progress: progress && ((p) => progress(0.8 * p)) });
	const fit = (faces: Int8Array) => fitted(hits, faces, s, mesh);
	let faces: Int8Array;
	let found: Fitted;
	let unsure: number[] = [];
	if (side === 'either') {
		const told = tellFaces(hits, s);
		faces = told.faces;
		found = fit(faces);
		for (let round = 0; round < MOST_TELLINGS && told.retell(found.off) > FEW * Math.max(1, hits.taken); round++) found = fit(faces);
		unsure = told.oneFaced.filter((part) => isFarOff(s, found.u, part));
	} else {
		faces = new Int8Array(hits.count).fill(side === 'middle' ? 0 : side === 'front' ? 1 : -1);
		found = fit(faces);
	}
	progress?.(1);
	const { u, seen, scatter, isSettled } = found;
	return { u, seen, scatter, taken: hits.taken, left: hits.count - hits.taken, isSettled, unsure };
}

/** Where each point of a cloud lies on the piece as it was laid. */
function hitsOf(
	cloud: Float32Array,
	motion: Motion,
	s: Surface,
	{ reachMm, normals, progress }: { reachMm: number; normals?: Float32Array; progress?: (share: number) => void }
): Hits {
	const count = cloud.length / 3;
	const out: Hits = {
		count,
		taken: 0,
		tri: new Int32Array(count).fill(-1),
		d: new Float32Array(count),
		shares: new Float32Array(2 * count),
		facing: normals && new Int8Array(count)
	};
	const hit: Hit = { x: 0, y: 0, z: 0, tri: 0 };
	for (let i = 0; i < count; i++) {
		const q = moved(motion, [cloud[3 * i], cloud[3 * i + 1], cloud[3 * i + 2]]);
		s.nearest(q[0], q[1], q[2], hit);
		const d = offFace(s, 'middle', q, hit);
		if (Math.hypot(q[0] - hit.x, q[1] - hit.y, q[2] - hit.z) > reachMm + s.halves[s.triPart[hit.tri]]) continue;
		out.taken++;
		out.tri[i] = hit.tri;
		out.d[i] = d;
		[, out.shares[2 * i], out.shares[2 * i + 1]] = sharesAt(s, hit);
		if (normals) {
			const n = turned(motion.r, [normals[3 * i], normals[3 * i + 1], normals[3 * i + 2]]);
			const along = n[0] * s.normals[3 * hit.tri] + n[1] * s.normals[3 * hit.tri + 1] + n[2] * s.normals[3 * hit.tri + 2];
			out.facing![i] = Math.abs(along) < ALONG ? 0 : Math.sign(along);
		}
		if (progress && i % 20_000 === 0) progress(i / count);
	}
	return out;
}

/** Cosine below which what a scanner's mesh faces is a sheet's edge and neither of its faces. */
const ALONG = 0.7;

interface Fitted {
	u: Float64Array;
	seen: Float64Array;
	scatter: number;
	isSettled: boolean;
	/** mm that a place of a triangle has moved along its normal: shares of its second and third corner */
	off(tri: number, second: number, third: number): number;
}

/** The field, once it is known of which face each point is: 1 front, -1 back, 0 the middle; those that are not told take no part. */
function fitted(hits: Hits, faces: Int8Array, s: Surface, mesh: AssemblyMesh): Fitted {
	const triangles = s.tri.length / 3;
	/** by triangle: products of the three shares (6), shares times distance (3), distance squared */
	const sums = new Float64Array(10 * triangles);
	for (let i = 0; i < hits.count; i++) {
		const tri = hits.tri[i];
		if (tri < 0 || faces[i] === UNTOLD) continue;
		const d = hits.d[i] - faces[i] * s.halves[s.triPart[tri]];
		const [b, c] = [hits.shares[2 * i], hits.shares[2 * i + 1]];
		const l = [1 - b - c, b, c];
		const at = 10 * tri;
		sums[at] += l[0] * l[0];
		sums[at + 1] += l[1] * l[1];
		sums[at + 2] += l[2] * l[2];
		sums[at + 3] += l[0] * l[1];
		sums[at + 4] += l[1] * l[2];
		sums[at + 5] += l[2] * l[0];
		for (let k = 0; k < 3; k++) sums[at + 6 + k] += l[k] * d;
		sums[at + 9] += d * d;
	}
	const { u, isSettled } = solve(s, sums, tiesOf(mesh), mesh.nodeCount, hits.taken);
	const seen = new Float64Array(mesh.nodeCount);
	const corners = new Float64Array(3 * triangles);
	let left2 = 0;
	for (let e = 0; e < triangles; e++) {
		const at = 10 * e;
		const [a, b, c] = [0, 1, 2].map((k) => (corners[3 * e + k] = normalMove(s, e, u, s.tri[3 * e + k])));
		left2 +=
			sums[at + 9] -
			2 * (a * sums[at + 6] + b * sums[at + 7] + c * sums[at + 8]) +
			a * a * sums[at] +
			b * b * sums[at + 1] +
			c * c * sums[at + 2] +
			2 * (a * b * sums[at + 3] + b * c * sums[at + 4] + c * a * sums[at + 5]);
		// a share's row sums to the share itself
		const rows = [sums[at] + sums[at + 3] + sums[at + 5], sums[at + 1] + sums[at + 3] + sums[at + 4], sums[at + 2] + sums[at + 4] + sums[at + 5]];
		for (let k = 0; k < 3; k++) seen[s.tri[3 * e + k]] += rows[k];
	}
	return {
		u,
		seen,
		scatter: Math.sqrt(Math.max(0, left2) / Math.max(1, hits.taken)),
		isSettled,
		off: (tri, b, c) => (1 - b - c) * corners[3 * tri] + b * corners[3 * tri + 1] + c * corners[3 * tri + 2]
	};
}

/** Share of the half thickness beyond which a sheet seen on one face can be taken for its other one. */
const UNSURE = 0.8;

/** Whether a part has moved along its normal by so much that its faces can be taken for each other. */
function isFarOff(s: Surface, u: Float64Array, part: number): boolean {
	for (let e = 0; e < s.tri.length / 3; e++)
		if (s.triPart[e] === part) for (let k = 0; k < 3; k++) if (Math.abs(normalMove(s, e, u, s.tri[3 * e + k])) > UNSURE * s.halves[part]) return true;
	return false;
}

/** Shares of a triangle's corners in a place on it. */
function sharesAt(s: Surface, hit: Hit): [number, number, number] {
	const [a, b, c] = [0, 1, 2].map((k) => 3 * s.tri[3 * hit.tri + k]);
	const e = (i: number, j: number) => [0, 1, 2].map((d) => s.xyz[j + d] - s.xyz[i + d]);
	const [u, v] = [e(a, b), e(a, c)];
	const w = [hit.x - s.xyz[a], hit.y - s.xyz[a + 1], hit.z - s.xyz[a + 2]];
	const dot = (p: number[], q: number[]) => p[0] * q[0] + p[1] * q[1] + p[2] * q[2];
	const [uu, uv, vv, uw, vw] = [dot(u, u), dot(u, v), dot(v, v), dot(u, w), dot(v, w)];
	const det = uu * vv - uv * uv;
	const [p, q] = [(vv * uw - uv * vw) / det, (uu * vw - uv * uw) / det];
	return [1 - p - q, p, q];
}

const normalMove = (s: Surface, e: number, u: Float64Array, node: number) =>
	s.normals[3 * e] * u[3 * node] + s.normals[3 * e + 1] * u[3 * node + 1] + s.normals[3 * e + 2] * u[3 * node + 2];

/** Pairs of a seam's two sheets: they go together, but for what the weld has shrunk. */
const tiesOf = (mesh: AssemblyMesh): [number, number][] =>
	mesh.seams.flatMap((seam) => [...seam.a].flatMap((a, i): [number, number][] => (a === seam.b[i] ? [] : [[a, seam.b[i]]])));

/** Unit vectors along each triangle's three edges. */
function edgesOf(s: Surface): Float64Array {
	const out = new Float64Array(3 * s.tri.length);
	for (let e = 0; e < s.tri.length; e += 3)
		for (let k = 0; k < 3; k++) {
			const [a, b] = [3 * s.tri[e + k], 3 * s.tri[e + ((k + 1) % 3)]];
			const v = [0, 1, 2].map((d) => s.xyz[b + d] - s.xyz[a + d]);
			const size = Math.hypot(...v);
			for (let d = 0; d < 3; d++) out[3 * (e + k) + d] = v[d] / size;
		}
	return out;
}

/** Conjugate gradients with the diagonal in front; a product goes over the triangles. */
function solve(
	s: Surface,
	sums: Float64Array,
	ties: readonly [number, number][],
	nodes: number,
	taken: number
): { u: Float64Array; isSettled: boolean } {
	const triangles = s.tri.length / 3;
	const weight = taken / Math.max(1, nodes);
	const [stretch, smooth, still] = [STRETCH * weight, SMOOTH * weight, STILL * weight];
	const edges = edgesOf(s);
	const product = (x: Float64Array): Float64Array => {
		const y = new Float64Array(x.length);
		for (let e = 0; e < triangles; e++) {
			const at = 10 * e;
			const n = [s.tri[3 * e], s.tri[3 * e + 1], s.tri[3 * e + 2]];
			const d = n.map((k) => normalMove(s, e, x, k));
			const f = [
				sums[at] * d[0] + sums[at + 3] * d[1] + sums[at + 5] * d[2],
				sums[at + 3] * d[0] + sums[at + 1] * d[1] + sums[at + 4] * d[2],
				sums[at + 5] * d[0] + sums[at + 4] * d[1] + sums[at + 2] * d[2]
			];
			for (let k = 0; k < 3; k++) {
				const next = n[(k + 1) % 3];
				const along = edges.subarray(9 * e + 3 * k, 9 * e + 3 * k + 3);
				let longer = 0;
				for (let c = 0; c < 3; c++) longer += along[c] * (x[3 * next + c] - x[3 * n[k] + c]);
				for (let c = 0; c < 3; c++) {
					const apart = x[3 * next + c] - x[3 * n[k] + c];
					const pull = stretch * longer * along[c] + smooth * apart;
					y[3 * next + c] += pull;
					y[3 * n[k] + c] += f[k] * s.normals[3 * e + c] - pull + still * x[3 * n[k] + c];
				}
			}
		}
		for (const [p, q] of ties)
			for (let c = 0; c < 3; c++) {
				const pull = stretch * (x[3 * q + c] - x[3 * p + c]);
				y[3 * q + c] += pull;
				y[3 * p + c] -= pull;
			}
		return y;
	};
	const b = new Float64Array(3 * nodes);
	const diagonal = new Float64Array(3 * nodes);
	for (let e = 0; e < triangles; e++)
		for (let k = 0; k < 3; k++) {
			const n = s.tri[3 * e + k];
			for (let c = 0; c < 3; c++) {
				const normal = s.normals[3 * e + c];
				b[3 * n + c] += sums[10 * e + 6 + k] * normal;
				const [here, before] = [edges[9 * e + 3 * k + c], edges[9 * e + 3 * ((k + 2) % 3) + c]];
				diagonal[3 * n + c] += sums[10 * e + k] * normal * normal + stretch * (here * here + before * before) + 2 * smooth + still;
			}
		}
	for (const tie of ties) for (const n of tie) for (let c = 0; c < 3; c++) diagonal[3 * n + c] += stretch;
	const x = new Float64Array(3 * nodes);
	const r = b.slice();
	const dot = (p: Float64Array, q: Float64Array) => p.reduce((sum, v, i) => sum + v * q[i], 0);
	const scaled = () => r.map((v, i) => (diagonal[i] > 0 ? v / diagonal[i] : 0));
	let z = scaled();
	const p = z.slice();
	let rz = dot(r, z);
	const goal = EXACT * Math.sqrt(dot(b, b));
	let rounds = 0;
	while (Math.sqrt(dot(r, r)) > goal && rounds++ < MOST_ROUNDS) {
		const q = product(p);
		const step = rz / dot(p, q);
		for (let i = 0; i < x.length; i++) {
			x[i] += step * p[i];
			r[i] -= step * q[i];
		}
		z = scaled();
		const next = dot(r, z);
		for (let i = 0; i < p.length; i++) p[i] = z[i] + (next / rz) * p[i];
		rz = next;
	}
	return { u: x, isSettled: rounds <= MOST_ROUNDS };
}
