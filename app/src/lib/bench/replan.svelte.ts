/** What is worked out for a piece from where it stands: asked, watched, stopped, taken over. */
import type { Replan } from '$core/search/replan';
import { call } from '$lib/call';
import { TaskWatch, type TaskState } from '$lib/task-watch.svelte';
import { uuid } from '$lib/uuid';

interface Partial {
	phase?: string;
	soFar?: Replan;
}

export class ReplanWatch extends TaskWatch<Partial> {
	found = $state.raw<Replan | undefined>();
	isTaking = $state(false);
	/** one id a way: pressing twice takes it over once */
	private readonly ids: Record<string, string> = {};
	/** an answer to an older question is not shown under a newer one */
	private asked = 0;

	constructor(private readonly piece: string) {
		super();
	}

	get phase() {
		return this.task?.state === 'queued' ? 'Waits for a free worker' : (this.task?.partial?.phase ?? 'Begins');
	}
	async ask() {
		this.message = '';
		this.found = undefined;
		void this.askFirst(++this.asked);
		const r = await call<{ task: TaskState<Partial> }>('POST', `/api/pieces/${this.piece}/replan`);
		if (!r.ok) return void (this.message = r.refusal.message);
		await this.watch(r.data.task);
	}
	/** Where it ends as planned, without waiting for a worker. What the task says is better, and stays. */
	private async askFirst(mine: number) {
		const r = await call<{ replan: Replan }>('GET', `/api/pieces/${this.piece}/replan`);
		if (r.ok && mine === this.asked) this.found ??= r.data.replan;
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
	/** the first figures are there before the rest */
	protected soFar(partial: Partial) {
		if (partial.soFar) this.found = partial.soFar;
	}
	protected async over({ id, state, message }: TaskState<Partial>) {
		if (state === 'failed') return void (this.message = message || 'This could not be worked out.');
		const r = await call<{ replan: Replan }>('GET', `/api/pieces/${this.piece}/replan/${id}`);
		if (r.ok) this.found = r.data.replan;
		else if (state === 'done') this.message = r.refusal.message;
	}
}
