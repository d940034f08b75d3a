/** A task of the server's as a page follows it: started, watched, stopped, taken up again after a reload. */
import { call } from '$lib/call';
import type { PlanDesk } from '$lib/desk/plan-desk.svelte';

export interface TaskState<P> {
	id: string;
	state: 'queued' | 'running' | 'done' | 'failed' | 'cancelled';
	progress: number;
	message: string;
	attempts: number;
	partial: P | null;
}

const POLL_MS = 1000;

export class TaskOf<P, R> {
	task = $state.raw<TaskState<P> | undefined>();
	result = $state.raw<R | undefined>();
	/** the answer belongs to an older state of the plan */
	isOld = $state(false);
	message = $state('');
	private timer?: ReturnType<typeof setTimeout>;
	private gone = false;
	private of: unknown;

	constructor(
		private readonly desk: PlanDesk,
		private readonly kind: 'order-search' | 'hold-advice' | 'presets'
	) {}

	get isBusy() {
		return this.task?.state === 'queued' || this.task?.state === 'running';
	}
	/** whether the answer is of the plan as it stands now on the desk */
	get isCurrent() {
		return this.result !== undefined && !this.isOld && this.of === this.desk.doc;
	}

	/** What the server has already, after a reload. */
	async look() {
		const doc = this.desk.doc;
		const r = await call<{ task: TaskState<P> | null; ofThisPlan: boolean }>('GET', `/api/jobs/${this.desk.jobId}/tasks?kind=${this.kind}`);
		if (!r.ok || this.gone || !r.data.task) return;
		this.task = r.data.task;
		this.isOld = !r.data.ofThisPlan;
		this.of = doc;
		void this.follow();
	}
	async start(ask: object) {
		this.message = '';
		if (this.desk.saving !== 'saved') await this.desk.save();
		const doc = this.desk.doc;
		const r = await call<{ task: TaskState<P> }>('POST', `/api/jobs/${this.desk.jobId}/tasks`, {
			revision: this.desk.revision,
			version: this.desk.version,
			kind: this.kind,
			...ask
		});
		if (!r.ok) {
			this.message = [r.refusal.message, ...r.refusal.faults.map((f) => `${f.field}: ${f.allowed}`)].join(' ');
			return;
		}
		clearTimeout(this.timer);
		this.result = undefined;
		this.isOld = false;
		this.of = doc;
		this.task = r.data.task;
		void this.follow();
	}
	async stop() {
		if (!this.task) return;
		const r = await call<{ task: TaskState<P> }>('POST', `/api/tasks/${this.task.id}/cancel`);
		if (r.ok) this.task = r.data.task;
	}
	end() {
		this.gone = true;
		clearTimeout(this.timer);
	}

	private async follow() {
		if (!this.task || this.gone) return;
		const { state } = this.task;
		if (state === 'queued' || state === 'running') {
			this.timer = setTimeout(async () => {
				const r = await call<{ task: TaskState<P> }>('GET', `/api/tasks/${this.task!.id}`);
				if (r.ok) this.task = r.data.task;
				void this.follow();
			}, POLL_MS);
			return;
		}
		if (state === 'failed') return;
		const r = await call<R>('GET', `/api/tasks/${this.task.id}/result`);
		if (r.ok) this.result = r.data;
	}
}
