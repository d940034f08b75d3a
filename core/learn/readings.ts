/** Readings of a piece as the learner takes them. */
import { isForecast, type Moment, type ReadMoment } from '../document/words';

export interface PieceReading {
	id: string;
	feature: string;
	moment: Moment;
	value: number;
	uncertainty90: number;
	/** ms since 1970 */
	at: number;
}

/** Readings that the welds alone have made: at moments the forecast speaks of, and before anybody put the piece right. @param rightedAt ms since 1970 */
export const ofWelds = <R extends { moment: ReadMoment; at: number }>(readings: readonly R[], rightedAt?: number): (R & { moment: Moment })[] =>
	readings.filter((r): r is R & { moment: Moment } => isForecast(r.moment) && (rightedAt === undefined || r.at < rightedAt));
