import type { PlanDocument } from '$core/document/schema';
import type { BenchStep } from '$core/weldout/benchSteps';
import { waitIsOver } from '$core/weldout/cooling';
import { whereItStands } from '$core/weldout/logbook';
import { benchPlanOf, coolingOf } from '$lib/server/compute';
import { eventsOf, piecesAtBench, tappedAt } from '$store/bench';
import { getDb } from '$store/database';
import { issuedRevision, logLine } from '$lib/server/piece';

/** Pieces shown at first, those that were touched last: a shop has some, not hundreds, under the torch at once. */
const FIRST = 24;
/** Pieces shown when all are asked for. */
const MOST = 200;

/** A tack, with finding its station and letting it go cold, s; own estimate. */
const TACK_S = 15;
/** How long a step keeps the torch: a run by its length and speed, tacks by their number; nothing for other steps. */
function workSeconds(step: BenchStep, plan: PlanDocument): number | null {
	if (step.kind === 'tack') return TACK_S * step.stations.length;
	const speed = step.kind === 'run' ? plan.settings.find((s) => s.id === step.settings)?.speedMmPerS : undefined;
	return step.kind === 'run' && speed ? Math.abs(step.toMm - step.fromMm) / speed : null;
}

export const load = async ({ depends, url }) => {
	depends('sarta:board');
	const db = getDb();
	const all = await piecesAtBench(db);
	const most = url.searchParams.has('all') ? MOST : FIRST;
	const shown = await Promise.all(
		all.slice(0, most).map(async ({ revisionId, ...piece }) => {
			const revision = await issuedRevision(revisionId);
			const [{ steps }, events] = await Promise.all([benchPlanOf(revision), eventsOf(db, piece.id)]);
			const at = whereItStands(
				steps,
				events.map((e) => ({ ...e, ...logLine(e) }))
			);
			const closed = new Set(at.lines.filter((e) => e.kind === 'problem-closed').map((e) => e.about));
			const last = events[events.length - 1];
			const step = at.current?.step;
			const wait = step?.kind === 'wait' && !at.isFinished ? step : undefined;
			const begunAt = wait && (at.lines.find((e) => e.kind === 'wait-started' && e.step === wait.id)?.at ?? Date.now());
			return {
				...piece,
				revision: revision.revision,
				step: at.isFinished ? null : (step?.title ?? null),
				stepId: step?.id ?? null,
				/** work under the torch that is next, s: fits into another piece's wait */
				workS: step && !at.isFinished ? workSeconds(step, revision.document) : null,
				/** who must sign before it goes on */
				signs: step?.kind === 'sign' && !at.isFinished ? step.signs : null,
				/** by the plan's own seconds, at once */
				waitUntil: wait ? waitIsOver(wait, steps, undefined, begunAt)! : null,
				/** by the heat that was put in, as the bench has it: follows when it is worked out */
				heatUntil: wait
					? coolingOf(piece.id, { plan: revision.document, steps, lines: events.map(logLine), next: wait.before }).then(
							(heat) => waitIsOver(wait, steps, heat, begunAt) ?? null,
							() => null
						)
					: null,
				behind: at.steps.filter((s) => s.state !== 'open').length,
				of: steps.length,
				left: at.steps.filter((s) => s.state === 'open' && s.isSkipped).map((s) => s.step.title),
				isPaused: at.isPaused,
				problems: at.lines.filter((e) => e.kind === 'step-problem' && !closed.has(e.clientId)).map((e) => ({ note: e.note ?? '', person: e.person })),
				person: last.person,
				lastAt: tappedAt(last)
			};
		})
	);
	return { pieces: shown, more: Math.max(0, all.length - most), isAll: most === MOST };
};
