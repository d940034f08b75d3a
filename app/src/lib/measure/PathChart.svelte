<script lang="ts">
	/** A feature on its way through the weld-out: what the forecast has after each step, and what was read. */
	import { axis } from '$lib/ui/chart';
	import ChartBox from '$lib/ui/ChartBox.svelte';
	import type { Bar, Path } from './path';

	interface Props {
		path: Path;
		unit: string;
		name: string;
	}
	let { path, unit, name }: Props = $props();
	const last = $derived(path.labels.length - 0.5);
	/** Of the runs every few; of the rest all but what the next one would stand on. */
	function marked(i: number): string {
		const label = path.labels[i] ?? '';
		const every = Math.ceil(path.labels.length / 8);
		if (/^\d+$/.test(label)) return Number(label) % every === 0 && path.labels.indexOf('free') - i > every ? label : '';
		return label === 'cold' || (label === 'received' && path.labels.length > 7) || (label === 'tacked' && path.labels.length > 12) ? '' : label;
	}
	/** a vertical stroke for each band, with a break after it */
	const strokes = (bars: readonly Bar[]) =>
		bars.flatMap(({ x, low, high }) => [
			{ x, y: low },
			{ x, y: high },
			{ x, y: NaN }
		]);
	const line = (label: string, data: object[], more: object) => ({ label, data, showLine: true, pointRadius: 0, borderWidth: 1, ...more });
	const datasets = $derived([
		line('forecast', path.forecast, { borderColor: '#2a5d86', borderWidth: 2 }),
		line('forecast’s band', strokes(path.bands), { borderColor: '#2a5d8680', borderWidth: 6, spanGaps: false }),
		line('reading’s band', strokes(path.readings), { borderColor: '#96660f', borderWidth: 2, spanGaps: false }),
		{
			label: 'read',
			data: path.readings.map(({ x, value }) => ({ x, y: value })),
			pointStyle: 'rectRot',
			pointRadius: 6,
			backgroundColor: '#d9a441',
			borderColor: '#96660f'
		},
		...path.limits.map((v) =>
			line(
				'limit',
				[
					{ x: -0.5, y: v },
					{ x: last, y: v }
				],
				{ borderColor: '#29323a', borderDash: [6, 4] }
			)
		)
	]);
</script>

<div class="h-44">
	<ChartBox
		type="scatter"
		options={{
			scales: {
				x: {
					...axis(undefined, 40, false),
					type: 'linear',
					min: -0.5,
					// a mark a step, by its name
					afterBuildTicks: (a) => void (a.ticks = path.labels.map((_, value) => ({ value }))),
					ticks: { color: '#4d5963', autoSkip: false, maxRotation: 0, callback: (v) => marked(Number(v)) }
				},
				y: axis(unit, 5, true)
			}
		}}
		data={{ datasets }}
		label="{name}: {path.words}"
		xMax={last}
	/>
</div>
<p class="text-[12px] text-steel-600">
	Blue: the quick forecast as issued, thick where its band is known. Gold: read, with its band. Dashed: limits.
</p>
