<script lang="ts">
	/** Help over whatever page is open: how the work goes, the keys, the words. All of it ships with the page, so it is there without network. */
	import glossary from '../../../../docs/glossary.md?raw';
	import { Input, Modal } from 'flowbite-svelte';
	import { DRAWINGS } from './drawings';
	import { entriesOf, find } from './glossary';
	import { KEYS, TOPICS } from './topics';
	import WordDrawing from './WordDrawing.svelte';

	let { open = $bindable(false) }: { open: boolean } = $props();
	const uid = $props.id();
	const entries = entriesOf(glossary);
	let typed = $state('');
	const topics = $derived(
		find(
			TOPICS,
			typed,
			(t) => t.title,
			(t) => t.words
		)
	);
	const words = $derived(
		find(
			entries,
			typed,
			(e) => e.here,
			(e) => `${e.also} ${e.is}`
		)
	);
	const keys = $derived(typed ? [] : KEYS);
</script>

<Modal bind:open title="Help" size="lg" outsideclose>
	<label class="sr-only" for="find-{uid}">Find in the help</label>
	<Input id="find-{uid}" type="search" bind:value={typed} placeholder="Find: a word, a page, a thing" autocomplete="off" data-autofocus />
	<div class="max-h-[60vh] space-y-4 overflow-y-auto text-sm text-steel-900" aria-live="polite">
		{#if !topics.length && !words.length}<p>Nothing is told of “{typed}”. Try a shorter word, or ask whoever runs Sarta in your shop.</p>{/if}
		{#if topics.length}
			<section aria-labelledby="how-{uid}">
				<h3 id="how-{uid}" class="text-[16px] text-steel-900">How the work goes</h3>
				{#each topics as t (t.title)}<details class="border-t border-steel-200 py-1.5" open={topics.length < 4}>
						<summary class="cursor-pointer font-medium"
							>{t.title}{#if t.for}<span class="font-normal text-steel-600">{` (${t.for})`}</span>{/if}</summary
						>
						<p class="mt-1 text-steel-800">{t.words}</p>
					</details>{/each}
			</section>
		{/if}
		{#each keys as k (k.where)}
			<section>
				<h3 class="text-[16px] text-steel-900">Keys: {k.where.toLowerCase()}</h3>
				<dl class="grid grid-cols-[8rem_1fr] gap-y-1">
					{#each k.keys as [key, does] (key)}<dt><kbd class="rounded-sm border border-steel-400 bg-steel-50 px-1.5 py-0.5">{key}</kbd></dt>
						<dd>{does}</dd>{/each}
				</dl>
			</section>
		{/each}
		{#if words.length}
			<section aria-labelledby="words-{uid}">
				<h3 id="words-{uid}" class="text-[16px] text-steel-900">Words</h3>
				<dl>
					{#each words as e (e.here)}<div class="relative border-t border-steel-200 py-1.5 sm:min-h-14 sm:pl-[84px]">
							<dt class="font-medium">
								{#if DRAWINGS[e.here]}<span class="absolute top-1.5 left-0 max-sm:hidden"><WordDrawing shapes={DRAWINGS[e.here]} /></span>{/if}
								{e.here}{#if e.also}<span class="font-normal text-steel-600">, elsewhere: {e.also}</span>{/if}
							</dt>
							<dd class="text-steel-800">{e.is}</dd>
						</div>{/each}
				</dl>
			</section>
		{/if}
	</div>
</Modal>
