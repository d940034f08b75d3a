<script lang="ts">
	/** Which other job's runs fit in this order's cooling waits. */
	import { fillWaits, type OtherPiece } from '$core/estimate/fillWaits';
	import type { Schedule } from '$core/forecast/schedule';
	import { call } from '$lib/call';
	import Notice from '$lib/ui/Notice.svelte';
	import Panel from '$lib/ui/Panel.svelte';
	import { duration } from '$lib/units';
	import { Button } from 'flowbite-svelte';

	let { jobId, schedule }: { jobId: string; schedule?: Schedule } = $props();
	let others = $state.raw<OtherPiece[] | undefined>();
	let message = $state('');
	const filled = $derived(
		others && schedule
			? fillWaits(
					schedule.runs.map((r) => r.waitS),
					others
				)
			: []
	);
	const waits = $derived(schedule?.runs.filter((r) => r.waitS >= 60).length ?? 0);
	async function look() {
		message = '';
		const r = await call<{ pieces: OtherPiece[] }>('GET', `/api/jobs/${jobId}/other-runs`);
		if (r.ok) others = r.data.pieces;
		else message = r.refusal.message;
	}
</script>

<Panel title="In the waits">
	<p class="text-sm">
		{waits === 0 ? 'No wait of a minute or more in this order.' : `${waits} wait${waits > 1 ? 's' : ''} of a minute or more.`}
	</p>
	{#if message}<div class="mt-2"><Notice kind="fault">{message}</Notice></div>{/if}
	{#if waits && !others}<Button class="mt-2" size="xs" color="alternative" onclick={look}>See what else fits</Button>{/if}
	{#if others && !others.length}<p class="mt-1 text-sm text-steel-600">No other piece is tacked and at the bench.</p>{/if}
	{#if others?.length}
		<ul class="mt-1 space-y-1.5 text-sm">
			{#each filled as w (w.before)}
				<li>
					<span class="font-semibold">Before run {w.before}, {duration(w.waitS)}:</span>
					{#if w.fits.length}{w.fits.map((f) => `${f.piece}: ${f.run}`).join('; ')}, {duration(w.leftS)} to spare{:else}nothing fits{/if}
				</li>
			{/each}
		</ul>
	{/if}
</Panel>
