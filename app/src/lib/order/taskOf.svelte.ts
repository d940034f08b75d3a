/** A search or advice for the plan on the desk: started, watched, stopped, taken up again after a reload. */
import { call } from '$lib/call';
import type { PlanDesk } from '$lib/desk/plan-desk.svelte';
import { TaskWatch, type TaskState } from '$lib/task-watch.svelte';

export class TaskOf<P, R> extends TaskWatch<P> {
	result = $state.raw<R | undefined>();
	/** the answer belongs to an older state of the plan */
	isOld = $state(false);
	private of: unknown;

	constructor(
		private readonly desk: PlanDesk,
		private readonly kind: 'order-search' | 'hold-advice' | 'presets' | 'proposal'
	) {
		super();
	}

	/** whether the answer is of the plan as it stands now on the desk */
	get isCurrent() {
		return this.result !== undefined && !this.isOld && this.of === this.desk.doc;
	}

	/** What the server has already, after a reload. */
	async look() {
		const doc = this.desk.doc;
		const r = await call<{ task: TaskState<P> | null; ofThisPlan: boolean }>('GET', `/api/jobs/${this.desk.jobId}/tasks?kind=${this.kind}`);
		if (!r.ok || !r.data.task) return;
		this.isOld = !r.data.ofThisPlan;
		this.of = doc;
		await this.watch(r.data.task);
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
		this.result = undefined;
		this.isOld = false;
		this.of = doc;
		await this.watch(r.data.task);
	}
	protected async over({ id, state }: TaskState<P>) {
		if (state === 'failed') return;
		const r = await call<R>('GET', `/api/tasks/${id}/result`);
		if (r.ok) this.result = r.data;
	}
}
