/** Hold-downs that lie where the torch must go. */
import type { AnyHoldDown, PlanDocument } from '../document/schema';
import { pathLength, pointAt } from '../geometry/polyline';
import { distance, type Vec2 } from '../geometry/vec';
import { holdKind } from '../holds';
import type { AssemblyMesh } from '../mesh/assemblyMesh';
import type { Timeline } from '../sequence/timeline';
import { normalAt } from './reach';

/** Clear of a seam on either side, so that cup and wire go by, mm (common practice, no source). */
export const TORCH_CLEAR_MM = 12;
/** Places looked at along a member. */
const LOOKS = 25;

/** @returns names of seams that are welded while a hold-down lies on or close beside them, on the side they are welded from */
export function weldedWhileOn(h: AnyHoldDown, plan: PlanDocument, mesh: AssemblyMesh, timeline: Timeline): string[] {
	const kind = holdKind(h);
	const line = kind.line(h);
	const part = 'part' in h ? h.part : undefined;
	if (part === undefined) return [];
	const hands = kind.hands(h);
	// along its whole line, or where it stands
	const places: Vec2[] = line
		? Array.from({ length: LOOKS }, (_, i) => pointAt(line.path as Vec2[], (i / (LOOKS - 1)) * pathLength(line.path)))
		: hands.flatMap((x) => ('part' in x && x.part === part ? [x.at] : []));
	const side = hands.find((x) => 'part' in x)?.side ?? 'either';
	const points = places.map((at) => normalAt(mesh, part, at));
	return mesh.seams.flatMap((seam) => {
		const { joint } = seam;
		if (joint.stock || (joint.a.part !== part && joint.b.part !== part)) return [];
		if (!plan.runs.some((r, i) => r.joint === joint.id && timeline.isOnDuringRun(h, i))) return [];
		const isNear = points.some((p) =>
			seam.stations.some((_, i) => {
				const at: [number, number, number] = [mesh.xyz[3 * seam.a[i]], mesh.xyz[3 * seam.a[i] + 1], mesh.xyz[3 * seam.a[i] + 2]];
				if (distance(at, p.at) >= TORCH_CLEAR_MM) return false;
				const w = seam.frames[i].weldSide;
				const faces = w[0] * p.normal[0] + w[1] * p.normal[1] + w[2] * p.normal[2];
				return side === 'either' || Math.abs(faces) < 0.3 || faces > 0 === (side === 'front');
			})
		);
		return isNear ? [joint.name] : [];
	});
}
