/** The bench log of one piece on this device: what the server has, and behind it what is still on its way. */
import { call } from '$lib/call';
import type { EventKind } from '$core/document/words';
import { benchQueue, type BenchQueue, type LogEvent } from './bench-queue.svelte';

/** Other tablets work on the same piece: their taps are seen here after this long at most. */
const LOOK_MS = 5000;

export class BenchLog {
	readonly pieceId: string;
	events = $state.raw<LogEvent[]>([]);
	private timer?: ReturnType<typeof setInterval>;
	private unfollow?: () => void;

	constructor(
		pieceId: string,
		events: LogEvent[],
		private readonly queue: BenchQueue = benchQueue
	) {
		this.pieceId = pieceId;
		this.events = events;
	}
	/** Browser only. */
	begin() {
		if (!this.pieceId) return;
		this.unfollow = this.queue.follow(this.pieceId, (events) => this.take(events));
		this.timer = setInterval(() => void this.look(), LOOK_MS);
	}
	end() {
		clearInterval(this.timer);
		this.unfollow?.();
	}
	get unsent() {
		return this.queue.waiting.filter((t) => t.pieceId === this.pieceId);
	}
	get refused() {
		return this.queue.refused.filter((r) => r.tap.pieceId === this.pieceId);
	}
	get message() {
		return this.queue.message;
	}
	get all(): LogEvent[] {
		const known = new Set(this.events.map((e) => e.clientId));
		return [...this.events, ...this.unsent.filter((t) => !known.has(t.clientId))];
	}
	add(kind: EventKind, step?: string, note?: string) {
		return this.queue.add(this.pieceId, kind, step, note);
	}
	correct = (clientId: string, note: string) => this.queue.correct(clientId, note);
	leaveOut = (clientId: string) => this.queue.leaveOut(clientId);
	send = () => this.queue.send();

	/** A log only grows: an answer that was overtaken on its way changes nothing. */
	private take(events: LogEvent[]) {
		if (events.length >= this.events.length) this.events = events;
	}
	private async look() {
		if (typeof document !== 'undefined' && document.visibilityState === 'hidden') return;
		const r = await call<{ events: LogEvent[] }>('GET', `/api/pieces/${this.pieceId}/events`);
		if (r.ok) this.take(r.data.events);
	}
}
