<script lang="ts">
	/** One more thing on the piece: what, on which part, where by a click on its flat layout or by exact numbers from named edges. */
	import { addTo, ADDITION_WORDS, type Addition, type Side } from '$core/compose/add';
	import { edgeNames, panelAt, placeFromEdges, placeInLayout } from '$core/compose/panels';
	import { basePoint, layoutBox } from '$core/mesh/assemblyMesh';
	import { isRefusal } from '$core/refusal/refusal';
	import type { Vec2 } from '$core/geometry/vec';
	import type { PanelPlace, PlanDocument } from '$core/document/schema';
	import type { LengthUnit } from '$core/units/length';
	import { untrack } from 'svelte';
	import Choice from '$lib/ui/Choice.svelte';
	import LengthField from '$lib/ui/LengthField.svelte';
	import Notice from '$lib/ui/Notice.svelte';
	import Panel from '$lib/ui/Panel.svelte';
	import { Button } from 'flowbite-svelte';
	import FlatPlace from './FlatPlace.svelte';

	interface Props {
		plan: PlanDocument;
		unit: LengthUnit;
		disabled: boolean;
		/** a part, and a place on it, that was pointed at on the piece */
		on?: { id: string; at?: Vec2 };
		onadd: (made: PlanDocument, label: string) => void;
	}
	let { plan, unit, disabled, on, onadd }: Props = $props();
	let kind = $state<Addition['kind']>('stiffener');
	let chosen = $state('');
	let side = $state<Side>('front');
	let first = $state<Vec2 | undefined>();
	let second = $state<Vec2 | undefined>();
	/** which end the next click puts */
	let end = $state<0 | 1>(0);
	let size = $state(40);
	let height = $state(30);
	const part = $derived(plan.parts.find((p) => p.id === (chosen || on?.id)) ?? plan.parts[0]);
	const line = $derived(kind === 'stiffener' || kind === 'bracket');
	const box = $derived(layoutBox(part.outline));
	const base = $derived(basePoint(part));
	const a = $derived<Vec2>(first ?? (line ? [base[0] - (box.x1 - box.x0) / 4, base[1]] : base));
	const b = $derived<Vec2>(second ?? [base[0] + (box.x1 - box.x0) / 4, base[1]]);
	const round = (p: Vec2): Vec2 => [Math.round(p[0] * 10) / 10, Math.round(p[1] * 10) / 10];
	/** both ends of a line are told from the edges of the panel its middle lies on */
	const panel = $derived(panelAt(part, line ? [(a[0] + b[0]) / 2, (a[1] + b[1]) / 2] : a));
	const names = $derived(edgeNames(part, panel));
	const what = $derived<Addition>(
		kind === 'port'
			? { kind, part: part.id, at: round(a), outsideMm: size, lengthMm: height, side }
			: kind === 'patch'
				? { kind, part: part.id, at: round(a), diameterMm: size }
				: kind === 'cross-break'
					? { kind, part: part.id, at: round(a), heightMm: Math.min(20, height), side }
					: { kind, part: part.id, from: round(a), to: round(b), heightMm: height, side }
	);
	/** made before it is asked for, so that what cannot go there is said beforehand */
	const trial = $derived.by((): { made?: PlanDocument; refused?: string } => {
		if (disabled) return {};
		try {
			return { made: addTo(plan, what) };
		} catch (e) {
			if (!isRefusal(e)) throw e;
			return { refused: e.message };
		}
	});
	const circleOf = ([x, y]: Vec2, r: number): Vec2[] =>
		Array.from({ length: 32 }, (_, i) => [x + r * Math.cos((Math.PI * i) / 16), y + r * Math.sin((Math.PI * i) / 16)]);
	const shape = $derived<Vec2[]>(
		line
			? [a, b]
			: kind === 'cross-break'
				? [
						[panel.x0, panel.y0],
						[panel.x1, panel.y1],
						[panel.x1, panel.y0],
						[panel.x0, panel.y1]
					]
				: circleOf(a, size / 2)
	);
	// what is pointed at on the piece is the part and the place; a line takes its two ends in turn
	$effect(() => {
		const now = on;
		if (!now) return;
		untrack(() => {
			if (chosen && chosen !== now.id) first = second = undefined;
			chosen = now.id;
			if (now.at) place([Math.round(now.at[0]), Math.round(now.at[1])]);
		});
	});
	function place(at: Vec2) {
		if (disabled) return;
		if (line && end === 1) second = at;
		else first = at;
		if (line) end = end === 0 ? 1 : 0;
	}
	/** the same place, told from another edge or at another distance */
	function put(which: 0 | 1, change: Partial<PanelPlace>) {
		const now = placeFromEdges(part, which ? b : a, panel);
		const at = placeInLayout(part, { ...now, ...change });
		if (which) second = at;
		else first = at;
	}
	const word = { left: 'the left', right: 'the right', lower: 'below', upper: 'above', middle: 'the middle' } as const;
</script>

{#snippet fields(label: string, which: 0 | 1)}
	{@const p = placeFromEdges(part, which ? b : a, panel)}
	<LengthField
		label="{label}, from {word[p.acrossFrom]}"
		hint={p.acrossFrom === 'middle' ? 'of the panel' : names[p.acrossFrom]}
		mm={p.acrossMm}
		{unit}
		min={-20000}
		max={20000}
		onchange={(v) => put(which, { acrossFrom: p.acrossFrom, acrossMm: v })}
		{disabled}
	/>
	<LengthField
		label="{label}, from {word[p.upFrom]}"
		hint={p.upFrom === 'middle' ? 'of the panel' : names[p.upFrom]}
		mm={p.upMm}
		{unit}
		min={-20000}
		max={20000}
		onchange={(v) => put(which, { upFrom: p.upFrom, upMm: v })}
		{disabled}
	/>
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
				end = 0;
				if (kind === 'cross-break') height = 5;
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
				end = 0;
			}}
			{disabled}
		/>
		<div class="col-span-2">
			<FlatPlace {part} {plan} {shape} closed={!line} marks={line ? [a, b] : [a]} isRefused={trial.refused !== undefined} onplace={place} />
		</div>
		{@render fields(line ? 'End 1' : 'Middle', 0)}
		{#if line}{@render fields('End 2', 1)}{/if}
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
				label={kind === 'port' ? 'Length of the socket' : kind === 'cross-break' ? 'Crossing above the panel' : 'Height'}
				mm={height}
				{unit}
				min={kind === 'cross-break' ? 0.5 : 3}
				max={kind === 'cross-break' ? 20 : 2000}
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
		{line ? `Click end ${end + 1} on the piece or on the drawing, or type it.` : 'Click its place on the piece or on the drawing, or type it.'} A plate
		is welded to every sheet its edges reach, so one across a trough becomes a baffle. What is added moves with the edges it is told from when the sizes
		change. Strongbacks are on the Hold page.
	</p>
	<div class="mt-2" aria-live="polite">
		{#if trial.refused}<Notice kind="caution" title="It cannot go there">{trial.refused}</Notice>{/if}
	</div>
	{#if !disabled}<div class="mt-2">
			<Button
				size="sm"
				disabled={!trial.made}
				onclick={() => trial.made && onadd(trial.made, `${ADDITION_WORDS[kind].toLowerCase()} on ${part.name}`)}>Add it</Button
			>
		</div>{/if}
</Panel>
