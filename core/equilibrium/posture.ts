/** How the piece lies: its weight, and what bears it without bending it: three points, the bench under all of it, or its edge. */
import { freedom } from '../shell/freedoms';
import { cross, dot, norm, sub, type Vec3 } from '../geometry/vec';
import type { Posture } from '../document/words';
import { nodeAt } from '../shell/model';
import { DeadLoads, GroundSprings } from './ground';
import type { Term } from './state';

/** m/s2, standard acceleration of free fall (ISO 80000-3) */
export const GRAVITY = 9.80665;
/** N/mm under each node: a bench is stiff against the sheet and soft enough not to chatter (own choice) */
export const BENCH_STIFFNESS = 200;

export interface PostureModel {
	terms: Term[];
	weight: DeadLoads;
	/** freedoms held so that the piece cannot drift: six, or the three the bench leaves open */
	fixed: number[];
	words: string;
}

/** Which way is down for each posture, in the piece's own axes. */
const DOWN: Record<Posture, Vec3> = { 'flat-on-bench': [0, 0, -1], 'three-points': [0, 0, -1], upright: [0, -1, 0] };

/** @param mass kg by node */
export function postureModel(posture: Posture, xyz: Float64Array, nodeCount: number, mass: Float64Array): PostureModel {
	const down = DOWN[posture];
	const up: Vec3 = [-down[0], -down[1], -down[2]];
	const height = (k: number) => dot(nodeAt(xyz, k), up);
	let lowest = Infinity;
	for (let k = 0; k < nodeCount; k++) lowest = Math.min(lowest, height(k));
	const weight = new Float64Array(3 * nodeCount);
	for (let k = 0; k < nodeCount; k++) for (let c = 0; c < 3; c++) weight[3 * k + c] = GRAVITY * mass[k] * down[c];
	const load = new DeadLoads(weight, true);
	const terms: Term[] = [load];
	const box = [0, 1, 2].map((c) => {
		let [lo, hi] = [Infinity, -Infinity];
		for (let k = 0; k < nodeCount; k++) {
			lo = Math.min(lo, xyz[3 * k + c]);
			hi = Math.max(hi, xyz[3 * k + c]);
		}
		return [lo, hi];
	});
	const [p, q, r] = threePoints(xyz, nodeCount, height, lowest, up, box);
	const axis = up[2] !== 0 ? 2 : 1; // up is along z or y
	const [a, b] = axis === 2 ? [0, 1] : [0, 2];
	const along = Math.abs(xyz[3 * q + a] - xyz[3 * p + a]) >= Math.abs(xyz[3 * q + b] - xyz[3 * p + b]) ? [a, b] : [b, a];
	const inPlane = [freedom(p, a), freedom(p, b), freedom(q, along[1])];
	// a sheet on its edge touches its bench at two places: held there, and by the hand at one point aside
	if (posture === 'upright' && standsOnLine(xyz, nodeCount, height, lowest, b)) {
		let top = r;
		for (let k = 0; k < nodeCount; k++) if (height(k) > height(top) + 1e-9) top = k;
		return {
			terms,
			weight: load,
			fixed: [freedom(p, a), freedom(p, b), freedom(q, b), freedom(p, axis), freedom(q, axis), freedom(top, b)],
			words: UPRIGHT
		};
	}
	if (posture === 'three-points')
		return { terms, weight: load, fixed: [...inPlane, freedom(p, axis), freedom(q, axis), freedom(r, axis)], words: 'on three points' };
	const bench = Array.from({ length: nodeCount }, (_, k) => ({
		node: k,
		direction: up,
		rest: lowest,
		stiffness: BENCH_STIFFNESS,
		oneWay: true as const
	}));
	// an edge stands on a line: nothing but the hand keeps it from falling over, so one point aside is held
	const fixed = posture === 'upright' ? [...inPlane, freedom(r, b)] : inPlane;
	return {
		terms: [...terms, new GroundSprings(bench)],
		weight: load,
		fixed,
		words: posture === 'upright' ? UPRIGHT : 'flat on the bench'
	};
}

const UPRIGHT = 'upright on its edge';

/** Whether the lowest level is an edge, no wider than the offset of a lap: a face that stands on the bench is wider. */
function standsOnLine(xyz: Float64Array, nodeCount: number, height: (k: number) => number, lowest: number, aside: number): boolean {
	let [lo, hi, reach] = [Infinity, -Infinity, 0];
	for (let k = 0; k < nodeCount; k++) {
		reach = Math.max(reach, height(k) - lowest);
		if (height(k) > lowest + 1e-6) continue;
		lo = Math.min(lo, xyz[3 * k + aside]);
		hi = Math.max(hi, xyz[3 * k + aside]);
	}
	return hi - lo < 0.02 * reach;
}

/** Three nodes on the lowest level, wide apart; where that level is a line, the third is the node farthest from it. */
function threePoints(
	xyz: Float64Array,
	nodeCount: number,
	height: (k: number) => number,
	lowest: number,
	up: Vec3,
	box: number[][]
): [number, number, number] {
	const size = Math.max(...box.map(([lo, hi]) => hi - lo));
	const low = [...Array(nodeCount).keys()].filter((k) => height(k) < lowest + 1e-6 * size + 1e-9);
	const [a, b] = up[2] !== 0 ? [0, 1] : [0, 2];
	const target = (u: number, v: number) => {
		let best = low[0];
		let d = Infinity;
		const [x, y] = [box[a][0] + u * (box[a][1] - box[a][0]), box[b][0] + v * (box[b][1] - box[b][0])];
		for (const k of low) {
			const now = Math.hypot(xyz[3 * k + a] - x, xyz[3 * k + b] - y);
			if (now < d - 1e-9) [best, d] = [k, now];
		}
		return best;
	};
	const p = target(0.1, 0.1);
	const q = target(0.9, 0.1);
	const r = target(0.5, 0.9);
	const area = (i: number, j: number, k: number) => norm(cross(sub(nodeAt(xyz, j), nodeAt(xyz, i)), sub(nodeAt(xyz, k), nodeAt(xyz, i))));
	if (p !== q && area(p, q, r) > 1e-3 * size * size) return [p, q, r];
	// a line (or a point): its ends, and whatever lies farthest off it
	const first = low.reduce((m, k) => (xyz[3 * k] + xyz[3 * k + 1] + xyz[3 * k + 2] < xyz[3 * m] + xyz[3 * m + 1] + xyz[3 * m + 2] ? k : m), low[0]);
	const all = [...Array(nodeCount).keys()];
	const far = (list: number[], measure: (k: number) => number) => list.reduce((m, k) => (measure(k) > measure(m) + 1e-9 ? k : m), list[0]);
	const second = far(low.length > 1 ? low : all, (k) => norm(sub(nodeAt(xyz, k), nodeAt(xyz, first))));
	const third = far(all, (k) => area(first, second, k));
	return [first, second, third];
}
