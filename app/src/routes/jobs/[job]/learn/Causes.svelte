<script lang="ts">
	/** What may have gone wrong with a piece that came out otherwise than foretold. */
	import { IS_ODD, SLIP_RARER, type WhatWrong } from '$core/learn/whatWrong';
	import { quantity } from '$lib/units';
	import Panel from '$lib/ui/Panel.svelte';

	let { wrong, unit }: { wrong: WhatWrong; unit: 'mm' | 'in' } = $props();
	const SHOWN = 4;
	/** Kass and Raftery 1995: 3.2 to 10 substantial, to 100 strong, beyond decisive */
	const wordsOf = (log: number) =>
		log > Math.log(1e6)
			? 'more than a million times better'
			: `${Math.exp(log) < 10 ? Math.exp(log).toFixed(1) : Math.round(Math.exp(log)).toLocaleString()} times better`;
	const strength = (log: number) => (log > Math.log(100) ? 'very strong' : log > Math.log(10) ? 'strong' : 'worth a look');
	const times = (v: number) => `${Math.abs(v).toFixed(1)} times its usual reach${v < 0 ? ', the other way' : ''}`;
</script>

<Panel title="What may have gone wrong">
	{#if wrong.chance >= IS_ODD}
		<p class="text-sm text-steel-700">
			{wrong.count
				? `All ${wrong.count} readings together lie as the forecast and its bands have it (${Math.round(100 * wrong.chance)} in 100 sound pieces lie farther off): there is nothing to explain.`
				: 'No reading of the finished piece, free of clamps, to look into.'}
		</p>
	{:else if !wrong.suspects.length}
		<p class="text-sm text-steel-700">
			The readings together are odder than they should be, and none of the causes that the forecast knows explains them. Read again, and look at the
			log.
		</p>
	{:else}
		<ol class="text-sm">
			{#each wrong.suspects.slice(0, SHOWN) as s, i (i)}
				<li class="border-t border-steel-200 py-2 first:border-t-0">
					<p>
						<span class="tab mr-1 text-steel-600">{i + 1}.</span><strong class="font-medium">{s.label[0].toUpperCase() + s.label.slice(1)}</strong>, {times(
							s.amount
						)}: explains all readings {wordsOf(s.logBayes)} than chance ({strength(s.logBayes)}).
					</p>
					<p class="mt-0.5 text-[13px] text-steel-600">
						{#each s.explains
							.filter((e) => Math.abs(e.off) - Math.abs(e.left) > 0.2 * Math.abs(e.off))
							.sort((p, q) => Math.abs(q.off) - Math.abs(p.off))
							.slice(0, 3) as e, k (e.feature)}{k ? '; ' : ''}{e.name} off by {quantity(e.off, e.unit, unit)}, with it by {quantity(
								e.left,
								e.unit,
								unit
							)}{/each}
					</p>
				</li>
			{/each}
		</ol>
		{#if wrong.next}<p class="mt-2 text-sm">
				To tell the first two apart, read <strong class="font-medium">{wrong.next.name}</strong>, about {wrong.next.minutes} min: there they differ by
				{wrong.next.apart.toFixed(1)} of its doubt.
			</p>{/if}
		<p class="mt-2 text-[12px] text-steel-600">
			Each cause may have been several times its usual reach; a slip of a reading is taken as {SLIP_RARER} times rarer than any other. The figures say how
			well it fits the readings, not that it happened: look before you act.
		</p>
	{/if}
</Panel>
