import { json } from '@sveltejs/kit';
import { FaultError } from '$core/document/faults';
import type { PlanDocument } from '$core/document/schema';
import { planFaults } from '$core/reading/readPlan';
import { planFromHere, withoutPlans, type Replan } from '$core/search/replan';
import { brokenRule } from '$core/sequence/precedence';
import { whereItStands } from '$core/weldout/logbook';
import { answer, idOf, personOf, readBody } from '$lib/server/api';
import { benchPlanOf } from '$lib/server/compute';
import { AdoptBody } from '$lib/server/dto';
import { issuedRevision } from '$lib/server/piece';
import { revisionOfPiece, tappedAt, type BenchEvent } from '$store/bench';
import { getDb } from '$store/database';
import { getPiece, StateError } from '$store/jobs';
import { adoptReplan } from '$store/replan';
import { isSamePlan, wholeTask } from '$store/tasks';

/** The answer of a task that was asked for this piece. @throws StateError while there is none */
async function answerOf(piece: string, task: string): Promise<{ found: Replan; plan: PlanDocument }> {
	const { kind, input, result } = await wholeTask(getDb(), task);
	if (kind !== 'replan' || input.piece?.id !== piece) throw new StateError('task', 'This was not worked out for this piece');
	if (!result) throw new StateError('task', 'This is not worked out yet');
	return { found: result as Replan, plan: input.plan };
}

/** What was found, without the plans themselves. */
export const GET = ({ params }) =>
	answer(async () => json({ replan: withoutPlans((await answerOf(idOf(params.piece, 'This piece'), idOf(params.task, 'This answer'))).found) }));

/** Takes one of the ways over: from here on the piece is welded to a plan of its own. */
export const POST = (event) =>
	answer(async () => {
		const db = getDb();
		const piece = await getPiece(db, idOf(event.params.piece, 'This piece'));
		const { way, clientId } = await readBody(event.request, AdoptBody);
		const { found, plan } = await answerOf(piece.id, idOf(event.params.task, 'This answer'));
		const chosen = found.ways.find((w) => w.id === way);
		if (!chosen?.plan)
			throw new StateError('way', `There is no such way on: it must be one of ${found.ways.flatMap((w) => (w.plan ? [w.id] : [])).join(', ')}`);
		const from = await revisionOfPiece(db, piece.id);
		if (!from) throw new StateError('piece', `Piece ${piece.serial} has not been started`);
		const bound = await issuedRevision(from);
		const { roles } = personOf(event);
		if (bound.document.replanBy !== 'welder' && !roles.some((r) => r === 'planner' || r === 'admin'))
			throw new StateError('person', 'In this job a planner takes over another way on: show it to one');
		const { steps } = await benchPlanOf(bound);
		const planNow = (log: readonly BenchEvent[]): PlanDocument => {
			if (!isSamePlan(plan, bound.document)) throw new StateError('task', `Piece ${piece.serial} has been planned on meanwhile: ask again`);
			const at = whereItStands(
				steps,
				log.map((e) => ({ ...e, at: tappedAt(e) }))
			);
			const begun = at.steps.filter((s) => s.step.kind === 'run' && s.laid.length).length;
			if (begun !== found.laid) throw new StateError('task', 'Work has gone on since this was worked out: ask again');
			const made = planFromHere(chosen.plan!, at, chosen.plan!.runs);
			const faults = planFaults(made);
			const broken = brokenRule(made);
			if (broken) faults.push({ field: 'runs', value: 'this order', allowed: `must keep the plan's rules: ${broken.words}` });
			if (faults.length) throw new FaultError(faults);
			return made;
		};
		const label = chosen.label;
		const revision = await adoptReplan(db, piece.id, { clientId, label, from, planNow }, personOf(event).id);
		// its steps and pictures, before any page asks for them
		await benchPlanOf(await issuedRevision(revision));
		return json({ revision }, { status: 201 });
	});
