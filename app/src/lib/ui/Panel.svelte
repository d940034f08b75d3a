<script lang="ts">
	import type { Snippet } from 'svelte';
	interface Props {
		title: string;
		aside?: Snippet;
		children: Snippet;
		level?: 2 | 3;
	}
	let { title, aside, children, level = 2 }: Props = $props();
</script>

<section class="border-t-2 border-steel-700 bg-white px-4 pt-2.5 pb-4">
	<div class="mb-2 flex flex-wrap items-baseline justify-between gap-x-3 gap-y-1">
		<svelte:element this={level === 2 ? 'h2' : 'h3'} class="text-[17px] text-steel-900">{title}</svelte:element>
		{@render aside?.()}
	</div>
	{@render children()}
</section>
