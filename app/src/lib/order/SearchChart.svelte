<script lang="ts">
	/** Cost of the best order against orders weighed. */
	import { onMount } from 'svelte';
	import type { Chart } from 'chart.js';

	let { history, evaluated }: { history: [number, number][]; evaluated: number } = $props();
	let canvas = $state<HTMLCanvasElement>();
	let chart = $state.raw<Chart>();
	onMount(() => {
		let alive = true;
		void import('chart.js').then(({ Chart, LineController, LineElement, PointElement, LinearScale }) => {
			if (!alive || !canvas) return;
			Chart.register(LineController, LineElement, PointElement, LinearScale);
			Chart.defaults.font.family = "'IBM Plex Sans', sans-serif";
			chart = new Chart(canvas, {
				type: 'line',
				data: { datasets: [] },
				options: {
					animation: false,
					maintainAspectRatio: false,
					parsing: false,
					scales: {
						x: {
							type: 'linear',
							title: { display: true, text: 'orders weighed', color: '#4d5963' },
							ticks: { color: '#4d5963', maxTicksLimit: 6 },
							grid: { display: false }
						},
						y: {
							title: { display: true, text: 'what counts, together', color: '#4d5963' },
							ticks: { color: '#4d5963', maxTicksLimit: 5 },
							grid: { color: '#eceff1' }
						}
					},
					plugins: { legend: { display: false } }
				}
			}) as unknown as Chart;
		});
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

<div class="mt-2 h-48"><canvas bind:this={canvas} aria-label={words}></canvas></div>
