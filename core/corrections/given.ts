/** What was put right gave: readings of the feature it was for, before and after it. The shop learns by these what its corrections are worth. */
import type { ReadMoment } from '../document/words';
import { Z90 } from '../factors/factors';
import type { WayKind } from '../weldout/afterwards';
import { standing, type LogLine } from '../weldout/logbook';

export interface ReadAt {
	feature: string;
	moment: ReadMoment;
	value: number;
	uncertainty90?: number;
	at: number;
}
export interface Given {
	/** the line of the log */
	clientId: string;
	way: WayKind;
	joint?: string;
	feature?: string;
	minutes?: number;
	note?: string;
	at: number;
	/** the last reading before it and the last one before the next that was for the same feature, in the feature's unit */
	before?: number;
	after?: number;
	/** what it was foretold to come to */
	foretold?: number;
	/** standard uncertainty of what lies between the two readings, where it is known of both */
	doubt?: number;
}

/** Moments at which the piece stands by itself: a reading as tacked says nothing of what a correction gave. */
const COMPARED: readonly ReadMoment[] = ['cold', 'unclamped', 'corrected'];

export function whatItGave(log: readonly LogLine[], readings: readonly ReadAt[]): Given[] {
	const done = standing(log).flatMap((l) =>
		l.kind === 'happened' && l.data?.what === 'corrected' && l.data.way ? [{ line: l, data: l.data, way: l.data.way }] : []
	);
	return done.map(({ line, data, way }) => {
		const own = readings.filter((r) => r.feature === data.feature && COMPARED.includes(r.moment)).sort((p, q) => p.at - q.at);
		const next = done.find((d) => d.line.at > line.at && d.data.feature === data.feature)?.line.at ?? Infinity;
		const before = own.filter((r) => r.at <= line.at).pop();
		const after = own.filter((r) => r.at > line.at && r.at <= next).pop();
		const isKnown = before?.uncertainty90 !== undefined && after?.uncertainty90 !== undefined;
		return {
			clientId: line.clientId,
			way,
			joint: data.joint,
			feature: data.feature,
			minutes: data.minutes,
			note: line.note ?? undefined,
			at: line.at,
			before: before?.value,
			after: after?.value,
			foretold: data.foretold,
			doubt: isKnown ? Math.hypot(before.uncertainty90!, after.uncertainty90!) / Z90 : undefined
		};
	});
}
