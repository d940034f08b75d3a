<script lang="ts">
	/** A hold at the bench: who may sign does it here, with what is recorded; a planner may let it go with a reason. */
	import { SIGNER_WORDS } from '$core/document/words';
	import { HOLD_POINT } from '$core/plan/holdPoint';
	import type { StepOf } from '$core/weldout/benchSteps';
	import { FIELD_WORDS, type DataField, type EventData } from '$core/weldout/happenings';
	import { mayRelease, maySign } from '$core/weldout/holdPoints';
	import type { EventKind } from '$core/document/words';
	import TakePhotograph from '$lib/ui/TakePhotograph.svelte';
	import { isLength, isWords, readTyped } from './typed';
	import type { BenchPlanView } from './view';

	interface Props {
		step: StepOf<'sign'>;
		piece: string;
		view: BenchPlanView;
		unit: 'mm' | 'in';
		person: { name: string; roles: string[] } | null;
		onlog(kind: EventKind, step: string, more?: { note?: string; data?: EventData }): void;
		/** what a meter at the piece reads now */
		oxygen?: { pct: number; instrument: string };
	}
	let { step, piece, view, unit, person, onlog, oxygen }: Props = $props();
	const kind = $derived(HOLD_POINT[step.of]);
	const signs = $derived(maySign(step, person?.roles ?? []));
	const releases = $derived(!signs && mayRelease(person?.roles ?? []));
	let text = $state<Partial<Record<DataField, string>>>({});
	let note = $state('');
	const typed = $derived(readTyped('hold-signed', undefined, text, step.id, view.plan, unit));
	const box = 'mt-1 min-h-14 w-full rounded-sm border border-steel-500 bg-white px-3 text-xl';
	const big = 'min-h-16 rounded-sm px-6 text-xl font-semibold disabled:bg-steel-300';
	const more = $derived({ ...(note.trim() ? { note: note.trim() } : {}) });
</script>

<form
	class="mt-3 max-w-3xl border-l-4 border-straw-600 bg-straw-50 p-3"
	onsubmit={(e) => {
		e.preventDefault();
		if (signs && typed.data) onlog('hold-signed', step.id, { ...more, ...(Object.keys(typed.data).length ? { data: typed.data } : {}) });
		else if (releases && note.trim()) onlog('hold-released', step.id, more);
	}}
>
	{#if signs}
		<div class="grid gap-3 sm:grid-cols-2">
			{#each kind.asks as f (f)}
				<label class="block text-lg font-medium" for="s-{f}"
					>{FIELD_WORDS[f]}{isLength(f) ? `, ${unit}` : ''}
					<input
						id="s-{f}"
						class="{box} tab"
						inputmode={isWords(f) ? 'text' : 'decimal'}
						maxlength={120}
						autocomplete="off"
						list="s-{f}-of"
						bind:value={text[f]}
					/>
					{#if f === 'oxygenPct' && oxygen}<button
							type="button"
							class="mt-1 min-h-14 rounded-sm border-2 border-steel-500 px-4"
							onclick={() => (text = { ...text, oxygenPct: String(oxygen.pct), instrument: oxygen.instrument })}
							>Take {oxygen.pct} % from {oxygen.instrument}</button
						>{/if}
					{#if f === 'instrument'}<datalist id="s-{f}-of"
							>{#each view.shop.instruments.oxygenPct ?? [] as x (x)}<option value={x}></option>{/each}</datalist
						>{/if}
				</label>
			{/each}
			<label class="block text-lg font-medium sm:col-span-2" for="s-note"
				>Words, if they help<input id="s-note" class={box} maxlength={2000} autocomplete="off" bind:value={note} /></label
			>
		</div>
		<div class="mt-3 flex flex-wrap items-center gap-3">
			<button type="submit" class="{big} bg-primary-700 text-white" disabled={!typed.data}>Sign as {person?.name}</button>
			<TakePhotograph of={{ pieceId: piece, step: step.id }} look="{big} border-2 border-steel-400 bg-white" />
			{#if typed.faults.length}<p class="text-lg text-steel-600">{typed.faults.join('. ')}.</p>{/if}
		</div>
	{:else}
		<p class="text-xl">
			Work waits here until {SIGNER_WORDS[step.signs]} has signed: on this device (Sign out, then sign in as them), or on any other.
		</p>
		{#if releases}
			<label class="mt-3 block text-lg font-medium" for="s-why"
				>A planner may let it go without: say why<input id="s-why" class={box} maxlength={2000} autocomplete="off" bind:value={note} /></label
			>
			<button type="submit" class="{big} mt-3 border-2 border-plum-600 text-plum-700 disabled:text-steel-500" disabled={!note.trim()}
				>Release the hold</button
			>
		{/if}
	{/if}
</form>
