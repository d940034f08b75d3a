/**
 * Heat that earlier runs have left beside a run: the piece's temperatures just before its arc, as a profile across the seam,
 * and what that does to its tendon force. Even warmth hardly changes it; warmth on one side or on the seam itself does.
 */
import { distance, type Vec3 } from '../geometry/vec';
import type { AssemblyMesh } from '../mesh/assemblyMesh';
import type { Run } from '../document/schema';
import { nodeAt } from '../shell/model';

/** Profile points, mm from the seam; beyond the last one its value holds. */
const REACH = [0, 10, 20, 35, 55, 80, 120] as const;

export interface ResidualProfile {
	/** °C at each distance of REACH, on A and on B */
	sides: readonly [readonly number[], readonly number[]];
	/** K, largest rise over the air */
	rise: number;
}

/** @param field °C by mesh node just before the run's arc */
export function residualProfile(mesh: AssemblyMesh, run: Run, field: ArrayLike<number>, ambientC: number): ResidualProfile {
	const seam = mesh.seams.find((s) => s.joint.id === run.joint)!;
	const [lo, hi] = [Math.min(run.fromMm, run.toMm), Math.max(run.fromMm, run.toMm)];
	const middle = (lo + hi) / 2;
	const inside = [...seam.stations.keys()].filter((i) => seam.stations[i] >= lo - 1e-6 && seam.stations[i] <= hi + 1e-6);
	const nearest = [...seam.stations.keys()].reduce((p, i) => (Math.abs(seam.stations[i] - middle) < Math.abs(seam.stations[p] - middle) ? i : p), 0);
	const pairs = inside.length ? inside : [nearest];
	const side = (nodes: Int32Array, partId: string) => {
		const line: Vec3[] = pairs.map((i) => nodeAt(mesh.xyz, nodes[i]));
		const part = mesh.parts.find((p) => p.part.id === partId)!;
		const sum = new Float64Array(REACH.length);
		const count = new Float64Array(REACH.length);
		for (let k = part.node0; k < part.node0 + part.flat.xy.length / 2; k++) {
			const at = nodeAt(mesh.xyz, k);
			const d = line.reduce((p, q) => Math.min(p, distance(q, at)), Infinity);
			// each node counts at the profile points on either side of it, by nearness
			const j = REACH.findIndex((r) => r >= d);
			if (j < 0) continue;
			const f = j === 0 ? 1 : (d - REACH[j - 1]) / (REACH[j] - REACH[j - 1]);
			sum[j] += f * field[k];
			count[j] += f;
			if (j > 0) {
				sum[j - 1] += (1 - f) * field[k];
				count[j - 1] += 1 - f;
			}
		}
		const out: number[] = [];
		for (let j = 0; j < REACH.length; j++) out.push(count[j] > 1e-6 ? sum[j] / count[j] : (out[j - 1] ?? ambientC));
		return out;
	};
	const sides = [side(seam.a, seam.joint.a.part), side(seam.b, seam.joint.b.part)] as const;
	return { sides, rise: Math.max(...sides.flat()) - ambientC };
}

/** The profile as a function of the distance from the seam, negative on A. */
export const profileAt =
	(p: Pick<ResidualProfile, 'sides'>) =>
	(x: number): number => {
		const v = p.sides[x < 0 ? 0 : 1];
		const d = Math.abs(x);
		const j = REACH.findIndex((r) => r >= d);
		if (j < 0) return v[v.length - 1];
		if (j === 0) return v[0];
		return v[j - 1] + ((v[j] - v[j - 1]) * (d - REACH[j - 1])) / (REACH[j] - REACH[j - 1]);
	};
