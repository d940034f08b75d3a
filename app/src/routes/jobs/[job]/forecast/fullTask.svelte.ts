import type { Forecast } from '$core/forecast/forecast';
import { call } from '$lib/call';
import type { PlanDesk } from '$lib/desk/plan-desk.svelte';
import { TaskWatch, type TaskState } from '$lib/task-watch.svelte';

/** Positions come as base64 of 32-bit numbers. */
const numbers = (text: string) => new Float32Array(Uint8Array.from(atob(text), (c) => c.charCodeAt(0)).buffer);

/** A full forecast of the plan on the desk, whose answer is laid on the desk. */
export class FullTask extends TaskWatch<unknown> {
	/** the plan it was asked for */
	of = $state.raw<unknown>();

	constructor(private readonly desk: PlanDesk) {
		super();
	}
	/** What the server has already for this plan, after a reload. */
	async look() {
		const { desk } = this;
		const doc = desk.doc;
		const r = await call<{ task: TaskState<unknown> | null; revision: number; version: number }>('GET', `/api/jobs/${desk.jobId}/tasks`);
		if (!r.ok || !r.data.task || desk.saving !== 'saved' || r.data.version !== desk.version || r.data.revision !== desk.revision) return;
		this.of = doc;
		await this.watch(r.data.task);
	}
	async start() {
		const { desk } = this;
		this.message = '';
		if (desk.saving !== 'saved') await desk.save();
		const doc = desk.doc;
		const r = await call<{ task: TaskState<unknown> }>('POST', `/api/jobs/${desk.jobId}/tasks`, { revision: desk.revision, version: desk.version });
		if (!r.ok) return void (this.message = r.refusal.message);
		this.of = doc;
		await this.watch(r.data.task);
	}
	protected async over({ id, state }: TaskState<unknown>) {
		if (state !== 'done') return;
		const doc = this.of;
		const r = await call<{ result: Forecast; steps: string[]; other?: string }>('GET', `/api/tasks/${id}/result`);
		if (r.ok)
			this.desk.full = {
				doc,
				result: r.data.result,
				steps: r.data.steps.map(numbers),
				other: r.data.other && numbers(r.data.other)
			} as typeof this.desk.full;
		else this.message = r.refusal.message;
	}
}
