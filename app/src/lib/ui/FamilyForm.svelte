<script lang="ts">
	/** Sizes of a family: the same form makes a new job and changes an existing one. */
	import { CATALOGUE, type MadeFamily } from '$core/families';
	import { isAsked, type FamilyParameters, type FieldDef } from '$core/families/family';
	import { findMaterial } from '$core/materials/grades';
	import type { Fault } from '$core/document/faults';
	import { formatLength, type LengthUnit } from '$core/units/length';
	import Choice from './Choice.svelte';
	import LengthField from './LengthField.svelte';
	import NumberField from './NumberField.svelte';
	import { Checkbox } from 'flowbite-svelte';

	interface Props {
		kind: MadeFamily;
		parameters: FamilyParameters;
		unit: LengthUnit;
		grades: { id: string; name: string }[];
		faults?: Fault[];
		disabled?: boolean;
		/** of a new piece: only the sizes that make it are open, what may be added to it is folded away */
		folds?: boolean;
		onchange: (p: FamilyParameters) => void;
	}
	let { kind, parameters, unit, grades, faults = [], disabled = false, folds = false, onchange }: Props = $props();
	const set = (name: string, value: number | string | boolean | number[]) => onchange({ ...parameters, [name]: value });
	const fault = (name: string) => faults.find((f) => f.field === `family.parameters.${name}`)?.allowed;
	const gauge = $derived.by(() => {
		try {
			return findMaterial(String(parameters.material)).gaugeTable;
		} catch {
			return undefined;
		}
	});
	const asked = $derived(CATALOGUE[kind].fields.filter((f) => isAsked(f, parameters)));
	/** what it is made as, its sizes, and how many of what it cannot be without */
	const matters = (f: FieldDef) => !folds || CATALOGUE[kind].sizes.includes(f.name) || f.kind === 'word' || (f.kind === 'count' && f.min > 0);
	const open = $derived(asked.filter(matters));
	const folded = $derived(asked.filter((f) => !matters(f)));
	/** a person's drawing may give sizes over the sheets: they are kept clear, as ever */
	let isOver = $state(false);
	const mayBeOver = $derived(asked.some((f) => f.kind === 'length' && f.sheets));
	const over = (f: FieldDef) => (isOver && f.kind === 'length' && f.sheets ? f.sheets * num('thicknessMm') : 0);
	/** what was given over the sheets stays so */
	function setThickness(v: number) {
		const by = v - num('thicknessMm');
		const moved = asked.flatMap((f) => (over(f) && f.kind === 'length' ? [[f.name, num(f.name) - f.sheets! * by]] : []));
		onchange({ ...parameters, ...(Object.fromEntries(moved) as FamilyParameters), thicknessMm: v });
	}
	const num = (name: string) => parameters[name] as number;
</script>

{#snippet field(f: FieldDef)}
	{#if isAsked(f, parameters)}
		{@const value = parameters[f.name] ?? CATALOGUE[kind].defaults[f.name]}
		{#if f.kind === 'length'}
			<LengthField
				label={over(f) ? f.label.replace('inside', 'outside') : f.label}
				mm={(value as number) + over(f)}
				{unit}
				min={f.min + over(f)}
				max={f.max + over(f)}
				hint={over(f) ? `${formatLength(value as number, unit)} inside` : f.hint}
				fault={fault(f.name)}
				onchange={(v) => set(f.name, v - over(f))}
				{disabled}
			/>
		{:else if f.kind === 'angle' || f.kind === 'count'}
			<NumberField
				label={f.label}
				value={value as number}
				unit={f.kind === 'angle' ? '°' : undefined}
				min={f.min}
				max={f.max}
				hint={f.hint}
				fault={fault(f.name)}
				onchange={(v) => v !== undefined && set(f.name, f.kind === 'count' ? Math.round(v) : v)}
				{disabled}
			/>
		{:else if f.kind === 'word'}
			<Choice
				label={f.label}
				value={String(value)}
				items={Object.entries(f.options).map(([v, name]) => ({ value: v, name }))}
				onchange={(v) => set(f.name, v)}
				{disabled}
			/>
		{:else if f.kind === 'flag'}
			<label class="flex min-h-9 items-center gap-2 self-end text-sm">
				<Checkbox checked={value === true} onchange={(e) => set(f.name, (e.currentTarget as HTMLInputElement).checked)} {disabled} />
				{f.label}
			</label>
		{:else}
			{@const list = value as number[]}
			{#if f.atMost > f.atLeast}
				<Choice
					label={f.label}
					value={String(list.length)}
					items={Array.from({ length: f.atMost - f.atLeast + 1 }, (_, i) => ({ value: String(f.atLeast + i), name: `${f.atLeast + i} in a row` }))}
					onchange={(v) =>
						set(
							f.name,
							Array.from({ length: Number(v) }, (_, i) => list[i] ?? list[list.length - 1] ?? 250)
						)}
					{disabled}
				/>
			{/if}
			{#each list as w, i (i)}
				<LengthField
					label="{f.each} {i + 1}"
					mm={w}
					{unit}
					min={f.min}
					max={f.max}
					fault={i === 0 ? fault(f.name) : undefined}
					onchange={(v) =>
						set(
							f.name,
							list.map((x, k) => (k === i ? v : x))
						)}
					{disabled}
				/>
			{/each}
		{/if}
	{/if}
{/snippet}

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
		onchange={setThickness}
		{disabled}
	/>
	{#if mayBeOver}<Choice
			label="Sizes are given"
			value={isOver ? 'outside' : 'inside'}
			items={[
				{ value: 'inside', name: 'inside, clear' },
				{ value: 'outside', name: 'outside, over the sheets' }
			]}
			onchange={(v) => (isOver = v === 'outside')}
			{disabled}
		/>{/if}
	{#each open as f (f.name)}{@render field(f)}{/each}
</div>
{#if folded.length}
	<details class="mt-3" open={folded.some((f) => fault(f.name))}>
		<summary class="inline-flex min-h-8 cursor-pointer items-center text-sm text-primary-700 underline">More sizes, and what may be added</summary>
		<div class="mt-2 grid grid-cols-2 gap-x-4 gap-y-3">
			{#each folded as f (f.name)}{@render field(f)}{/each}
		</div>
	</details>
{/if}
