<script lang="ts">
	/** Something to know. The word in front carries the meaning; the colour only repeats it. */
	import type { Snippet } from 'svelte';
	import type { Fault } from '$core/document/faults';
	interface Props {
		kind: 'note' | 'caution' | 'fault' | 'done';
		title?: string;
		faults?: Fault[];
		children?: Snippet;
	}
	let { kind, title, faults = [], children }: Props = $props();
	const looks = {
		note: ['Note', 'border-primary-400 bg-primary-50'],
		caution: ['Caution', 'border-straw-400 bg-straw-50'],
		fault: ['Not possible', 'border-plum-600 bg-plum-100'],
		done: ['Done', 'border-sound-700 bg-sound-100']
	} as const;
</script>

<div class="rounded-sm border-l-4 px-3 py-2 text-sm text-steel-900 {looks[kind][1]}" role={kind === 'fault' ? 'alert' : 'status'}>
	<strong class="font-semibold">{title ?? looks[kind][0]}.</strong>
	{@render children?.()}
	{#if faults.length}
		<ul class="mt-1 list-disc pl-5">
			{#each faults.slice(0, 12) as f, i (i)}
				<!-- without a value the words stand for themselves -->
				<li>
					{#if f.value}<span class="tab text-[13px]">{f.field}</span>: “{f.value}” given;
					{/if}{f.allowed}
				</li>
			{/each}
			{#if faults.length > 12}<li>and {faults.length - 12} more</li>{/if}
		</ul>
	{/if}
</div>
