import type { LineDrawing } from '$core/draw/lineDrawing';
import type { Pointed } from '$core/weldout/benchPlan';
import { benchPlanOf } from '$lib/server/compute';
import { eventsOf, revisionOfPiece } from '$store/bench';
import { getDb } from '$store/database';
import { getRevision, latestRevision } from '$store/jobs';

/** a piece without a plan to draw */
const NO_ART = { pictures: {} as Record<string, LineDrawing>, holds: {} as Record<string, Pointed> };

export const load = async ({ params, url, parent, depends }) => {
	depends('sarta:bench');
	const { pieces } = await parent();
	const db = getDb();
	const asked = url.searchParams.get('piece');
	const piece =
		pieces.find((p) => p.id === asked) ?? pieces.find((p) => p.state === 'in-hand') ?? pieces.find((p) => p.state === 'waiting') ?? pieces[0];
	if (!piece) return { piece: null, steps: [], ...NO_ART, events: [], revision: null, plan: null };
	const startedOn = await revisionOfPiece(db, piece.id);
	const revision = startedOn ? await getRevision(db, startedOn) : await latestRevision(db, params.job, 'issued');
	if (!revision) return { piece, steps: [], ...NO_ART, events: [], revision: null, plan: null };
	const plan = revision.document;
	const { steps, pictures, holds } = await benchPlanOf(revision);
	return {
		piece,
		revision: revision.revision,
		steps,
		pictures,
		holds,
		events: await eventsOf(db, piece.id),
		plan: JSON.parse(
			JSON.stringify({
				joints: plan.joints,
				settings: plan.settings,
				runs: plan.runs,
				holdDowns: plan.holdDowns,
				parts: plan.parts.map((p) => ({ id: p.id, name: p.name })),
				features: plan.features.map((f) => ({ id: f.id, name: f.name }))
			})
		) as Pick<typeof plan, 'joints' | 'settings' | 'runs' | 'holdDowns'> & {
			parts: { id: string; name: string }[];
			features: { id: string; name: string }[];
		}
	};
};
