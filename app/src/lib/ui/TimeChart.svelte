<script lang="ts">
	/** Temperatures over time with a limit. Chart.js is loaded only where a chart is shown. */
	import { onMount } from 'svelte';
	import type { Chart } from 'chart.js';
	import { axis, newChart } from './chart';

	interface Props {
		/** s */
		times: number[];
		/** °C */
		series: { label: string; values: number[] }[];
		limit: number;
	}
	let { times, series, limit }: Props = $props();
	let canvas = $state<HTMLCanvasElement>();
	let chart = $state.raw<Chart>();
	const TONES = ['#2a5d86', '#b0693c', '#7a4a77', '#5b6b3b'];

	onMount(() => {
		let alive = true;
		void newChart(() => (alive ? canvas : undefined), 'scatter', { scales: { x: axis('min', 6, false), y: axis('°C', 5, true) } }).then((made) =>
			alive ? (chart = made) : made?.destroy()
		);
		return () => {
			alive = false;
			chart?.destroy();
		};
	});
	$effect(() => {
		if (!chart) return;
		const end = times[times.length - 1] ?? 0;
		chart.data = {
			datasets: [
				...series.map((s, i) => ({
					label: s.label,
					data: times.map((t, k) => ({ x: t / 60, y: s.values[k] })),
					showLine: true,
					borderColor: TONES[i % TONES.length],
					borderDash: i ? [2 + 2 * i, 3] : [],
					borderWidth: 1.5,
					pointRadius: 0
				})),
				{
					label: 'interpass limit',
					data: [
						{ x: 0, y: limit },
						{ x: end / 60, y: limit }
					],
					showLine: true,
					borderColor: '#29323a',
					borderDash: [6, 4],
					borderWidth: 1,
					pointRadius: 0
				}
			] as never
		};
		chart.update();
	});
</script>

<div
	class="h-full"
	role="img"
	aria-label="Temperature over time: {series
		.map((s) => `${s.label} up to ${Math.max(...s.values).toFixed(0)} °C`)
		.join('; ')}; interpass limit {limit} °C."
>
	<canvas bind:this={canvas} aria-hidden="true"></canvas>
</div>
