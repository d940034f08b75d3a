/**
 * What was tapped at the bench on this device and has not arrived: kept before it is sent, sent in order from whatever page is open, by
 * whoever is signed in, under the name of whoever tapped it.
 */
import { call } from '$lib/call';
import { uuid } from '$lib/uuid';
import type { EventKind } from '$core/document/words';
import type { LogLine } from '$core/weldout/logbook';
import { shopNow } from './clock';
import { fleetingTaps, openTaps, type RefusedTap, type Tap, type TapStore } from './taps';

/** A line of the log as the server has it, or as it will. */
export interface LogEvent extends Omit<LogLine, 'at'> {
	seq?: number;
	happenedAt: string;
	person?: string;
}

/** What a tap may say beside its kind and step. */
export type TapMore = Partial<Pick<Tap, 'note' | 'about' | 'data'>> & {
	/** of a line that a device says: two pages that hear it make one */
	clientId?: string;
};

const RETRY_MS = 4000;
/** Sent at once; the rest follows. */
const BATCH = 100;
const CHANNEL = 'sarta-bench';

/** What follows one line of a log; where there is still more, it is asked for. */
export interface LogPiece {
	/** number of the line that it follows */
	after: number;
	events: LogEvent[];
	more?: boolean;
}
/** Who shows a piece's log, and up to which line. */
export interface LogReader {
	last(): number;
	take(piece: LogPiece): void;
}
interface Sent extends LogPiece {
	refused?: { clientId: string; message: string }[];
}

export class BenchQueue {
	waiting = $state.raw<Tap[]>([]);
	refused = $state.raw<RefusedTap[]>([]);
	message = $state('');
	/** who is signed in here; absent on the sign-in page, where nothing is sent */
	private stamp?: string | null;
	private isSignedIn = false;
	private store?: Promise<TapStore>;
	/** writes of this page, one after the other */
	private writing: Promise<void> = Promise.resolve();
	private sending?: Promise<void>;
	private timer?: ReturnType<typeof setTimeout>;
	private channel?: BroadcastChannel;
	/** pieces that this page shows: told what arrives of theirs */
	private readonly readers = new Map<string, Set<LogReader>>();
	/** the message is of taps that wait: it goes with them, whichever tab sends them */
	private isOfWaiting = false;
	/** taps that are on this page only */
	private readonly unkept = new Set<string>();
	/** pieces whose taps are not taken at all: they wait, the others go on */
	private readonly stuck = new Set<string>();

	constructor(private readonly open: () => Promise<TapStore> = openTaps) {}

	/** Browser only, by the page's frame: once at the start, and again when somebody signs in or out. */
	async begin(person: { stamp?: string | null } | null) {
		this.stamp = person?.stamp;
		this.isSignedIn = person !== null;
		this.stuck.clear();
		if (!this.channel && typeof BroadcastChannel !== 'undefined') {
			this.channel = new BroadcastChannel(CHANNEL);
			this.channel.onmessage = ({ data }: MessageEvent<{ piece?: string; log?: LogPiece }>) => {
				if (data.piece && data.log) this.tell(data.piece, data.log);
				void this.look();
			};
		}
		await this.look();
		void this.send();
	}
	end() {
		clearTimeout(this.timer);
		this.channel?.close();
		this.channel = undefined;
	}
	/** @returns how to stop */
	follow(pieceId: string, reader: LogReader): () => void {
		const readers = this.readers.get(pieceId) ?? new Set();
		this.readers.set(pieceId, readers.add(reader));
		return () => void readers.delete(reader);
	}
	add(pieceId: string, kind: EventKind, step?: string, { note, about, data, clientId = uuid() }: TapMore = {}) {
		const tap: Tap = {
			clientId,
			pieceId,
			kind,
			...(step ? { step } : {}),
			...(note ? { note } : {}),
			...(about ? { about } : {}),
			...(data ? { data } : {}),
			happenedAt: new Date(shopNow()).toISOString(),
			...(this.stamp ? { stamp: this.stamp } : {})
		};
		this.waiting = [...this.waiting, tap];
		this.unkept.add(tap.clientId);
		return this.write(async (store) => {
			await store.add(tap);
			this.unkept.delete(tap.clientId);
		});
	}
	/** A refused event goes again with other words, under its own name and time. */
	correct(clientId: string, note: string) {
		const found = this.refused.find((r) => r.clientId === clientId);
		if (!found) return;
		const tap = { ...found.tap, note: note || undefined };
		this.refused = this.refused.filter((r) => r !== found);
		this.waiting = [...this.waiting, tap];
		return this.write((store) => store.again(clientId, tap));
	}
	leaveOut(clientId: string) {
		this.refused = this.refused.filter((r) => r.clientId !== clientId);
		return this.write((store) => store.again(clientId));
	}

	private async kept(): Promise<TapStore> {
		this.store ??= this.open().catch(() => {
			this.message = 'This browser keeps nothing: stay on this page until everything is sent.';
			return fleetingTaps();
		});
		return this.store;
	}
	/** A piece's log as this browser last saw it. */
	async seen(pieceId: string): Promise<LogEvent[]> {
		return (await (await this.kept()).log(pieceId).catch(() => [])) as LogEvent[];
	}
	async keepSeen(pieceId: string, events: readonly LogEvent[]): Promise<void> {
		// not kept, it is asked of the server again
		await (await this.kept()).keepLog(pieceId, events).catch(() => {});
	}
	/** Keeps, then sends: what is lost with the page is at least in the browser. */
	private write(change: (store: TapStore) => Promise<void>): Promise<void> {
		this.writing = this.writing
			.then(async () => change(await this.kept()))
			.catch(() => {
				this.message = 'This browser keeps nothing: stay on this page until everything is sent.';
			})
			.then(() => {
				this.channel?.postMessage({});
				void this.send();
			});
		return this.writing;
	}
	/** Takes up what other tabs and earlier visits have left. */
	private async look() {
		await this.writing;
		const store = await this.kept();
		const [waiting, refused] = [await store.waiting(), await store.refused()];
		const have = new Set(waiting.map((t) => t.clientId));
		// what could not be kept is still on this page
		this.waiting = [...waiting, ...this.waiting.filter((t) => this.unkept.has(t.clientId) && !have.has(t.clientId))];
		this.refused = refused;
		if (!this.waiting.length && this.isOfWaiting) this.settled();
	}
	private settled() {
		this.message = '';
		this.isOfWaiting = false;
	}
	private tell(pieceId: string, log: LogPiece) {
		for (const reader of this.readers.get(pieceId) ?? []) reader.take(log);
	}
	/** the line from which on the readers of a piece know nothing */
	private after(pieceId: string): number {
		const lasts = [...(this.readers.get(pieceId) ?? [])].map((r) => r.last());
		return lasts.length ? Math.min(...lasts) : 0;
	}

	/** Until everything is sent, or cannot be for now. */
	send(): Promise<void> {
		return (this.sending ??= this.sendAll().finally(() => (this.sending = undefined)));
	}
	private async sendAll() {
		clearTimeout(this.timer);
		for (;;) {
			const first = this.isSignedIn ? this.waiting.find((t) => !this.stuck.has(t.pieceId)) : undefined;
			if (!first || !(await this.sendPiece(first.pieceId))) return;
		}
	}
	/** @returns whether to go on */
	private async sendPiece(pieceId: string): Promise<boolean> {
		const batch = this.waiting.filter((t) => t.pieceId === pieceId).slice(0, BATCH);
		const r = await call<Sent>('POST', `/api/pieces/${pieceId}/events`, {
			after: this.after(pieceId),
			events: batch.map(({ clientId, kind, step, note, about, data, happenedAt, stamp }) => ({
				clientId,
				kind,
				...(step ? { step } : {}),
				...(note ? { note } : {}),
				...(about ? { about } : {}),
				...(data ? { data } : {}),
				happenedAt,
				...(stamp ? { stamp } : {})
			}))
		});
		if (r.ok) {
			const why = new Map((r.data.refused ?? []).map((x) => [x.clientId, x.message]));
			const refused = batch.flatMap((tap) => (why.has(tap.clientId) ? [{ clientId: tap.clientId, tap, message: why.get(tap.clientId)! }] : []));
			const settled = new Set(batch.map((t) => t.clientId));
			const { after, events, more } = r.data;
			this.tell(pieceId, { after, events, more });
			this.waiting = this.waiting.filter((t) => !settled.has(t.clientId));
			this.refused = [...this.refused, ...refused];
			this.settled();
			this.channel?.postMessage({ piece: pieceId, log: { after, events, more } });
			void this.write((store) => store.settle([...settled], refused));
			return true;
		}
		const { status, message } = r.refusal;
		if (status === 0 || status >= 500 || status === 429) {
			this.message = `Not sent yet (${this.waiting.length}): kept on this device, trying again.`;
			this.isOfWaiting = true;
			this.timer = setTimeout(() => void this.send(), RETRY_MS);
			return false;
		}
		if (status === 401) {
			this.message = `Not sent yet (${this.waiting.length}): kept on this device until somebody signs in.`;
			this.isOfWaiting = true;
			this.isSignedIn = false;
			return false;
		}
		// refused as a whole, for a reason: these stay visible and wait, what is of other pieces goes on
		this.message = message;
		this.stuck.add(pieceId);
		return true;
	}
}

/** The one of this page. */
export const benchQueue = new BenchQueue();
