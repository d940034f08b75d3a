<script lang="ts">
	/** Cost of the best order against orders weighed. */
	import { onMount } from 'svelte';
	import type { Chart } from 'chart.js';
	import { axis, newChart } from '$lib/ui/chart';

	let { history, evaluated }: { history: [number, number][]; evaluated: number } = $props();
	let canvas = $state<HTMLCanvasElement>();
	let chart = $state.raw<Chart>();
	onMount(() => {
		let alive = true;
		void newChart(() => (alive ? canvas : undefined), 'line', {
			parsing: false,
			scales: { x: { type: 'linear', ...axis('orders weighed', 6, false) }, y: axis('what counts, together', 5, true) }
		}).then((made) => (alive ? (chart = made) : made?.destroy()));
		return () => {
			alive = false;
			chart?.destroy();
		};
	});
	$effect(() => {
		if (!chart) return;
		const last = history[history.length - 1];
		chart.data = {
			datasets: [
				{
					data: [...history, [Math.max(evaluated, last[0]), last[1]] as [number, number]].map(([x, y]) => ({ x, y })),
					stepped: 'before',
					borderColor: '#2b5d86',
					borderWidth: 2,
					pointRadius: 0
				}
			]
		} as typeof chart.data;
		chart.update();
	});
	const words = $derived(`From ${history[0][1].toFixed(3)} to ${history[history.length - 1][1].toFixed(3)} in ${evaluated} orders weighed`);
</script>

<div class="h-full"><canvas bind:this={canvas} aria-label={words}></canvas></div>
