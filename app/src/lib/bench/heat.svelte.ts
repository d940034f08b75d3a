/** When it is cool enough, kept as the log grows; one question at a time, the newest one last. */
import { wrap, type Remote } from 'comlink';
import type { HeatAnswer, HeatApi, HeatQuestion } from './heat.worker';

export class HeatWatch {
	answer = $state.raw<HeatAnswer | undefined>();
	private worker?: Worker;
	private remote?: Remote<HeatApi>;
	private isBusy = false;
	private waiting?: HeatQuestion;

	/** Browser only. @param plan as plain data. @returns how to end */
	begin(plan: unknown): () => void {
		this.worker = new Worker(new URL('./heat.worker.ts', import.meta.url), { type: 'module' });
		this.remote = wrap<HeatApi>(this.worker);
		this.isBusy = true;
		this.remote.plan(plan).then(
			() => this.next(),
			() => this.end()
		);
		return () => this.end();
	}
	ask(question: HeatQuestion) {
		this.waiting = question;
		if (!this.isBusy) void this.next();
	}
	private async next() {
		this.isBusy = false;
		const question = this.waiting;
		if (!question || !this.remote) return;
		this.waiting = undefined;
		this.isBusy = true;
		try {
			this.answer = await this.remote.ask(question);
		} catch {
			// the plan's own wait stands then
			this.answer = undefined;
		}
		await this.next();
	}
	private end() {
		this.worker?.terminate();
		this.remote = undefined;
		this.answer = undefined;
	}
}
