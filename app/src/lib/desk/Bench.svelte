<script lang="ts">
	/** The planning bench: the piece above, the tapes under it, the stage's own controls beside, the features along the bottom. */
	import type { Snippet } from 'svelte';
	import { page } from '$app/state';
	import BenchView, { type Put } from '$lib/bench-view/BenchView.svelte';
	import type { Editing } from '$lib/bench-view/grips';
	import SeamTapes from '$lib/seam-tape/SeamTapes.svelte';
	import FeatureStrip from '$lib/ui/FeatureStrip.svelte';
	import AskWhy from './AskWhy.svelte';
	import { getDesk } from './plan-desk.svelte';

	interface Props {
		children: Snippet;
		edit?: Editing;
		/** what is being put on by pointing at the piece */
		put?: Put;
		show?: { tacks: boolean; runs: boolean; holds: boolean };
		tapes?: boolean;
		view?: Snippet;
	}
	let { children, edit = 'none', put, show = { tacks: true, runs: false, holds: true }, tapes = true, view }: Props = $props();
	const desk = getDesk();
	const unit = $derived(page.data.person?.units ?? 'mm');
	/** long enough that an edit in between is not worked out for nothing, ms */
	const RESTS_MS = 1500;
	// what waves own is worked out by itself, on whatever stage the planner is, once the plan rests
	$effect(() => {
		if (!desk.doc.runs.length || desk.stale || desk.forecasting || !desk.shown?.features.some((f) => f.verdict === 'final shape')) return;
		const timer = setTimeout(() => void desk.askFinalShape(), RESTS_MS);
		return () => clearTimeout(timer);
	});
</script>

<div class="flex min-h-0 flex-1 max-md:flex-col">
	<main id="main" class="flex min-w-0 flex-1 flex-col max-md:h-[46%] max-md:flex-none">
		<div class="min-h-0 flex-1">
			{#if view}{@render view()}{:else}<BenchView {show} {edit} {put} />{/if}
		</div>
		{#if tapes}
			<div class="relative max-h-[38%] shrink-0 overflow-y-auto border-t-2 border-steel-700"><SeamTapes {edit} {show} /></div>
		{/if}
	</main>
	<aside
		class="relative w-[372px] shrink-0 space-y-0.5 overflow-y-auto bg-steel-100 max-md:min-h-0 max-md:w-full max-md:flex-1"
		aria-label="This stage"
	>
		<AskWhy />
		{@render children()}
	</aside>
</div>
<FeatureStrip
	features={desk.shown?.features ?? []}
	planned={desk.doc.features}
	method={desk.shown?.method.name}
	{unit}
	stale={desk.stale}
	busy={desk.forecasting}
	progress={desk.progress}
	message={desk.forecastMessage}
	checkedWords={desk.shown?.checked.words}
	selected={desk.selection?.kind === 'feature' ? desk.selection.id : undefined}
	onselect={(id) => (desk.selection = { kind: 'feature', id })}
	oncancel={() => desk.cancelForecast()}
	onretry={() => desk.forecastNow()}
	deepBusy={desk.deepBusy}
	deepProgress={desk.deepProgress}
	deepMessage={desk.deepMessage}
/>
