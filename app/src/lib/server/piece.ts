/** Which piece a page is about, and the plan it was started on. */
import type { PlanDocument } from '$core/document/schema';
import type { LogLine } from '$core/weldout/logbook';
import { revisionOfPiece, tappedAt, type BenchEvent } from '$store/bench';
import { getDb } from '$store/database';
import { getRevision } from '$store/jobs';
import type { Photograph } from '$store/photographs';

export type Revision = Awaited<ReturnType<typeof getRevision>>;

const issued = new Map<string, Promise<Revision>>();
const MOST_KEPT = 100;
/** A revision that pieces are welded to never changes: read once, for every tap asks for it. */
export function issuedRevision(id: string): Promise<Revision> {
	let found = issued.get(id);
	if (!found) {
		if (issued.size >= MOST_KEPT) issued.delete(issued.keys().next().value!);
		issued.set(id, (found = getRevision(getDb(), id)));
		// a fault is not kept: whoever asks next tries again
		found.catch(() => issued.delete(id));
	}
	return found;
}

interface PieceRow {
	id: string;
	serial: string;
	state: 'waiting' | 'in-hand' | 'welded' | 'handed-over';
	readings: number;
}

/** What of a line of the log the heat clock and the order of steps ask for. */
export const logLine = (e: BenchEvent): LogLine => ({
	clientId: e.clientId,
	kind: e.kind,
	step: e.step,
	about: e.about,
	data: e.data,
	at: tappedAt(e)
});

/** What a photograph shows, in a few words: its step, or what was read or logged. */
export const photographTitle = (
	p: Pick<Photograph, 'step' | 'about' | 'note'>,
	events: readonly Pick<BenchEvent, 'clientId' | 'step'>[],
	titles: ReadonlyMap<string, string>
): string => {
	const step = p.step ?? events.find((e) => e.clientId === p.about)?.step;
	return (step ? (titles.get(step) ?? step) : p.note) ?? 'The piece';
};

/** The piece asked for, else the one that has got furthest without being handed over. */
export async function pieceInHand<T extends PieceRow>(
	pieces: readonly T[],
	asked: string | null
): Promise<{ piece?: T; plan?: PlanDocument; revision?: number; stored?: Revision }> {
	const rank = ['welded', 'in-hand', 'handed-over', 'waiting'];
	const piece = pieces.find((p) => p.id === asked) ?? [...pieces].sort((a, b) => rank.indexOf(a.state) - rank.indexOf(b.state))[0];
	if (!piece) return {};
	const revisionId = await revisionOfPiece(getDb(), piece.id);
	if (!revisionId) return { piece };
	const r = await issuedRevision(revisionId);
	return { piece, plan: r.document, revision: r.revision, stored: r };
}
