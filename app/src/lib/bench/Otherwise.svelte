<script lang="ts">
	/** Everything that can go otherwise than planned, two taps from any step. */
	import { HAPPENING, HAPPENINGS, type EventData, type HappeningKind } from '$core/weldout/happenings';
	import { free, mayLeave, type StepNow } from '$core/weldout/logbook';
	import type { EventKind } from '$core/document/words';
	import HappeningForm from './HappeningForm.svelte';
	import TakePhotograph from '$lib/ui/TakePhotograph.svelte';
	import RunForm from './RunForm.svelte';
	import type { BenchPlanView } from './view';

	interface Props {
		now?: StepNow;
		steps: StepNow[];
		view: BenchPlanView;
		piece: string;
		unit: 'mm' | 'in';
		onlog(kind: EventKind, step: string | undefined, more?: { note?: string; data?: EventData }): void;
		onleave(): void;
		/** asks how to go on from here; absent where nothing is laid yet, or nothing left */
		onreplan?(): void;
	}
	let { now, steps, view, piece, unit, onlog, onleave, onreplan }: Props = $props();
	type Open = HappeningKind | 'problem' | 'note' | 'take' | 'laid';
	let open = $state<Open | undefined>();
	let note = $state('');
	const offers = $derived(free(steps, now));
	const step = $derived(now?.step.id);
	const item = 'min-h-16 rounded-sm border-2 border-steel-400 bg-white px-3 py-2 text-left text-lg leading-6 font-medium';
	const big = 'min-h-16 rounded-sm px-6 text-xl font-semibold';
	function log(kind: EventKind, at: string | undefined, more?: { note?: string; data?: EventData }) {
		onlog(kind, at, more);
		onleave();
	}
</script>

{#if !open}
	<div class="grid grid-cols-2 gap-2 sm:grid-cols-3 lg:grid-cols-4">
		<button type="button" class="{item} !border-plum-600 text-plum-700" onclick={() => (open = 'problem')}>Problem: it cannot go on like this</button>
		<button type="button" class={item} onclick={() => (open = 'note')}>Note</button>
		{#if onreplan}<button type="button" class={item} onclick={onreplan}>Plan on from here</button>{/if}
		<TakePhotograph of={{ pieceId: piece, step }} look={item} ontaken={onleave} />
		{#if now && mayLeave(now.step)}<button type="button" class={item} onclick={() => log('step-skipped', step)}>Leave for later</button>{/if}
		{#if offers.length}<button type="button" class={item} onclick={() => (open = 'take')}>Take another step next</button>{/if}
		{#if now?.step.kind === 'run'}<button type="button" class={item} onclick={() => (open = 'laid')}>Laid otherwise: short, split, other way</button
			>{/if}
		{#each HAPPENINGS as what (what)}<button type="button" class={item} onclick={() => (open = what)}>{HAPPENING[what].words}</button>{/each}
	</div>
{:else if open === 'take'}
	<h2 class="text-2xl">What may be taken next</h2>
	<p class="text-lg text-steel-700">What is not here waits for something: parts still to come, tacks, a run that must lie before it.</p>
	<ul class="mt-3 grid gap-2 sm:grid-cols-2">
		{#each offers as o (o.step.id)}<li>
				<button type="button" class="{item} w-full" onclick={() => log('step-taken', o.step.id)}
					>{o.step.title}{o.isSkipped ? ' (left before)' : ''}</button
				>
			</li>{/each}
	</ul>
{:else if open === 'laid' && now}
	<RunForm {now} {view} {unit} onlaid={(fromMm, toMm) => log('laid', step, { data: { fromMm, toMm } })} onleave={() => (open = undefined)} />
{:else if open === 'problem' || open === 'note'}
	{@const isProblem = open === 'problem'}
	<label class="block text-lg font-medium" for="note"
		>{isProblem
			? 'What went wrong? The step is passed and the problem stays open until somebody says what became of it.'
			: 'Note for this step'}</label
	>
	<textarea id="note" class="mt-2 w-full max-w-3xl rounded-sm text-xl" rows="3" maxlength="2000" bind:value={note}></textarea>
	<div class="mt-2 flex gap-3">
		<button
			type="button"
			class="{big} bg-steel-800 text-white disabled:bg-steel-300"
			onclick={() => log(isProblem ? 'step-problem' : 'note', step, { note: note.trim() })}
			disabled={!note.trim()}>Log it</button
		><button type="button" class="{big} border-2 border-steel-400" onclick={() => (open = undefined)}>Leave it</button>
	</div>
{:else}
	{#key open}<HappeningForm
			what={open as HappeningKind}
			{now}
			{view}
			{unit}
			onlog={(data, words) => log('happened', step, { data, ...(words ? { note: words } : {}) })}
			onleave={() => (open = undefined)}
		/>{/key}
{/if}
