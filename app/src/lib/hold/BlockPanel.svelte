<script lang="ts">
	/** How warm bars and blocks get, run after run, and how long they take to recover. */
	import { blockAfterRuns, massFor, recoveryS, type Lump } from '$core/heat/chillBlock';
	import type { Schedule } from '$core/forecast/schedule';
	import type { SeamForecast } from '$core/forecast/forecast';
	import { BLOCK_METALS } from '$core/materials/grades';
	import type { Bar, PlanDocument } from '$core/document/schema';
	import NumberField from '$lib/ui/NumberField.svelte';
	import Panel from '$lib/ui/Panel.svelte';

	interface Props {
		plan: PlanDocument;
		seams: readonly SeamForecast[];
		schedule: Schedule | undefined;
	}
	let { plan, seams, schedule }: Props = $props();
	let rise = $state(40);
	let share = $state(50);
	const hottest = $derived.by(() => {
		const heats = plan.runs.map((r) => {
			const s = seams.find((x) => x.joint === r.joint);
			return (s?.netHeat ?? 0) * Math.abs(r.toMm - r.fromMm);
		});
		return { heats, most: Math.max(0, ...heats), all: heats.reduce((a, b) => a + b, 0) };
	});
	const bars = $derived(plan.holdDowns.filter((h): h is Bar => h.kind === 'bar'));
	const between = $derived(schedule ? schedule.runs.slice(1).map((r, i) => r.startS - schedule!.runs[i].startS - schedule!.runs[i].arcS) : []);
	const lump = (c: number, kg: number): Lump => ({ massKg: kg, specificHeat: c, areaMm2: 6e4 * Math.cbrt(kg) ** 2, air: 15e-6 });
	const last = (c: number, kg: number) => {
		const after = blockAfterRuns(lump(c, kg), { heatJ: hottest.heats.map((h) => (h * share) / 100), betweenS: between, ambientC: plan.ambientC });
		return Math.max(plan.ambientC, ...after);
	};
</script>

<Panel title="Chill block sizing">
	{#if !plan.runs.length}
		<p class="text-sm text-steel-600">No runs yet: the heat to take is not known.</p>
	{:else if !seams.length}
		<p class="text-sm text-steel-600" role="status">The heat to take comes with the forecast.</p>
	{:else}
		<div class="grid grid-cols-2 gap-2">
			<NumberField label="Rise allowed in one run" unit="K" value={rise} min={1} max={400} onchange={(v) => (rise = v ?? 40)} />
			<NumberField label="Share of the heat it takes" unit="%" value={share} min={1} max={100} onchange={(v) => (share = v ?? 50)} />
		</div>
		<p class="mt-2 text-[13px] text-steel-600">
			The hottest run gives <span class="tab">{(hottest.most / 1000).toFixed(1)} kJ</span>, all of them
			<span class="tab">{(hottest.all / 1000).toFixed(0)} kJ</span>.
		</p>
		<table class="mt-1 w-full text-sm">
			<thead class="text-left text-steel-600"
				><tr
					><th class="font-normal">metal</th><th class="text-right font-normal">at least</th><th class="text-right font-normal">after all runs</th><th
						class="text-right font-normal">back to {plan.ambientC + 10} °C</th
					></tr
				></thead
			>
			<tbody>
				{#each BLOCK_METALS as m (m.id)}
					{@const kg = massFor((hottest.most * share) / 100, rise, m.specificHeat)}
					{@const top = between.length || plan.runs.length === 1 ? last(m.specificHeat, kg) : undefined}
					<tr class="border-t border-steel-200">
						<td class="py-1">{m.name}</td>
						<td class="tab text-right">{kg.toFixed(2)} kg</td>
						<td class="tab text-right">{top === undefined ? 'needs the heat' : `${top.toFixed(0)} °C`}</td>
						<td class="tab text-right"
							>{top === undefined ? '' : `${Math.ceil(recoveryS(lump(m.specificHeat, kg), top, plan.ambientC + 10, plan.ambientC) / 60)} min`}</td
						>
					</tr>
				{/each}
			</tbody>
		</table>
		<p class="mt-1 text-[13px] text-steel-600">
			Heat balance of a lump in still air (m c ΔT). By volume aluminium takes about 70 % of what copper does; by the kilogram more than twice as much.
		</p>
		{#if bars.length && schedule}
			<h3 class="mt-3 text-[15px]">On this piece</h3>
			<ul class="text-sm">
				{#each schedule.bars as b (b.bar)}
					<li class="flex justify-between border-t border-steel-200 py-1">
						<span>{bars.find((x) => x.id === b.bar)?.name ?? b.bar}</span><span class="tab">hottest {b.peakC.toFixed(0)} °C</span>
					</li>
				{/each}
			</ul>
		{/if}
	{/if}
</Panel>
