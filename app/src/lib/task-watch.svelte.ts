/** A task of the server's as a page watches it: looked at until it is over, stopped on request. */
import { call } from './call';

export interface TaskState<P> {
	id: string;
	state: 'queued' | 'running' | 'done' | 'failed' | 'cancelled';
	progress: number;
	message: string;
	attempts: number;
	partial: P | null;
}

const POLL_MS = 1000;

export abstract class TaskWatch<P> {
	task = $state.raw<TaskState<P> | undefined>();
	message = $state('');
	private timer?: ReturnType<typeof setTimeout>;
	private isGone = false;

	get isBusy() {
		return this.task?.state === 'queued' || this.task?.state === 'running';
	}
	async stop() {
		if (!this.task) return;
		const r = await call<{ task: TaskState<P> }>('POST', `/api/tasks/${this.task.id}/cancel`);
		if (r.ok) this.task = r.data.task;
		else this.message = r.refusal.message;
	}
	/** The page is left. */
	end() {
		this.isGone = true;
		clearTimeout(this.timer);
	}

	/** Something of it is known already. */
	protected soFar?(partial: P): void;
	/** It has come to its end, whichever. */
	protected abstract over(task: TaskState<P>): Promise<void>;

	/** Watches this task in place of any before. */
	protected async watch(task: TaskState<P>): Promise<void> {
		clearTimeout(this.timer);
		this.task = task;
		if (this.isGone) return;
		if (task.partial) this.soFar?.(task.partial);
		if (!this.isBusy) return this.over(task);
		this.timer = setTimeout(async () => {
			const r = await call<{ task: TaskState<P> }>('GET', `/api/tasks/${task.id}`);
			// stopped or another watched meanwhile: what was asked for is not of this one
			if (this.task?.id === task.id) await this.watch(r.ok ? r.data.task : this.task);
		}, POLL_MS);
	}
}
