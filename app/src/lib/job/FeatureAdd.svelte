<script lang="ts">
	/** What else the piece is to be measured by: chosen from what its own shape offers, or made of places clicked on the flat layouts. */
	import { withFeature, type FeatureWish } from '$core/compose/features';
	import { proposeFeatures } from '$core/compose/proposals';
	import type { PlanDocument } from '$core/document/schema';
	import { FEATURE_KINDS, FEATURE_WORDS, TAPE_OVER, TAPE_WORDS, type FeatureKind, type TapeOver } from '$core/document/words';
	import { FEATURES } from '$core/features';
	import type { Place } from '$core/features/feature';
	import type { Vec2 } from '$core/geometry/vec';
	import { layoutBox } from '$core/mesh/assemblyMesh';
	import { isRefusal } from '$core/refusal/refusal';
	import type { LengthUnit } from '$core/units/length';
	import FlatPlace from '$lib/parts/FlatPlace.svelte';
	import Choice from '$lib/ui/Choice.svelte';
	import LengthField from '$lib/ui/LengthField.svelte';
	import Notice from '$lib/ui/Notice.svelte';
	import { Button, Checkbox, Input, Label } from 'flowbite-svelte';

	interface Props {
		plan: PlanDocument;
		unit: LengthUnit;
		onadd: (made: PlanDocument, label: string) => void;
	}
	let { plan, unit, onadd }: Props = $props();
	let open = $state<'' | 'offered' | 'hand'>('');
	let ticked = $state<string[]>([]);
	const known = $derived(new Set(plan.features.map((f) => `${f.kind} ${f.name}`)));
	const keyOf = (w: FeatureWish) => `${w.kind} ${w.name}`;
	const offered = $derived(open === 'offered' ? proposeFeatures(plan).filter((w) => !known.has(keyOf(w))) : []);

	let kind = $state<FeatureKind>('length');
	let name = $state('');
	let over = $state<TapeOver>('outside');
	let partId = $state('');
	let places = $state<Place[]>([]);
	/** the place that the next click puts */
	let at = $state(0);
	let refused = $state('');
	const part = $derived(plan.parts.find((p) => p.id === partId) ?? plan.parts[0]);
	const record = $derived(FEATURES[kind]);
	const title = $derived(name.trim() || `${FEATURE_WORDS[kind]} ${plan.features.filter((f) => f.kind === kind).length + 1}`);
	const here = $derived(places.flatMap((p, i) => (p?.part === part.id ? [{ ...p, i }] : [])));

	/** a click near a corner, the middle of an edge or a mark of its own means that place */
	function snapped(p: Vec2): Vec2 {
		const box = layoutBox(part.outline);
		const near = 0.02 * Math.max(box.x1 - box.x0, box.y1 - box.y0);
		const marks = part.outline.flatMap((a, i): Vec2[] => {
			const b = part.outline[(i + 1) % part.outline.length];
			return [a, [(a[0] + b[0]) / 2, (a[1] + b[1]) / 2]];
		});
		const best = marks.map((m) => ({ m, d: Math.hypot(m[0] - p[0], m[1] - p[1]) })).sort((a, b) => a.d - b.d)[0];
		return best && best.d < near ? best.m : p;
	}
	function put(p: Vec2, i = at) {
		const next = [...places];
		next[i] = { part: part.id, at: p };
		places = next;
		refused = '';
		at = Math.min(record.asks.length - 1, i + 1);
	}
	function restart(k: FeatureKind) {
		kind = k;
		places = [];
		at = 0;
		refused = '';
	}
	function tried(make: () => PlanDocument, label: string) {
		try {
			onadd(make(), label);
			return true;
		} catch (e) {
			if (!isRefusal(e)) throw e;
			refused = e.message;
			return false;
		}
	}
	function addTicked() {
		const wanted = offered.filter((w) => ticked.includes(keyOf(w)));
		if (tried(() => wanted.reduce((d, w) => withFeature(d, w), plan), wanted.length === 1 ? wanted[0].name : `${wanted.length} features`)) {
			ticked = [];
			open = '';
		}
	}
	function addByHand() {
		if (tried(() => withFeature(plan, { kind, name: title, places: places.map((p) => $state.snapshot(p) as Place), over }), title)) {
			restart(kind);
			name = '';
		}
	}
</script>

<div class="mt-3 flex flex-wrap gap-2">
	<Button size="xs" color="alternative" aria-expanded={open === 'offered'} onclick={() => (open = open === 'offered' ? '' : 'offered')}
		>What this piece could be measured by</Button
	>
	<Button size="xs" color="alternative" aria-expanded={open === 'hand'} onclick={() => (open = open === 'hand' ? '' : 'hand')}
		>A feature of my own</Button
	>
</div>

{#if refused}<div class="mt-2"><Notice kind="caution" title="It cannot be made">{refused}</Notice></div>{/if}

{#if open === 'offered'}
	{#if offered.length}
		<ul class="mt-2 grid gap-1 sm:grid-cols-2">
			{#each offered as w (keyOf(w))}
				<li>
					<Checkbox
						checked={ticked.includes(keyOf(w))}
						onchange={(e: Event) =>
							(ticked = (e.currentTarget as HTMLInputElement).checked ? [...ticked, keyOf(w)] : ticked.filter((k) => k !== keyOf(w)))}
						>{w.name}{w.name.includes(FEATURE_WORDS[w.kind]) || w.kind === 'angle' ? '' : `: ${FEATURE_WORDS[w.kind]}`}</Checkbox
					>
				</li>
			{/each}
		</ul>
		<Button size="sm" class="mt-2" disabled={!ticked.length} onclick={addTicked}>{ticked.length > 1 ? `Add these ${ticked.length}` : 'Add it'}</Button
		>
	{:else}<p class="mt-2 text-sm text-steel-600">Everything its shape offers is in the table already.</p>{/if}
{:else if open === 'hand'}
	<div class="mt-2 grid grid-cols-2 gap-2">
		<Choice
			label="Kind"
			value={kind}
			items={FEATURE_KINDS.map((k) => ({ value: k as string, name: FEATURE_WORDS[k] }))}
			onchange={(v) => restart(v as FeatureKind)}
		/>
		<div>
			<Label for="feature-name" class="mb-1 text-steel-700">Name</Label><Input
				id="feature-name"
				size="sm"
				bind:value={name}
				placeholder={title}
				maxlength={80}
			/>
		</div>
		<Choice label="Places on part" value={part.id} items={plan.parts.map((p) => ({ value: p.id, name: p.name }))} onchange={(v) => (partId = v)} />
		{#if record.taped.length}<Choice
				label="The tape lies"
				value={over}
				items={TAPE_OVER.map((o) => ({ value: o as string, name: TAPE_WORDS[o] }))}
				onchange={(v) => (over = v as TapeOver)}
			/>{/if}
		<div class="col-span-2">
			<FlatPlace
				{part}
				{plan}
				shape={[]}
				closed={false}
				marks={here.map((p) => p.at)}
				numbers={here.map((p) => p.i + 1)}
				isRefused={false}
				onplace={(p) => put(snapped(p))}
			/>
		</div>
	</div>
	<ol class="mt-1 text-sm">
		{#each record.asks as ask, i (i)}
			{@const p = places[i]}
			<li class="grid grid-cols-[1.6fr_1fr_1fr] items-end gap-2 border-t border-steel-200 py-1">
				<button type="button" class="min-h-8 text-left {at === i ? 'font-semibold' : ''}" aria-pressed={at === i} onclick={() => (at = i)}
					>{i + 1}. {ask}<br /><span class="text-steel-600"
						>{p ? (plan.parts.find((x) => x.id === p.part)?.name ?? '') : at === i ? 'click it on the drawing' : 'not placed yet'}</span
					></button
				>
				{#if p}
					<LengthField label="across" mm={p.at[0]} {unit} min={-20000} max={20000} onchange={(v) => put([v, p.at[1]], i)} />
					<LengthField label="up" mm={p.at[1]} {unit} min={-20000} max={20000} onchange={(v) => put([p.at[0], v], i)} />
				{/if}
			</li>
		{/each}
	</ol>
	<Button size="sm" class="mt-2" disabled={places.filter(Boolean).length < record.asks.length} onclick={addByHand}>Add it</Button>
{/if}
