<script lang="ts">
	/** One thing that was read: each way's readings on one scale, and what is said of every two. */
	import type { Between } from '$core/coupons/trial';
	import { quantity } from '$lib/units';

	interface Props {
		result: { name: string; unit: string; readings: (number | undefined)[][]; between: Between[] };
		ways: string[];
		/** 0 where no difference was named that matters */
		matters: number;
		unit: 'mm' | 'in';
	}
	let { result, ways, matters, unit }: Props = $props();
	const show = (v: number | undefined) => (result.unit === 'min' ? `${v?.toFixed(0) ?? '–'} min` : quantity(v, result.unit as 'mm' | '°', unit));
	const all = $derived(result.readings.flat().filter((v): v is number => v !== undefined));
	const [low, high] = $derived([Math.min(0, ...all), Math.max(0, ...all)]);
	const at = (v: number) => (high > low ? 2 + (96 * (v - low)) / (high - low) : 50);
	const mean = (list: (number | undefined)[]) => {
		const own = list.filter((v): v is number => v !== undefined);
		return own.length ? own.reduce((s, v) => s + v, 0) / own.length : undefined;
	};
	const percent = (v: number) => (v < 0.001 ? 'less than 0.1 %' : `${(100 * v).toFixed(v < 0.1 ? 1 : 0)} %`);
	/** of two ways the one that leaves less */
	const better = (b: Between) => (Math.abs(mean(result.readings[b.a]) ?? 0) <= Math.abs(mean(result.readings[b.b]) ?? 0) ? b.a : b.b);
	function verdict(b: Between): string {
		if (b.why) return b.why + '.';
		const size = Math.abs(b.compared!.difference);
		if (b.verdict === 'differs')
			return matters && size < matters ? `More than chance, and less than what would matter.` : `More than chance. “${ways[better(b)]}” leaves less.`;
		if (b.verdict === 'alike') return 'No difference that would matter.';
		return b.wants ? `Open: ${b.wants} of each would tell.` : 'No more than chance may do.';
	}
</script>

<section class="border-t border-steel-200 py-3 first:border-t-0 first:pt-0" aria-label={result.name}>
	<h3 class="font-medium">{result.name}</h3>
	{#if !all.length}<p class="text-sm text-steel-600">Nothing read yet.</p>{:else}
		<div class="mt-1 space-y-1">
			{#each result.readings as list, w (w)}
				<div class="grid grid-cols-[minmax(7rem,12rem)_1fr_5.5rem] items-center gap-2 text-sm max-sm:grid-cols-[6rem_1fr_4.5rem]">
					<span>{ways[w]}</span>
					<svg
						viewBox="0 0 100 10"
						class="h-6 w-full"
						preserveAspectRatio="none"
						role="img"
						aria-label="{ways[w]}: {list.map((v) => (v === undefined ? 'not read' : show(v))).join(', ')}"
					>
						<line x1="0" x2="100" y1="5" y2="5" class="stroke-steel-300" stroke-width="0.5" vector-effect="non-scaling-stroke" />
						<line x1={at(0)} x2={at(0)} y1="1" y2="9" class="stroke-steel-400" vector-effect="non-scaling-stroke" />
						{#each list as v, i (i)}{#if v !== undefined}<line
									x1={at(v)}
									x2={at(v)}
									y1="2"
									y2="8"
									class="stroke-primary-700"
									stroke-width="3"
									vector-effect="non-scaling-stroke"
								/>{/if}{/each}
					</svg>
					<span class="tab text-right">{mean(list) === undefined ? '–' : show(mean(list))}</span>
				</div>
			{/each}
		</div>
	{/if}
	{#if all.length}
		<ul class="mt-2 text-sm">
			{#each result.between as b (`${b.a}/${b.b}`)}
				<li class="py-1">
					{#if result.between.length > 1}<span class="text-steel-600">{ways[b.a]} less {ways[b.b]}: </span>{/if}
					{#if b.compared}<strong class="tab font-medium">{show(b.compared.difference)}</strong>
						({show(b.compared.low)} to {show(b.compared.high)}); compared {b.paired ? 'round by round' : 'all together'}; chance alone shows as much
						in
						{percent(b.chance!)} of trials.{/if}
					<strong class="font-medium">{verdict(b)}</strong>
					{#if b.expected && b.compared}<span class="text-steel-700"
							>The forecast expected {show(b.expected.difference)} ± {show(b.expected.half)}: {b.asForecast
								? 'as it came'
								: 'it came otherwise'}.</span
						>{:else if b.expected}<span class="text-steel-700">The forecast expects {show(b.expected.difference)} ± {show(b.expected.half)}.</span
						>{/if}
				</li>
			{/each}
		</ul>
	{/if}
</section>
