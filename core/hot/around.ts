/** What the rest of the piece means to a seam that is watched flat and by itself: how it is meshed, how it holds the edges, and how warm it is. */
import type { QuickForecast } from '../forecast/forecast';
import type { SeamMesh } from '../mesh/seamMesh';
import { closingStiffness } from '../staging/closing';
import { warmthOf, type WarmthByRun } from './warmth';

export interface Around {
	seams: readonly SeamMesh[];
	/** N/mm per mm by seam, as its first arc starts: what is joined and clamped by then, its own tacks left out */
	held: ReadonlyMap<string, number>;
	/** what other seams have brought to each of its runs; absent: every seam is taken cold */
	warmth?: ReadonlyMap<string, WarmthByRun>;
}

/** @param isCold without the heat of other seams: it is another one in every order, and many orders are asked about */
export function aroundOf({ analysis: { plan, mesh, condensed, events } }: QuickForecast, { isCold = false } = {}): Around {
	return {
		seams: mesh.seams,
		held: closingStiffness(plan, mesh.seams, condensed, events),
		warmth: isCold ? undefined : warmthOf(plan, mesh)
	};
}
