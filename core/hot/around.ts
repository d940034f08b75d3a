/** What the rest of the piece means to a seam that is watched flat and by itself: how it is meshed, and how it holds the edges. */
import type { QuickForecast } from '../forecast/forecast';
import type { SeamMesh } from '../mesh/seamMesh';
import { closingStiffness } from '../staging/closing';

export interface Around {
	seams: readonly SeamMesh[];
	/** N/mm per mm by seam, as its first arc starts: what is joined and clamped by then, its own tacks left out */
	held: ReadonlyMap<string, number>;
}

export function aroundOf({ analysis: { plan, mesh, condensed, events } }: QuickForecast): Around {
	return { seams: mesh.seams, held: closingStiffness(plan, mesh.seams, condensed, events) };
}
