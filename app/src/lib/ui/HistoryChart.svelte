<script lang="ts">
	/** One feature's value after each step, with its limits. Chart.js is loaded only where a chart is shown. */
	import { onMount } from 'svelte';
	import type { Chart } from 'chart.js';
	import { axis, newChart } from './chart';

	interface Props {
		labels: string[];
		values: number[];
		upper: number;
		lower?: number;
		unit: string;
		at: number;
		onpick: (index: number) => void;
	}
	let { labels, values, upper, lower, unit, at, onpick }: Props = $props();
	let canvas = $state<HTMLCanvasElement>();
	let chart = $state.raw<Chart>();

	onMount(() => {
		let alive = true;
		void newChart(() => (alive ? canvas : undefined), 'line', {
			onClick: (_, hit) => hit[0] && onpick(hit[0].index),
			interaction: { mode: 'index', intersect: false },
			scales: { x: { ticks: { display: false }, grid: { display: false } }, y: axis(undefined, 5, true) }
		}).then((made) => (alive ? (chart = made) : made?.destroy()));
		return () => {
			alive = false;
			chart?.destroy();
		};
	});
	$effect(() => {
		if (!chart) return;
		const flat = (v: number, dash: number[]) => ({
			label: 'limit',
			data: labels.map(() => v),
			borderColor: '#29323a',
			borderWidth: 1,
			borderDash: dash,
			pointRadius: 0
		});
		chart.data = {
			labels,
			datasets: [
				{
					label: `value, ${unit}`,
					data: [...values],
					borderColor: '#2a5d86',
					backgroundColor: '#2a5d86',
					borderWidth: 2,
					pointRadius: values.map((_, i) => (i === at ? 5 : 1.5)),
					pointBackgroundColor: values.map((_, i) => (i === at ? '#d9a441' : '#2a5d86'))
				},
				flat(upper, [6, 4]),
				...(lower === undefined ? [] : [flat(lower, [6, 4])])
			] as never
		};
		chart.update();
	});
</script>

<div
	class="h-full"
	role="img"
	aria-label="Value after each step, from {values[0]?.toFixed(2)} to {values[values.length - 1]?.toFixed(2)} {unit}; the limit is {upper} {unit}."
>
	<canvas bind:this={canvas} aria-hidden="true"></canvas>
</div>
