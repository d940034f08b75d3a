/** Gathers what a piece can teach: its plan as it was run, its readings, and what the shop has learned from others. */
import { createHash } from 'node:crypto';
import { contextOf, type Context } from '$core/learn/context';
import { FACTOR_METHOD, priorFactors, type ShopFactors } from '$core/factors/factors';
import type { PieceLesson } from '$core/learn/fromPiece';
import { ofWelds } from '$core/learn/readings';
import { rightedAt } from '$core/weldout/handOver';
import { asRun } from '$core/weldout/asRun';
import { whereItStands } from '$core/weldout/logbook';
import type { PlanDocument } from '$core/document/schema';
import { eventsOf, measurementsOf, revisionOfPiece, tappedAt } from '$store/bench';
import { getDb } from '$store/database';
import { getPiece, getRevision } from '$store/jobs';
import { evidenceInForce, lessonHistory, markOfLessons } from '$store/lessons';
import { benchPlanOf, factorsOnce, lessonOnce } from './compute';
import { coolAtOf } from './cooled';
import { logLine } from './piece';

/** What the shop's lessons say for a plan. */
export async function factorsOf(plan: PlanDocument): Promise<ShopFactors> {
	const mark = await markOfLessons(getDb());
	if (!mark) return priorFactors();
	return factorsOnce(mark, contextOf(plan), async () => (await evidenceInForce(getDb())).evidence);
}

export interface Found extends Partial<PieceLesson> {
	context?: Context;
	/** readings the factors have not seen yet */
	fresh: string[];
	why?: string;
	/** what is to be known of these readings before they are learned from */
	cautions: string[];
	history: {
		id: string;
		createdAt: Date;
		person: string;
		isSetAside: boolean;
		withdrawn?: string;
		readings: number;
		pieces: number;
		mean: number[];
	}[];
}

/** Lessons of the same metal and technique, newest first. */
async function historyOf(context: Context): Promise<Found['history']> {
	const rows = await lessonHistory(getDb());
	return rows
		.filter((r) => !r.context || (r.context.group === context.group && r.context.technique === context.technique))
		.map((r) => ({
			id: r.id,
			createdAt: r.createdAt,
			person: r.person,
			isSetAside: r.method !== FACTOR_METHOD,
			withdrawn: r.withdrawnAt ? `withdrawn by ${r.withdrawnBy ?? 'somebody'}: ${r.withdrawnWhy ?? ''}` : undefined,
			readings: r.factors.readings,
			pieces: r.factors.pieces,
			mean: r.factors.mean
		}));
}

export async function learnFrom(pieceId: string): Promise<Found> {
	const db = getDb();
	const piece = await getPiece(db, pieceId);
	const revisionId = await revisionOfPiece(db, piece.id);
	if (!revisionId) return { fresh: [], cautions: [], history: [], why: `Piece ${piece.serial} has not been started at the bench yet.` };
	const stored = await getRevision(db, revisionId);
	const events = await eventsOf(db, piece.id);
	const { steps } = await benchPlanOf(stored);
	const issued = stored.document;
	const standing = whereItStands(steps, events.map(logLine));
	const run = asRun(issued, standing);
	const context = contextOf(run.plan);
	const history = await historyOf(context);
	const log = events.map((e) => ({ ...e, at: tappedAt(e) }));
	const all = (await measurementsOf(db, piece.id)).map((m) => ({ ...m, at: m.measuredAt.getTime() }));
	const readings = ofWelds(all, rightedAt(log));
	if (!readings.length)
		return {
			context,
			fresh: [],
			cautions: [],
			history,
			why: `Piece ${piece.serial} has no readings that the welds alone have made: measure it first.`
		};
	const { evidence: kept, mark } = await evidenceInForce(db);
	const asked = readings.map((m) => ({ id: m.id, feature: m.feature, moment: m.moment, value: m.value, uncertainty90: m.uncertainty90, at: m.at }));
	const task = { piece: piece.id, context, plan: run.plan, readings: asked, kept };
	const key = createHash('sha256')
		.update(JSON.stringify([run.plan, asked, mark]))
		.digest('hex');
	const lesson = await lessonOnce(key, task);
	const fresh = lesson.evidence.map((e) => e.reading);
	return {
		...lesson,
		context,
		fresh,
		history,
		cautions: cautionsOf(
			{ isLogged: run.endedAt.length > 0, isWhole: standing.isFinished },
			warmOf(readings, run.endedAt.at(-1), await coolAtOf(piece.id, { plan: issued, steps }, events))
		),
		why: fresh.length ? undefined : 'The shop’s lessons hold every reading of this piece that a forecast can speak of.'
	};
}

/** Free of clamps, after the last arc, before it was cold, and nobody said how warm it was. */
export const warmOf = <R extends { moment: string; at: number; metalC?: number | null }>(
	readings: readonly R[],
	lastArcAt = Infinity,
	coolAt = 0
): R[] => readings.filter((r) => r.moment === 'unclamped' && r.metalC == null && r.at > lastArcAt && r.at < coolAt);

function cautionsOf({ isLogged, isWhole }: { isLogged: boolean; isWhole: boolean }, warm: readonly unknown[]): string[] {
	return [
		...(isLogged
			? isWhole
				? []
				: ['Not every step of this piece is in its log: what is missing is taken as issued.']
			: ['No arc of this piece is in its log: how it was run is not known, and it is taken as issued.']),
		...(warm.length
			? [
					`${warm.length} reading${warm.length === 1 ? ' was' : 's were'} taken before the heat clock had the piece cold: read again when it is, or the lesson is partly heat.`
				]
			: [])
	];
}
