<script lang="ts">
	/** What a search or an advice is after: weight of each feature, of time, heat and flips. */
	import type { SearchGoals } from '$core/search/cost';
	import { getDesk } from '$lib/desk/plan-desk.svelte';
	import NumberField from '$lib/ui/NumberField.svelte';
	import Panel from '$lib/ui/Panel.svelte';
	import { Checkbox } from 'flowbite-svelte';

	let { goals = $bindable(), order = true }: { goals: SearchGoals; order?: boolean } = $props();
	const desk = getDesk();
</script>

<Panel title="What counts">
	<p class="mb-2 text-[13px] text-steel-600">Each feature counts by the square of how near its limit it comes, times its weight. 0 leaves it out.</p>
	<div class="grid grid-cols-2 gap-2">
		{#each desk.doc.features as f (f.id)}
			<NumberField
				label={f.name}
				value={goals.features[f.id] ?? 1}
				min={0}
				max={100}
				onchange={(v) => (goals = { ...goals, features: { ...goals.features, [f.id]: v ?? 1 } })}
			/>
		{/each}
	</div>
	{#if !desk.doc.features.length}<p class="text-sm">The plan names no feature yet: only time, heat and flips can be weighed.</p>{/if}
	{#if order}
		<div class="mt-3 grid grid-cols-2 gap-2 border-t border-steel-200 pt-3">
			<NumberField label="An hour of weld-out" value={goals.time} min={0} max={100} onchange={(v) => (goals = { ...goals, time: v ?? 0 })} />
			<NumberField label="Starting at the ceiling" value={goals.heat} min={0} max={100} onchange={(v) => (goals = { ...goals, heat: v ?? 0 })} />
			<NumberField label="One flip" value={goals.flip} min={0} max={100} onchange={(v) => (goals = { ...goals, flip: v ?? 0 })} />
			<NumberField
				label="Flips, at most"
				value={goals.maxFlips}
				optional
				min={0}
				max={500}
				hint="empty: any number"
				onchange={(v) => (goals = { ...goals, maxFlips: v === undefined ? undefined : Math.round(v) })}
			/>
		</div>
		<Checkbox
			class="mt-2 text-sm"
			checked={goals.mayReverse}
			onchange={(e) => (goals = { ...goals, mayReverse: (e.currentTarget as HTMLInputElement).checked })}>Runs may be laid the other way</Checkbox
		>
	{/if}
</Panel>
