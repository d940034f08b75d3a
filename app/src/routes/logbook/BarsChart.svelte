<script lang="ts">
	/** How often, by name: lying bars, the most first. */
	import { onMount } from 'svelte';
	import type { Chart } from 'chart.js';
	import { axis, newChart } from '$lib/ui/chart';

	let { bars, label }: { bars: { name: string; count: number }[]; label: string } = $props();
	let canvas = $state<HTMLCanvasElement>();
	let chart = $state.raw<Chart>();
	onMount(() => {
		let alive = true;
		void newChart(() => (alive ? canvas : undefined), 'bar', {
			indexAxis: 'y',
			scales: { x: { ...axis(undefined, 5, true), beginAtZero: true }, y: axis(undefined, 8, false) }
		}).then((made) => (alive ? (chart = made) : made?.destroy()));
		return () => {
			alive = false;
			chart?.destroy();
		};
	});
	$effect(() => {
		if (!chart) return;
		chart.data = { labels: bars.map((b) => b.name), datasets: [{ label, data: bars.map((b) => b.count), backgroundColor: '#2a5d86' }] } as never;
		chart.update();
	});
</script>

<div style="height: {40 + 24 * bars.length}px" role="img" aria-label="{label}: {bars.map((b) => `${b.name} ${b.count}`).join(', ')}">
	<canvas bind:this={canvas} aria-hidden="true"></canvas>
</div>
