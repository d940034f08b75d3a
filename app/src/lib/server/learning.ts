/** Gathers what a piece can teach: its plan as issued, its readings, the factors in force. */
import { factorKeyOf, type FactorKey } from '$core/factors/factorKey';
import { FACTOR_METHOD, priorFactors } from '$core/factors/factors';
import { ofWelds, type PieceLesson } from '$core/learn/fromPiece';
import { rightedAt } from '$core/weldout/handOver';
import type { PlanDocument } from '$core/document/schema';
import { eventsOf, measurementsOf, revisionOfPiece, tappedAt } from '$store/bench';
import { getDb } from '$store/database';
import { getPiece, getRevision } from '$store/jobs';
import { factorHistory, factorsFor } from '$store/library';
import { lessonInThread } from './compute';

export const factorsOf = async (plan: PlanDocument) => (await factorsFor(getDb(), factorKeyOf(plan)))?.factors ?? priorFactors();

export interface Found extends Partial<PieceLesson> {
	key: FactorKey;
	/** readings the factors have not seen yet */
	fresh: string[];
	why?: string;
	history: { createdAt: Date; person: string; method: string; readings: number; pieces: number; mean: number[]; covariance: number[] }[];
}

export async function learnFrom(pieceId: string): Promise<Found> {
	const db = getDb();
	const piece = await getPiece(db, pieceId);
	const revisionId = await revisionOfPiece(db, piece.id);
	if (!revisionId)
		return {
			key: { materialGroup: '', thicknessBand: '', technique: '' },
			fresh: [],
			history: [],
			why: `Piece ${piece.serial} has not been started at the bench yet.`
		};
	const { document: plan } = await getRevision(db, revisionId);
	const key = factorKeyOf(plan);
	const rows = await factorHistory(db, key);
	const history = rows.map((r) => ({
		createdAt: r.createdAt,
		person: r.person,
		method: r.method,
		readings: r.factors.readings,
		pieces: r.factors.pieces,
		mean: r.factors.mean,
		covariance: r.factors.covariance
	}));
	const log = (await eventsOf(db, piece.id)).map((e) => ({ ...e, at: tappedAt(e) }));
	const readings = ofWelds(
		(await measurementsOf(db, piece.id)).map((m) => ({ ...m, at: m.measuredAt.getTime() })),
		rightedAt(log)
	);
	if (!readings.length) return { key, fresh: [], history, why: `Piece ${piece.serial} has no readings yet: measure it first.` };
	const seen = new Set(rows.filter((r) => !r.archivedAt && r.method === FACTOR_METHOD).flatMap((r) => r.measurementIds));
	const unseen = readings.filter((m) => !seen.has(m.id)).map((m) => m.id);
	const lesson = await lessonInThread({
		plan,
		prior: await factorsOf(plan),
		readings: readings.map((m) => ({ id: m.id, feature: m.feature, moment: m.moment, value: m.value, uncertainty90: m.uncertainty90 })),
		fresh: unseen
	});
	const fresh = unseen.filter((id) => lesson.rows.some((r) => r.reading === id && r.learnable));
	return {
		...lesson,
		key,
		fresh,
		history,
		why: fresh.length ? undefined : 'The factors already hold every reading of this piece that the linear method can learn from.'
	};
}
