<script lang="ts">
	/** How often, by name: lying bars, the most first. */
	import { axis } from '$lib/ui/chart';
	import ChartBox from '$lib/ui/ChartBox.svelte';

	let { bars, label }: { bars: { name: string; count: number }[]; label: string } = $props();
</script>

<div style="height: {40 + 24 * bars.length}px">
	<ChartBox
		type="bar"
		options={{ indexAxis: 'y', scales: { x: { ...axis(undefined, 5, true), beginAtZero: true }, y: axis(undefined, 8, false) } }}
		data={{ labels: bars.map((b) => b.name), datasets: [{ label, data: bars.map((b) => b.count), backgroundColor: '#2a5d86' }] }}
		label="{label}: {bars.map((b) => `${b.name} ${b.count}`).join(', ')}"
	/>
</div>
