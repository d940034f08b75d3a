/**
 * A forecast piece as a deck for a general solver: seam pairs made one node (at A's place), each run's pull and turn as
 * eigenstrain in the triangles beside its seam, laid on stage by stage in the order of the weld-out. Joining run by run is not
 * in it: the deck holds the joined piece; joining misfits, hold-downs and weight are left out, and the deck's head says so.
 */
import { cross, dot, norm, scale, sub, type Vec3 } from '../geometry/vec';
import type { Analysis } from '../forecast/analysis';
import { nodeAt } from '../shell/model';
import { postureModel } from '../equilibrium/posture';
import type { DeckModel, Eigenstrain } from './calculix';

/** @returns the model and the names of its stages: the tacks, then each run */
export function pieceDeck(a: Analysis, title: string, scales: readonly number[]): DeckModel & { stages: string[] } {
	const { mesh } = a;
	const onto = Int32Array.from({ length: mesh.nodeCount }, (_, k) => k);
	const root = (k: number): number => (onto[k] === k ? k : (onto[k] = root(onto[k])));
	for (const seam of mesh.seams) seam.a.forEach((k, i) => (onto[root(seam.b[i])] = root(k)));
	// only nodes that stand for themselves stay
	const place = new Map<number, number>();
	const xyz: number[] = [];
	for (let k = 0; k < mesh.nodeCount; k++)
		if (root(k) === k) {
			place.set(k, xyz.length / 3);
			xyz.push(...nodeAt(mesh.xyz, k));
		}
	const tri = mesh.tri.map((k) => place.get(root(k))!);
	const beside = new Map<string, number[]>();
	for (let e = 0; e < mesh.triPart.length; e++)
		for (let i = 0; i < 3; i++) {
			const [p, q] = [mesh.tri[3 * e + i], mesh.tri[3 * e + ((i + 1) % 3)]];
			const key = p < q ? `${p}/${q}` : `${q}/${p}`;
			beside.set(key, [...(beside.get(key) ?? []), e]);
		}
	const last = a.staged.marks[a.staged.marks.length - 1];
	const owners = [...a.staged.sources].filter(([owner]) => !owner.startsWith('release:'));
	const eigen = new Map<number, Eigenstrain>();
	/** strain along the seam that each stage lays on, by triangle */
	const laid = new Map<number, Float64Array>();
	a.condensed.loads.forEach((load, l) => {
		if (load.kind !== 'tendon') return;
		const force = scales.reduce((s, f, action) => s + f * last.amounts[action][l], 0);
		const seam = mesh.seams[load.seam];
		const used = a.responses.find((r) => r.joint === seam.joint.id)?.response;
		if (force === 0 || !used) return;
		for (const { nodes, share, side } of load.line!) {
			const [p, q] = nodes.map((k) => nodeAt(mesh.xyz, k));
			const length = norm(sub(q, p));
			const along: Vec3 = scale(sub(q, p), 1 / length);
			const list = beside.get(nodes[0] < nodes[1] ? `${nodes[0]}/${nodes[1]}` : `${nodes[1]}/${nodes[0]}`) ?? [];
			const area = list.reduce((s, e) => {
				const c = [0, 1, 2].map((i) => nodeAt(mesh.xyz, mesh.tri[3 * e + i]));
				return s + norm(cross(sub(c[1], c[0]), sub(c[2], c[0]))) / 2;
			}, 0);
			if (!(area > 0)) continue;
			const width = area / length;
			const turn = (share * scales[2] * used.angularChangeRad) / width;
			const by = Float64Array.from(owners, ([, source]) => scales.reduce((sum, f, action) => sum + f * source.amounts[action][l], 0) / force);
			for (const e of list) {
				const sheet = a.sheets[mesh.triPart[e]];
				const alongStrain = (-share * force) / (sheet.eModulus * sheet.thickness * width);
				const acrossStrain = (-share * scales[1] * used.transverseShrinkageMm) / width;
				const corner = [0, 1, 2].map((i) => nodeAt(mesh.xyz, mesh.tri[3 * e + i]));
				const acrossCurvature = turn * (Math.sign(dot(side, cross(sub(corner[1], corner[0]), sub(corner[2], corner[0])))) || 1);
				const sum = laid.get(e) ?? new Float64Array(owners.length);
				by.forEach((f, i) => (sum[i] += f * alongStrain));
				laid.set(e, sum);
				const before = eigen.get(e);
				// a triangle between two seams takes both, along the first's direction
				if (!before) eigen.set(e, { triangle: e, along, alongStrain, acrossStrain, acrossCurvature });
				else {
					const c2 = dot(before.along, along) ** 2;
					before.alongStrain += alongStrain * c2 + acrossStrain * (1 - c2);
					before.acrossStrain += alongStrain * (1 - c2) + acrossStrain * c2;
				}
			}
		}
	});
	for (const [e, sum] of laid) {
		const whole = sum.reduce((s, v) => s + v, 0);
		let on = 0;
		eigen.get(e)!.stages = Array.from(sum, (v) => (on += v) / whole);
	}
	const held = postureModel('three-points', Float64Array.from(xyz), xyz.length / 3, new Float64Array(xyz.length / 3));
	return {
		title: `${title}: joined piece, pull and turn of all runs as eigenstrain; joining misfits, hold-downs and weight left out`,
		xyz: Float64Array.from(xyz),
		tri: Int32Array.from(tri),
		sheet: (e) => a.sheets[mesh.triPart[e]],
		eigen: [...eigen.values()].sort((x, y) => x.triangle - y.triangle),
		fixed: held.fixed,
		stages: owners.map(([owner]) => {
			const i = a.plan.runs.findIndex((r) => r.id === owner);
			return i < 0 ? 'tacks' : `run ${i + 1}`;
		})
	};
}
