<script lang="ts">
	/** Each feature: predicted, band, limit, measured. Always in sight while planning. */
	import type { FeatureForecast } from '$core/forecast/forecast';
	import { VERDICT_WORDS, type Verdict } from '$core/features/verdict';
	import type { LengthUnit } from '$core/units/length';
	import { quantity } from '$lib/units';
	import BandMark from './BandMark.svelte';

	interface Props {
		features: FeatureForecast[];
		/** what is to be forecast: holds its place while nothing is known yet, so that the piece does not jump under the pointer */
		planned?: readonly { id: string; name: string }[];
		unit: LengthUnit;
		stale: boolean;
		busy: boolean;
		progress: number;
		message: string;
		method?: string;
		checkedWords?: string;
		selected?: string;
		onselect?: (id: string) => void;
		oncancel?: () => void;
		onretry?: () => void;
		/** the final shape under way */
		deepBusy?: boolean;
		deepProgress?: number;
		/** why it was not found */
		deepMessage?: string;
	}
	let {
		features,
		planned = [],
		unit,
		stale,
		busy,
		progress,
		message,
		method = '',
		checkedWords = '',
		selected,
		onselect,
		oncancel,
		onretry,
		deepBusy = false,
		deepProgress = 0,
		deepMessage = ''
	}: Props = $props();
	const SIGNS: Record<Verdict, string> = { inside: '✓', 'in doubt': '?', outside: '✕', 'final shape': '…' };
	const tones: Record<Verdict, string> = {
		inside: 'text-sound-700',
		'in doubt': 'text-straw-700',
		outside: 'text-plum-700',
		'final shape': 'text-steel-700'
	};
	const waits = $derived(features.some((f) => f.verdict === 'final shape'));
</script>

<!-- an older forecast is marked by a line and by the words above; its text stays as dark as ever -->

<section class="border-t-2 border-steel-700 bg-white" aria-label="Features">
	<div class="flex items-center gap-3 px-4 pt-1.5 text-sm text-steel-600" aria-live="polite">
		<span class="font-display font-semibold text-steel-900">Features</span>
		{#if busy}
			<span>Working out the forecast, {Math.round(progress * 100)} %</span>
			<progress class="h-1.5 w-40 accent-primary-600" max="1" value={progress} aria-label="Forecast progress"></progress>
			<button type="button" class="text-primary-700 underline" onclick={oncancel}>Stop</button>
		{:else if message}
			<span class="text-plum-700">{message}</span>
			<button type="button" class="text-primary-700 underline" onclick={onretry}>Forecast now</button>
		{:else if features.length}
			<span>{method}; bands hold 90 %. {checkedWords}</span>
			{#if waits}<span class="text-steel-800"
					>A panel is past its limit: {deepBusy
						? `final shape ${Math.round(deepProgress * 100)} %`
						: deepMessage || 'what waves own waits for the final shape'}.</span
				>{/if}
		{/if}
	</div>
	<div
		class="flex {features.length ? 'overflow-x-auto' : 'overflow-x-hidden'} px-2 pb-2 {planned.length ? 'min-h-[92px]' : ''}"
		class:stale
		data-forecast={busy || stale ? 'working' : features.length ? 'ready' : 'none'}
	>
		{#if !features.length}
			{#each planned as f (f.id)}
				<div class="min-w-[136px] flex-1 border-l-4 border-transparent px-2 py-1 text-[13px] text-steel-700 first:border-l-0">
					<span class="block truncate" title={f.name}>{f.name}</span>
					<span class="block text-steel-600">{busy ? 'being worked out' : 'not forecast'}</span>
				</div>
			{/each}
		{/if}
		{#each features as f (f.id)}
			<button
				type="button"
				class="min-w-[136px] flex-1 border-l-4 px-2 py-1 text-left first:border-l-0 {selected === f.id
					? 'border-straw-400 bg-straw-50'
					: 'border-transparent hover:bg-steel-50'}"
				aria-pressed={selected === f.id}
				onclick={() => onselect?.(f.id)}
				title={f.caution}
			>
				<span class="block truncate text-[13px] text-steel-700" title={f.name}>{f.name}</span>
				{#if f.notFound}
					<span class="block text-[15px] leading-6 font-semibold">not found</span>
				{:else if f.verdict === 'final shape'}
					<span class="block text-[15px] leading-6 font-semibold text-steel-700">waits</span>
				{:else}
					<span class="tab block text-[19px] leading-6 font-semibold">{quantity(f.predicted, f.unit, unit)}</span>
					<BandMark low={f.low} high={f.high} value={f.predicted} lower={f.tolerance.lower} upper={f.tolerance.upper} />
				{/if}
				<span class="block text-[12px] whitespace-nowrap"
					><span class={tones[f.verdict]}>{SIGNS[f.verdict]} {f.verdict === 'final shape' ? 'for the final shape' : VERDICT_WORDS[f.verdict]}</span>
					<span class="text-steel-600" class:hidden={f.verdict === 'final shape'}
						>of {f.tolerance.lower === undefined ? '' : '±'}{quantity(f.tolerance.upper, f.unit, unit)}</span
					></span
				>
			</button>
		{/each}
	</div>
</section>

<style>
	.stale {
		box-shadow: inset 0 3px 0 var(--color-straw-400);
	}
</style>
