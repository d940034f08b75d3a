<script lang="ts">
	/** Features as the plan stands and as proposed: by the final shape for the slider's sets, by the paired difference for a choice of one's own. */
	import type { FeatureDifference } from '$core/forecast/compare';
	import { exceedance } from '$core/search/cost';
	import type { Column, Proposal } from '$core/propose/propose';
	import type { LengthUnit } from '$core/units/length';
	import { quantity } from '$lib/units';

	interface Props {
		proposal: Proposal;
		unit: LengthUnit;
		/** of one of the slider's sets */
		column?: Column;
		/** of a choice of one's own, against the plan as it stands */
		difference?: readonly FeatureDifference[];
		isBusy: boolean;
		message: string;
		minutes: number;
	}
	let { proposal, unit, column, difference, isBusy, message, minutes }: Props = $props();
	const BY = { 'final-shape': 'final shape', quick: 'quick' } as const;
	/** a band under its value says the unit once */
	const bare = (v: number, of: 'mm' | '°') => quantity(v, of, unit).replace(/( mm| in|°)$/, '');
	const isOut = (k: number, v: number) => {
		const { upper, lower } = proposal.features[k];
		return Math.abs(exceedance({ tolerance: { upper, lower, source: '' } }, v)) > 1;
	};
	const rows = $derived(
		proposal.features.map((f, k) => {
			const now = proposal.now.values[k];
			const d = difference?.find((x) => x.id === f.id)?.difference;
			return {
				...f,
				now,
				then: column?.values[k] ?? (d && { predicted: now.predicted + d.predicted, low: now.predicted + d.low, high: now.predicted + d.high })
			};
		})
	);
</script>

<!-- svelte-ignore a11y_no_noninteractive_tabindex -->
<div class="mt-2 overflow-x-auto" role="region" aria-label="Features as they stand and as proposed" tabindex="0">
	<table class="w-full border-collapse text-sm">
		<thead>
			<tr class="border-b-2 border-steel-700 text-right align-bottom">
				<th scope="col" class="py-1 pr-4 text-left">Feature</th>
				<th scope="col" class="px-2 py-1 font-medium">Limit</th>
				<th scope="col" class="px-2 py-1 font-medium">As it stands, {BY[proposal.now.by]}</th>
				<th scope="col" class="px-2 py-1 font-medium">{column ? `Proposed, ${BY[column.by]}` : 'Your choice, by the paired difference'}</th>
			</tr>
		</thead>
		<tbody>
			{#each rows as r, k (r.id)}
				<tr class="border-b border-steel-200 text-right">
					<th scope="row" class="py-1 pr-4 text-left font-normal">{r.name}</th>
					<td class="tab px-2 whitespace-nowrap text-steel-600">{r.lower === undefined ? '' : '±'}{quantity(r.upper, r.unit, unit)}</td>
					{#each [r.now, r.then] as v, i (i)}
						<td class="tab px-2 py-1 whitespace-nowrap {v && isOut(k, v.predicted) ? 'font-semibold text-plum-700' : ''}"
							>{#if v}{isOut(k, v.predicted) ? '✕ ' : ''}{quantity(v.predicted, r.unit, unit)}<span
									class="block text-[12px] font-normal text-steel-600">{bare(v.low, r.unit)} to {bare(v.high, r.unit)}</span
								>{:else}<span class="text-steel-600">{isBusy ? '…' : '–'}</span>{/if}</td
						>
					{/each}
				</tr>
			{/each}
			<tr class="text-right">
				<th scope="row" class="py-1.5 pr-4 text-left font-normal">At the bench, a piece</th><td></td>
				<td class="tab px-2">{Math.round(proposal.now.minutes)} min</td>
				<td class="tab px-2">{Math.round(minutes)} min</td>
			</tr>
		</tbody>
	</table>
</div>
{#if column?.words}<p class="mt-1 text-sm text-plum-700">{column.words}</p>{/if}
{#if message}<p class="mt-1 text-sm text-plum-700">{message}</p>{/if}
<p class="mt-1 text-[12px] text-steel-600">
	Bands hold 90 %. The slider’s three sets were forecast to the final shape; a choice of your own is the plan’s final shape with the quick method’s
	paired difference laid on it: take it over and ask for its final shape on the Forecast page.
</p>
