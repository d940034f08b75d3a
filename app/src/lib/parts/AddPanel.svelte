<script lang="ts">
	/** One more thing on the piece: what, on which part, where by exact numbers. */
	import { ADDITION_WORDS, type Addition, type Side } from '$core/compose/add';
	import { basePoint, layoutBox } from '$core/mesh/assemblyMesh';
	import type { Vec2 } from '$core/geometry/vec';
	import type { PlanDocument } from '$core/document/schema';
	import type { LengthUnit } from '$core/units/length';
	import Choice from '$lib/ui/Choice.svelte';
	import LengthField from '$lib/ui/LengthField.svelte';
	import Notice from '$lib/ui/Notice.svelte';
	import Panel from '$lib/ui/Panel.svelte';
	import { Button } from 'flowbite-svelte';

	interface Props {
		plan: PlanDocument;
		unit: LengthUnit;
		disabled: boolean;
		refused: string;
		onadd: (what: Addition, label: string) => void;
	}
	let { plan, unit, disabled, refused, onadd }: Props = $props();
	let kind = $state<Addition['kind']>('stiffener');
	let chosen = $state('');
	let side = $state<Side>('front');
	let first = $state<Vec2 | undefined>();
	let second = $state<Vec2 | undefined>();
	let size = $state(40);
	let height = $state(30);
	const part = $derived(plan.parts.find((p) => p.id === chosen) ?? plan.parts[0]);
	const line = $derived(kind === 'stiffener' || kind === 'bracket');
	const box = $derived(layoutBox(part.outline));
	const base = $derived(basePoint(part));
	const a = $derived<Vec2>(first ?? (line ? [base[0] - (box.x1 - box.x0) / 4, base[1]] : base));
	const b = $derived<Vec2>(second ?? [base[0] + (box.x1 - box.x0) / 4, base[1]]);
	const length0 = (mm: number) => mm.toFixed(0);
	const round = (p: Vec2): Vec2 => [Math.round(p[0] * 10) / 10, Math.round(p[1] * 10) / 10];
	function put() {
		const at = round(a);
		const what: Addition =
			kind === 'port'
				? { kind, part: part.id, at, outsideMm: size, lengthMm: height, side }
				: kind === 'patch'
					? { kind, part: part.id, at, diameterMm: size }
					: { kind, part: part.id, from: at, to: round(b), heightMm: height, side };
		onadd(what, `${ADDITION_WORDS[kind].toLowerCase()} on ${part.name}`);
	}
</script>

{#snippet place(label: string, p: Vec2, set: (v: Vec2) => void)}
	<LengthField label="{label}, x" mm={p[0]} {unit} min={-20000} max={20000} onchange={(v) => set([v, p[1]])} {disabled} />
	<LengthField label="{label}, y" mm={p[1]} {unit} min={-20000} max={20000} onchange={(v) => set([p[0], v])} {disabled} />
{/snippet}

<Panel title="Add to it">
	<div class="grid grid-cols-2 gap-2">
		<Choice
			label="What"
			value={kind}
			items={Object.entries(ADDITION_WORDS).map(([value, name]) => ({ value, name }))}
			onchange={(v) => {
				kind = v as Addition['kind'];
				first = second = undefined;
			}}
			{disabled}
		/>
		<Choice
			label="On part"
			value={part.id}
			items={plan.parts.map((p) => ({ value: p.id, name: p.name }))}
			onchange={(v) => {
				chosen = v;
				first = second = undefined;
			}}
			{disabled}
		/>
		{@render place(line ? 'From' : 'Middle', a, (v) => (first = v))}
		{#if line}{@render place('To', b, (v) => (second = v))}{/if}
		{#if kind === 'port' || kind === 'patch'}
			<LengthField
				label={kind === 'port' ? 'Outside of the socket' : 'Diameter'}
				mm={size}
				{unit}
				min={4}
				max={2000}
				onchange={(v) => (size = v)}
				{disabled}
			/>
		{/if}
		{#if kind !== 'patch'}
			<LengthField
				label={kind === 'port' ? 'Length of the socket' : 'Height'}
				mm={height}
				{unit}
				min={3}
				max={2000}
				onchange={(v) => (height = v)}
				{disabled}
			/>
			<Choice
				label="On its"
				value={side}
				items={[
					{ value: 'front', name: 'front' },
					{ value: 'back', name: 'back' }
				]}
				onchange={(v) => (side = v as Side)}
				{disabled}
			/>
		{/if}
	</div>
	<p class="mt-1 text-[13px] text-steel-600">
		Places are in the part’s layout: x from {length0(box.x0)} to {length0(box.x1)}, y from {length0(box.y0)} to {length0(box.y1)} mm. A plate is welded
		to every sheet its edges reach, so one across a trough becomes a baffle. Strongbacks are on the Hold page.
	</p>
	{#if refused}<div class="mt-2"><Notice kind="fault">{refused}</Notice></div>{/if}
	{#if !disabled}<div class="mt-2"><Button size="sm" onclick={put}>Add it</Button></div>{/if}
</Panel>
