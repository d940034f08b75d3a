/** The worker that lays scans: one at a time, ended by ending it. */
import { proxy, transfer, wrap, type Remote } from 'comlink';
import type { PlanDocument } from '$core/document/schema';
import type { Outcome } from '$lib/in-worker';
import type { ScanAnswer, ScanApi, ScanAsk } from './protocol';

export class ScanClient {
	private worker?: Worker;
	private ended?: () => void;

	/** @returns undefined when it was ended */
	async lay(plan: PlanDocument, ask: ScanAsk, progress: (share: number) => void): Promise<Outcome<ScanAnswer> | undefined> {
		this.end();
		this.worker = new Worker(new URL('./scan.worker.ts', import.meta.url), { type: 'module' });
		const api: Remote<ScanApi> = wrap<ScanApi>(this.worker);
		const over = new Promise<undefined>((resolve) => (this.ended = () => resolve(undefined)));
		return Promise.race([api.lay(plan, transfer(ask, [ask.bytes]), proxy(progress)), over]);
	}

	end() {
		this.worker?.terminate();
		this.worker = undefined;
		this.ended?.();
	}
}
