<script lang="ts">
	/** A chart made where it is shown: it follows its data and goes with the page. Chart.js is loaded only then. */
	import { onMount, untrack } from 'svelte';
	import type { Chart, ChartOptions } from 'chart.js';
	import { newChart } from './chart';

	interface Props {
		type: 'line' | 'scatter' | 'bar';
		/** taken once */
		options: ChartOptions;
		/** labels and datasets as Chart.js has them */
		data: { labels?: string[]; datasets: object[] };
		/** what a screen reader is told */
		label: string;
		/** end of the x axis, where it follows the data */
		xMax?: number;
	}
	let { type, options, data, label, xMax }: Props = $props();
	let canvas = $state<HTMLCanvasElement>();
	let chart = $state.raw<Chart>();
	onMount(() => {
		let alive = true;
		void newChart(
			() => (alive ? canvas : undefined),
			untrack(() => type),
			untrack(() => options)
		).then((made) => (alive ? (chart = made) : made?.destroy()));
		return () => {
			alive = false;
			chart?.destroy();
		};
	});
	$effect(() => {
		if (!chart) return;
		chart.data = data as unknown as Chart['data'];
		if (xMax !== undefined) chart.options.scales!.x!.max = xMax;
		chart.update();
	});
</script>

<div class="h-full" role="img" aria-label={label}><canvas bind:this={canvas} class="drawn" aria-hidden="true"></canvas></div>
