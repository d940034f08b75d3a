<script lang="ts">
	/** One hold-down's own fields: where it sits, what it is, when it goes on and comes off. */
	import { pathLength } from '$core/geometry/polyline';
	import type { AnyHoldDown, Bar, PlanDocument } from '$core/document/schema';
	import type { SeamForecast } from '$core/forecast/forecast';
	import type { LengthUnit } from '$core/units/length';
	import Choice from '$lib/ui/Choice.svelte';
	import LengthField from '$lib/ui/LengthField.svelte';
	import NumberField from '$lib/ui/NumberField.svelte';

	interface Props {
		hold: AnyHoldDown;
		plan: PlanDocument;
		unit: LengthUnit;
		seams: readonly SeamForecast[];
		disabled: boolean;
		onedit: (change: (h: AnyHoldDown) => void) => void;
	}
	let { hold: h, plan, unit, seams, disabled, onedit }: Props = $props();
	// each field writes to the kind it is shown for
	const set = (name: string, value: unknown) => onedit((x) => void ((x as unknown as Record<string, unknown>)[name] = value));
	const lengthOf = (id: string) => pathLength(plan.joints.find((j) => j.id === id)!.a.path);
	const parts = $derived(plan.parts.map((p) => ({ value: p.id, name: p.name })));
	const lives = $derived([
		{ value: 'start', name: 'from the start' },
		{ value: 'after-tacks', name: 'after tacking' },
		...plan.runs.map((r, i) => ({ value: `before-run:${r.id}`, name: `before run ${i + 1}` }))
	]);
	const ends = $derived([
		{ value: 'when-cold', name: 'when cold' },
		{ value: 'after-tacks', name: 'after tacking' },
		...plan.runs.map((r, i) => ({ value: `after-run:${r.id}`, name: `after run ${i + 1}` })),
		{ value: 'stays', name: 'stays on' }
	]);
	const effect = (b: Bar) =>
		seams.find((s) => s.joint === b.joint && s.bar === b.id)?.parts.filter((p) => p.label.startsWith('Bar') || p.label.startsWith('Heat the bar')) ??
		[];
</script>

{#snippet place(label: string, name: string, at: [number, number])}
	<LengthField label="{label}, x" mm={at[0]} {unit} min={-20000} max={20000} onchange={(v) => set(name, [v, at[1]])} {disabled} />
	<LengthField label="{label}, y" mm={at[1]} {unit} min={-20000} max={20000} onchange={(v) => set(name, [at[0], v])} {disabled} />
{/snippet}

<div class="mt-1 grid grid-cols-2 gap-2 pb-2">
	{#if h.kind === 'bar' || h.kind === 'jig'}
		<LengthField label="From station" mm={h.fromMm} {unit} max={lengthOf(h.joint)} onchange={(v) => set('fromMm', v)} {disabled} />
		<LengthField label="To station" mm={h.toMm} {unit} max={lengthOf(h.joint)} onchange={(v) => set('toMm', v)} {disabled} />
	{/if}
	{#if h.kind === 'bar'}
		<Choice
			label="Metal"
			value={h.material}
			items={[
				{ value: 'copper', name: 'copper' },
				{ value: 'aluminium', name: 'aluminium' },
				{ value: 'brass', name: 'brass' },
				{ value: 'own', name: 'a lump of our own' }
			]}
			onchange={(v) =>
				onedit((x) => {
					const b = x as Bar;
					b.material = v as Bar['material'];
					if (v === 'own') b.metal ??= { conductivity: 0.05, rhoC: 0.0038 };
					else delete b.metal;
				})}
			{disabled}
		/>
		<Choice
			label="Contact"
			value={h.contact}
			items={[
				{ value: 'tight', name: 'clamped tight' },
				{ value: 'fair', name: 'fair' },
				{ value: 'loose', name: 'loose' }
			]}
			onchange={(v) => set('contact', v)}
			{disabled}
		/>
		{#if h.material === 'own' && h.metal}
			<NumberField
				label="Conductivity"
				unit="W/m.K"
				value={h.metal.conductivity * 1000}
				min={1}
				max={500}
				onchange={(v) => v !== undefined && onedit((x) => ((x as Bar).metal!.conductivity = v / 1000))}
				{disabled}
			/>
			<NumberField
				label="Heat capacity"
				unit="MJ/m³.K"
				value={h.metal.rhoC * 1000}
				min={0.5}
				max={10}
				hint="density times specific heat"
				onchange={(v) => v !== undefined && onedit((x) => ((x as Bar).metal!.rhoC = v / 1000))}
				{disabled}
			/>
		{/if}
		<LengthField label="Width" mm={h.widthMm} {unit} min={2} max={500} onchange={(v) => set('widthMm', v)} {disabled} />
		<LengthField label="Thickness" mm={h.thicknessMm} {unit} min={1} max={200} onchange={(v) => set('thicknessMm', v)} {disabled} />
		<LengthField
			label="Middle from the seam"
			mm={h.offsetMm ?? 0}
			{unit}
			min={-300}
			max={300}
			hint="0 behind it; minus on sheet A, plus on B"
			onchange={(v) => set('offsetMm', v)}
			{disabled}
		/>
	{:else if h.kind === 'clamp'}
		<LengthField label="Station" mm={h.stationMm} {unit} max={lengthOf(h.joint)} onchange={(v) => set('stationMm', v)} {disabled} />
	{:else if h.kind === 'support' || h.kind === 'table-tack' || h.kind === 'weight' || h.kind === 'brace'}
		<Choice label="On part" value={h.part} items={parts} onchange={(v) => set('part', v)} {disabled} />
		{#if h.kind === 'weight'}
			<NumberField label="Weight" unit="kg" value={h.massKg} min={0.1} max={2000} onchange={(v) => v !== undefined && set('massKg', v)} {disabled} />
		{:else}<span></span>{/if}
		{@render place('Place', 'at', h.at)}
		{#if h.kind === 'brace'}
			<Choice label="To part" value={h.partB} items={parts} onchange={(v) => set('partB', v)} {disabled} />
			<NumberField label="Section" unit="mm²" value={h.areaMm2} min={1} max={1e6} onchange={(v) => v !== undefined && set('areaMm2', v)} {disabled} />
			{@render place('Far place', 'atB', h.atB)}
		{/if}
	{:else if h.kind === 'strongback'}
		<NumberField
			label="Stiffness I"
			unit="mm⁴"
			value={h.iOutMm4}
			min={1}
			max={1e10}
			hint="out of the sheet"
			onchange={(v) => v !== undefined && set('iOutMm4', v)}
			{disabled}
		/>
		<LengthField label="Height of its middle" mm={h.offsetMm} {unit} min={-500} max={500} onchange={(v) => set('offsetMm', v)} {disabled} />
		<LengthField label="Fixed every" mm={h.pitchMm} {unit} min={5} max={5000} onchange={(v) => set('pitchMm', v)} {disabled} />
	{/if}
	{#if h.kind === 'clamp' || h.kind === 'jig' || h.kind === 'support'}
		<Choice
			label="Holds"
			value={h.holds}
			items={[
				{ value: 'normal', name: 'flat only' },
				{ value: 'all', name: 'every way' }
			]}
			onchange={(v) => set('holds', v)}
			{disabled}
		/>
	{/if}
	<Choice label="Goes on" value={h.life.on} items={lives} onchange={(v) => onedit((x) => (x.life.on = v))} {disabled} />
	<Choice label="Comes off" value={h.life.off} items={ends} onchange={(v) => onedit((x) => (x.life.off = v))} {disabled} />
	{#if h.kind === 'bar'}
		<p class="col-span-2 text-[13px] text-steel-600">
			{#each effect(h) as p (p.label)}{p.label}: <strong>{p.value}</strong>.
			{/each}
		</p>
	{/if}
</div>
