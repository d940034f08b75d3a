<script lang="ts">
	/** Cost of the best order against orders weighed. */
	import { axis } from '$lib/ui/chart';
	import ChartBox from '$lib/ui/ChartBox.svelte';

	let { history, evaluated }: { history: [number, number][]; evaluated: number } = $props();
	const last = $derived(history[history.length - 1]);
</script>

<ChartBox
	type="line"
	options={{ parsing: false, scales: { x: { type: 'linear', ...axis('orders weighed', 6, false) }, y: axis('what counts, together', 5, true) } }}
	data={{
		datasets: [
			{
				data: [...history, [Math.max(evaluated, last[0]), last[1]]].map(([x, y]) => ({ x, y })),
				stepped: 'before',
				borderColor: '#2b5d86',
				borderWidth: 2,
				pointRadius: 0
			}
		]
	}}
	label="From {history[0][1].toFixed(3)} to {last[1].toFixed(3)} in {evaluated} orders weighed"
/>
