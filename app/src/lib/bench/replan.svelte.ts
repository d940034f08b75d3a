/** What is worked out for a piece from where it stands, as a page follows it: asked, watched, stopped, taken over. */
import type { Replan } from '$core/search/replan';
import { call } from '$lib/call';
import { uuid } from '$lib/uuid';

interface Task {
	id: string;
	state: 'queued' | 'running' | 'done' | 'failed' | 'cancelled';
	progress: number;
	message: string;
	partial: { phase?: string; soFar?: Replan } | null;
}
const POLL_MS = 700;

export class ReplanWatch {
	task = $state.raw<Task | undefined>();
	found = $state.raw<Replan | undefined>();
	message = $state('');
	isTaking = $state(false);
	private timer?: ReturnType<typeof setTimeout>;
	private isGone = false;
	/** one id a way: pressing twice takes it over once */
	private readonly ids: Record<string, string> = {};

	constructor(private readonly piece: string) {}

	get isBusy() {
		return this.task?.state === 'queued' || this.task?.state === 'running';
	}
	get phase() {
		return this.task?.state === 'queued' ? 'Waits for a free worker' : (this.task?.partial?.phase ?? 'Begins');
	}
	async ask() {
		this.message = '';
		this.found = undefined;
		const r = await call<{ task: Task }>('POST', `/api/pieces/${this.piece}/replan`);
		if (!r.ok) return void (this.message = r.refusal.message);
		this.task = r.data.task;
		await this.follow();
	}
	async stop() {
		if (!this.task) return;
		const r = await call<{ task: Task }>('POST', `/api/tasks/${this.task.id}/cancel`);
		if (r.ok) this.task = r.data.task;
	}
	/** @returns whether the piece goes on by it */
	async take(way: string): Promise<boolean> {
		if (!this.task) return false;
		this.isTaking = true;
		const r = await call('POST', `/api/pieces/${this.piece}/replan/${this.task.id}`, { way, clientId: (this.ids[way] ??= uuid()) });
		this.isTaking = false;
		if (!r.ok) this.message = r.refusal.message;
		return r.ok;
	}
	end() {
		this.isGone = true;
		clearTimeout(this.timer);
	}
	private async follow(): Promise<void> {
		if (!this.task || this.isGone) return;
		const { id, state, partial, message } = this.task;
		// the first figures are there before the rest
		if (partial?.soFar) this.found = partial.soFar;
		if (state === 'queued' || state === 'running') {
			this.timer = setTimeout(async () => {
				const r = await call<{ task: Task }>('GET', `/api/tasks/${id}`);
				if (r.ok) this.task = r.data.task;
				await this.follow();
			}, POLL_MS);
			return;
		}
		if (state === 'failed') return void (this.message = message || 'This could not be worked out.');
		const r = await call<{ replan: Replan }>('GET', `/api/pieces/${this.piece}/replan/${id}`);
		if (r.ok) this.found = r.data.replan;
		else if (state === 'done') this.message = r.refusal.message;
	}
}
