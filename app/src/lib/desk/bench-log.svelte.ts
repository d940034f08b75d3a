/** The bench log of one piece on this device: what the server has, and behind it what is still on its way. */
import { call } from '$lib/call';
import type { EventKind } from '$core/document/words';
import { followBench } from './follow';
import { benchQueue, type BenchQueue, type LogEvent, type LogPiece, type TapMore } from './bench-queue.svelte';

export class BenchLog {
	readonly pieceId: string;
	events = $state.raw<LogEvent[]>([]);
	private unfollow?: () => void;
	private unwatch?: () => void;

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
		this.unfollow = this.queue.follow(this.pieceId, { last: () => this.last, take: (piece) => this.take(piece) });
		// other tablets work on the same piece
		this.unwatch = followBench(this.pieceId, () => void this.look());
	}
	end() {
		this.unwatch?.();
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
	add(kind: EventKind, step?: string, more: TapMore = {}) {
		return this.queue.add(this.pieceId, kind, step, more);
	}
	correct = (clientId: string, note: string) => this.queue.correct(clientId, note);
	leaveOut = (clientId: string) => this.queue.leaveOut(clientId);
	send = () => this.queue.send();

	/** number of the last line that is here */
	private get last(): number {
		return this.events[this.events.length - 1]?.seq ?? 0;
	}
	/** A log only grows: of an answer that was overtaken on its way nothing is new; one that begins further on leaves a gap, which is asked for. */
	private take({ after, events, more }: LogPiece) {
		const { last } = this;
		if (after > last) return void this.look();
		const fresh = events.filter((e) => (e.seq ?? 0) > last);
		if (fresh.length) {
			this.events = [...this.events, ...fresh];
			void this.queue.keepSeen(this.pieceId, this.events);
		}
		if (more && fresh.length) void this.look();
	}
	/**
	 * With the server gone the page may be this browser's own copy, older than what was seen since. Where the server answers, it alone is
	 * asked: after a restore it may know less than was seen here.
	 */
	private async look() {
		const r = await call<LogPiece>('GET', `/api/pieces/${this.pieceId}/events?after=${this.last}`);
		if (r.ok) this.take(r.data);
		else if (r.refusal.status === 0 || r.refusal.status >= 500) this.take({ after: 0, events: await this.queue.seen(this.pieceId) });
	}
}
