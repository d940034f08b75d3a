/**
 * Readings as they are being typed: kept in the browser with each key, so that a reload takes nothing; and one name for a reading
 * however often it is sent, so that a second press or a retry makes no second reading.
 */
import { uuid } from '$lib/uuid';
import type { Posture, ReadMoment } from '$core/document/words';

interface Kept {
	cells: Record<string, string[]>;
	moment?: ReadMoment;
	lies?: Posture;
	instrument?: string;
	/** of the register */
	instrumentId?: string;
	metalC?: number;
	/** the last reading sent, word for word, and the name it went under */
	sent?: { body: string; clientId: string };
}

export class ReadingDraft {
	private kept = $state<Kept>({ cells: {} });
	private readonly key: string;

	constructor(pieceId: string) {
		this.key = `sarta-reading-${pieceId}`;
	}
	/** Browser only: takes up what was being typed. */
	begin() {
		try {
			const kept = JSON.parse(localStorage.getItem(this.key) ?? 'null') as Kept | null;
			if (kept && typeof kept === 'object' && kept.cells) this.kept = kept;
		} catch {
			// what cannot be read is as good as none
		}
	}
	/** @param isFree as many as were being typed, where a person chooses how many */
	cells(feature: string, count: number, isFree = false): string[] {
		const cells = this.kept.cells[feature];
		return cells && (isFree || cells.length === count) ? cells : Array.from({ length: count }, () => '');
	}
	setCells(feature: string, cells: string[]) {
		this.kept.cells[feature] = cells;
		this.keep();
	}
	get moment() {
		return this.kept.moment;
	}
	get lies() {
		return this.kept.lies;
	}
	get instrument() {
		return this.kept.instrument;
	}
	get instrumentId() {
		return this.kept.instrumentId;
	}
	get metalC() {
		return this.kept.metalC;
	}
	set(change: Partial<Pick<Kept, 'moment' | 'lies' | 'instrument' | 'instrumentId' | 'metalC'>>) {
		this.kept = { ...this.kept, ...change };
		this.keep();
	}
	/** The name of this reading: the same for the same words, another once anything is changed. */
	nameOf(body: unknown): string {
		const words = JSON.stringify(body);
		if (this.kept.sent?.body !== words) {
			this.kept.sent = { body: words, clientId: uuid() };
			this.keep();
		}
		return this.kept.sent!.clientId;
	}
	/** The server has it: its cells are free for the next. */
	taken(feature: string) {
		delete this.kept.cells[feature];
		this.kept.sent = undefined;
		this.keep();
	}
	private keep() {
		try {
			localStorage.setItem(this.key, JSON.stringify(this.kept));
		} catch {
			// a private window: the page itself still has it
		}
	}
}
