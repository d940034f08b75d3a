<script lang="ts">
	/** The metal as a thermometer shows it, asked where the plan waits for it: one field, beside the wait. */
	import { FIELD_WORDS } from '$core/weldout/happenings';
	import type { PlanDocument } from '$core/document/schema';
	import { readTyped } from './typed';

	interface Props {
		plan: PlanDocument;
		step: string;
		/** what reads temperatures, of the shop's register */
		instruments: readonly string[];
		onread(metalC: number, instrument: string): void;
	}
	let { plan, step, instruments, onread }: Props = $props();
	let metal = $state('');
	let instrument = $state('');
	const typed = $derived(readTyped('happened', 'metal', { metalC: metal, instrument }, step, plan, 'mm'));
	const box = 'mt-1 min-h-14 rounded-sm border border-steel-500 bg-white px-3 text-xl';
</script>

<form
	class="mt-3 flex flex-wrap items-end gap-3"
	onsubmit={(e) => {
		e.preventDefault();
		if (typed.data?.metalC === undefined) return;
		onread(typed.data.metalC, instrument.trim());
		metal = '';
	}}
>
	<label class="block text-lg font-medium" for="metal-read"
		>{FIELD_WORDS.metalC} beside the next run<input
			id="metal-read"
			class="{box} tab block w-32"
			inputmode="decimal"
			autocomplete="off"
			maxlength={6}
			bind:value={metal}
		/></label
	>
	{#if instruments.length}
		<label class="block text-lg font-medium" for="metal-with"
			>{FIELD_WORDS.instrument}<select id="metal-with" class="{box} block pr-10" bind:value={instrument}
				><option value="">–</option>{#each instruments as i (i)}<option value={i}>{i}</option>{/each}</select
			></label
		>
	{/if}
	<button
		type="submit"
		class="min-h-14 rounded-sm border-2 border-steel-700 bg-white px-5 text-lg font-semibold disabled:text-steel-400"
		disabled={!typed.data}>Log what it reads</button
	>
	{#if metal.trim() && typed.faults.length}<p class="self-center text-lg text-steel-600">{typed.faults.join('. ')}.</p>{/if}
</form>
