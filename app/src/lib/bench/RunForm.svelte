<script lang="ts">
	/** A run that was not laid as planned: stopped short, in stretches, or the other way. */
	import type { StepNow } from '$core/weldout/logbook';
	import { length } from '$lib/units';
	import { untrack } from 'svelte';
	import { readTyped } from './typed';
	import type { BenchPlanView } from './view';

	interface Props {
		now: StepNow;
		view: BenchPlanView;
		unit: 'mm' | 'in';
		onlaid(fromMm: number, toMm: number): void;
		onleave(): void;
	}
	let { now, view, unit, onlaid, onleave }: Props = $props();
	const step = $derived(now.step.kind === 'run' ? now.step : undefined);
	const stretch = $derived<[number, number]>(now.rest?.[0] ?? (step ? [step.fromMm, step.toMm] : [0, 0]));
	// taken once: the form is made anew for another step
	let text = $state(untrack(() => ({ fromMm: length(stretch[0], unit, unit === 'in' ? 3 : 1).replace(/ (mm|in)$/, ''), toMm: '' })));
	const typed = $derived(readTyped('laid', undefined, text, now.step.id, view.plan, unit));
	const box = 'tab mt-1 min-h-14 w-full rounded-sm border border-steel-500 bg-white px-3 text-xl';
	const big = 'min-h-16 rounded-sm px-6 text-xl font-semibold';
</script>

<form
	class="max-w-3xl"
	onsubmit={(e) => {
		e.preventDefault();
		if (typed.data) onlaid(typed.data.fromMm!, typed.data.toMm!);
	}}
>
	<h2 class="text-2xl">Laid otherwise</h2>
	<p class="mt-1 text-lg text-steel-700">What was laid, from where the arc began to where it stopped. The rest stays to be run.</p>
	<div class="mt-3 grid grid-cols-2 gap-3">
		<label class="block text-lg font-medium" for="laid-from"
			>Began at, {unit}<input id="laid-from" class={box} inputmode="decimal" bind:value={text.fromMm} /></label
		>
		<label class="block text-lg font-medium" for="laid-to"
			>Stopped at, {unit}<input id="laid-to" class={box} inputmode="decimal" bind:value={text.toMm} /></label
		>
	</div>
	<div class="mt-4 flex flex-wrap gap-3">
		<button type="submit" class="{big} bg-steel-800 text-white disabled:bg-steel-300" disabled={!typed.data}>Log it</button>
		<button type="button" class="{big} border-2 border-steel-600" onclick={() => onlaid(stretch[1], stretch[0])}>All of it, the other way</button>
		<button type="button" class="{big} border-2 border-steel-400" onclick={onleave}>Leave it</button>
		{#if text.toMm && typed.faults.length}<p class="self-center text-lg text-steel-600">{typed.faults.join('. ')}.</p>{/if}
	</div>
</form>
