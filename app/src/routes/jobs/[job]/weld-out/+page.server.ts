import type { BenchStep } from '$core/weldout/benchSteps';
import { mayBeFilled } from '$core/families';
import type { BenchPlanView } from '$lib/bench/view';
import type { Moved } from '$core/weldout/moves';
import { benchPlanOf, movedOf } from '$lib/server/compute';
import { factorsOf } from '$lib/server/learning';
import { eventsOf, revisionOfPiece } from '$store/bench';
import { getDb } from '$store/database';
import { getRevision, latestRevision } from '$store/jobs';
import { newestReading } from '$store/devices';
import { inUse } from '$store/registers';
import { shopAtBench } from '$lib/server/shopAtBench';

export const load = async ({ params, url, parent, depends }) => {
	depends('sarta:bench');
	const { pieces } = await parent();
	const db = getDb();
	const asked = url.searchParams.get('piece');
	const piece =
		pieces.find((p) => p.id === asked) ?? pieces.find((p) => p.state === 'in-hand') ?? pieces.find((p) => p.state === 'waiting') ?? pieces[0];
	if (!piece) return { piece: null, steps: [] as BenchStep[], view: null, events: [], revision: null, variant: 0, devicesAfter: 0, moved: undefined };
	const startedOn = await revisionOfPiece(db, piece.id);
	const revision = startedOn ? await getRevision(db, startedOn) : await latestRevision(db, params.job, 'issued');
	if (!revision) return { piece, steps: [] as BenchStep[], view: null, events: [], revision: null, variant: 0, devicesAfter: 0, moved: undefined };
	const { steps, pictures, holds } = await benchPlanOf(revision);
	// plain data: what reading a document made of it has methods and classes of its own
	const { document: plan } = revision;
	const made: BenchPlanView = { plan, steps, pictures, holds, shop: shopAtBench(await inUse(db)), mayBeFilled: mayBeFilled(plan.family?.kind) };
	const view = JSON.parse(JSON.stringify(made)) as BenchPlanView;
	// the page does not wait for it, nor fail with it
	const moved = factorsOf(revision.document)
		.then((factors) => movedOf(revision, factors))
		.catch(() => ({}) as Record<string, Moved[]>);
	return {
		piece,
		moved,
		revision: revision.revision,
		variant: revision.variant,
		steps: view.steps,
		view,
		events: await eventsOf(db, piece.id),
		devicesAfter: await newestReading(db, piece.id)
	};
};
