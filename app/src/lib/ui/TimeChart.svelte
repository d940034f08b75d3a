<script lang="ts">
	/** Temperatures over time with a limit. */
	import { axis } from './chart';
	import ChartBox from './ChartBox.svelte';

	interface Props {
		/** s */
		times: number[];
		/** °C */
		series: { label: string; values: number[] }[];
		limit: number;
	}
	let { times, series, limit }: Props = $props();
	const TONES = ['#2a5d86', '#b0693c', '#7a4a77', '#5b6b3b'];
	const end = $derived((times[times.length - 1] ?? 0) / 60);
	const line = (label: string, data: { x: number; y: number }[], more: object) => ({ label, data, showLine: true, pointRadius: 0, ...more });
	const datasets = $derived([
		...series.map((s, i) =>
			line(
				s.label,
				times.map((t, k) => ({ x: t / 60, y: s.values[k] })),
				{ borderColor: TONES[i % TONES.length], borderDash: i ? [2 + 2 * i, 3] : [], borderWidth: 1.5 }
			)
		),
		line(
			'interpass limit',
			[
				{ x: 0, y: limit },
				{ x: end, y: limit }
			],
			{ borderColor: '#29323a', borderDash: [6, 4], borderWidth: 1 }
		)
	]);
</script>

<ChartBox
	type="scatter"
	options={{ scales: { x: axis('min', 6, false), y: axis('°C', 5, true) } }}
	data={{ datasets }}
	label="Temperature over time: {series
		.map((s) => `${s.label} up to ${Math.max(...s.values).toFixed(0)} °C`)
		.join('; ')}; interpass limit {limit} °C."
/>
