<script lang="ts">
	/** Readings against what other pieces foretold: sharper marks on the line are better. */
	import { axis } from '$lib/ui/chart';
	import ChartBox from '$lib/ui/ChartBox.svelte';

	interface Row {
		foretold: number;
		measured: number;
		isOutlier: boolean;
	}
	let { rows, unit }: { rows: Row[]; unit: 'mm' | '°' } = $props();
	const ends = $derived.by(() => {
		const all = rows.flatMap((r) => [r.foretold, r.measured]);
		const [low, high] = [Math.min(...all), Math.max(...all)];
		const edge = 0.05 * (high - low || 1);
		return [low - edge, high + edge];
	});
	const points = (isOutlier: boolean) => rows.filter((r) => r.isOutlier === isOutlier).map((r) => ({ x: r.foretold, y: r.measured }));
	const off = $derived(rows.reduce((s, r) => s + Math.abs(r.measured - r.foretold), 0) / rows.length);
</script>

<div class="h-60">
	<ChartBox
		type="scatter"
		options={{ scales: { x: axis(`foretold, ${unit}`, 6, true), y: axis(`measured, ${unit}`, 6, true) } }}
		data={{
			datasets: [
				{ type: 'line', data: ends.map((v) => ({ x: v, y: v })), borderColor: '#8f9ca6', borderWidth: 1, pointRadius: 0 },
				{ data: points(false), backgroundColor: '#2a5d86', pointRadius: 3.5 },
				{ data: points(true), backgroundColor: '#ffffff', borderColor: '#7a2e5d', borderWidth: 2, pointRadius: 5 }
			]
		}}
		label="{rows.length} readings in {unit} against what was foretold: off by {off.toFixed(2)} in the mean"
	/>
</div>
