<script lang="ts">
	/** The root: bar, purge or both, and how long to sweep. */
	import { GENTLE_FLOW, ROOT_OXYGEN_PPM, sweep } from '$core/weldout/purge';
	import type { RootPlan } from '$core/document/schema';
	import type { RootCare } from '$core/document/words';
	import Choice from '$lib/ui/Choice.svelte';
	import Notice from '$lib/ui/Notice.svelte';
	import NumberField from '$lib/ui/NumberField.svelte';
	import Panel from '$lib/ui/Panel.svelte';

	let {
		root,
		words,
		disabled,
		onchange
	}: {
		root: RootPlan | undefined;
		/** what that means for this piece's roots */
		words: string;
		disabled: boolean;
		onchange: (root: RootPlan) => void;
	} = $props();
	const now = $derived(root ?? { care: 'none' as RootCare });
	const purging = $derived(now.care === 'purge' || now.care === 'both');
	const found = $derived(purging && now.volumeL && now.flowLPerMin ? sweep(now.volumeL, now.flowLPerMin, now.ventMm) : undefined);
	const set = (change: Partial<RootPlan>) => onchange({ ...now, ...change });
</script>

<Panel title="Behind the root">
	<Choice
		label="What keeps air off"
		value={now.care}
		items={[
			{ value: 'none', name: 'nothing' },
			{ value: 'bar', name: 'a tight bar' },
			{ value: 'purge', name: 'argon' },
			{ value: 'both', name: 'bar and argon' }
		]}
		onchange={(v) => set({ care: v as RootCare })}
		{disabled}
	/>
	<p class="mt-1 text-[13px] text-steel-600">{words}</p>
	{#if purging}
		<div class="mt-2 grid grid-cols-3 gap-2">
			<NumberField
				label="Space closed in"
				unit="L"
				value={now.volumeL}
				min={0.01}
				max={100000}
				optional
				onchange={(v) => set({ volumeL: v })}
				{disabled}
			/>
			<NumberField
				label="Flow"
				unit="L/min"
				value={now.flowLPerMin}
				min={0.1}
				max={200}
				optional
				onchange={(v) => set({ flowLPerMin: v })}
				{disabled}
			/>
			<NumberField label="Vent bore" unit="mm" value={now.ventMm} min={1} max={200} optional onchange={(v) => set({ ventMm: v })} {disabled} />
		</div>
		{#if found}
			<p class="mt-2 text-sm">
				Sweep at least <strong class="tab">{Math.ceil(found.mixedMin)} min</strong> before the arc: {found.changes.toFixed(1)} volume changes to {ROOT_OXYGEN_PPM}
				ppm of oxygen if the space mixes, {found.argonL.toFixed(0)} L of argon. If it fills from below without stirring, {Math.ceil(
					found.displacedMin
				)} min would do.
			</p>
			<div class="mt-2 space-y-1">
				{#each found.cautions as c (c)}<Notice kind="caution">{c}</Notice>{/each}
			</div>
		{:else}
			<p class="mt-2 text-[13px] text-steel-600">Give the space and a flow (below {GENTLE_FLOW} L/min) to see how long to sweep.</p>
		{/if}
	{/if}
</Panel>
