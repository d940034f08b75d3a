<script lang="ts">
	/** One feature's value after each step, with its limits. */
	import { axis } from './chart';
	import ChartBox from './ChartBox.svelte';

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
	const flat = (v: number) => ({
		label: 'limit',
		data: labels.map(() => v),
		borderColor: '#29323a',
		borderWidth: 1,
		borderDash: [6, 4],
		pointRadius: 0
	});
	const datasets = $derived([
		{
			label: `value, ${unit}`,
			data: [...values],
			borderColor: '#2a5d86',
			backgroundColor: '#2a5d86',
			borderWidth: 2,
			pointRadius: values.map((_, i) => (i === at ? 5 : 1.5)),
			pointBackgroundColor: values.map((_, i) => (i === at ? '#d9a441' : '#2a5d86'))
		},
		flat(upper),
		...(lower === undefined ? [] : [flat(lower)])
	]);
</script>

<ChartBox
	type="line"
	options={{
		onClick: (_, hit) => hit[0] && onpick(hit[0].index),
		interaction: { mode: 'index', intersect: false },
		scales: { x: { ticks: { display: false }, grid: { display: false } }, y: axis(undefined, 5, true) }
	}}
	data={{ labels, datasets }}
	label="Value after each step, from {values[0]?.toFixed(2)} to {values[values.length - 1]?.toFixed(2)} {unit}; the limit is {upper} {unit}."
/>
