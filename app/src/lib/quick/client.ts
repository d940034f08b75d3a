/** One worker for the page. A newer question makes the answer to an older one worthless: it is dropped, or its worker ended. */
import { proxy, wrap, type Remote } from 'comlink';
import type { Forecast } from '$core/forecast/forecast';
import type { ShopFactors } from '$core/factors/factors';
import type { PlanDocument } from '$core/document/schema';
import type { QuickApi } from './protocol';

export class QuickClient {
	private worker?: Worker;
	private api?: Remote<QuickApi>;
	private asked = 0;

	private get remote(): Remote<QuickApi> {
		if (!this.api) {
			this.worker = new Worker(new URL('./forecast.worker.ts', import.meta.url), { type: 'module' });
			this.api = wrap<QuickApi>(this.worker);
		}
		return this.api;
	}

	async geometry(plan: PlanDocument) {
		return this.remote.geometry(plan);
	}

	/** @returns undefined when a newer question came in meanwhile or this one was cancelled */
	async forecast(plan: PlanDocument, factors: ShopFactors | undefined, progress: (share: number) => void, first: (result: Forecast) => void) {
		const mine = ++this.asked;
		const answer = await this.remote.forecast(
			plan,
			factors,
			proxy((p: number) => mine === this.asked && progress(p)),
			proxy((r: Forecast) => mine === this.asked && first(r))
		);
		return mine === this.asked ? answer : undefined;
	}

	compare = (now: PlanDocument, then: PlanDocument, factors: ShopFactors | undefined) => this.remote.compare(now, then, factors);

	deck = (plan: PlanDocument, factors: ShopFactors, title: string) => this.remote.deck(plan, factors, title);

	waiting = (plan: PlanDocument, factors: ShopFactors, progress: (share: number) => void) => this.remote.waiting(plan, factors, proxy(progress));

	/** @returns undefined when it was cancelled */
	async finalShape(plan: PlanDocument, factors: ShopFactors | undefined, progress: (share: number) => void) {
		const mine = ++this.asked;
		const answer = await this.remote.finalShape(
			plan,
			factors,
			proxy((p: number) => mine === this.asked && progress(p))
		);
		return mine === this.asked ? answer : undefined;
	}

	/** @returns undefined when it was cancelled */
	async hot(plan: PlanDocument, factors: ShopFactors | undefined, plain: Forecast | undefined, progress: (share: number) => void) {
		const mine = ++this.asked;
		const answer = await this.remote.hot(
			plan,
			factors,
			plain,
			proxy((p: number) => mine === this.asked && progress(p))
		);
		return mine === this.asked ? answer : undefined;
	}

	/** Ends the worker at once; the next question starts a new one. */
	cancel() {
		this.asked++;
		this.worker?.terminate();
		this.worker = undefined;
		this.api = undefined;
	}
}
