/**
 * The piece condensed to what the stages need: link rows (seam pairs, clamps, supports, strongback ties), weld loads and
 * outputs. After this an order of welding is dense algebra only (see stage.ts and docs/theory/staging.md).
 */
import { TURN, freedom } from '../shell/freedoms';
import { add, cross, dot, norm, scale, sub, type Vec3 } from '../geometry/vec';
import { holdKind } from '../holds';
import type { KernelFactory } from '../linalg/kernel/kernel';
import type { AssemblyMesh, MeshPoint } from '../mesh/assemblyMesh';
import type { SeamMesh } from '../mesh/seamMesh';
import type { PlanDocument } from '../document/schema';
import { BANDS } from '../response/bands';
import { factorModel, nodeAt, type FactoredModel, type ShellModel } from '../shell/model';
import { EigenElement, type SheetMaterial } from '../shell/triangle';
import { laidOn, restsOf, type LaidOn } from './carried';
import { seamZones, type ZonePart } from './zones';

/** A vector with few entries: freedoms and values. */
export interface Sparse {
	at: number[];
	v: number[];
}

/** What one length of a seam can push with; amounts come later, in N, N.mm, mm and rad. */
export type LoadKind = 'force' | 'eccentric' | 'face-shrink' | 'face-kink';

/** Half width over which shrinkage and kink across a line on a face are spread, mm: about a pool's; totals do not depend on it. */
const FACE_HALF_WIDTH = 10;

/** An eigenstrain in one triangle: mean membrane strain and curvature in its own axes, and its nodal forces (18, global). */
export interface EigenPart {
	element: number;
	forces: Float64Array;
	strain: readonly number[];
	curvature: readonly number[];
}

export interface WeldLoad {
	kind: LoadKind;
	seam: number;
	segment: number;
	/** of the seam's two sheets; an eccentric force is in both */
	side?: 0 | 1;
	/** of a force: place in BANDS */
	band?: 0 | 1;
	forces: Sparse;
	elements: EigenPart[];
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
	/** probes of the stiffness against bowing, two a seam (out of A's plane, out of B's) */
	bends: BendProbes;
	/** first of six rows of each seam's pairs */
	pairRow: Int32Array[];
	holdRows: Map<string, number[]>;
	/** parts that come on later, each settled by several seams at once */
	laidOn: LaidOn[];
	rows: Sparse[];
	model: FactoredModel;
	/** bytes of factor and condensed matrices */
	bytes: number;
}

/**
 * What a pair holds about the axes a weld line does not turn on, in E t^3: a pair is a point, and a point carries no couple in
 * the sheet's plane (the line does that by its pairs' forces). Not nothing, so that a part on a single tack has a place.
 */
export const HINGE = 1e-3;

/** mm/N and rad/N.mm of a bolted tie */
const TIE_COMPLIANCE = 1e-7;

/** Each free part hangs on springs this weak in all, N/mm: they hold what nothing holds yet and carry no load to speak of. */
const SOFT_TIE = 1e-2;
/** Share of that which a part laid on later keeps to the ground: for what its seams leave open (a flap on one seam). */
const CARRIED = 1e-3;

// eslint-disable-next-line max-lines-per-function -- one reduction: every matrix of it is made from the one before
export function condense(
	plan: PlanDocument,
	mesh: AssemblyMesh,
	sheets: SheetMaterial[],
	outputs: readonly MeshPoint[],
	progress: (share: number) => void,
	kernel?: KernelFactory
): Condensed {
	const beams = memberBeams(plan, mesh);
	const nodeCount = mesh.nodeCount + beams.extraNodes.length / 3;
	const xyz = new Float64Array(3 * nodeCount);
	xyz.set(mesh.xyz);
	xyz.set(beams.extraNodes, mesh.xyz.length);
	const springs: ShellModel['springs'] = [];
	const rests = restsOf(plan, mesh);
	const couplings = rests.map((r) => ({ nodes: [r.own, r.standing] as [number, number], stiffness: SOFT_TIE }));
	mesh.parts.forEach((p, i) => {
		const n = p.flat.xy.length / 2;
		// what is laid on later goes with what stands, not with the ground
		const stiffness = (rests.some((r) => r.part === i) ? CARRIED * SOFT_TIE : SOFT_TIE) / n;
		for (let k = 0; k < n; k++) for (let d = 0; d < 3; d++) springs.push({ freedom: freedom(p.node0 + k, d), stiffness });
	});
	for (let k = mesh.nodeCount; k < nodeCount; k++) for (let d = 0; d < 6; d++) springs.push({ freedom: freedom(k, d), stiffness: SOFT_TIE });
	const model = factorModel(
		{ nodeCount, xyz, tri: mesh.tri, sheet: (e) => sheets[mesh.triPart[e]], beams: beams.elements, springs, couplings },
		kernel
	);
	progress(0.15);

	const rows: Sparse[] = [];
	const compliance: number[] = [];
	const sheetOf = (partId: string) => sheets[plan.parts.findIndex((p) => p.id === partId)];
	const pairRow = mesh.seams.map((seam) => {
		const [s, q] = [sheetOf(seam.joint.a.part), sheetOf(seam.joint.b.part)];
		const t = Math.min(s.thickness, q.thickness);
		const e = (s.eModulus + q.eModulus) / 2;
		return Int32Array.from(seam.a, (a, i) => {
			const first = rows.length;
			const frame = seam.frames[i];
			rows.push(...rigidLink(a, seam.b[i], frame.offset, frame.axes));
			// the weld metal of the pair's own length of seam, as thick and as wide as the thinner sheet is thick
			const length = seam.reach[i][1] - seam.reach[i][0];
			const ct = 1 / (e * length);
			const soft = 1 / (HINGE * e * t ** 3);
			compliance.push(ct, ct, ct, frame.holdsTurn ? 12 / (e * t * t * length) : soft, soft, soft);
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
	for (const h of plan.holdDowns)
		for (const grip of holdKind(h).grips(h, plan)) {
			if (grip.by === 'member') {
				beams.ties.get(h.id)!.forEach(([shell, beam, arm]) => {
					const rows = rigidLink(shell, beam, arm, tieAxes(mesh, shell));
					hold(h.id, rows.slice(0, 5), TIE_COMPLIANCE);
					const s = sheets[partOfNode(mesh, shell)];
					hold(h.id, rows.slice(5), 1 / (HINGE * s.eModulus * s.thickness ** 3));
				});
				continue;
			}
			const nodes: [number, Vec3][] =
				grip.by === 'spot'
					? [mesh.spots.get(grip.spot)!].map((node) => [node, nodeNormal(mesh, node)])
					: pairsHeld(
							mesh.seams.find((s) => s.joint.id === grip.joint)!,
							grip
						).flatMap(([seam, i]) => heldNodes(seam, i));
			for (const [node, normal] of nodes) hold(h.id, toGround(node, normal, grip.directions), 1 / grip.stiffnessNPerMm);
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
		bends: {
			row: new Float64Array(2 * n * mesh.seams.length),
			self: new Float64Array(2 * mesh.seams.length),
			scale: new Float64Array(2 * mesh.seams.length)
		},
		pairRow,
		holdRows,
		laidOn: laidOn(plan, mesh),
		rows,
		model,
		bytes: 0
	};
	const points: Sparse[] = outputs.flatMap((p) => [0, 1, 2].map((d) => ({ at: p.nodes.map((k) => freedom(k, d)), v: [...p.weights] })));
	const bends = mesh.seams.flatMap((seam, k) =>
		([0, 1] as const).map((side) => {
			const probe = bowing(seam, side);
			c.bends.scale[2 * k + side] = probe?.scale ?? Infinity;
			return probe?.forces ?? { at: [], v: [] };
		})
	);
	const columns = [...rows, ...bends, ...loads.map((l) => l.forces), ...points];
	const G = model.factor.gram(columns, (s) => progress(0.15 + 0.8 * s));
	const m = columns.length;
	const b0 = n;
	const l0 = n + bends.length;
	const o0 = l0 + loads.length;
	for (let r = 0; r < n; r++) {
		c.flexibility.set(G.subarray(r * m, r * m + n), r * n);
		c.rowLoad.set(G.subarray(r * m + l0, r * m + o0), r * loads.length);
		c.bends.row.set(G.subarray(r * m + b0, r * m + l0), r * bends.length);
	}
	bends.forEach((_, k) => (c.bends.self[k] = G[(b0 + k) * m + b0 + k]));
	for (let o = 0; o < outCount; o++) {
		c.outRow.set(G.subarray((o0 + o) * m, (o0 + o) * m + n), o * n);
		c.outLoad.set(G.subarray((o0 + o) * m + l0, (o0 + o) * m + o0), o * loads.length);
	}
	progress(1);
	c.bytes = model.factor.bytes + 8 * (c.flexibility.length + c.rowLoad.length + c.outRow.length + c.outLoad.length);
	return c;
}

/** Pairs of a seam between two stations; the nearest one where they are the same. */
function pairsHeld(seam: SeamMesh, { fromMm, toMm }: { fromMm: number; toMm: number }): [SeamMesh, number][] {
	if (fromMm === toMm) return [[seam, nearestPair(seam, fromMm)]];
	return [...seam.stations.keys()].filter((i) => seam.stations[i] >= fromMm - 1e-6 && seam.stations[i] <= toMm + 1e-6).map((i) => [seam, i]);
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

/** What a load that bows each seam moves: of every row (rowCount x probes) and of itself; its stiffness is `scale` over that, N.mm2. */
export interface BendProbes {
	row: Float64Array;
	self: Float64Array;
	/** Infinity where the seam is not straight: a ring or a bend holds itself */
	scale: Float64Array;
}

/** Normals and directions along a seam that differ by more than this are not one straight line, share of one. */
const STRAIGHT = 0.98;

/**
 * A load across one sheet along its seam that bows it and does nothing else: the second Legendre polynomial, without force or moment
 * in all. A beam of stiffness EI gives L^5 / EI times a number (its M^2 / EI over the length), so the piece's own answer tells its EI.
 */
function bowing(seam: SeamMesh, side: 0 | 1): { forces: Sparse; scale: number } | undefined {
	const n = seam.stations.length;
	const normals = seam.frames.map((f) => (side === 0 ? f.normalA : f.normalB));
	const middle = Math.floor(n / 2);
	if (seam.closed || seam.frames.some((f, i) => dot(f.s, seam.frames[middle].s) < STRAIGHT || dot(normals[i], normals[middle]) < STRAIGHT))
		return undefined;
	const L = seam.lengthMm;
	const w = seam.reach.map(([from, to]) => to - from);
	const x = Array.from(seam.stations, (s) => (2 * s) / L - 1);
	let p = x.map((v) => (3 * v * v - 1) / 2);
	// free of force and moment as it stands on these very stations
	const inner = (u: readonly number[], v: readonly number[]) => u.reduce((s, a, i) => s + w[i] * a * v[i], 0);
	const one = x.map(() => 1);
	const mean = inner(x, one) / inner(one, one);
	const line = x.map((v) => v - mean);
	const [c0, c1] = [inner(p, one) / inner(one, one), inner(p, line) / inner(line, line)];
	p = p.map((v, i) => v - c0 - c1 * line[i]);
	const forces: Sparse = { at: [], v: [] };
	for (let i = 0; i < n; i++)
		for (const node of [seam.a[i], seam.b[i]])
			for (let d = 0; d < 3; d++) {
				forces.at.push(freedom(node, d));
				forces.v.push((w[i] * p[i] * normals[middle][d]) / 2);
			}
	// M by summing the load twice, M^2 over the length
	let [shear, moment, sum] = [0, 0, 0];
	for (let i = 0; i + 1 < n; i++) {
		const h = seam.stations[i + 1] - seam.stations[i];
		shear += w[i] * p[i];
		const next = moment + shear * h;
		sum += (h * (moment * moment + moment * next + next * next)) / 3;
		moment = next;
	}
	return { forces, scale: sum };
}

/** Six rows: displacement of `b` against `a` (the arm between them goes with the mean of both, so that neither is the first), and rotation about the axes given. */
function rigidLink(a: number, b: number, arm: Vec3, axes: readonly [Vec3, Vec3, Vec3]): Sparse[] {
	const out: Sparse[] = [];
	for (let d = 0; d < 3; d++) {
		// u_b - u_a - (theta_a + theta_b) x arm / 2
		const [p, q] = [(d + 1) % 3, (d + 2) % 3];
		const r: Sparse = { at: [freedom(b, d), freedom(a, d)], v: [1, -1] };
		for (const node of [a, b]) {
			if (arm[q] !== 0) {
				r.at.push(freedom(node, TURN + p));
				r.v.push(-arm[q] / 2);
			}
			if (arm[p] !== 0) {
				r.at.push(freedom(node, TURN + q));
				r.v.push(arm[p] / 2);
			}
		}
		out.push(r);
	}
	for (const v of axes) out.push({ at: [0, 1, 2].flatMap((d) => [freedom(b, TURN + d), freedom(a, TURN + d)]), v: v.flatMap((x) => [x, -x]) });
	return out;
}

/** Axes of a strongback's or brace's tie: the last one along the sheet's normal, about which a point of the sheet is not held. */
export function tieAxes(mesh: AssemblyMesh, node: number): readonly [Vec3, Vec3, Vec3] {
	const n = nodeNormal(mesh, node);
	const p = cross(Math.abs(n[0]) < 0.8 ? [1, 0, 0] : [0, 1, 0], n);
	const first = scale(p, 1 / norm(p));
	return [first, cross(n, first), n];
}

const partOfNode = (mesh: AssemblyMesh, node: number) => {
	let i = mesh.parts.length - 1;
	while (mesh.parts[i].node0 > node) i--;
	return i;
};

function toGround(node: number, normal: Vec3, holds: 'normal' | 'all'): Sparse[] {
	if (holds === 'normal') return [{ at: [freedom(node, 0), freedom(node, 1), freedom(node, 2)], v: [...normal] }];
	return [0, 1, 2].map((d) => ({ at: [freedom(node, d)], v: [1] }));
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

/** Members that hold-downs put beside the piece: their nodes, elements, and what ties each of their nodes to the shell. */
export function memberBeams(plan: PlanDocument, mesh: AssemblyMesh) {
	const extraNodes: number[] = [];
	const elements: NonNullable<ShellModel['beams']> = [];
	const ties = new Map<string, [number, number, Vec3][]>();
	for (const h of plan.holdDowns)
		for (const grip of holdKind(h).grips(h, plan)) {
			if (grip.by !== 'member') continue;
			const nodes = grip.along === 'line' ? [...mesh.lines.get(h.id)!] : grip.spots.map((id) => mesh.spots.get(id)!);
			const first = mesh.nodeCount + extraNodes.length / 3;
			const arms = nodes.map((node): Vec3 => (grip.along === 'line' ? scale(nodeNormal(mesh, node), grip.offsetMm) : [0, 0, 0]));
			const places = nodes.map((node, i) => add(nodeAt(mesh.xyz, node), arms[i]));
			extraNodes.push(...places.flat());
			for (let i = 1; i < nodes.length; i++) {
				const along = sub(places[i], places[i - 1]);
				elements.push({
					nodes: [first + i - 1, first + i],
					// between two spots any direction that is not its own: the section is the same both ways
					up: grip.along === 'line' ? nodeNormal(mesh, nodes[i]) : Math.abs(along[2]) < 0.8 * norm(along) ? [0, 0, 1] : [1, 0, 0],
					section: grip.section
				});
			}
			ties.set(
				h.id,
				nodes.map((node, i) => [node, first + i, arms[i]])
			);
		}
	return { extraNodes, elements, ties };
}

/** Share of a seam's actions that sheet A takes: by thickness, as the heat goes; a sheet welded on its face takes it both ways. */
export function shareOfA(plan: PlanDocument, seam: SeamMesh): number {
	const a = plan.parts.find((p) => p.id === seam.joint.a.part)!.thicknessMm * (seam.edgeA ? 1 : 2);
	const b = plan.parts.find((p) => p.id === seam.joint.b.part)!.thicknessMm * (seam.edgeB ? 1 : 2);
	return a / (a + b);
}

function weldLoads(plan: PlanDocument, mesh: AssemblyMesh, sheets: SheetMaterial[]) {
	const loads: WeldLoad[] = [];
	const known = new Map<number, EigenElement>();
	const elementOf = (e: number) => {
		let found = known.get(e);
		if (!found) {
			const p = [0, 1, 2].map((i) => nodeAt(mesh.xyz, mesh.tri[3 * e + i])) as [Vec3, Vec3, Vec3];
			known.set(e, (found = new EigenElement(p, sheets[mesh.triPart[e]])));
		}
		return found;
	};
	/** strain across or along the seam by direction, spread over the zone with `amount` at full density */
	const laid = (z: ZonePart, along: number, across: number, bend: readonly [along: number, across: number]): EigenPart => {
		const [c, s] = z.along;
		const tensor = (u: number, v: number) => [u * c * c + v * s * s, u * s * s + v * c * c, 2 * (u - v) * c * s];
		const strain = tensor(along, across);
		const times = (f: number) => strain.map((v) => f * v);
		const curvature = tensor(...bend).map((v) => v * z.mean);
		const mean = times(z.mean);
		return {
			element: z.element,
			strain: mean,
			curvature,
			forces: elementOf(z.element).forces(mean, times(z.slope[0]), times(z.slope[1]), curvature)
		};
	};
	const loadsOf: number[][][] = mesh.seams.map((seam, k) => {
		const n = seam.stations.length;
		const share = shareOfA(plan, seam);
		const sides = ([0, 1] as const).map((side) => {
			const isEdge = side === 0 ? seam.edgeA : seam.edgeB;
			return {
				side,
				isEdge,
				share: side === 0 ? share : 1 - share,
				sheet: sheets[plan.parts.findIndex((p) => p.id === (side === 0 ? seam.joint.a.part : seam.joint.b.part))],
				/** sheet on both sides of the line shares what one side would carry */
				strips: isEdge ? 1 : 2,
				zones: seamZones(mesh, seam, side, [...BANDS, ...(isEdge ? [] : [FACE_HALF_WIDTH])])
			};
		});
		return Array.from({ length: seam.closed ? n : n - 1 }, (_, g) => {
			const list: number[] = [];
			const put = (load: Omit<WeldLoad, 'seam' | 'segment' | 'forces'>) =>
				list.push(loads.push({ ...load, seam: k, segment: g, forces: sparseOf(load.elements, mesh) }) - 1);
			const eccentric: EigenPart[] = [];
			for (const { side, isEdge, share, sheet, strips, zones } of sides) {
				const { eModulus: e, thickness: t } = sheet;
				const normal = seam.frames[g][side === 0 ? 'normalA' : 'normalB'];
				const towards = Math.sign(dot(towardsWeld(seam, g, isEdge), normal)) || 1;
				BANDS.forEach((w, band) =>
					put({ kind: 'force', side, band: band as 0 | 1, elements: zones[band][g].map((z) => laid(z, -1 / (e * t * w * strips), 0, [0, 0])) })
				);
				eccentric.push(...zones[0][g].map((z) => laid(z, 0, 0, [(towards * 12 * share) / (e * t ** 3 * BANDS[0] * strips), 0])));
				if (isEdge) continue;
				// the same total whatever the sheet leaves of the zone: strain x area = shrinkage x length
				const zone = zones[BANDS.length][g];
				const length = norm(sub(nodeAt(mesh.xyz, (side === 0 ? seam.a : seam.b)[(g + 1) % n]), nodeAt(mesh.xyz, (side === 0 ? seam.a : seam.b)[g])));
				const perUnit = length / zone.reduce((s, z) => s + z.area, 0);
				put({ kind: 'face-shrink', side, elements: zone.map((z) => laid(z, 0, -share * perUnit, [0, 0])) });
				put({ kind: 'face-kink', side, elements: zone.map((z) => laid(z, 0, 0, [0, towards * perUnit])) });
			}
			put({ kind: 'eccentric', elements: eccentric });
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

function sparseOf(list: readonly EigenPart[], mesh: AssemblyMesh): Sparse {
	const sum = new Map<number, number>();
	for (const { element, forces } of list)
		for (let k = 0; k < 3; k++)
			for (let r = 0; r < 6; r++) {
				const f = 6 * mesh.tri[3 * element + k] + r;
				sum.set(f, (sum.get(f) ?? 0) + forces[freedom(k, r)]);
			}
	return { at: [...sum.keys()], v: [...sum.values()] };
}
