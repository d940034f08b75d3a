/**
 * A forecast piece as a deck for a general solver: seam pairs made one node (at A's place), each run's pull and turn as
 * eigenstrain in the triangles beside its seam, laid on stage by stage in the order of the weld-out. Joining run by run is not
 * in it: the deck holds the joined piece; joining misfits, hold-downs and weight are left out, and the deck's head says so.
 */
import { dot, norm, sub, type Vec3 } from '../geometry/vec';
import type { Analysis } from '../forecast/analysis';
import { nodeAt } from '../shell/model';
import type { SeamMesh } from '../mesh/seamMesh';
import { postureModel } from '../equilibrium/posture';
import { axesOf } from '../shell/triangle';
import { shareOfA } from '../staging/condense';
import type { Source } from '../staging/finalShape';
import { TEE_SHARE } from '../staging/weldBook';
import { seamZones } from '../staging/zones';
import type { DeckModel, Eigenstrain } from './calculix';

/** Half width over which a joint's own shrinkage and turn are spread, mm: totals do not depend on it. */
const DECK_HALF_WIDTH = 10;

/**
 * @param joints seam pairs as one node (CalculiX makes a rigid knot of it, stiffer than a weld on a coarse mesh) or as hinges (less stiff)
 * @returns the model, the names of its stages (the tacks, then each run), and where each node of the mesh has gone
 */
// eslint-disable-next-line max-lines-per-function -- a record after the other, in the order of the format
export function pieceDeck(
	a: Analysis,
	title: string,
	scales: readonly number[],
	joints: 'one-node' | 'hinged' = 'one-node'
): DeckModel & { stages: string[]; nodeOf: (meshNode: number) => number } {
	const { mesh } = a;
	const onto = Int32Array.from({ length: mesh.nodeCount }, (_, k) => k);
	const root = (k: number): number => (onto[k] === k ? k : (onto[k] = root(onto[k])));
	if (joints === 'one-node') for (const seam of mesh.seams) seam.a.forEach((k, i) => (onto[root(seam.b[i])] = root(k)));
	// only nodes that stand for themselves stay
	const place = new Map<number, number>();
	const xyz: number[] = [];
	for (let k = 0; k < mesh.nodeCount; k++)
		if (root(k) === k) {
			place.set(k, xyz.length / 3);
			xyz.push(...nodeAt(mesh.xyz, k));
		}
	const tri = mesh.tri.map((k) => place.get(root(k))!);
	const last = a.staged.marks[a.staged.marks.length - 1];
	const owners = [...a.staged.sources].filter(([owner]) => !owner.startsWith('release:'));
	const sums = new Map<number, { strain: number[]; curvature: number[]; stages: Float64Array }>();
	/** adds an eigenstrain in one triangle's own axes, with how much of it each owner has brought */
	const add = (e: number, strain: readonly number[], curvature: readonly number[], amount: number, by: (source: Source) => number) => {
		let sum = sums.get(e);
		if (!sum) sums.set(e, (sum = { strain: [0, 0, 0], curvature: [0, 0, 0], stages: new Float64Array(owners.length) }));
		strain.forEach((v, i) => (sum.strain[i] += amount * v));
		curvature.forEach((v, i) => (sum.curvature[i] += amount * v));
		// stages by size: strains of two seams in one triangle need not come in one proportion
		const size = Math.max(...strain.map(Math.abs)) + Math.max(...curvature.map(Math.abs)) * a.sheets[mesh.triPart[e]].thickness;
		owners.forEach(([, source], i) => (sum.stages[i] += size * Math.abs(by(source))));
	};
	const scaled = (byAction: readonly Float64Array[], l: number) => scales.reduce((s, f, action) => s + f * byAction[action][l], 0);
	a.condensed.loads.forEach((load, l) => {
		const amount = scaled(last.amounts, l);
		if (amount !== 0) for (const p of load.elements) add(p.element, p.strain, p.curvature, amount, (source) => scaled(source.amounts, l));
	});
	// what the joints themselves take up, shrinkage and turn between two edges, is spread over the metal beside them: a deck has no joints
	mesh.seams.forEach((seam, k) => {
		const used = a.responses.find((r) => r.joint === seam.joint.id)?.response;
		if (!used || seam.joint.stock) return;
		const runs = owners.filter(([owner]) => a.staged.seamOfRun.get(owner) === k).map(([, source]) => source);
		if (!runs.length) return;
		const part = (source: Source) => (runs.includes(source) ? 1 / runs.length : 0);
		const share = shareOfA(a.plan, seam);
		const turned = seam.edgeA && seam.edgeB ? 1 : TEE_SHARE;
		for (const side of [0, 1] as const) {
			if (!(side === 0 ? seam.edgeA : seam.edgeB)) continue;
			const own = side === 0 ? share : 1 - share;
			const [zones] = seamZones(mesh, seam, side, [DECK_HALF_WIDTH]);
			// where the other sheet is welded on its face, this one alone takes the joint's turn
			const turn = (seam.edgeA && seam.edgeB ? own : 1) * turned * scales[2] * used.angularChangeRad;
			zones.forEach((zone, g) => {
				const next = (g + 1) % seam.stations.length;
				const nodes = side === 0 ? seam.a : seam.b;
				const length = norm(sub(nodeAt(mesh.xyz, nodes[next]), nodeAt(mesh.xyz, nodes[g])));
				const perUnit = length / zone.reduce((s, z) => s + z.area, 0);
				const frame = seam.frames[g];
				const towards = Math.sign(dot(frame.weldSide, side === 0 ? frame.normalA : frame.normalB)) || 1;
				for (const z of zone) {
					const [c, s] = z.along;
					const across = [s * s, c * c, -2 * c * s].map((v) => v * z.mean * perUnit);
					add(
						z.element,
						across.map((v) => -v * own * scales[1] * used.transverseShrinkageMm),
						across.map((v) => v * turn * towards),
						1,
						part
					);
				}
			});
		}
	});
	const eigen: Eigenstrain[] = [...sums]
		.sort(([e], [f]) => e - f)
		.map(([e, sum]) => {
			const whole = sum.stages.reduce((s, v) => s + v, 0);
			let on = 0;
			const { ex } = axesOf([0, 1, 2].map((i) => nodeAt(mesh.xyz, mesh.tri[3 * e + i])) as [Vec3, Vec3, Vec3]);
			return {
				triangle: e,
				along: ex,
				alongStrain: sum.strain[0],
				acrossStrain: sum.strain[1],
				shearStrain: sum.strain[2],
				alongCurvature: sum.curvature[0],
				acrossCurvature: sum.curvature[1],
				shearCurvature: sum.curvature[2],
				stages: Array.from(sum.stages, (v) => (whole > 0 ? (on += v) / whole : 1))
			};
		});
	const held = postureModel('three-points', Float64Array.from(xyz), xyz.length / 3, new Float64Array(xyz.length / 3));
	return {
		title: `${title}: joined piece, pull and turn of all runs as eigenstrain; joining misfits, hold-downs and weight left out`,
		xyz: Float64Array.from(xyz),
		tri: Int32Array.from(tri),
		sheet: (e) => a.sheets[mesh.triPart[e]],
		eigen,
		fixed: held.fixed,
		ties: joints === 'hinged' ? hinges(mesh.seams) : undefined,
		nodeOf: (k) => place.get(root(k))!,
		stages: owners.map(([owner]) => {
			const i = a.plan.runs.findIndex((r) => r.id === owner);
			return i < 0 ? 'tacks' : `run ${i + 1}`;
		})
	};
}

/** Each node that moves with another, by the one that leads. */
function hinges(seams: readonly SeamMesh[]): [number, number][] {
	const leads = new Map<number, number>();
	const root = (k: number): number => (leads.has(k) ? root(leads.get(k)!) : k);
	for (const s of seams)
		s.a.forEach((a, i) => {
			const [p, q] = [root(a), root(s.b[i])];
			if (p !== q) leads.set(q, p);
		});
	return [...leads.keys()].map((q) => [root(q), q]);
}
