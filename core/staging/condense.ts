/**
 * The piece condensed to what the stages need: link rows (seam pairs, clamps, supports, strongback ties), weld loads and
 * outputs. After this an order of welding is dense algebra only (see stage.ts and docs/theory/staging.md).
 */
import { cross, dot, norm, scale, sub, type Vec3 } from '../geometry/vec';
import type { KernelFactory } from '../linalg/kernel/kernel';
import type { AssemblyMesh, MeshPoint } from '../mesh/assemblyMesh';
import type { SeamMesh } from '../mesh/seamMesh';
import type { Brace, PlanDocument } from '../plan/schema';
import { factorModel, nodeAt, type FactoredModel, type ShellModel } from '../shell/model';
import { eigenstrainForces, type SheetMaterial } from '../shell/triangle';

/** A vector with few entries: freedoms and values. */
export interface Sparse {
	at: number[];
	v: number[];
}

/** What one length of a seam can push with; amounts come later, in N, N.mm, mm and rad. */
export type LoadKind = 'tendon' | 'eccentric' | 'face-shrink' | 'face-kink';

export interface WeldLoad {
	kind: LoadKind;
	seam: number;
	segment: number;
	forces: Sparse;
	/** tendons: the two nodes, the share of the seam's force, and the direction towards the weld side */
	line?: { nodes: [number, number]; share: number; side: Vec3 }[];
	/** loads on a face: the triangles beside the seam and their nodal forces (18, global) */
	elements?: { element: number; forces: Float64Array }[];
}

export interface Condensed {
	rowCount: number;
	/** mm/N or rad/N.mm of each link itself */
	compliance: Float64Array;
	/** rowCount x rowCount: relative displacement of row i under a unit force pair on row j */
	flexibility: Float64Array;
	loads: WeldLoad[];
	/** by seam and segment: indices into loads */
	loadsOf: number[][][];
	/** rowCount x loads */
	rowLoad: Float64Array;
	/** outputs (3 per point) x rowCount, and x loads */
	outRow: Float64Array;
	outLoad: Float64Array;
	outCount: number;
	/** first of six rows of each seam's pairs */
	pairRow: Int32Array[];
	holdRows: Map<string, number[]>;
	rows: Sparse[];
	model: FactoredModel;
	/** bytes of factor and condensed matrices */
	bytes: number;
}

/** How a weight gives under the sheet, N/mm: the sheet beneath it dents and the bench with it (own estimate). */
const WEIGHT_STIFFNESS = 1000;

/** Each free part hangs on springs this weak in all, N/mm: they hold what nothing holds yet and carry no load to speak of. */
const SOFT_TIE = 1e-2;

export function condense(
	plan: PlanDocument,
	mesh: AssemblyMesh,
	sheets: SheetMaterial[],
	outputs: readonly MeshPoint[],
	progress: (share: number) => void,
	kernel?: KernelFactory
): Condensed {
	const beams = strongbackBeams(plan, mesh);
	const nodeCount = mesh.nodeCount + beams.extraNodes.length / 3;
	const xyz = new Float64Array(3 * nodeCount);
	xyz.set(mesh.xyz);
	xyz.set(beams.extraNodes, mesh.xyz.length);
	const springs: ShellModel['springs'] = [];
	mesh.parts.forEach((p) => {
		const n = p.flat.xy.length / 2;
		for (let k = 0; k < n; k++) for (let d = 0; d < 3; d++) springs.push({ freedom: 6 * (p.node0 + k) + d, stiffness: SOFT_TIE / n });
	});
	for (let k = mesh.nodeCount; k < nodeCount; k++) for (let d = 0; d < 6; d++) springs.push({ freedom: 6 * k + d, stiffness: SOFT_TIE });
	const model = factorModel({ nodeCount, xyz, tri: mesh.tri, sheet: (e) => sheets[mesh.triPart[e]], beams: beams.elements, springs }, kernel);
	progress(0.15);

	const rows: Sparse[] = [];
	const compliance: number[] = [];
	const sheetOf = (partId: string) => sheets[plan.parts.findIndex((p) => p.id === partId)];
	const pairRow = mesh.seams.map((seam) => {
		const s = sheetOf(seam.joint.a.part);
		// a weld is much stiffer than the sheet around it, and not so stiff that rounding would show
		const ct = 1 / (10 * s.eModulus * s.thickness);
		const cr = 1 / (10 * s.eModulus * s.thickness ** 3);
		return Int32Array.from(seam.a, (a, i) => {
			const first = rows.length;
			rows.push(...rigidLink(a, seam.b[i], seam.frames[i].offset));
			compliance.push(ct, ct, ct, cr, cr, cr);
			return first;
		});
	});
	const holdRows = new Map<string, number[]>();
	const hold = (id: string, sparse: Sparse[], c: number) => {
		const list = holdRows.get(id) ?? [];
		for (const r of sparse) {
			list.push(rows.push(r) - 1);
			compliance.push(c);
		}
		holdRows.set(id, list);
	};
	for (const h of plan.holdDowns) {
		if (h.kind === 'clamp') {
			const seam = mesh.seams.find((s) => s.joint.id === h.joint)!;
			const i = nearestPair(seam, h.stationMm);
			for (const [node, normal] of heldNodes(seam, i)) hold(h.id, toGround(node, normal, h.holds), 1 / h.stiffnessNPerMm);
		} else if (h.kind === 'jig') {
			const seam = mesh.seams.find((s) => s.joint.id === h.joint)!;
			seam.stations.forEach((station, i) => {
				if (station < h.fromMm - 1e-6 || station > h.toMm + 1e-6) return;
				for (const [node, normal] of heldNodes(seam, i)) hold(h.id, toGround(node, normal, h.holds), 1 / h.stiffnessNPerMm);
			});
		} else if (h.kind === 'support' || h.kind === 'table-tack' || h.kind === 'weight') {
			const node = mesh.spots.get(h.id)!;
			const [holds, stiffness] =
				h.kind === 'support'
					? [h.holds, h.stiffnessNPerMm]
					: h.kind === 'weight'
						? ['normal' as const, WEIGHT_STIFFNESS]
						: ['all' as const, h.stiffnessNPerMm];
			hold(h.id, toGround(node, nodeNormal(mesh, node), holds), 1 / stiffness);
		} else if (h.kind === 'strongback' || h.kind === 'brace')
			beams.ties.get(h.id)!.forEach(([shell, beam, arm]) => hold(h.id, rigidLink(shell, beam, arm), 1e-7));
	}

	const { loads, loadsOf } = weldLoads(plan, mesh, sheets);
	const outCount = 3 * outputs.length;
	const n = rows.length;
	const c: Condensed = {
		rowCount: n,
		compliance: Float64Array.from(compliance),
		flexibility: new Float64Array(n * n),
		loads,
		loadsOf,
		rowLoad: new Float64Array(n * loads.length),
		outRow: new Float64Array(outCount * n),
		outLoad: new Float64Array(outCount * loads.length),
		outCount,
		pairRow,
		holdRows,
		rows,
		model,
		bytes: 0
	};
	const points: Sparse[] = outputs.flatMap((p) => [0, 1, 2].map((d) => ({ at: p.nodes.map((k) => 6 * k + d), v: [...p.weights] })));
	const columns = [...rows, ...loads.map((l) => l.forces), ...points];
	const G = model.factor.gram(columns, (s) => progress(0.15 + 0.8 * s));
	const m = columns.length;
	const l0 = n;
	const o0 = n + loads.length;
	for (let r = 0; r < n; r++) {
		c.flexibility.set(G.subarray(r * m, r * m + n), r * n);
		c.rowLoad.set(G.subarray(r * m + l0, r * m + o0), r * loads.length);
	}
	for (let o = 0; o < outCount; o++) {
		c.outRow.set(G.subarray((o0 + o) * m, (o0 + o) * m + n), o * n);
		c.outLoad.set(G.subarray((o0 + o) * m + l0, (o0 + o) * m + o0), o * loads.length);
	}
	progress(1);
	c.bytes = model.factor.bytes + 8 * (c.flexibility.length + c.rowLoad.length + c.outRow.length + c.outLoad.length);
	return c;
}

export function nearestPair(seam: SeamMesh, station: number): number {
	let best = 0;
	for (let i = 1; i < seam.stations.length; i++) if (Math.abs(seam.stations[i] - station) < Math.abs(seam.stations[best] - station)) best = i;
	return best;
}

/** Both sheets at a pair, with their normals; one where the seam meets itself. */
function heldNodes(seam: SeamMesh, i: number): [number, Vec3][] {
	const f = seam.frames[i];
	if (seam.a[i] === seam.b[i]) return [[seam.a[i], f.normalA]];
	return [
		[seam.a[i], f.normalA],
		[seam.b[i], f.normalB]
	];
}

/** Six rows: displacement and rotation of `b` against `a` carried along a rigid arm. */
function rigidLink(a: number, b: number, arm: Vec3): Sparse[] {
	const out: Sparse[] = [];
	for (let d = 0; d < 3; d++) {
		// -(u_a + theta_a x arm) + u_b
		const [p, q] = [(d + 1) % 3, (d + 2) % 3];
		const r: Sparse = { at: [6 * b + d, 6 * a + d], v: [1, -1] };
		if (arm[q] !== 0) {
			r.at.push(6 * a + 3 + p);
			r.v.push(-arm[q]);
		}
		if (arm[p] !== 0) {
			r.at.push(6 * a + 3 + q);
			r.v.push(arm[p]);
		}
		out.push(r);
	}
	for (let d = 3; d < 6; d++) out.push({ at: [6 * b + d, 6 * a + d], v: [1, -1] });
	return out;
}

function toGround(node: number, normal: Vec3, holds: 'normal' | 'all'): Sparse[] {
	if (holds === 'normal') return [{ at: [6 * node, 6 * node + 1, 6 * node + 2], v: [...normal] }];
	return [0, 1, 2].map((d) => ({ at: [6 * node + d], v: [1] }));
}

export function nodeNormal(mesh: AssemblyMesh, node: number): Vec3 {
	for (let e = 0; e < mesh.tri.length; e += 3) {
		const t = [mesh.tri[e], mesh.tri[e + 1], mesh.tri[e + 2]];
		if (!t.includes(node)) continue;
		const [p, q, r] = t.map((k) => nodeAt(mesh.xyz, k));
		const n = cross(sub(q, p), sub(r, p));
		return scale(n, 1 / norm(n));
	}
	return [0, 0, 1];
}

export function strongbackBeams(plan: PlanDocument, mesh: AssemblyMesh) {
	const extraNodes: number[] = [];
	const elements: NonNullable<ShellModel['beams']> = [];
	const ties = new Map<string, [number, number, Vec3][]>();
	const addBrace = (h: Brace) => {
		const ends = [h.id, `${h.id}/b`].map((id) => mesh.spots.get(id)!);
		const first = mesh.nodeCount + extraNodes.length / 3;
		const [p, q] = ends.map((k) => nodeAt(mesh.xyz, k));
		extraNodes.push(...p, ...q);
		const along = sub(q, p);
		elements.push({
			nodes: [first, first + 1],
			// any direction that is not its own: the section is the same both ways
			up: Math.abs(along[2]) < 0.8 * norm(along) ? [0, 0, 1] : [1, 0, 0],
			section: { eModulus: h.eModulusMPa, shearModulus: h.eModulusMPa / 2.6, area: h.areaMm2, iUp: h.iMm4, iSide: h.iMm4, torsion: 2 * h.iMm4 }
		});
		ties.set(
			h.id,
			ends.map((node, i) => [node, first + i, [0, 0, 0]])
		);
	};
	for (const h of plan.holdDowns) {
		if (h.kind === 'brace') {
			addBrace(h);
			continue;
		}
		if (h.kind !== 'strongback') continue;
		const line = mesh.lines.get(h.id)!;
		const first = mesh.nodeCount + extraNodes.length / 3;
		const tie: [number, number, Vec3][] = [];
		line.forEach((node, i) => {
			const arm = scale(nodeNormal(mesh, node), h.offsetMm);
			const p = nodeAt(mesh.xyz, node);
			extraNodes.push(p[0] + arm[0], p[1] + arm[1], p[2] + arm[2]);
			tie.push([node, first + i, arm]);
			if (i > 0)
				elements.push({
					nodes: [first + i - 1, first + i],
					up: nodeNormal(mesh, node),
					section: {
						eModulus: h.eModulusMPa,
						shearModulus: h.eModulusMPa / 2.6,
						area: h.areaMm2,
						iUp: h.iOutMm4,
						iSide: h.iInMm4,
						torsion: h.torsionMm4
					}
				});
		});
		ties.set(h.id, tie);
	}
	return { extraNodes, elements, ties };
}

/** Share of a seam's actions that sheet A takes: by thickness, as the heat goes. */
export function shareOfA(plan: PlanDocument, seam: SeamMesh): number {
	const a = plan.parts.find((p) => p.id === seam.joint.a.part)!.thicknessMm;
	const b = plan.parts.find((p) => p.id === seam.joint.b.part)!.thicknessMm;
	return a / (a + b);
}

function weldLoads(plan: PlanDocument, mesh: AssemblyMesh, sheets: SheetMaterial[]) {
	const loads: WeldLoad[] = [];
	const loadsOf: number[][][] = mesh.seams.map((seam, k) => {
		const n = seam.stations.length;
		const share = shareOfA(plan, seam);
		return Array.from({ length: seam.closed ? n : n - 1 }, (_, g) => {
			const next = (g + 1) % n;
			const list: number[] = [];
			const put = (kind: LoadKind, forces: Sparse, more: Pick<WeldLoad, 'line' | 'elements'> = {}) =>
				list.push(loads.push({ kind, seam: k, segment: g, forces, ...more }) - 1);
			const line: NonNullable<WeldLoad['line']> = [];
			const tendon: Sparse = { at: [], v: [] };
			const eccentric: Sparse = { at: [], v: [] };
			for (const [nodes, part, isEdge, key] of [
				[seam.a, share, seam.edgeA, 'normalA'],
				[seam.b, 1 - share, seam.edgeB, 'normalB']
			] as const) {
				const [i, j] = [nodes[g], nodes[next]];
				const d = sub(nodeAt(mesh.xyz, j), nodeAt(mesh.xyz, i));
				const along = scale(d, 1 / norm(d));
				const normal = seam.frames[g][key];
				const side = scale(normal, Math.sign(dot(towardsWeld(seam, g, isEdge), normal)));
				const turn = cross(side, along);
				line.push({ nodes: [i, j], share: part, side });
				for (let c = 0; c < 3; c++) {
					// the two ends are pulled together, at an arm of 1 mm towards the weld side for the eccentric part
					tendon.at.push(6 * i + c, 6 * j + c);
					tendon.v.push(part * along[c], -part * along[c]);
					eccentric.at.push(6 * i + 3 + c, 6 * j + 3 + c);
					eccentric.v.push(part * turn[c], -part * turn[c]);
				}
			}
			put('tendon', tendon, { line });
			put('eccentric', eccentric, { line });
			for (const [nodes, part, isEdge] of [
				[seam.a, share, seam.edgeA],
				[seam.b, 1 - share, seam.edgeB]
			] as const) {
				if (isEdge) continue;
				const face = faceLoads(mesh, sheets, nodes[g], nodes[next], towardsWeld(seam, g, false), part);
				put('face-shrink', sparseOf(face.shrink, mesh), { elements: face.shrink });
				put('face-kink', sparseOf(face.kink, mesh), { elements: face.kink });
			}
			return list;
		});
	});
	return { loads, loadsOf };
}

/** The side of a sheet that its weld is on: for a sheet welded on its face, the side where the other one stands. */
function towardsWeld(seam: SeamMesh, i: number, isEdge: boolean): Vec3 {
	if (isEdge) return seam.frames[i].weldSide;
	const other = norm(seam.frames[i].outA) > 0 ? seam.frames[i].outA : seam.frames[i].outB;
	return norm(other) > 0 ? scale(other, -1) : seam.frames[i].weldSide;
}

/** Unit shrinkage (mm) and unit kink (rad) across a line on a face, as eigenstrain in the triangles beside it. */
function faceLoads(
	mesh: AssemblyMesh,
	sheets: SheetMaterial[],
	i: number,
	j: number,
	weldSide: Vec3,
	share: number
): { shrink: ElementForces[]; kink: ElementForces[] } {
	const shrink: ElementForces[] = [];
	const kink: ElementForces[] = [];
	const beside: number[] = [];
	for (let e = 0; e < mesh.tri.length; e += 3) {
		const t = mesh.tri.subarray(e, e + 3);
		if (t.includes(i) && t.includes(j)) beside.push(e / 3);
	}
	const d = sub(nodeAt(mesh.xyz, j), nodeAt(mesh.xyz, i));
	const length = norm(d);
	const corners = beside.map((e) => [0, 1, 2].map((c) => nodeAt(mesh.xyz, mesh.tri[3 * e + c])) as [Vec3, Vec3, Vec3]);
	const areas = corners.map((p) => norm(cross(sub(p[1], p[0]), sub(p[2], p[0]))) / 2);
	// the same total whatever the width of the triangles: strain x area = shrinkage x length
	const perUnit = length / areas.reduce((s, a) => s + a, 0);
	beside.forEach((e, q) => {
		const p = corners[q];
		const ex = scale(sub(p[1], p[0]), 1 / norm(sub(p[1], p[0])));
		const n = cross(sub(p[1], p[0]), sub(p[2], p[0]));
		const ez = scale(n, 1 / norm(n));
		const across = cross(ez, scale(d, 1 / length));
		const [c, s] = [dot(across, ex), dot(across, cross(ez, ex))];
		const tensor = [c * c, s * s, 2 * c * s].map((v) => v * perUnit);
		const sheet = sheets[mesh.triPart[e]];
		const side = Math.sign(dot(weldSide, ez)) || 1;
		for (const [target, strain, curvature] of [
			[shrink, tensor.map((v) => -v * share), [0, 0, 0]],
			[kink, [0, 0, 0], tensor.map((v) => v * side)]
		] as const)
			target.push({ element: e, forces: eigenstrainForces(p, sheet, strain, curvature) });
	});
	return { shrink, kink };
}

type ElementForces = NonNullable<WeldLoad['elements']>[number];

function sparseOf(list: readonly ElementForces[], mesh: AssemblyMesh): Sparse {
	const out: Sparse = { at: [], v: [] };
	for (const { element, forces } of list)
		for (let k = 0; k < 3; k++)
			for (let r = 0; r < 6; r++) {
				out.at.push(6 * mesh.tri[3 * element + k] + r);
				out.v.push(forces[6 * k + r]);
			}
	return out;
}
