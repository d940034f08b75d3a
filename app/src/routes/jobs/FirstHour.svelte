<script lang="ts">
	/** What a new shop does first, step by step; can be left, and found again by its link. */
	import type { FirstStep } from '$lib/help/firstHour';

	interface Props {
		steps: FirstStep[];
		isAdmin: boolean;
		onnewjob: () => void;
		onleave: () => void;
	}
	let { steps, isAdmin, onnewjob, onleave }: Props = $props();
	const next = $derived(steps.find((s) => !s.isDone));
	const done = $derived(steps.filter((s) => s.isDone).length);
</script>

<section class="mb-5 border-t-2 border-straw-400 bg-white px-5 py-4" aria-labelledby="first-hour">
	<div class="flex flex-wrap items-baseline gap-3">
		<h2 id="first-hour" class="mr-auto text-[19px]">First hour</h2>
		<span class="text-sm text-steel-600">{done} of {steps.length} done</span>
		<button type="button" class="text-sm text-primary-700 underline underline-offset-4" onclick={onleave}>Leave it</button>
	</div>
	<ol class="mt-2">
		{#each steps as s, i (s.id)}
			<li
				class="flex gap-3 border-t border-steel-200 {s.isDone ? 'py-0.5 text-sm' : 'py-2'} {s === next ? 'bg-straw-50' : ''}"
				aria-current={s === next ? 'step' : undefined}
			>
				<span class="tab w-6 shrink-0 text-right {s.isDone ? 'text-sound-700' : 'text-steel-600'}" aria-hidden="true">{s.isDone ? '✓' : i + 1}</span>
				<div class="min-w-0">
					<p class="font-medium">
						{#if s.href === 'new-job'}<button type="button" class="text-left text-primary-800 underline underline-offset-4" onclick={onnewjob}
								>{s.title}</button
							>{:else if s.forAdmin && !isAdmin}{s.title} <span class="font-normal text-steel-600">(an admin does it)</span>
						{:else}<a class="text-primary-800 underline underline-offset-4" href={s.href}>{s.title}</a>{/if}
						{#if s.isDone}<span class="sr-only">, done</span>{/if}
					</p>
					{#if !s.isDone}<p class="text-sm text-steel-700">{s.why}</p>{/if}
				</div>
			</li>
		{/each}
	</ol>
</section>
