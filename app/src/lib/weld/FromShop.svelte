<script lang="ts">
	/** Machine, tungsten, cup and filler of the shop's own put into settings. */
	import type { WeldSettings } from '$core/document/schema';
	import { sourceFault, useCup, useFiller, useSource, useTungsten } from '$core/registers/use';
	import { itemsOf, type Shop } from '$lib/registers/shop';
	import Choice from '$lib/ui/Choice.svelte';
	import Notice from '$lib/ui/Notice.svelte';

	interface Props {
		settings: WeldSettings;
		shop: Shop;
		disabled: boolean;
		onedit: (label: string, change: (s: WeldSettings) => void) => void;
	}
	let { settings: s, shop, disabled, onedit }: Props = $props();
	const sources = $derived(itemsOf(shop, 'source'));
	const tungstens = $derived(itemsOf(shop, 'tungsten'));
	const cups = $derived(itemsOf(shop, 'cup'));
	const fillers = $derived(itemsOf(shop, 'filler'));
	const source = $derived(sources.find((x) => x.item.name === s.source));
	const named = (list: readonly { id: string; item: { name: string } }[]) => [
		{ value: '', name: 'as set below' },
		...list.map(({ id, item }) => ({ value: id, name: item.name }))
	];
	/** the first that fits what is set: two of a size are the same to the plan */
	const of = <T,>(list: readonly { id: string; item: T }[], fits: (item: T) => boolean) => list.find((x) => fits(x.item))?.id ?? '';
	const take =
		<T,>(list: readonly { id: string; item: T }[], what: string, use: (s: WeldSettings, item: T) => void) =>
		(id: string) => {
			const found = list.find((x) => x.id === id);
			if (found) onedit(what, (x) => use(x, found.item));
		};
	const fault = $derived(source && sourceFault(s, source.item));
</script>

{#if shop.length}
	<div class="mt-3 grid grid-cols-2 gap-x-3 gap-y-2 border-t border-steel-200 pt-2">
		<p class="col-span-2 text-sm text-steel-600">
			From <a class="text-primary-700 underline" href="/library/registers?kind=source">what the shop has</a>
		</p>
		{#if sources.length}<Choice
				label="Power source"
				value={source?.id ?? ''}
				items={named(sources)}
				{disabled}
				onchange={(id) => {
					if (id) take(sources, 'power source', useSource)(id);
					else onedit('power source', (x) => delete x.source);
				}}
			/>{/if}
		{#if tungstens.length}<Choice
				label="Tungsten"
				value={of(tungstens, (i) => i.grade === s.tungsten && i.diameterMm === s.tungstenMm)}
				items={named(tungstens)}
				{disabled}
				onchange={take(tungstens, 'tungsten', useTungsten)}
			/>{/if}
		{#if cups.length}<Choice
				label="Cup"
				value={of(cups, (i) => i.boreMm === s.cupMm)}
				items={named(cups)}
				{disabled}
				onchange={take(cups, 'cup', useCup)}
			/>{/if}
		{#if fillers.length}<Choice
				label="Filler"
				value={of(fillers, (i) => i.grade === s.fillerGrade && i.diameterMm === s.fillerMm)}
				items={named(fillers)}
				{disabled}
				onchange={take(fillers, 'filler', useFiller)}
			/>{/if}
		{#if fault}<div class="col-span-2"><Notice kind="caution">{fault}</Notice></div>{/if}
	</div>
{/if}
