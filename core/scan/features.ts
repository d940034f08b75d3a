/** What a scan says of each feature: its places as they were found, worth what the forecast's own formula makes of them. */
import type { PlanDocument } from '../document/schema';
import { featureKind } from '../features';
import { tapeEnds } from '../features/taped';
import { add, type Vec3 } from '../geometry/vec';
import { locate, type AssemblyMesh } from '../mesh/assemblyMesh';
import type { ScannedField } from './field';

export interface ScannedFeature {
	id: string;
	/** mm or degrees, as the feature is toleranced; absent where a place of it was not seen, or by too few points to be told from noise */
	value?: number;
}

/** A place is told by the points this near it, mm, and is not seen by fewer than so many. */
const NEAR_MM = 20;
const LEAST_SEEN = 10;
/** 90 % half-width of a place by its points, mm, beyond which it is not told (a scanner's own error: core/measure/methods/scan.ts). */
const MOST_NOISE = 0.1;
const Z90 = 1.645;

/** Points that tell of a place: those of the nodes of its sheet round it. */
function seenNear(mesh: AssemblyMesh, { seen }: ScannedField, [node]: readonly number[]): number {
	const part = mesh.parts.find((p, i) => node >= p.node0 && node < (mesh.parts[i + 1]?.node0 ?? mesh.nodeCount))!;
	let sum = 0;
	for (let k = part.node0; k < part.node0 + part.flat.xy.length / 2; k++)
		if (Math.hypot(...[0, 1, 2].map((d) => mesh.xyz[3 * k + d] - mesh.xyz[3 * node + d])) <= NEAR_MM) sum += seen[k];
	return sum;
}

export function scannedFeatures(plan: PlanDocument, mesh: AssemblyMesh, field: ScannedField): ScannedFeature[] {
	return plan.features.map((f) => {
		const kind = featureKind(f);
		const ends = tapeEnds(f, plan);
		const found = kind.places(f, plan).map((p) => locate(mesh, p.part, p.at));
		const told = found.map((p) => seenNear(mesh, field, p.nodes));
		const noise90 = (Z90 * field.scatter) / Math.sqrt(Math.min(...told));
		if (told.some((t) => t < LEAST_SEEN) || noise90 > MOST_NOISE) return { id: f.id };
		const at = (p: (typeof found)[number], of: ArrayLike<number>): Vec3 =>
			[0, 1, 2].map((d) => p.nodes.reduce((s, n, k) => s + p.weights[k] * of[3 * n + d], 0)) as Vec3;
		const nominal = found.map((p, i) => add(at(p, mesh.xyz), ends[i]));
		const points = nominal.map((p, i) => add(p, at(found[i], field.u)));
		return { id: f.id, value: kind.movedFar(f, nominal, points) };
	});
}
