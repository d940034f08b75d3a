<script lang="ts">
	/** Sizes of a family: the same form makes a new job and changes an existing one. */
	import type { FamilyParameters } from '$core/families/defaults';
	import { findMaterial } from '$core/materials/grades';
	import type { Fault } from '$core/plan/faults';
	import type { LengthUnit } from '$core/units/length';
	import Choice from './Choice.svelte';
	import LengthField from './LengthField.svelte';

	interface Props {
		kind: 'open-trough' | 'butt-panel';
		parameters: FamilyParameters;
		unit: LengthUnit;
		grades: { id: string; name: string }[];
		faults?: Fault[];
		disabled?: boolean;
		onchange: (p: FamilyParameters) => void;
	}
	let { kind, parameters, unit, grades, faults = [], disabled = false, onchange }: Props = $props();
	const set = (name: string, value: number | string | number[]) => onchange({ ...parameters, [name]: value });
	const fault = (name: string) => faults.find((f) => f.field === `family.parameters.${name}`)?.allowed;
	const gauge = $derived.by(() => {
		try {
			return findMaterial(String(parameters.material)).gaugeTable;
		} catch {
			return undefined;
		}
	});
	const widths = $derived((parameters.widthsMm as number[] | undefined) ?? []);
	const num = (name: string) => parameters[name] as number;
</script>

<div class="grid grid-cols-2 gap-x-4 gap-y-3">
	<Choice
		label="Material"
		value={String(parameters.material)}
		items={grades.map((g) => ({ value: g.id, name: g.name }))}
		onchange={(v) => set('material', v)}
		{disabled}
	/>
	<LengthField
		label="Thickness"
		mm={num('thicknessMm')}
		{unit}
		gaugeTable={gauge}
		min={0.3}
		max={12}
		fault={fault('thicknessMm')}
		hint="also 16 ga, 60 thou, 1/16"
		onchange={(v) => set('thicknessMm', v)}
		{disabled}
	/>
	{#if kind === 'open-trough'}
		<LengthField
			label="Length inside"
			mm={num('lengthMm')}
			{unit}
			min={20}
			max={4000}
			fault={fault('lengthMm')}
			onchange={(v) => set('lengthMm', v)}
			{disabled}
		/>
		<LengthField
			label="Width inside"
			mm={num('widthMm')}
			{unit}
			min={20}
			max={4000}
			fault={fault('widthMm')}
			onchange={(v) => set('widthMm', v)}
			{disabled}
		/>
		<LengthField
			label="Depth inside"
			mm={num('depthMm')}
			{unit}
			min={10}
			max={2000}
			fault={fault('depthMm')}
			onchange={(v) => set('depthMm', v)}
			{disabled}
		/>
		<LengthField
			label="Rim flange outward"
			mm={num('rimFlangeMm')}
			{unit}
			min={0}
			max={200}
			fault={fault('rimFlangeMm')}
			hint="0 for none"
			onchange={(v) => set('rimFlangeMm', v)}
			{disabled}
		/>
		<Choice
			label="Made from"
			value={String(parameters.body)}
			items={[
				{ value: 'u-body', name: 'Folded body, two ends' },
				{ value: 'cross-blank', name: 'One folded blank, four corners' },
				{ value: 'five-plates', name: 'Five plates, nothing folded' }
			]}
			onchange={(v) => set('body', v)}
			{disabled}
		/>
		<LengthField
			label="Inside bend radius"
			mm={num('bendRadiusMm')}
			{unit}
			min={0}
			max={50}
			fault={fault('bendRadiusMm')}
			onchange={(v) => set('bendRadiusMm', v)}
			{disabled}
		/>
	{:else}
		<LengthField
			label="Length of the seams"
			mm={num('lengthMm')}
			{unit}
			min={20}
			max={4000}
			fault={fault('lengthMm')}
			onchange={(v) => set('lengthMm', v)}
			{disabled}
		/>
		<Choice
			label="Blanks"
			value={String(widths.length)}
			items={[2, 3, 4, 5, 6].map((n) => ({ value: String(n), name: `${n} in a row` }))}
			onchange={(v) =>
				set(
					'widthsMm',
					Array.from({ length: Number(v) }, (_, i) => widths[i] ?? widths[widths.length - 1] ?? 250)
				)}
			{disabled}
		/>
		{#each widths as w, i (i)}
			<LengthField
				label="Width of blank {i + 1}"
				mm={w}
				{unit}
				min={10}
				max={4000}
				fault={i === 0 ? fault('widthsMm') : undefined}
				onchange={(v) =>
					set(
						'widthsMm',
						widths.map((x, k) => (k === i ? v : x))
					)}
				{disabled}
			/>
		{/each}
	{/if}
</div>
