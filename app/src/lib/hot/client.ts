/** The worker that watches seams: one question at a time, ended by ending it. Answers are kept by what was asked. */
import { proxy, wrap, type Remote } from 'comlink';
import type { PlanDocument } from '$core/document/schema';
import type { HotChange } from '$core/hot/ofPlan';
import type { TackTrial, Watched } from '$core/hot/watch';
import type { Outcome } from '$lib/in-worker';
import type { HotApi } from './protocol';

const MOST_KEPT = 12;

export class HotClient {
	private worker?: Worker;
	private api?: Remote<HotApi>;
	private ended?: () => void;
	private readonly kept = new Map<string, Watched>();

	private get remote(): Remote<HotApi> {
		if (!this.api) {
			this.worker = new Worker(new URL('./hot.worker.ts', import.meta.url), { type: 'module' });
			this.api = wrap<HotApi>(this.worker);
		}
		return this.api;
	}

	/** @returns undefined when it was ended */
	async watch(plan: PlanDocument, joint: string, change: HotChange, share: (p: number) => void): Promise<Outcome<Watched> | undefined> {
		const key = JSON.stringify([plan, joint, change]);
		const known = this.kept.get(key);
		if (known) return { ok: true, data: known };
		const answer = await this.orEnded<Outcome<Watched>>(this.remote.watch(plan, joint, change, proxy(share)));
		if (answer?.ok) {
			if (this.kept.size >= MOST_KEPT) this.kept.clear();
			this.kept.set(key, answer.data);
		}
		return answer;
	}

	tacks = (plan: PlanDocument, joint: string, tell: (trial: TackTrial) => void, share: (p: number) => void) =>
		this.orEnded<Outcome<null>>(this.remote.tacks(plan, joint, proxy(tell), proxy(share)));

	/** A worker that is ended never answers: whoever waits for it is told. */
	private orEnded<T>(answer: Promise<T>): Promise<T | undefined> {
		return Promise.race([answer, new Promise<undefined>((resolve) => (this.ended = () => resolve(undefined)))]);
	}

	end() {
		this.worker?.terminate();
		this.worker = undefined;
		this.api = undefined;
		this.ended?.();
	}
}
