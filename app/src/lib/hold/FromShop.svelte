<script lang="ts">
	/** A bar or strongback of the shop's in place of the one planned. */
	import type { AnyHoldDown, Bar, PlanDocument, Strongback } from '$core/document/schema';
	import { beyondIts, standsOut, useBar, useStrongback } from '$core/registers/use';
	import { pathLength } from '$core/geometry/polyline';
	import { itemsOf, type Shop } from '$lib/registers/shop';
	import Choice from '$lib/ui/Choice.svelte';
	import { length } from '$lib/units';

	interface Props {
		hold: AnyHoldDown;
		plan: PlanDocument;
		shop: Shop;
		unit: 'mm' | 'in';
		disabled: boolean;
		onedit: (change: (h: AnyHoldDown) => void) => void;
	}
	let { hold: h, plan, shop, unit, disabled, onedit }: Props = $props();
	const bars = $derived(h.kind === 'bar' ? itemsOf(shop, 'bar') : []);
	const strongbacks = $derived(h.kind === 'strongback' ? itemsOf(shop, 'strongback') : []);
	const nameOf = (list: readonly { id: string; name: string }[], id: string) => list.find((x) => x.id === id)?.name ?? id;
	const named = (items: readonly { id: string; item: { name: string; lengthMm: number } }[]) => [
		{ value: '', name: 'by its sizes below' },
		...items.map(({ id, item }) => ({ value: id, name: `${item.name}, ${length(item.lengthMm, unit, 0)} long` }))
	];
	// by its name, which its taking over gave
	const chosenBar = $derived(bars.find((b) => h.name.startsWith(`${b.item.name} on `)));
	const chosenBack = $derived(strongbacks.find((b) => h.name.startsWith(`${b.item.name} on `)));
	const seam = $derived(h.kind === 'bar' ? plan.joints.find((j) => j.id === (h as Bar).joint) : undefined);
	const out = $derived(chosenBar && seam ? standsOut(pathLength(seam.a.path), chosenBar.item) : 0);
	const beyond = $derived(chosenBack && h.kind === 'strongback' ? beyondIts(h as Strongback, chosenBack.item) : 0);
</script>

{#if bars.length}
	<Choice
		label="One of the shop’s"
		value={chosenBar?.id ?? ''}
		items={named(bars)}
		{disabled}
		onchange={(id) => {
			const item = bars.find((b) => b.id === id)?.item;
			if (item) onedit((x) => useBar(x as Bar, item, nameOf(plan.joints, (x as Bar).joint)));
		}}
	/>
{:else if strongbacks.length}
	<Choice
		label="One of the shop’s"
		value={chosenBack?.id ?? ''}
		items={named(strongbacks)}
		{disabled}
		onchange={(id) => {
			const item = strongbacks.find((b) => b.id === id)?.item;
			if (item) onedit((x) => useStrongback(x as Strongback, item, nameOf(plan.parts, (x as Strongback).part)));
		}}
	/>
{/if}
{#if beyond > 1}<p class="col-span-2 border-l-4 border-straw-600 bg-straw-50 px-2 py-1">
		{chosenBack!.item.name} is {length(beyond, unit, 0)} shorter than its ends are apart here: bring the ends closer, or take a longer one.
	</p>{/if}
{#if out > 1}<p class="col-span-2 border-l-4 border-straw-600 bg-straw-50 px-2 py-1">
		{chosenBar!.item.name} is {length(out, unit, 0)} longer than this seam: see that it has room to stand out, or take a shorter one.
	</p>{/if}
