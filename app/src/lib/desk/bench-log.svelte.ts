/** The bench log on this device: events are kept in the browser until the server has them, then sent in order. */
import { call } from '$lib/call';
import { uuid } from '$lib/uuid';

export type EventKind = 'started' | 'step-done' | 'step-problem' | 'note' | 'wait-started' | 'paused' | 'resumed' | 'finished';
export interface LogEvent {
	clientId: string;
	kind: EventKind;
	step?: string | null;
	note?: string | null;
	happenedAt: string;
	person?: string;
}

/** An event that the server did not take, and why: it waits here to be put right or left out, and holds up no other. */
export interface RefusedEvent {
	event: LogEvent;
	message: string;
}

const RETRY_MS = 4000;
/** Sent at once; the rest follows. */
const BATCH = 100;

export class BenchLog {
	readonly pieceId: string;
	events = $state.raw<LogEvent[]>([]);
	unsent = $state.raw<LogEvent[]>([]);
	refused = $state.raw<RefusedEvent[]>([]);
	message = $state('');
	private sending = false;
	private timer?: ReturnType<typeof setTimeout>;

	constructor(pieceId: string, events: LogEvent[]) {
		this.pieceId = pieceId;
		this.events = events;
	}
	private get key() {
		return `sarta-bench-${this.pieceId}`;
	}
	private get refusedKey() {
		return `${this.key}-refused`;
	}
	/** Browser only: picks up what an earlier visit could not send. */
	begin() {
		try {
			const kept = JSON.parse(localStorage.getItem(this.key) ?? '[]') as LogEvent[];
			const known = new Set(this.events.map((e) => e.clientId));
			this.unsent = kept.filter((e) => !known.has(e.clientId));
			this.refused = JSON.parse(localStorage.getItem(this.refusedKey) ?? '[]') as RefusedEvent[];
		} catch {
			this.unsent = [];
			this.refused = [];
		}
		if (this.unsent.length) void this.send();
	}
	end() {
		clearTimeout(this.timer);
	}
	get all(): LogEvent[] {
		return [...this.events, ...this.unsent];
	}
	add(kind: EventKind, step?: string, note?: string) {
		this.unsent = [
			...this.unsent,
			{ clientId: uuid(), kind, ...(step ? { step } : {}), ...(note ? { note } : {}), happenedAt: new Date().toISOString() }
		];
		this.keep();
		void this.send();
	}
	/** A refused event goes again with other words, under its own name and time. */
	correct(clientId: string, note: string) {
		const found = this.refused.find((r) => r.event.clientId === clientId);
		if (!found) return;
		this.refused = this.refused.filter((r) => r !== found);
		this.unsent = [...this.unsent, { ...found.event, note: note || undefined }];
		this.keep();
		void this.send();
	}
	leaveOut(clientId: string) {
		this.refused = this.refused.filter((r) => r.event.clientId !== clientId);
		this.keep();
	}
	private keep() {
		try {
			localStorage.setItem(this.key, JSON.stringify(this.unsent));
			localStorage.setItem(this.refusedKey, JSON.stringify(this.refused));
		} catch {
			this.message = 'This browser keeps nothing: stay on this page until everything is sent.';
		}
	}
	async send() {
		if (this.sending || !this.unsent.length) return;
		this.sending = true;
		clearTimeout(this.timer);
		const batch = this.unsent.slice(0, BATCH);
		const r = await call<{ events: LogEvent[]; refused?: { clientId: string; message: string }[] }>('POST', `/api/pieces/${this.pieceId}/events`, {
			events: batch.map(({ clientId, kind, step, note, happenedAt }) => ({
				clientId,
				kind,
				...(step ? { step } : {}),
				...(note ? { note } : {}),
				happenedAt
			}))
		});
		this.sending = false;
		if (r.ok) {
			this.events = r.data.events;
			const why = new Map((r.data.refused ?? []).map((x) => [x.clientId, x.message]));
			this.refused = [...this.refused, ...batch.flatMap((event) => (why.has(event.clientId) ? [{ event, message: why.get(event.clientId)! }] : []))];
			const sent = new Set(batch.map((e) => e.clientId));
			this.unsent = this.unsent.filter((e) => !sent.has(e.clientId));
			this.message = '';
			this.keep();
			if (this.unsent.length) void this.send();
		} else if (r.refusal.status === 0 || r.refusal.status >= 500) {
			this.message = `Not sent yet (${this.unsent.length}): kept on this device, trying again.`;
			this.timer = setTimeout(() => void this.send(), RETRY_MS);
		} else {
			this.message = r.refusal.message;
			// the server refused these for a reason: they stay visible here and are not sent again by themselves
		}
	}
}
