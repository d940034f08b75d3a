/** A seam in the mesh: node pairs at stations from the datum end, each with the directions its weld works in. */
import { JOINTS } from '../joints';
import { pathLength } from '../geometry/polyline';
import { add, cross, dot, norm, scale, sub, unit, type Vec3 } from '../geometry/vec';
import type { Joint } from '../document/schema';
import type { PartsMesh } from './partsMesh';

export interface PairFrame {
	/** along the seam, from the datum end */
	s: Vec3;
	/** in sheet A, out of its edge towards the joint; zero where the seam lies on A's face */
	outA: Vec3;
	outB: Vec3;
	normalA: Vec3;
	normalB: Vec3;
	/** towards the side the weld is made from */
	weldSide: Vec3;
	/** mm from node A to node B before anything moves (sheet offsets, gap) */
	offset: Vec3;
	/** right-handed, the first along the seam: what a weld carries about each is not the same */
	axes: readonly [Vec3, Vec3, Vec3];
	/**
	 * False where a sheet that hangs on either node lies across the seam (a rim flange at the end of a corner seam): about the
	 * seam the pair would hold that sheet in its own plane, which the weld does not. The next pair along the seam holds the turn.
	 */
	holdsTurn: boolean;
}

export interface SeamMesh {
	joint: Joint;
	lengthMm: number;
	closed: boolean;
	/** one per pair */
	stations: Float64Array;
	/** seam length each pair stands for, [from, to] by pair */
	reach: [number, number][];
	a: Int32Array;
	b: Int32Array;
	frames: PairFrame[];
	/** true where that side's line is an edge of its part */
	edgeA: boolean;
	edgeB: boolean;
}

const at = (xyz: Float64Array, k: number): Vec3 => [xyz[3 * k], xyz[3 * k + 1], xyz[3 * k + 2]];

interface Around {
	normal: Vec3;
	/** mean direction from the node into its part */
	into: Vec3;
	/** unit normals of all triangles at the node */
	facets: Vec3[];
}

/** A sheet is across the seam where its normal is less than 45 degrees from it. */
const ACROSS = Math.SQRT1_2 - 1e-6;

function around(mesh: PartsMesh, nodes: Int32Array): Map<number, Around> {
	const wanted = new Map<number, Around>();
	for (const k of nodes) wanted.set(k, { normal: [0, 0, 0], into: [0, 0, 0], facets: [] });
	for (let e = 0; e < mesh.tri.length; e += 3) {
		const hit = [0, 1, 2].filter((i) => wanted.has(mesh.tri[e + i]));
		if (!hit.length) continue;
		const p = [0, 1, 2].map((i) => at(mesh.xyz, mesh.tri[e + i]));
		const n = cross(sub(p[1], p[0]), sub(p[2], p[0]));
		const middle = scale(add(add(p[0], p[1]), p[2]), 1 / 3);
		for (const i of hit) {
			const w = wanted.get(mesh.tri[e + i])!;
			w.normal = add(w.normal, n);
			w.facets.push(unit(n));
			w.into = add(w.into, scale(sub(middle, p[i]), norm(n)));
		}
	}
	return wanted;
}

/** True where the line between the nodes is on the rim of its part: each edge belongs to one triangle only. */
function onRim(mesh: PartsMesh, nodes: Int32Array): boolean {
	const x = nodes[0];
	const y = nodes[1];
	let count = 0;
	for (let e = 0; e < mesh.tri.length; e += 3) {
		const t = [mesh.tri[e], mesh.tri[e + 1], mesh.tri[e + 2]];
		if (t.includes(x) && t.includes(y)) count++;
	}
	return count === 1;
}

const safeUnit = (v: Vec3, otherwise: Vec3): Vec3 => (norm(v) > 1e-9 ? unit(v) : otherwise);

export function seamMesh(
	joint: Joint,
	shares: readonly number[],
	nodesA: Int32Array,
	nodesB: Int32Array,
	closed: boolean,
	mesh: PartsMesh
): SeamMesh {
	const lengthMm = pathLength(joint.a.path);
	const n = closed ? shares.length - 1 : shares.length;
	const a = nodesA.slice(0, n);
	const b = nodesB.slice(0, n);
	const edgeA = onRim(mesh, nodesA);
	const edgeB = onRim(mesh, nodesB);
	const aroundA = around(mesh, a);
	const aroundB = around(mesh, b);
	const stations = Float64Array.from(shares.slice(0, n), (f) => f * lengthMm);
	const reach: [number, number][] = [];
	const frames: PairFrame[] = [];
	for (let i = 0; i < n; i++) {
		const before = i > 0 ? stations[i - 1] : closed ? stations[n - 1] - lengthMm : stations[0];
		const after = i < n - 1 ? stations[i + 1] : closed ? lengthMm : stations[i];
		reach.push([(before + stations[i]) / 2, (stations[i] + after) / 2]);
		const previous = at(mesh.xyz, a[i > 0 ? i - 1 : closed ? n - 1 : 0]);
		const following = at(mesh.xyz, a[i < n - 1 ? i + 1 : closed ? 0 : n - 1]);
		const s = unit(sub(following, previous));
		const side = (found: Around, edge: boolean) => {
			const normal = safeUnit(found.normal, [0, 0, 1]);
			if (!edge) return { normal, out: [0, 0, 0] as Vec3 };
			let into = sub(found.into, scale(normal, dot(found.into, normal)));
			into = sub(into, scale(s, dot(into, s)));
			return { normal, out: scale(safeUnit(into, cross(normal, s)), -1) };
		};
		const A = side(aroundA.get(a[i])!, edgeA);
		const B = side(aroundB.get(b[i])!, edgeB);
		frames.push({
			s,
			outA: A.out,
			outB: B.out,
			normalA: A.normal,
			normalB: B.normal,
			weldSide: weldSide(joint, A, B, edgeA && edgeB),
			offset: sub(at(mesh.xyz, b[i]), at(mesh.xyz, a[i])),
			axes: axesAlong(s, A.normal),
			holdsTurn: ![a[i], b[i]].some((k, j) => (j ? aroundB : aroundA).get(k)!.facets.some((n) => Math.abs(dot(n, s)) > ACROSS))
		});
	}
	return { joint, lengthMm, closed, stations, reach, a, b, frames, edgeA, edgeB };
}

/** Right-handed axes, the first along `s`, the third as near to `normal` as that allows. */
function axesAlong(s: Vec3, normal: Vec3): readonly [Vec3, Vec3, Vec3] {
	const p = cross(normal, s);
	const across = norm(p) > 1e-6 ? unit(p) : unit(cross(Math.abs(s[0]) < 0.8 ? [1, 0, 0] : [0, 1, 0], s));
	return [s, across, cross(s, across)];
}

/** Corners: front is outside the corner; ports: outside the socket. Everything else: front is A's normal. */
function weldSide(joint: Joint, A: { normal: Vec3; out: Vec3 }, B: { out: Vec3 }, edges: boolean): Vec3 {
	const sign = joint.weldSide === 'front' ? 1 : -1;
	const outward = add(A.out, B.out);
	// two edges that both point the same way make a corner; in a butt they point at each other
	// the fillet of a port lies between socket and wall, where the two edges do not point
	if (edges && norm(outward) > 0.3) return scale(unit(outward), JOINTS[joint.type].frontIsBehindEdges ? -sign : sign);
	return scale(A.normal, sign);
}
