<script lang="ts">
	/** How near each panel is to waving, and the state of the final-shape solution. */
	import { getDesk } from '$lib/desk/plan-desk.svelte';
	import Notice from '$lib/ui/Notice.svelte';
	import Panel from '$lib/ui/Panel.svelte';

	const desk = getDesk();
	const deep = $derived(desk.deep && desk.deep.doc === desk.doc ? desk.deep.result : undefined);
	const margins = $derived((deep ?? desk.result)?.margins ?? []);
</script>

<Panel title="Will it wave?">
	<div aria-live="polite">
		{#if desk.deepBusy}
			<p class="flex items-center gap-2 text-sm">
				<span>Final shape, {Math.round(desk.deepProgress * 100)} %</span>
				<progress class="h-1.5 flex-1 accent-primary-600" max="1" value={desk.deepProgress} aria-label="Final shape progress"></progress>
				<button type="button" class="text-primary-700 underline" onclick={() => desk.cancelFinalShape()}>Stop</button>
			</p>
		{:else if desk.deepMessage}
			<Notice kind="caution">{desk.deepMessage}</Notice>
		{:else if deep}
			{#if !deep.finalShape?.converged}
				<Notice kind="caution" title="Not found to the end"
					>The notes above say how far it came. No value of this depth is shown: go by the quick one, as a direction only.</Notice
				>
			{:else if deep.finalShape.eitherWay}
				<Notice kind="caution" title="Either way"
					>This piece can settle in {deep.finalShape.shapes.length} shapes; the one with the least energy is shown. The bands hold them all; step to “The
					other shape” to see the next.</Notice
				>
			{/if}
		{:else if desk.result && desk.doc.runs.length}
			<button type="button" class="text-sm text-primary-700 underline" onclick={() => desk.askFinalShape()}>Work out the final shape</button>
		{/if}
	</div>
	{#if margins.length}
		<ul class="mt-1 space-y-1 text-sm">
			{#each margins as m (m.part + m.panel)}
				<li class="flex items-start gap-2">
					<span class={m.ratio > 1 ? 'text-plum-700' : m.ratio > 0.7 ? 'text-straw-700' : 'text-sound-700'} aria-hidden="true"
						>{m.ratio > 1 ? '✕' : m.ratio > 0.7 ? '?' : '✓'}</span
					><span>{m.words}.</span>
				</li>
			{/each}
		</ul>
		<p class="mt-1 text-[13px] text-steel-600">
			{deep ? 'By the buckling solution of the joined piece.' : 'By a plate formula, panel by panel; the final shape gives the piece’s own.'}
		</p>
	{:else if desk.result}
		<p class="text-sm">No panel comes near its limit.</p>
	{/if}
</Panel>
