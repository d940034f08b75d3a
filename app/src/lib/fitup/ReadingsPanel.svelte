<script lang="ts">
	/** Blanks as they were cut, folds as they came, and the gaps that follow. */
	import { blankOf } from '$core/families/blank';
	import { fitFromReadings } from '$core/fitup/readings';
	import { assemblyMesh } from '$core/mesh/assemblyMesh';
	import type { PlanDocument } from '$core/document/schema';
	import type { LengthUnit } from '$core/units/length';
	import { length } from '$lib/units';
	import Choice from '$lib/ui/Choice.svelte';
	import LengthField from '$lib/ui/LengthField.svelte';
	import NumberField from '$lib/ui/NumberField.svelte';
	import Panel from '$lib/ui/Panel.svelte';
	import { Button } from 'flowbite-svelte';

	interface Props {
		plan: PlanDocument;
		unit: LengthUnit;
		disabled: boolean;
		onchange: (label: string, edit: (d: PlanDocument) => void) => void;
	}
	let { plan, unit, disabled, onchange }: Props = $props();
	let chosen = $state('');
	const part = $derived(plan.parts.find((p) => p.id === chosen) ?? plan.parts[0]);
	const blank = $derived(blankOf(part, plan));
	const cut = (along: 'x' | 'y') => plan.fitUp.cutReadings?.find((r) => r.part === part.id && r.along === along)?.measuredMm;
	const bent = (id: string) => plan.fitUp.bendReadings?.find((r) => r.part === part.id && r.bend === id)?.measuredDeg;
	const setCut = (along: 'x' | 'y', mm: number) =>
		onchange(`reading of ${part.name}`, (d) => {
			const rest = (d.fitUp.cutReadings ?? []).filter((r) => !(r.part === part.id && r.along === along));
			d.fitUp.cutReadings = [...rest, { part: part.id, along, measuredMm: mm }];
		});
	const setBend = (id: string, deg: number | undefined) =>
		onchange(`fold of ${part.name}`, (d) => {
			const rest = (d.fitUp.bendReadings ?? []).filter((r) => !(r.part === part.id && r.bend === id));
			d.fitUp.bendReadings = deg === undefined ? rest : [...rest, { part: part.id, bend: id, measuredDeg: deg }];
		});
	const count = $derived((plan.fitUp.cutReadings?.length ?? 0) + (plan.fitUp.bendReadings?.length ?? 0));
	const fits = $derived.by(() => {
		if (!count) return [];
		try {
			return fitFromReadings(plan, assemblyMesh(plan));
		} catch {
			return [];
		}
	});
	const worst = (v: readonly number[]) => v.reduce((m, x) => (Math.abs(x) > Math.abs(m) ? x : m), 0);
	const take = () =>
		onchange('gaps from the readings', (d) => {
			for (const f of fits) {
				const joint = d.joints.find((j) => j.id === f.joint)!;
				joint.gapMm = Math.round(100 * Math.max(0, worst(f.gapMm))) / 100;
				joint.gapMeasured = true;
			}
		});
</script>

<Panel title="As cut, as bent">
	<Choice label="Part" value={part.id} items={plan.parts.map((p) => ({ value: p.id, name: p.name }))} onchange={(v) => (chosen = v)} />
	<div class="mt-2 grid grid-cols-2 gap-3">
		<LengthField
			label="Blank, along x"
			mm={cut('x') ?? blank.widthMm}
			{unit}
			min={1}
			max={20000}
			hint="drawn {length(blank.widthMm, unit, 2)}"
			onchange={(v) => setCut('x', v)}
			{disabled}
		/>
		<LengthField
			label="Blank, along y"
			mm={cut('y') ?? blank.heightMm}
			{unit}
			min={1}
			max={20000}
			hint="drawn {length(blank.heightMm, unit, 2)}"
			onchange={(v) => setCut('y', v)}
			{disabled}
		/>
		{#each part.bends as b (b.id)}
			<NumberField
				label="Fold “{b.id}”"
				unit="°"
				value={bent(b.id)}
				optional
				min={-178}
				max={178}
				hint="drawn {b.angleDeg}°"
				onchange={(v) => setBend(b.id, v)}
				{disabled}
			/>
		{/each}
	</div>
	{#if fits.length}
		<table class="mt-3 w-full text-sm">
			<thead class="text-left text-steel-600"
				><tr><th class="font-normal">seam</th><th class="text-right font-normal">worst gap</th><th class="text-right font-normal">mismatch</th></tr
				></thead
			>
			<tbody>
				{#each fits as f (f.joint)}
					{@const gap = worst(f.gapMm)}
					<tr class="border-t border-steel-200">
						<td class="py-1">{plan.joints.find((j) => j.id === f.joint)?.name}</td>
						<td class="tab text-right">{gap < -0.005 ? `overlaps ${length(-gap, unit, 2)}` : length(Math.max(0, gap), unit, 2)}</td>
						<td class="tab text-right">{length(worst(f.mismatchMm), unit, 2)}</td>
					</tr>
				{/each}
			</tbody>
		</table>
		{#if !disabled}<div class="mt-2 flex gap-2">
				<Button size="sm" onclick={take}>Take these as root gaps</Button>
				<Button
					size="sm"
					color="alternative"
					onclick={() =>
						onchange('clearing the readings', (d) => {
							d.fitUp.cutReadings = [];
							d.fitUp.bendReadings = [];
						})}>Clear all readings</Button
				>
			</div>{/if}
	{:else}
		<p class="mt-2 text-[13px] text-steel-600">Type what you measured; gaps and mismatch of the seams follow before anything is tacked.</p>
	{/if}
</Panel>
