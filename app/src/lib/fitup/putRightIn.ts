import type { PlanDocument } from '$core/document/schema';
import { assemblyMesh } from '$core/mesh/assemblyMesh';
import { putRight } from '$core/access/putRight';

export const PUT_RIGHT = 'putting right what cannot be carried out';

/** An edit of the desk: what cannot be carried out, put right in the draft. @returns what was changed, or what to do where nothing could be */
export function putRightIn(draft: PlanDocument): string[] {
	const { plan, notes } = putRight(draft, assemblyMesh(draft));
	Object.assign(draft, { fitUp: plan.fitUp, tacks: plan.tacks, runs: plan.runs, holdDowns: plan.holdDowns });
	return notes.length ? notes : ['Nothing here could be put right by itself: change what is named.'];
}
