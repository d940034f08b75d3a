<script lang="ts">
	/** Where a feature stands: the verdict of the readings of the last moment put together, and its way through the moments. */
	import type { Paths } from '$core/forecast/paths';
	import { VERDICT_WORDS } from '$core/features/verdict';
	import { MOMENT_WORDS } from '$core/document/words';
	import { MM_PER_INCH } from '$core/units/length';
	import type { Judged } from '$core/weldout/handOver';
	import { quantity } from '$lib/units';
	import Panel from '$lib/ui/Panel.svelte';
	import PathChart from './PathChart.svelte';
	import { pathOf, type PathReading } from './path';
	import { SAID_LOOK, SAID_SIGN } from './said';

	interface Props {
		feature: { id: string; name: string; unit: 'mm' | '°'; tolerance: { upper: number; lower?: number } };
		/** that stand */
		readings: (PathReading & { id: string; measuredAt: Date })[];
		judged?: Judged;
		paths?: Promise<Paths>;
		unit: 'mm' | 'in';
		putRightHref: string;
	}
	let { feature, readings, judged, paths, unit, putRightHref }: Props = $props();
	const isOut = $derived(judged?.said === 'outside' || judged?.said === 'in doubt');
	const scale = $derived(feature.unit === 'mm' && unit === 'in' ? 1 / MM_PER_INCH : 1);
</script>

<Panel title={feature.name}>
	{#if judged?.said}
		<p class="text-lg {SAID_LOOK[judged.said]}">
			{SAID_SIGN[judged.said]} <strong>{VERDICT_WORDS[judged.said]}</strong>
			<span class="tab text-base text-steel-800"
				>{quantity(judged.value, feature.unit, unit)} ± {quantity(judged.uncertainty90, feature.unit, unit)}, {judged.moment
					? MOMENT_WORDS[judged.moment]
					: ''}; {feature.tolerance.lower === undefined ? 'at most' : '±'}
				{quantity(feature.tolerance.upper, feature.unit, unit)}</span
			>
		</p>
	{:else}<p class="text-steel-600">No verdict yet: {judged?.missing ?? 'not measured'}.</p>{/if}
	{#if judged?.count && judged.count > 1}
		<p class="text-sm {judged.disagree ? 'text-plum-700' : 'text-steel-700'}">
			{judged.disagree
				? `Its ${judged.count} readings exclude one another: one of them is wrong, or the piece has moved. Read it once more, and withdraw the wrong one.`
				: `${judged.count} readings put together: those by one instrument averaged, others weighed by how well each is known.`}
		</p>
	{/if}
	{#if isOut}<p class="mt-1"><a class="text-primary-700 underline" href={putRightHref}>What would bring it back</a></p>{/if}
	{#await paths}
		<p class="mt-2 text-sm text-steel-600" role="status">The forecast it is held beside is being worked out.</p>
	{:then known}
		{#if known && (readings.length || known.features[feature.id]?.verdict !== 'final shape')}<div class="mt-2">
				<PathChart
					path={pathOf(known, feature.id, readings, feature.tolerance, scale)}
					unit={feature.unit === '°' ? '°' : unit}
					name={feature.name}
				/>
			</div>{/if}
	{:catch}
		<p class="mt-2 text-sm text-steel-600">The forecast of this plan could not be worked out.</p>
	{/await}
</Panel>
