<script lang="ts">
	/** One decision: what, why, what it brings with its band, what it costs in minutes; taken or left. */
	import type { Card } from '$core/propose/propose';
	import type { LengthUnit } from '$core/units/length';
	import { quantity } from '$lib/units';
	import { Checkbox } from 'flowbite-svelte';

	interface Props {
		card: Card;
		unit: LengthUnit;
		taken: boolean;
		disabled: boolean;
		onchange: (on: boolean) => void;
	}
	let { card, unit, taken, disabled, onchange }: Props = $props();
	const KIND: Record<Card['kind'], string> = {
		settings: 'Weld',
		root: 'Hold',
		hold: 'Hold',
		preset: 'Fit-up',
		tacks: 'Tack',
		order: 'Order',
		cooling: 'Order',
		'hold-point': 'Weld-out'
	};
	const most = $derived(card.gain.most);
	const minutes = $derived(Math.round(10 * card.gain.minutes) / 10);
	const cost = $derived(minutes === 0 ? 'no time' : minutes > 0 ? `${minutes} min more` : `${-minutes} min less`);
</script>

<article class="border-l-4 px-3 py-2 {taken ? 'border-primary-600 bg-primary-50' : 'border-steel-300 bg-steel-50'}">
	<div class="flex items-start gap-3">
		<Checkbox
			class="mt-0.5 min-h-6 min-w-6"
			checked={taken}
			{disabled}
			aria-label="Take: {card.what}"
			onchange={(e) => onchange((e.currentTarget as HTMLInputElement).checked)}
		/>
		<div class="min-w-0 flex-1">
			<p class="font-medium">{card.what}</p>
			<p class="text-[13px] text-steel-700">{card.why}</p>
			<p class="mt-0.5 text-[13px]">
				<span class="text-steel-600">{KIND[card.kind]} ·</span>
				{#if most}{most.name}: <span class="tab">{quantity(most.without, most.unit, unit)}</span> without it,
					<span class="tab">{quantity(most.without + most.difference.predicted, most.unit, unit)}</span>
					with it (difference <span class="tab">{quantity(most.difference.low, most.unit, unit)}</span> to
					<span class="tab">{quantity(most.difference.high, most.unit, unit)}</span>, quick) ·
				{/if}<span class="tab">{cost}</span>{card.isNeeded ? ' · the weld is not sound without it' : ''}
			</p>
		</div>
	</div>
</article>
