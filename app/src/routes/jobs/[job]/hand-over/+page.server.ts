import { unitOf } from '$core/features';
import { eventsOf, measurementsOf, signatureOf } from '$store/bench';
import { getDb } from '$store/database';
import { pieceInHand } from '$lib/server/piece';

export const load = async ({ url, parent }) => {
	const { pieces } = await parent();
	const { piece, plan, revision } = await pieceInHand(pieces, url.searchParams.get('piece'));
	const db = getDb();
	const [events, readings, signature] = piece
		? await Promise.all([eventsOf(db, piece.id), measurementsOf(db, piece.id), signatureOf(db, piece.id)])
		: [[], [], undefined];
	return {
		piece: piece ?? null,
		revision: revision ?? null,
		signature: signature ?? null,
		problems: events.filter((e) => e.kind === 'step-problem').map((e) => ({ note: e.note, person: e.person, happenedAt: e.happenedAt })),
		results: (plan?.features ?? []).map((f) => {
			// the last reading in its final state decides
			const own = readings.filter((r) => r.feature === f.id);
			const last = own.filter((r) => r.moment === 'unclamped').pop() ?? own.filter((r) => r.moment === 'cold').pop();
			const ok = last ? last.value <= f.tolerance.upper && last.value >= (f.tolerance.lower ?? -Infinity) : undefined;
			return {
				id: f.id,
				name: f.name,
				tolerance: { ...f.tolerance },
				value: last?.value,
				unit: (last?.unit ?? unitOf(f)) as 'mm' | '°',
				moment: last?.moment,
				ok
			};
		})
	};
};
