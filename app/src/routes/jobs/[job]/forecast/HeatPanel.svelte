<script lang="ts">
	/** Heat through the weld-out: the hottest place over time with the interpass limit, waits, bars. */
	import { getDesk } from '$lib/desk/plan-desk.svelte';
	import Notice from '$lib/ui/Notice.svelte';
	import Panel from '$lib/ui/Panel.svelte';
	import TimeChart from '$lib/ui/TimeChart.svelte';
	import { duration } from '$lib/units';

	const desk = getDesk();
	const heat = $derived(desk.result?.schedule);
	const waits = $derived(heat?.runs.reduce((s, r) => s + r.waitS, 0) ?? 0);
	const hottest = $derived(heat?.runs.reduce((m, r) => Math.max(m, r.hottestC), 0) ?? 0);
	const barName = (id: string) => desk.doc.holdDowns.find((h) => h.id === id)?.name ?? id;
</script>

{#if heat && heat.runs.length}
	<Panel title="Heat through the weld-out">
		<div class="h-36">
			<TimeChart
				times={heat.curve.times}
				series={[
					{ label: 'Hottest place of the piece', values: heat.curve.hottest },
					...heat.bars.map((b) => ({ label: barName(b.bar), values: b.temperatures }))
				]}
				limit={desk.doc.interpassLimitC}
			/>
		</div>
		<p class="mt-1 text-sm">
			Runs start at {hottest.toFixed(0)} °C or below (limit {desk.doc.interpassLimitC} °C); waits {duration(waits)} in all. Cool enough to measure
			{duration(heat.coolToMeasureS)} after the last arc.
		</p>
		{#each heat.bars as b (b.bar)}<p class="text-sm">{barName(b.bar)}: up to {b.peakC.toFixed(0)} °C.</p>{/each}
		{#if heat.tooHot.length}
			<Notice kind="caution">{heat.tooHot.length} runs would still be above the limit after four hours: raise it, or use less heat.</Notice>
		{/if}
		<p class="mt-1 text-[13px] text-steel-600">
			On the piece’s mesh, mean properties; the pool itself is finer than the mesh. Heat in = stored + lost within {(100 * heat.energyError).toFixed(
				2
			)} %.
		</p>
	</Panel>
{/if}
