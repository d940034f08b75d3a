/** A choice of decisions weighed anew while a person ticks: the last one asked about, one question at a time. */
import type { Comparison } from '$core/forecast/compare';
import type { PlanDocument } from '$core/document/schema';
import type { Outcome } from '$lib/in-worker';

const REST_MS = 250;

export class Reweighed {
	features = $state.raw<Comparison['features'] | undefined>();
	isBusy = $state(false);
	message = $state('');
	private timer?: ReturnType<typeof setTimeout>;
	private asked = 0;

	constructor(private readonly compare: (then: PlanDocument) => Promise<Outcome<Comparison>>) {}

	ask(then: PlanDocument) {
		clearTimeout(this.timer);
		const mine = ++this.asked;
		this.isBusy = true;
		this.message = '';
		this.features = undefined;
		this.timer = setTimeout(async () => {
			const out = await this.compare(then);
			if (mine !== this.asked) return;
			this.isBusy = false;
			if (out.ok) this.features = out.data.features;
			else this.message = out.message;
		}, REST_MS);
	}
}
